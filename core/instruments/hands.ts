/**
 * Hand frames: which finger can stand where while the hand keeps its anchor `h` (the home place of the first
 * finger, in semitones above the open string). Data for the solver; no instrument is named in an algorithm.
 */
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'

/** 0 is the open string, T the thumb. */
export type Finger = 0 | 1 | 2 | 3 | 4 | 'T'
export type MarkKind = 'low' | 'home' | 'high' | 'extended'
/**
 * How the hand stands: a cello's closed or extended hand, the thumb position, the 1-2-3 frame of the high
 * neck.
 */
export type Shape = 'plain' | 'extended' | 'back' | 'upper' | 'thumb'

export interface Reach {
  readonly finger: Exclude<Finger, 0>
  /** Semitones above the anchor. */
  readonly from: Semitones
  readonly mark: MarkKind
  readonly shape: Shape
  /** What this place costs by itself; the reason stands beside each table. */
  readonly cost: number
}

export interface Frame {
  readonly lowest: Semitones
  readonly highest: Semitones
  readonly reaches: readonly Reach[]
}

export interface HandOptions {
  /** Double bass: one finger a semitone instead of 1-2-4. */
  readonly bassHand?: '1-2-4' | '1-2-3-4'
  /** Cello: rather shift than open the hand, or the other way round. */
  readonly reach?: 'shift' | 'extend'
}

const r = (
  finger: Reach['finger'],
  from: Semitones,
  mark: MarkKind,
  cost: number,
  shape: Shape = 'plain',
): Reach => ({
  finger,
  from,
  mark,
  cost,
  shape,
})

/**
 * Violin and viola: low and high places are ordinary; a stretched or gathered fourth finger is not. Near the
 * nut the fourth finger reaches furthest and has the open string for a rival; further up it is the hand's
 * ordinary end.
 * @param fourth what it costs at home
 * @param drawn and drawn back by a half step
 */
const upperReaches = (fourth: number, drawn: number): readonly Reach[] => [
  r(1, 0, 'home', 0),
  r(1, -1, 'low', 0.12),
  r(1, 1, 'high', 0.5),
  r(2, 2, 'home', 0),
  r(2, 1, 'low', 0.05),
  r(2, 3, 'high', 0.35),
  r(3, 3, 'home', 0),
  r(3, 4, 'high', 0.12),
  r(3, 2, 'low', 0.5),
  r(4, 5, 'home', fourth),
  r(4, 4, 'low', drawn),
  r(4, 3, 'low', drawn + 0.2),
  r(4, 6, 'extended', drawn + 0.45),
]
const UPPER_STRINGS: readonly Frame[] = [
  { lowest: 1, highest: 2, reaches: upperReaches(0.363, 0.65) },
  { lowest: 3, highest: 19, reaches: upperReaches(0.238, 0.4) },
]

/**
 * Cello: closed and extended hand on the neck; 4 grows rare from 8 and stops at 10, where 1-2-3 span a third;
 * thumb above.
 */
const CELLO: readonly Frame[] = [
  {
    lowest: 1,
    highest: 7,
    reaches: [r(1, 0, 'home', 0), r(2, 1, 'home', 0), r(3, 2, 'home', 0), r(4, 3, 'home', 0.02)],
  },
  {
    // By the nut an open hand is first position reaching back, so that the open hand begins at first.
    lowest: 2,
    highest: 7,
    reaches: [
      // The first finger stays where it is when the hand opens: the same place, but the hand need not close
      // for it.
      r(1, 0, 'home', 0, 'extended'),
      r(2, 2, 'extended', 0.02, 'extended'),
      r(3, 3, 'extended', 0.43, 'extended'),
      r(4, 4, 'extended', 0.3, 'extended'),
    ],
  },
  // The first finger reaches back, the others stay: in the keys of flats that is first position. Further up
  // the same hand is known by its first finger.
  { lowest: 2, highest: 2, reaches: [r(1, -1, 'extended', 0.2, 'back')] },
  { lowest: 3, highest: 7, reaches: [r(1, -1, 'extended', 0.36, 'back')] },
  {
    lowest: 8,
    highest: 9,
    reaches: [
      r(1, 0, 'home', 0.1),
      r(2, 1, 'home', 0.1),
      r(3, 2, 'home', 0.1),
      r(4, 3, 'home', 0.4),
      r(2, 2, 'home', 0.2, 'upper'),
      r(3, 3, 'home', 0.2, 'upper'),
      r(3, 4, 'home', 0.3, 'upper'),
    ],
  },
  {
    lowest: 10,
    highest: 14,
    reaches: [
      r(1, 0, 'home', 0.2, 'upper'),
      r(2, 1, 'home', 0.2, 'upper'),
      r(2, 2, 'home', 0.2, 'upper'),
      r(3, 3, 'home', 0.2, 'upper'),
      r(3, 4, 'home', 0.25, 'upper'),
      r(3, 2, 'home', 0.25, 'upper'),
    ],
  },
  {
    // Here the anchor is still the first finger; the thumb lies a tone below it.
    lowest: 11,
    highest: 21,
    reaches: [
      r('T', -2, 'home', 0.2, 'thumb'),
      r(1, 0, 'home', 0.15, 'thumb'),
      r(1, -1, 'low', 0.25, 'thumb'),
      r(2, 2, 'home', 0.15, 'thumb'),
      r(2, 1, 'home', 0.2, 'thumb'),
      r(3, 3, 'home', 0.15, 'thumb'),
      r(3, 4, 'home', 0.25, 'thumb'),
    ],
  },
]

const BASS_THUMB: Frame = {
  lowest: 12,
  highest: 21,
  reaches: [
    r('T', -2, 'home', 0.2, 'thumb'),
    r(1, 0, 'home', 0.15, 'thumb'),
    r(2, 1, 'home', 0.2, 'thumb'),
    r(2, 2, 'home', 0.15, 'thumb'),
    r(3, 3, 'home', 0.15, 'thumb'),
    r(3, 2, 'home', 0.25, 'thumb'),
  ],
}

/** Bass: the hand spans a tone, 1-2-4. */
const BASS: readonly Frame[] = [
  { lowest: 1, highest: 12, reaches: [r(1, 0, 'home', 0), r(2, 1, 'home', 0), r(4, 2, 'home', 0.03)] },
  BASS_THUMB,
]

const BASS_FOUR: readonly Frame[] = [
  {
    lowest: 1,
    highest: 12,
    reaches: [r(1, 0, 'home', 0), r(2, 1, 'home', 0.05), r(3, 2, 'home', 0.1), r(4, 3, 'home', 0.15)],
  },
  BASS_THUMB,
]

/** The frames of an instrument, by where the anchor may stand. */
export function framesOf(id: InstrumentId, options: HandOptions = {}): readonly Frame[] {
  if (id === 'cello') return CELLO
  if (id === 'bass') return options.bassHand === '1-2-3-4' ? BASS_FOUR : BASS
  return UPPER_STRINGS
}

/**
 * How a hand that stands at an anchor, in a shape or at rest, reaches a place: the easiest way; undefined
 * when it does not.
 */
export const reachAt = (
  id: InstrumentId,
  anchor: Semitones,
  offset: Semitones,
  options: HandOptions = {},
  shape: Shape = 'plain',
): Reach | undefined =>
  framesOf(id, options)
    .filter(f => anchor >= f.lowest && anchor <= f.highest)
    .flatMap(f => f.reaches)
    .filter(r => anchor + r.from === offset && (r.shape === shape || r.shape === 'plain'))
    .sort((a, b) => a.cost - b.cost)[0]

/**
 * Natural harmonics a hand touches: where, and how far above the open string they sound. At the octave the
 * hand stretches to it from its place below, since the string is only touched: which finger, and from which
 * anchors.
 */
export const HARMONICS: readonly {
  readonly touch: Semitones
  readonly sounds: Semitones
  readonly cost: number
}[] = [
  { touch: 12, sounds: 12, cost: 0.6 },
  { touch: 7, sounds: 19, cost: 2 },
  { touch: 5, sounds: 24, cost: 2 },
]
export const OCTAVE_STRETCH: Readonly<
  Record<InstrumentId, { readonly finger: Exclude<Finger, 0>; readonly anchors: readonly Semitones[] }>
> = {
  violin: { finger: 4, anchors: [5, 6] },
  viola: { finger: 4, anchors: [5, 6] },
  cello: { finger: 3, anchors: [7, 8] },
  bass: { finger: 4, anchors: [9] },
}

/**
 * How much of the reach from 1 to 4 lies between 1 and a finger, at the most a hand opens there. Relative
 * measures of an ordinary hand; a learner's own reach scales them.
 */
export const FIRST_TO: Readonly<Record<Finger, number>> = { 0: 0, T: 0, 1: 0, 2: 0.6, 3: 0.9, 4: 1 }

/**
 * What a place of the hand costs for every note played there: first position is home; landmarks, where the
 * hand meets the body or the neck's heel, are found by touch; the places between are found by ear alone. Keys
 * are anchors; the rest costs `between`.
 */
export const ANCHOR_COSTS: Readonly<
  Record<InstrumentId, { readonly landmarks: Readonly<Record<number, number>>; readonly between: number }>
> = {
  violin: { landmarks: { 1: 0.225, 2: 0, 5: 0.14, 6: 0.16, 7: 0.375 }, between: 0.3 },
  viola: { landmarks: { 1: 0.26, 2: 0, 5: 0.055, 6: 0.16, 7: 0.26 }, between: 0.175 },
  cello: { landmarks: { 1: 0.11, 2: 0, 7: 0.1, 12: 0.04 }, between: 0.388 },
  bass: { landmarks: { 1: 0.08, 2: 0, 3: 0.05, 5: 0.06, 7: 0.23, 10: 0.14 }, between: 0.24 },
}

/** Where the hand is at home when nothing asks for another place: first position. */
export const HOME_ANCHOR: Semitones = 2

/**
 * Where the hand is with the thumb laid on the octave harmonic, the first landmark of the thumb: the first
 * finger a tone above it.
 */
export const THUMB_HOME: Semitones = 14

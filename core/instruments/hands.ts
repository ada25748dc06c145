/**
 * Hand frames: which finger can stand where while the hand keeps its anchor `h` (the home place of the first finger, in semitones above the
 * open string). Data for the solver; no instrument is named in an algorithm.
 */
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'

/** 0 is the open string, T the thumb. */
export type Finger = 0 | 1 | 2 | 3 | 4 | 'T'
export type MarkKind = 'low' | 'home' | 'high' | 'extended'
/** How the hand stands: a cello's closed or extended hand, the thumb position, the 1-2-3 frame of the high neck. */
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
}

const r = (finger: Reach['finger'], from: Semitones, mark: MarkKind, cost: number, shape: Shape = 'plain'): Reach => ({
  finger, from, mark, cost, shape,
}) // prettier-ignore

/** Violin and viola: low and high places are ordinary; a stretched or gathered fourth finger is not. */
const UPPER_STRINGS: readonly Frame[] = [
  {
    lowest: 1,
    highest: 19,
    reaches: [
      r(1, 0, 'home', 0), r(1, -1, 'low', 0.12), r(1, 1, 'high', 0.5),
      r(2, 2, 'home', 0), r(2, 1, 'low', 0.05), r(2, 3, 'high', 0.35),
      r(3, 3, 'home', 0), r(3, 4, 'high', 0.12), r(3, 2, 'low', 0.35),
      r(4, 5, 'home', 0.55), r(4, 4, 'low', 0.65), r(4, 3, 'low', 0.85), r(4, 6, 'extended', 1.1),
    ],
  },
] // prettier-ignore

/** Cello: closed and extended hand on the neck; 4 grows rare from 8 and stops at 10, where 1-2-3 span a third; thumb above. */
const CELLO: readonly Frame[] = [
  {
    lowest: 1,
    highest: 7,
    reaches: [
      r(1, 0, 'home', 0), r(2, 1, 'home', 0), r(3, 2, 'home', 0), r(4, 3, 'home', 0.05),
      // The first finger stays where it is when the hand opens: the same place, but the hand need not close for it.
      r(1, 0, 'home', 0.08, 'extended'),
      r(2, 2, 'extended', 0.3, 'extended'), r(3, 3, 'extended', 0.45, 'extended'), r(4, 4, 'extended', 0.35, 'extended'),
      r(1, -1, 'extended', 0.3, 'back'),
    ],
  },
  {
    lowest: 8,
    highest: 9,
    reaches: [
      r(1, 0, 'home', 0.1), r(2, 1, 'home', 0.1), r(3, 2, 'home', 0.1), r(4, 3, 'home', 0.4),
      r(2, 2, 'home', 0.2, 'upper'), r(3, 3, 'home', 0.2, 'upper'), r(3, 4, 'home', 0.3, 'upper'),
    ],
  },
  {
    lowest: 10,
    highest: 14,
    reaches: [
      r(1, 0, 'home', 0.2, 'upper'), r(2, 1, 'home', 0.2, 'upper'), r(2, 2, 'home', 0.2, 'upper'),
      r(3, 3, 'home', 0.2, 'upper'), r(3, 4, 'home', 0.25, 'upper'), r(3, 2, 'home', 0.25, 'upper'),
    ],
  },
  {
    // Here the anchor is still the first finger; the thumb lies a tone below it.
    lowest: 11,
    highest: 21,
    reaches: [
      r('T', -2, 'home', 0.7, 'thumb'), r(1, 0, 'home', 0.5, 'thumb'), r(1, -1, 'low', 0.6, 'thumb'), r(2, 2, 'home', 0.5, 'thumb'),
      r(2, 1, 'home', 0.5, 'thumb'), r(3, 3, 'home', 0.5, 'thumb'), r(3, 4, 'home', 0.6, 'thumb'),
    ],
  },
] // prettier-ignore

const BASS_THUMB: Frame = {
  lowest: 12,
  highest: 21,
  reaches: [
    r('T', -2, 'home', 0.7, 'thumb'), r(1, 0, 'home', 0.5, 'thumb'), r(2, 1, 'home', 0.5, 'thumb'), r(2, 2, 'home', 0.5, 'thumb'),
    r(3, 3, 'home', 0.5, 'thumb'), r(3, 2, 'home', 0.6, 'thumb'),
  ],
} // prettier-ignore

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

/** Where the hand is at home when nothing asks for another place: first position. */
export const HOME_ANCHOR: Semitones = 2

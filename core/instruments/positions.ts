import { diatonic, pitchOfMidi, type Midi, type Pitch, type Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { HOME_ANCHOR, type Finger, type Shape } from './hands'
import { isLow } from './instruments'

const ORDINAL = [
  'half',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
  'eleventh',
  'twelfth',
]

const CELLO: Readonly<Record<number, string>> = {
  1: 'half',
  2: 'first',
  3: 'lower second',
  4: 'upper second',
  5: 'lower third',
  6: 'upper third',
  7: 'fourth',
  8: 'lower fifth',
  9: 'upper fifth',
  10: 'sixth',
  11: 'sixth',
  12: 'seventh',
}
const BASS: Readonly<Record<number, string>> = {
  1: 'half',
  2: 'first',
  3: 'second',
  4: 'second-and-a-half',
  5: 'third',
  6: 'third-and-a-half',
  7: 'fourth',
  8: 'fifth',
  9: 'fifth-and-a-half',
  10: 'sixth',
  11: 'sixth-and-a-half',
  12: 'seventh',
}

export interface PlaceOfHand {
  readonly instrument: InstrumentId
  readonly anchor: Semitones
  readonly shape: Shape
  readonly finger: Finger
  /** The sounding pitch as spelled, and the open string under it. */
  readonly pitch: Pitch
  readonly open: Midi
}

/**
 * Name of the position. On violin and viola: letter steps above the open string minus finger plus one (half
 * position where the whole hand stands a semitone above the nut); on cello and bass by the table of the place
 * of the first finger.
 */
export function positionName(at: PlaceOfHand): string {
  if (at.shape === 'thumb') return 'thumb'
  const bare = isLow(at.instrument) || at.finger === 0 || at.finger === 'T'
  if (bare || at.anchor <= HOME_ANCHOR) return placeName(at.instrument, at.anchor)
  const letters = diatonic(at.pitch) - diatonic(pitchOfMidi(at.open, at.pitch.alter < 0))
  return ORDINAL[Math.max(1, Math.min(12, letters - at.finger + 1))]!
}

/** Name of the place of a hand by its first finger alone, where no note tells its spelling. */
export function placeName(instrument: InstrumentId, anchor: Semitones): string {
  const table = instrument === 'cello' ? CELLO : instrument === 'bass' ? BASS : null
  return table ? (table[anchor] ?? 'thumb') : ORDINAL[nearestPosition(anchor)]!
}

/** The same places of cello and bass by numbers, with lower and upper; null where the thumb takes over. */
export const numberedPosition = (anchor: Semitones): string | null => CELLO[anchor] ?? null

/** Position number of a bare anchor, by the white-key scale above an open string: 5 is third. */
export const nearestPosition = (anchor: Semitones) =>
  [0, 0, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6, 7, 8, 8, 9, 9, 10, 11, 11, 12][anchor] ?? 12

/** Places where a hand can stand, half position to the octave and beyond. */
export const POSITION_ANCHORS: readonly Semitones[] = Array.from({ length: 21 }, (_, i) => i + 1)

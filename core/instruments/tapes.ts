/** Where the tapes of a beginner's fingerboard go. */
import { fromNut } from './geometry'
import type { Mm } from './instruments'
import type { InstrumentId } from '#core/music/tune'

export interface Tape {
  readonly label: string
  readonly semitones: number
  readonly fromNut: Mm
}

const PLACES: Readonly<Record<InstrumentId, readonly (readonly [string, number])[]>> = {
  violin: [
    ['1', 2],
    ['‹2', 3],
    ['2', 4],
    ['3', 5],
    ['4', 7],
  ],
  viola: [
    ['1', 2],
    ['‹2', 3],
    ['2', 4],
    ['3', 5],
    ['4', 7],
  ],
  cello: [
    ['1', 2],
    ['2', 3],
    ['3', 4],
    ['4', 5],
  ],
  bass: [
    ['1', 2],
    ['2', 3],
    ['4', 4],
  ],
}

/** Tape distances from the nut in mm, rounded to a tenth: full-size violin 35.8, 52.2, 67.7, 82.3, 109.1. */
export const tapes = (id: InstrumentId, length: Mm): Tape[] =>
  PLACES[id].map(([label, semitones]) => ({
    label,
    semitones,
    fromNut: Math.round(fromNut(length, semitones) * 10) / 10,
  }))

import type { Semitones } from '#core/music/pitch'
import type { Mm } from './instruments'

/**
 * Distance of a stopped note from the nut: `d(n) = L (1 - 2^(-n/12))`, equal temperament. Full-size violin, 2
 * semitones: 35.8 mm.
 */
export const fromNut = (length: Mm, n: Semitones): Mm => length * (1 - 2 ** (-n / 12))

/** Distance between two places on a string. */
export const travel = (length: Mm, a: Semitones, b: Semitones): Mm =>
  Math.abs(fromNut(length, b) - fromNut(length, a))

/** Tension after retuning by n semitones, as a ratio to the tension before: `2^(n/6)`. */
export const tensionRatio = (n: Semitones) => 2 ** (n / 6)

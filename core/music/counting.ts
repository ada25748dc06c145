/** What is counted aloud at a place of a measure. */
import { div, frac, equal, mod, mul, sub, type Fraction } from './fraction'
import { beatAt, beatLength, isCompound, isUneven, type Metre } from './metre'

/** "numbers": 1 and 2 and. "syllables": four words to a beat, the studio's own. */
export type Counting = 'numbers' | 'syllables'

export const COUNT_WORDS: readonly string[] = ['e', 'and', 'a']
const THIRDS = ['trip', 'let']

/**
 * Empty where nobody counts. Where a beat has three parts: "1 and a"; in an uneven metre each group is one
 * beat, of two or of three.
 */
export function countAt(
  metre: Metre,
  at: Fraction,
  how: Counting,
  words: readonly string[] = COUNT_WORDS,
): string {
  const beat = beatAt(metre, at)
  const within = div(sub(at, beat.start), beat.length)
  if (within.n === 0) return String(beat.index + 1)
  const is = (n: number, d: number) => within.n === n && within.d === d
  if (inThree(metre, beat.length)) return is(1, 3) ? 'and' : is(2, 3) ? 'a' : ''
  if (is(1, 3)) return THIRDS[0]!
  if (is(2, 3)) return THIRDS[1]!
  if (is(1, 2)) return how === 'syllables' ? words[1]! : 'and'
  if (how === 'numbers') return ''
  return is(1, 4) ? words[0]! : is(3, 4) ? words[2]! : ''
}

/** A beat of three parts. */
export const inThree = (metre: Metre, beat: Fraction) =>
  isCompound(metre) || (isUneven(metre) && equal(beat, mul(beatLength(metre), frac(3))))

/**
 * Beats of a measure counted from one, where its notes begin in the middle: a pickup of one quarter in 3/4 is
 * "3".
 */
export const inFull = (metre: Metre, at: Fraction) => mod(at, frac(4 * metre.beats, metre.unit))

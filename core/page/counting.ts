/** What is counted aloud at a place of a measure. */
import { div, frac, mod, type Fraction } from '#core/music/fraction'
import { beatLength, isCompound, type Metre } from '#core/music/metre'

/** "numbers": 1 and 2 and. "syllables": four words to a beat, the studio's own. */
export type Counting = 'numbers' | 'syllables'

export const COUNT_WORDS: readonly string[] = ['e', 'and', 'a']
const THIRDS = ['trip', 'let']

/** Empty where nobody counts. In compound metres three to a beat: "1 and a". */
export function countAt(metre: Metre, at: Fraction, how: Counting, words: readonly string[] = COUNT_WORDS): string {
  const beat = beatLength(metre)
  const within = div(mod(at, beat), beat)
  if (within.n === 0) return String(Math.floor(div(at, beat).n / div(at, beat).d) + 1)
  const is = (n: number, d: number) => within.n === n && within.d === d
  if (isCompound(metre)) return is(1, 3) ? 'and' : is(2, 3) ? 'a' : ''
  if (is(1, 3)) return THIRDS[0]!
  if (is(2, 3)) return THIRDS[1]!
  if (is(1, 2)) return how === 'syllables' ? words[1]! : 'and'
  if (how === 'numbers') return ''
  return is(1, 4) ? words[0]! : is(3, 4) ? words[2]! : ''
} // prettier-ignore

/** Beats of a measure counted from one, where its notes begin in the middle: a pickup of one quarter in 3/4 is "3". */
export const inFull = (metre: Metre, at: Fraction) => mod(at, frac(4 * metre.beats, metre.unit))

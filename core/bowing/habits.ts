/** What a player does with some rhythms unasked, by habit of a school: the dotted pair, the triplet. */
import { z } from 'zod'
import { sameBeat, isDotted } from './costs'
import type { BowTone } from './tones'

/** A dotted pair: two bows, one bow stopped between, one bow. */
export const DOTTED_HABITS = ['written', 'hooked', 'slurred'] as const
/** Triplets: as they are written, a group to each bow, two groups to each bow. */
export const TRIPLET_HABITS = ['written', 'one', 'two'] as const

export const habitsSchema = z
  .strictObject({ dotted: z.enum(DOTTED_HABITS), triplets: z.enum(TRIPLET_HABITS) })
  .readonly()
export type Habits = z.infer<typeof habitsSchema>
export const NO_HABITS: Habits = { dotted: 'written', triplets: 'written' }

export interface Habit {
  readonly way: 'slur' | 'hook'
  readonly of: keyof Habits
}

/** For each tone what habit joins it to the one before, if any. */
export function habitsOf(tones: readonly BowTone[], habits: Habits): (Habit | undefined)[] {
  const second = habits.triplets === 'two' ? secondsOfPairs(tones) : new Set<number>()
  return tones.map((b, k) => {
    const a = tones[k - 1]
    if (!a || !b.follows || b.restBefore > 0) return undefined
    if (habits.triplets !== 'written' && (inOneTriplet(a, b) || second.has(k))) {
      return { way: 'slur', of: 'triplets' }
    }
    if (habits.dotted !== 'written' && isDottedPair(a, b)) {
      return { way: habits.dotted === 'hooked' ? 'hook' : 'slur', of: 'dotted' }
    }
    return undefined
  })
}

const inOneTriplet = (a: BowTone, b: BowTone) => a.tuplet !== null && a.tuplet === b.tuplet

/** A long note and the short one that fills its beats up: three to one or more. */
const isDottedPair = (a: BowTone, b: BowTone) =>
  a.tuplet === null &&
  b.tuplet === null &&
  isDotted(a, b) &&
  a.measureIndex === b.measureIndex &&
  (sameBeat(a, b) || b.strength === 0)

/**
 * The first tones of groups that share the bow of the group before: that one begins on a strong beat, and
 * nothing lies between.
 */
function secondsOfPairs(tones: readonly BowTone[]): Set<number> {
  const out = new Set<number>()
  const begins = tones.flatMap((t, k) => (t.tuplet !== null && t.tuplet !== tones[k - 1]?.tuplet ? [k] : []))
  for (const [i, first] of begins.entries()) {
    const next = begins[i + 1]
    if (next === undefined || out.has(first)) continue
    const [a, b] = [tones[first]!, tones[next]!]
    const touching = tones[next - 1]!.tuplet === a.tuplet
    if (touching && a.strength >= 2 && a.measureIndex === b.measureIndex) out.add(next)
  }
  return out
}

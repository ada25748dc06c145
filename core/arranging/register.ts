/**
 * Where on an instrument a version lies: songs on the middle and upper strings, and where the key's own notes
 * ring.
 */
import type { Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import type { Draft } from './easing'

/**
 * A quarter note on the lowest string; on the second lowest of a cello or bass. Thick strings growl and speak
 * late.
 */
const LOWEST = { violin: 0.28, viola: 0.3, cello: 0.3, bass: 0.05 } as const
const SECOND_LOWEST = { violin: 0, viola: 0.05, cello: 0.14, bass: 0 } as const
/** A quarter note above the highest open string's fourth: thin and late in the learner's life. */
const HIGH = 0.1

/** What a draft pays for its place on the instrument, over all its notes. */
export function registerCost({ version }: Draft, { played }: Arrangement): number {
  const above = INSTRUMENTS[played.instrument].writtenAbove
  const strings = (played.tuning ?? homeTuning(played.instrument)).map(s => s + above)
  let cost = 0
  for (const f of version?.fillings ?? [])
    for (const s of f.slots) {
      if (!s.pitch) continue
      if (s.midi < strings.at(-2)!) cost += LOWEST[played.instrument] * s.quarters
      else if (s.midi < strings.at(-3)!) cost += SECOND_LOWEST[played.instrument] * s.quarters
      if (s.midi > strings[0]! + 9) cost += HIGH * s.quarters
    }
  return cost
}

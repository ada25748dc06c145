/**
 * Which finger a place on a string usually gets when nothing else is known: the lowest position that has it,
 * its plainest finger there.
 */
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { framesOf, HOME_ANCHOR, type Finger, type HandOptions } from './hands'

/** What a semitone of travel from first position weighs against the cost of a place in the hand. */
const TRAVEL = 0.45

/** Null for a place no hand of ours reaches. `usualFinger('violin', 5)` is 3; on the cello 4. */
export function usualFinger(id: InstrumentId, offset: Semitones, hand: HandOptions = {}): Finger | null {
  if (offset === 0) return 0
  let best: { finger: Finger; cost: number } | null = null
  for (const frame of framesOf(id, hand))
    for (const reach of frame.reaches) {
      const anchor = offset - reach.from
      if (anchor < frame.lowest || anchor > frame.highest) continue
      const cost = reach.cost + Math.abs(anchor - HOME_ANCHOR) * TRAVEL
      if (!best || cost < best.cost) best = { finger: reach.finger, cost }
    }
  return best?.finger ?? null
}

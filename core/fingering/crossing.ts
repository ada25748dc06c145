/**
 * What it costs to go from one string to another: the bow's crossing, and the finger that is wanted on both.
 */
import type { Finger } from '#core/instruments/hands'
import type { Gap } from '#core/line/time'
import type { HandState } from './candidates'
import { WEIGHTS as W } from './weights'

/** Semitones from which a leap crosses by nature. */
const LEAP = 7

/** Share of a crossing that is left where the bow goes over and back between two strings. */
function rocking(p: Finger, q: Finger, low: boolean): number {
  const open = p === 0 || q === 0
  if (low) return open ? W.crossingPivot : 1
  return open || p === q ? 1 : W.crossingHeld
}

/** @param low cello or bass */
export function crossingCost(a: HandState, b: HandState, gap: Gap, quick: number, low: boolean): number {
  const distance = stringDistance(a, b)
  if (distance === 0) return 0
  let cost = W.crossing + W.crossingQuick * quick
  if (gap.turns) cost += W.crossingBack
  if (gap.returns || gap.back) cost *= rocking(a.lead.finger, b.lead.finger, low)
  if (Math.abs(gap.interval) >= LEAP) cost *= W.crossingLeap
  cost += W.skip * (distance - 1)
  if (gap.slurred) cost *= W.crossingSlurred
  if (gap.rest > 0) cost *= 0.6
  return cost
}

/** How many strings the bow must travel: nothing while one string is common. */
export function stringDistance(a: HandState, b: HandState): number {
  if (a.places.length === 1 && b.places.length === 1) return Math.abs(a.lead.string - b.lead.string)
  let best = 9
  for (const p of a.places) for (const q of b.places) best = Math.min(best, Math.abs(p.string - q.string))
  return best
}

export function hopCost(a: HandState, b: HandState, quick: number): number {
  const [p, q] = [a.lead, b.lead]
  if (p.finger === 0 || p.finger !== q.finger || p.string === q.string) return 0
  if (a.anchor !== b.anchor) return W.hop
  // Over a string between the bow takes its time too, and no other finger would be nearer.
  if (Math.abs(p.string - q.string) > 1) return W.hop
  // Straight over: laid on both strings.
  return p.offset === q.offset ? W.block : W.hop + W.hopQuick * quick
}

/** What it costs to open and close a hand that stands still. */
import type { Finger } from '#core/instruments/hands'
import type { HandState, HeadPlace } from './candidates'
import { WEIGHTS as W } from './weights'

const ABOVE_FIRST: Partial<Record<Finger, number>> = { 2: 2, 3: 3, 4: 4 }

/**
 * From the second finger up the fingers of one cello hand stand a half step apart: two of them otherwise are
 * two hands.
 */
function torn(p: HeadPlace, q: HeadPlace): boolean {
  const [x, y] = [ABOVE_FIRST[p.finger], ABOVE_FIRST[q.finger]]
  return x !== undefined && y !== undefined && q.offset - p.offset !== y - x
}

/**
 * A cello hand reaches back with the first finger or forward with the others, not both: 1 on G sharp and 2 on
 * B are two hands.
 */
const bothWays = (a: HandState, b: HandState) =>
  (a.shape === 'back' && b.shape === 'extended' && b.lead.finger !== 1) ||
  (a.shape === 'extended' && b.shape === 'back' && a.lead.finger !== 1 && a.lead.finger !== 0)

export function handShapeCost(a: HandState, b: HandState): number {
  if (a.shape === b.shape || b.lead.finger === 0) return 0
  if (b.shape === 'thumb' || a.shape === 'thumb') return W.openHandLate
  if (a.shape === 'upper' || b.shape === 'upper') return 0
  if (torn(a.lead, b.lead) || bothWays(a, b)) return W.torn
  // A first finger that reached back lets go by itself.
  if (b.shape === 'plain') return b.lead.finger === 1 ? 0 : a.shape === 'back' ? W.closeBack : W.closeHand
  // Reaching back leaves the other fingers and the thumb where they are.
  return b.shape === 'back' || a.lead.finger === 0 || a.lead.finger === 1 ? W.openHand : W.openHandLate
}

/**
 * A teacher's own taste of fingers: for a few traits one can name, a little more or less than our weights
 * have. It adds to costs, never to what can be played.
 */
import { HOME_ANCHOR } from '#core/instruments/hands'
import { TRAITS, type HandTaste, type Trait } from '#core/instruments/taste'
import { QUICK, type Gap } from '#core/line/time'
import type { CostedTone } from './costKeys'
import type { HandState } from './candidates'
import { stringDistance } from './crossing'

/** How often each trait is met, in the order of {@link TRAITS}. */
export type TraitCounts = number[]

/**
 * So far from our own weights a taste may go: less where a note away from home, or a move of the hand, would
 * cost nothing any more.
 */
export const TASTE_RANGE: Readonly<Record<Trait, readonly [least: number, most: number]>> = {
  openQuick: [-0.5, 0.5],
  openLong: [-0.5, 0.5],
  away: [-0.06, 0.8],
  shift: [-0.3, 0.8],
  crossingSlurred: [-0.3, 0.8],
  crossing: [-0.15, 0.5],
  reach: [-0.3, 0.8],
  slide: [-0.3, 0.8],
}

export const noTraits = (): TraitCounts => TRAITS.map(() => 0)
const AT = Object.fromEntries(TRAITS.map((t, i) => [t, i])) as Record<Trait, number>

/** What a place of the hand counts for at a tone. */
export function countState(out: TraitCounts, { seconds }: CostedTone, s: HandState) {
  const open = s.places.every(p => p.finger === 0)
  if (open) out[AT[seconds < QUICK ? 'openQuick' : 'openLong']]! += 1
  else if (s.anchor !== HOME_ANCHOR) out[AT.away]! += 1
  if (s.places.some(p => p.mark === 'extended' || (p.mark === 'low' && (p.finger === 1 || p.finger === 4))))
    out[AT.reach]! += 1
}

/** … and the way from one to the next. */
export function countStep(out: TraitCounts, a: HandState, b: HandState, { slurred }: Gap) {
  if (a.anchor !== b.anchor) out[AT.shift]! += 1
  if (stringDistance(a, b) > 0) out[AT[slurred ? 'crossingSlurred' : 'crossing']]! += 1
  const [p, q] = [a.lead, b.lead]
  const slides =
    a.anchor === b.anchor &&
    p.finger !== 0 &&
    p.finger === q.finger &&
    p.string === q.string &&
    p.offset !== q.offset
  if (slides) out[AT.slide]! += 1
}

const worth = (taste: HandTaste, counts: TraitCounts) =>
  TRAITS.reduce((sum, t, i) => sum + (taste[t] ?? 0) * counts[i]!, 0)

export function tasteOfState(taste: HandTaste, tone: CostedTone, s: HandState): number {
  const counts = noTraits()
  countState(counts, tone, s)
  return worth(taste, counts)
}

export function tasteOfStep(taste: HandTaste, a: HandState, b: HandState, gap: Gap): number {
  const counts = noTraits()
  countStep(counts, a, b, gap)
  return worth(taste, counts)
}

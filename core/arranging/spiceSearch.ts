/**
 * Which of the spices that offer themselves are taken: one shortest path over the measures that have any
 * (Viterbi, by core/solver). A state is a set of offers a measure bears together; between measures it costs
 * to do the same again. What a phrase has too much of becomes dearer, and it is searched again (a Lagrangian
 * price on the limit).
 */
import { solveLattice } from '#core/solver/lattice'
import type { Offer } from './offers'
import { SPICE_WEIGHTS as W, SPICE_WORTH } from './spiceWeights'
import { SPICE } from './spices'

/** Sets of offers looked at for one measure, the cheapest. */
const PER_MEASURE = 48
/** So often a limit of a phrase raises its price; then what is beyond it goes. */
const PRICED = 4

/** The offers that are taken together, in the order of the tune. Work grows with the measures. */
export function bestSpices(offers: readonly Offer[]): Offer[] {
  const prices = new Map<Offer, number>()
  for (let round = 0; ; round++) {
    const taken = searched(offers, prices)
    const beyond = beyondLimits(taken)
    if (beyond.size === 0) return taken
    if (round === PRICED) return taken.filter(o => !beyond.has(o))
    for (const o of beyond) prices.set(o, (prices.get(o) ?? 0) + W.beyond)
  }
}

function searched(offers: readonly Offer[], prices: ReadonlyMap<Offer, number>): Offer[] {
  const measures = [...new Set(offers.map(o => o.at.placed.measure.index))].sort((a, b) => a - b)
  if (measures.length === 0) return []
  const layers = measures.map(m =>
    setsOf(
      offers.filter(o => o.at.placed.measure.index === m),
      prices,
    ),
  )
  const unary = layers.map(l => Float64Array.from(l, s => s.cost))
  const edges = layers.slice(1).map((to, i) => {
    const from = layers[i]!
    const next = measures[i + 1] === measures[i]! + 1
    return Float64Array.from(
      from.flatMap(a => to.map(b => wayCost(a.offers, b.offers, next, phrasesOf(offers, measures[i + 1]!)))),
    )
  })
  const { path } = solveLattice({ unary, edges })
  return path.flatMap((state, i) => inOrder(layers[i]![state]!.offers))
}

const inOrder = (list: readonly Offer[]) => [...list].sort((a, b) => a.at.at - b.at.at)
const phrasesOf = (offers: readonly Offer[], measure: number) =>
  new Set(
    offers.filter(o => o.at.placed.measure.index === measure && o.kind === 'octaves').map(o => o.at.phrase),
  )

interface Taken {
  readonly offers: readonly Offer[]
  readonly cost: number
}

/**
 * Sets of offers of one measure that share no note and of each sort hold no more than a measure bears; the
 * empty one is always there.
 */
function setsOf(offers: readonly Offer[], prices: ReadonlyMap<Offer, number>): Taken[] {
  const sorted = [...offers].sort((a, b) => offerCost(a, prices) - offerCost(b, prices))
  let sets: Taken[] = [{ offers: [], cost: 0 }]
  for (const o of sorted) {
    const own = offerCost(o, prices)
    const more = sets.flatMap(s =>
      fits(o, s.offers)
        ? [{ offers: [...s.offers, o], cost: s.cost + own + W.crowded * s.offers.length }]
        : [],
    )
    const best = [...sets, ...more].sort((a, b) => a.cost - b.cost).slice(0, PER_MEASURE)
    sets = best.some(s => s.offers.length === 0) ? best : [...best, { offers: [], cost: 0 }]
  }
  return sets
}

function fits(o: Offer, taken: readonly Offer[]): boolean {
  const { sort, most } = SPICE[o.kind]
  const ofSort = taken.filter(t => SPICE[t.kind].sort === sort).length
  return ofSort < most && !taken.some(t => t.events.some(e => o.events.includes(e)))
}

/** Below nothing where it is worth more than it costs. */
function offerCost(o: Offer, prices: ReadonlyMap<Offer, number>): number {
  const { at, kind } = o
  const whole = kind === 'ending' || kind === 'octaves'
  const { sort } = SPICE[kind]
  const weak = whole ? 0 : W.weakBeat * (3 - at.strength)
  const room = whole ? 0 : W.room * Math.max(0, Math.min(4, at.length) - 1)
  const close = !at.closes ? 0 : sort === 'line' ? W.movesAtClose : sort === 'ornament' ? W.flickAtClose : 0
  const again = at.heard > 0 ? W.again : 0
  return (prices.get(o) ?? 0) + weak + close - SPICE_WORTH[kind] - room - again - W.asked * (o.asked ?? 0)
}

/** From one measure to the next. */
function wayCost(
  from: readonly Offer[],
  to: readonly Offer[],
  next: boolean,
  mayGoUp: ReadonlySet<number>,
): number {
  const up = from.find(o => o.kind === 'octaves')
  const goesOn = up && mayGoUp.has(up.at.phrase)
  const cameUp = to.find(o => o.kind === 'octaves')
  const half =
    (goesOn && !to.some(o => o.kind === 'octaves')) || (cameUp && !cameUp.at.opens && !up) ? W.halfUp : 0
  if (!next) return half
  const again = to.filter(
    o => o.kind !== 'octaves' && from.some(f => f.kind === o.kind && f.at.phrase === o.at.phrase),
  )
  return half + W.sameAgain * again.length
}

/** Of each kind the offers of a phrase beyond what it bears: those worth least. */
function beyondLimits(taken: readonly Offer[]): Set<Offer> {
  const out = new Set<Offer>()
  const none = new Map<Offer, number>()
  const groups = new Map<string, Offer[]>()
  for (const o of taken) {
    const name = `${o.kind} ${o.at.phrase}`
    groups.set(name, [...(groups.get(name) ?? []), o])
  }
  for (const group of groups.values()) {
    const { perPhrase } = SPICE[group[0]!.kind]
    if (perPhrase === undefined) continue
    const best = [...group].sort((a, b) => offerCost(a, none) - offerCost(b, none))
    best.slice(perPhrase).forEach(o => out.add(o))
  }
  return out
}

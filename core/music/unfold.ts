/** Repeats written out: the tune as it is played, every measure in its turn. */
import { FreshIds, tidy, type Edited } from './edit/edited'
import { playOrder } from './playOrder'
import { placeMeasures } from './timeline'
import type { Measure, Tune, TuneEvent } from './tune'

/** "1–8, 1–8, 9–16": the measures as they are played, by their printed numbers (a pickup is 0). */
export function playOrderText(tune: Tune): string {
  const numbers = placeMeasures(tune).map(m => m.number)
  const order = playOrder(tune).map(p => p.index)
  const runs: [number, number][] = []
  for (const n of order) {
    const last = runs.at(-1)
    if (last && n === last[1] + 1) last[1] = n
    else runs.push([n, n])
  }
  const once = runs
    .map(([a, b]) => [numbers[a], numbers[b]])
    .map(([a, b]) => (a === b ? String(a) : `${a}–${b}`))
    .join(', ')
  return tune.play.times > 1 ? `${once}; all of it ${tune.play.times} times` : once
}

/** The measures that end a repeat, with where they go back to, by printed numbers. */
export function repeatsOf(tune: Tune): { readonly id: string; readonly from: number; readonly to: number }[] {
  const numbers = placeMeasures(tune).map(m => m.number)
  let start = 0
  return tune.measures.flatMap((m, i) => {
    if (m.repeatStart) start = i
    if (!m.repeatEnd) return []
    const repeat = { id: m.id, from: numbers[start]!, to: numbers[i]! }
    if (!tune.measures[i + 1]?.endings) start = i + 1
    return [repeat]
  })
}

/**
 * Writes the repeats out. The first time keeps its ids; what is played again gets new ones, and its slurs
 * with it.
 */
export function writeOutRepeats(tune: Tune): Edited {
  const order = playOrder(tune)
  const signs = (m: Measure) => m.repeatEnd || m.endings || m.segno || m.coda || m.fine || m.toCoda || m.jump
  if (order.length === tune.measures.length && !tune.play.parts && !tune.measures.some(signs))
    return { tune, chosen: null }
  const ids = new FreshIds(tune.lastId)
  const seen = new Set<number>()
  const slurs: { from: string; to: string }[] = []
  let [names, open] = [new Map<string, string>(), new Map<string, string>()]
  const copyEvent = (e: TuneEvent, group: (g: string) => string): TuneEvent => {
    const id = names.set(e.id, seenBefore ? ids.next('n') : e.id).get(e.id)!
    for (const s of tune.slurs) {
      if (s.from === e.id) open.set(s.to, id)
      const from = s.to === e.id ? open.get(s.to) : undefined
      if (from !== undefined) slurs.push({ from, to: id })
    }
    return { ...e, id, ...(e.tuplet && { tuplet: { ...e.tuplet, group: group(e.tuplet.group) } }) }
  }
  let seenBefore = false
  let before = -1
  const measures = order.map(({ index }): Measure => {
    const m = tune.measures[index]!
    seenBefore = seen.has(index)
    seen.add(index)
    // A slur does not reach over a jump.
    if (index !== before + 1) open = new Map()
    before = index
    names = new Map()
    const groups = new Map<string, string>()
    const group = (g: string) => (seenBefore ? (groups.get(g) ?? groups.set(g, ids.next('t')).get(g)!) : g)
    const {
      repeatStart: _s,
      repeatEnd: _e,
      endings: _n,
      repeatTimes: _t,
      segno: _g,
      coda: _c,
      fine: _f,
      toCoda: _o,
      jump: _j,
      ...rest
    } = m
    const label = seenBefore ? undefined : rest.label
    return tidy({
      ...rest,
      label,
      id: seenBefore ? ids.next('m') : m.id,
      events: m.events.map(e => copyEvent(e, group)),
    })
  })
  return {
    tune: { ...tune, measures, slurs, play: { struck: [], times: tune.play.times }, lastId: ids.lastId },
    chosen: null,
  }
}

/**
 * A tie of two notes together is said once for both: it is meant for those that sound on in the next note.
 */
import { midi } from '#core/music/pitch'
import type { Measure, TuneEvent } from '#core/music/tune'

/** Where none of them does, both stay tied, and it is told that the tie leads nowhere. */
export function settledTies(measures: readonly Measure[]): Measure[] {
  const next = new Map<string, TuneEvent>()
  measures
    .flatMap(m => m.events)
    .forEach((e, i, all) => {
      if (all[i + 1]) next.set(e.id, all[i + 1]!)
    })
  const settled = (e: TuneEvent): TuneEvent => {
    const after = next.get(e.id)
    if (e.kind !== 'note' || e.heads.length < 2 || after?.kind !== 'note' || !e.heads.some(h => h.tied))
      return e
    const on = new Set(after.heads.map(h => midi(h.pitch)))
    if (!e.heads.some(h => on.has(midi(h.pitch)))) return e
    return {
      ...e,
      heads: e.heads.map(h => ({ pitch: h.pitch, ...(h.tied && on.has(midi(h.pitch)) && { tied: true }) })),
    }
  }
  return measures.map(m => ({ ...m, events: m.events.map(settled) }))
}

/**
 * What the page shows of the hand beside its fingers: what stays down, what is laid in advance, what to
 * prepare, fingers of grace notes.
 */
import type { Derived } from '#core/arrangement/derive'
import { cuesOf } from '#core/teach/cues'
import { ornamentsOf } from '#core/teach/ornaments'
import { digitText } from '#core/instruments/digits'
import { marksHalfStep, type Named } from './names'
import { eventOf } from '#core/music/ids'

export interface HandMarks {
  /** The event up to which this finger stays down. */
  readonly hold?: string
  /** The event up to which this finger lies over neighbouring strings. */
  readonly block?: string
  /** While this open string sounds, the next finger is put ready on its own string. */
  readonly prepare?: true
  /** How the finger comes here: a jump from another string, or a slide within a still hand. */
  readonly arrives?: 'hop' | 'slide'
  /**
   * The next event, whose finger stands a half step away; only where half steps are marked instead of places.
   */
  readonly touches?: string
  /** Fingers of the grace notes before it, in order; empty where the hand reaches none. */
  readonly grace?: readonly string[]
}

/** By event; events with nothing to show are absent. */
export function handMarks(d: Derived, named: Named): ReadonlyMap<string, HandMarks> {
  const out = new Map<string, HandMarks>()
  const add = (id: string, marks: HandMarks) => out.set(id, { ...out.get(id), ...marks })
  for (const h of d.holds) add(h.from, { hold: h.to })
  for (const b of d.blocks) add(b.from, { block: b.to })
  for (const c of cuesOf(d.fingering)) {
    if (c.kind === 'prepare') add(c.at, { prepare: true })
    else add(c.for, { arrives: c.kind })
  }
  for (const o of ornamentsOf(d.fingering, d.tune))
    if (o.kind === 'grace')
      add(o.note, { grace: o.fingers.map(x => (x.finger === null ? '' : digitText(x.finger, x.mark))) })
  const notes = d.fingering.notes.filter(n => n.tiedFrom === undefined)
  notes.forEach((n, i) => {
    const next = notes[i + 1]
    if (next && marksHalfStep(n, next, named)) add(eventOf(n.id), { touches: eventOf(next.id) })
  })
  return out
}

/**
 * How much harder than a plain note each note is for this hand: what the plan's "hardest" and "do not rush"
 * go by.
 */
import type { Derived } from '#core/arrangement/derive'
import { eventOf } from '#core/music/ids'

/** In plain notes: a shift is worth two and a half. */
const HARD = { shift: 2.5, crossing: 0.4, extended: 0.8, doubleStop: 1.2, high: 0.5 }

/** By event id. */
export function hardNotes(d: Pick<Derived, 'fingering' | 'shifts' | 'crossings'>): Map<string, number> {
  const out = new Map<string, number>()
  const add = (id: string, by: number) => {
    const event = eventOf(id)
    out.set(event, (out.get(event) ?? 0) + by)
  }
  for (const s of d.shifts) add(s.to, HARD.shift)
  for (const c of d.crossings) add(c.to, HARD.crossing * Math.abs(c.strings))
  for (const n of d.fingering.notes) {
    if (n.mark === 'extended') add(n.id, HARD.extended)
    if (n.id.includes('.')) add(n.id, HARD.doubleStop)
    if (n.offset > 7) add(n.id, HARD.high)
  }
  return out
}

/**
 * Upbeats left out: no rest stays in their place, and the measures they completed are filled by their last
 * notes.
 */
import { compare, type Fraction } from '#core/music/fraction'
import { leadsIn, placeMeasures } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { EasedChange } from './change'
import type { Filling } from './fillings'
import type { Source } from './source'

export interface Upbeats {
  readonly measures: readonly {
    readonly id: string
    readonly measure: string
    readonly events: readonly string[]
  }[]
  /** By index of a measure: the length it is filled up to. */
  readonly fills: ReadonlyMap<number, Fraction>
}

export const NO_UPBEATS: Upbeats = { measures: [], fills: new Map() }

/**
 * Every measure that leads in goes, with the short measures that waited for one; a teacher's refusal keeps
 * the first, and with it all of them.
 */
export function upbeatsLeft(tune: Tune, refused: ReadonlySet<string>): Upbeats {
  const placed = placeMeasures(tune)
  const up = placed.filter((p, i) => leadsIn(p, placed[i - 1]))
  const measures = up.map(p => ({
    id: `pickup-${p.measure.id}`.slice(0, 24),
    measure: p.measure.id,
    events: p.measure.events.map(e => e.id),
  }))
  if (measures.length === 0 || measures.length === placed.length || measures.some(m => refused.has(m.id)))
    return NO_UPBEATS
  const goes = new Set(up)
  const short = placed.filter(
    (p, i) =>
      !goes.has(p) &&
      compare(p.length, p.full) < 0 &&
      (i === placed.length - 1 || p.measure.repeatEnd === true || goes.has(placed[i + 1]!)),
  )
  return { measures, fills: new Map(short.map(p => [p.index, p.full])) }
}

export const upbeatsTold = ({ measures }: Upbeats): EasedChange[] =>
  measures.map(m => ({ id: m.id, kind: 'pickup', measure: 0, notes: m.events }))

/** Where an upbeat is left out the last note lasts on: two of one height at the very end are one. */
export function withLastHeld(fillings: readonly Filling[], { spans }: Source, { fills }: Upbeats): Filling[] {
  const out = [...fillings]
  spans.forEach(({ group }, i) => {
    const { index } = group.measure
    const last = spans[i + 1]?.group.measure.index !== index
    const [before, own] = [out[i - 1], out[i]!]
    if (!last || !fills.has(index) || spans[i - 1]?.group.measure.index !== index) return
    const slot = before?.slots.at(-1)
    if (own.slots.length === 1 && slot?.pitch && slot.midi === own.slots[0]!.midi)
      out[i] = { ...own, slots: [], held: slot.midi }
  })
  return out
}

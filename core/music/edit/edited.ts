/**
 * Editing a tune. Every edit is a pure function from a tune to an {@link Edited}; an edit that makes no sense
 * where it is asked for gives the very same tune back, so that nothing is recorded. Ids of untouched events
 * stay; new events get ids never used before.
 */
import type { Measure, NoteEvent, Tune, TuneEvent } from '../tune'

export interface Edited {
  readonly tune: Tune
  /** The event to choose next. */
  readonly chosen: string | null
}

export interface Found {
  readonly measure: Measure
  /** Index of the measure in the tune. */
  readonly at: number
  /** Index of the event in its measure. */
  readonly index: number
  readonly event: TuneEvent
}

/**
 * What a measure carries at its beginning and at its end: where one is cut in two, or taken out, it goes
 * along.
 */
export const OPENS = ['repeatStart', 'key', 'metre', 'label', 'segno', 'coda'] as const
export const CLOSES = ['repeatEnd', 'repeatTimes', 'barline', 'fine', 'toCoda', 'jump'] as const

/** Some of what a measure carries, no more than is there; and the same taken off. */
export const only = (m: Measure, fields: readonly (keyof Measure)[]): Partial<Measure> =>
  Object.fromEntries(fields.flatMap(f => (m[f] === undefined ? [] : [[f, m[f]]])))
export const without = (fields: readonly (keyof Measure)[]): Partial<Record<keyof Measure, undefined>> =>
  Object.fromEntries(fields.map(f => [f, undefined]))

export const unchanged = (tune: Tune, chosen: string | null = null): Edited => ({ tune, chosen })
export const eventsOf = (tune: Tune) => tune.measures.flatMap(m => m.events)

export function findEvent(tune: Tune, id: string | null): Found | null {
  for (const [at, measure] of tune.measures.entries()) {
    const index = measure.events.findIndex(e => e.id === id)
    if (index >= 0) return { measure, at, index, event: measure.events[index]! }
  }
  return null
}

/** Ids of the events from one to the other, in either order; of one alone when the other is not there. */
export function idsBetween(tune: Tune, a: string, b: string): string[] {
  const ids = eventsOf(tune).map(e => e.id)
  const [i, j] = [ids.indexOf(a), ids.indexOf(b)]
  if (i < 0 || j < 0) return ids.filter(id => id === a || id === b)
  return ids.slice(Math.min(i, j), Math.max(i, j) + 1)
}

/** Takes names for new things from a tune's counter. */
export class FreshIds {
  constructor(private last: number) {}
  next(kind: 'n' | 'm' | 't') {
    return `${kind}${++this.last}`
  }
  get lastId() {
    return this.last
  }
}

/** Changes some events in place; what the function gives back must keep its id. */
export function mapEvents(tune: Tune, ids: Iterable<string>, change: (e: TuneEvent) => TuneEvent): Tune {
  const wanted = new Set(ids)
  return editMeasures(tune, m => {
    if (!m.events.some(e => wanted.has(e.id))) return m
    const events = m.events.map(e => (wanted.has(e.id) ? change(e) : e))
    return events.every((e, i) => e === m.events[i]) ? m : { ...m, events }
  })
}

export const mapNotes = (tune: Tune, ids: Iterable<string>, change: (e: NoteEvent) => NoteEvent): Tune =>
  mapEvents(tune, ids, e => (e.kind === 'note' ? change(e) : e))

export function editMeasures(tune: Tune, change: (m: Measure, at: number) => Measure): Tune {
  const measures = tune.measures.map(change)
  return measures.every((m, i) => m === tune.measures[i]) ? tune : { ...tune, measures }
}

/** The same object without the fields that are undefined. */
export function tidy<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T
}

/**
 * An arrangement's changes carried out on the tune as it is written. A change whose notes are gone, or were taken by an earlier one, changes nothing and is told;
 * it stays in the recipe, so that it comes back with its notes.
 */
import { add, compare, ZERO, type Fraction } from '#core/music/fraction'
import { madeId, type EventId } from '#core/music/ids'
import { formatPitch } from '#core/music/pitch'
import type { Measure, Tune, TuneEvent } from '#core/music/tune'
import type { Change } from './change'
import type { Played } from './recipe'

/** Why a change was not carried out: the teacher refused it, its notes are not (or no longer) there, or the new ones do not last as long. */
export type RefusedWhy = 'refused' | 'gone' | 'length'
export interface Refused {
  readonly change: Change
  readonly why: RefusedWhy
}

/** For every event a change made: the written events it stands for. */
export type Origin = ReadonlyMap<EventId, readonly EventId[]>

export interface Changed {
  readonly tune: Tune
  readonly origin: Origin
  readonly refused: readonly Refused[]
}

/** The changes that are played the time through that is looked at. */
export const playedChanges = ({
  changes,
  through,
}: Pick<Played, 'changes' | 'through'>): readonly Change[] =>
  changes.some(c => (c.layer ?? 1) > through) ? changes.filter(c => (c.layer ?? 1) <= through) : changes

/** Carries out the changes in their order; a later one may speak of notes an earlier one made. With none the tune is the very same. */
export function applyChanges(tune: Tune, changes: readonly Change[]): Changed {
  const origin = new Map<EventId, readonly EventId[]>()
  const refused: Refused[] = []
  let now = tune
  for (const change of changes) {
    const why = change.accepted ? null : 'refused'
    const made = why ?? replaced(now, change, origin)
    if (typeof made === 'string') refused.push({ change, why: made })
    else now = made
  }
  return { tune: now === tune ? tune : untied(now), origin, refused }
}

const total = (list: readonly { readonly duration: Fraction }[]) =>
  list.reduce((sum, e) => add(sum, e.duration), ZERO)

function replaced(tune: Tune, change: Change, origin: Map<EventId, readonly EventId[]>): Tune | RefusedWhy {
  const { events, by } = change.edit
  const at = tune.measures.findIndex(m => m.events.some(e => e.id === events[0]))
  const measure = tune.measures[at]
  const from = measure?.events.findIndex(e => e.id === events[0]) ?? -1
  const old = measure?.events.slice(from, from + events.length) ?? []
  if (!measure || old.length < events.length || old.some((e, i) => e.id !== events[i])) return 'gone'
  if (compare(total(old), total(by)) !== 0) return 'length'
  const made = by.map((e, i): TuneEvent => ({ ...e, id: madeId(change.id, i) }))
  const of = events.flatMap(id => origin.get(id) ?? [id])
  for (const e of made) origin.set(e.id, of)
  const next: Measure = { ...measure, events: measure.events.toSpliced(from, old.length, ...made) }
  const moved = new Map<EventId, EventId>(events.map(id => [id, made[0]!.id]))
  const last = new Map<EventId, EventId>(events.map(id => [id, made.at(-1)!.id]))
  const slurs = tune.slurs
    .map(s => ({ from: moved.get(s.from) ?? s.from, to: last.get(s.to) ?? s.to }))
    .filter(s => s.from !== s.to)
  return { ...tune, measures: tune.measures.with(at, next), slurs }
}

/** A tie holds only to the same pitch: where a change put another note behind it, it goes. */
function untied(tune: Tune): Tune {
  const all = tune.measures.flatMap(m => m.events)
  const next = new Map(all.map((e, i) => [e.id, all[i + 1]]))
  const pitches = (e: TuneEvent | undefined) => new Set(e?.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)) : []) // prettier-ignore
  const free = (e: TuneEvent): TuneEvent => {
    if (e.kind !== 'note' || !e.heads.some(h => h.tied)) return e
    const there = pitches(next.get(e.id))
    if (e.heads.every(h => !h.tied || there.has(formatPitch(h.pitch)))) return e
    const heads = e.heads.map(h => (h.tied && !there.has(formatPitch(h.pitch)) ? { pitch: h.pitch } : h))
    return { ...e, heads }
  }
  return { ...tune, measures: tune.measures.map(m => ({ ...m, events: m.events.map(free) })) }
}

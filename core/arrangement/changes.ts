/**
 * An arrangement's changes carried out on the tune as it is written. A change whose notes are gone, or were
 * taken by an earlier one, changes nothing and is told; it stays in the recipe, so that it comes back with
 * its notes.
 */
import { add, compare, sub, ZERO, type Fraction } from '#core/music/fraction'
import { changeOf, madeId, type EventId } from '#core/music/ids'
import { formatPitch } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import type { Measure, Tune, TuneEvent } from '#core/music/tune'
import { isLeaving, isReplacing, type Change, type Leaving, type Replacing } from './change'
import { withoutMeasures } from './leaveOut'
import type { Played } from './recipe'

/**
 * Why a change was not carried out: the teacher refused it, its notes are in a part that is left out, are not
 * (or no longer) there, or the new ones do not last as long; or nothing would be left of the tune.
 */
export type RefusedWhy = 'refused' | 'left' | 'gone' | 'length' | 'all'
export interface Refused {
  readonly change: Change
  readonly why: RefusedWhy
}

/** For every event a change made: the written events it stands for. */
export type Origin = ReadonlyMap<EventId, readonly EventId[]>

export interface Changed {
  readonly tune: Tune
  readonly origin: Origin
  /** Ids of the measures left out. */
  readonly left: ReadonlySet<string>
  readonly refused: readonly Refused[]
  /** There are other strokes than in the tune as it is written: more notes, or fewer. */
  readonly rebowed: boolean
}

/** The changes that are played the time through that is looked at. */
export const playedChanges = ({
  changes,
  through,
}: Pick<Played, 'changes' | 'through'>): readonly Change[] =>
  changes.some(c => (c.layer ?? 1) > through) ? changes.filter(c => (c.layer ?? 1) <= through) : changes

/**
 * Carries out the changes in their order; a later one may speak of notes an earlier one made. With none the
 * tune is the very same.
 */
export function applyChanges(tune: Tune, changes: readonly Change[]): Changed {
  const origin = new Map<EventId, readonly EventId[]>()
  const refused: Refused[] = []
  // Parts go first: what is changed of them waits until they come back.
  const { left, not } = leftBy(tune, changes.filter(isLeaving))
  const start = withoutMeasures(tune, left)
  const away = new Set(tune.measures.filter(m => left.has(m.id)).flatMap(m => m.events.map(e => e.id)))
  /** Changes of what is away: a later one of the notes they would make waits with them. */
  const waiting = new Set<string>()
  let now = start
  let rebowed = false
  for (const change of changes) {
    if (!change.accepted) refused.push({ change, why: 'refused' })
    else if (!isReplacing(change)) {
      const why = not.get(change.id)
      if (why) refused.push({ change, why })
    } else {
      const made = replaced(now, change, origin)
      if (typeof made !== 'string') {
        rebowed ||= kindsOf(change.edit.by) !== kindsOf(eventsOf(now, change.edit.events))
        now = made
      } else {
        const waits =
          made === 'gone' && change.edit.events.some(id => away.has(id) || waiting.has(changeOf(id) ?? ''))
        if (waits) waiting.add(change.id)
        refused.push({ change, why: waits ? 'left' : made })
      }
    }
  }
  return { tune: now === start ? start : untied(now), origin, left, refused, rebowed }
}

const kindsOf = (list: readonly { readonly kind: string }[]) => list.map(e => e.kind).join()
const eventsOf = ({ measures }: Tune, ids: readonly EventId[]) =>
  measures.find(m => m.events.some(e => e.id === ids[0]))?.events.filter(e => ids.includes(e.id)) ?? []

/**
 * The measures that the leaving changes take away together: never all of the tune, and none by a change of
 * whose measures one is not there.
 */
function leftBy({ measures }: Tune, leaving: readonly Leaving[]) {
  const there = new Set(measures.map(m => m.id))
  const left = new Set<string>()
  const not = new Map<string, 'gone' | 'all'>()
  for (const { id, accepted, edit } of leaving) {
    if (!accepted) continue
    const both = new Set([...left, ...edit.measures])
    if (edit.measures.some(m => !there.has(m))) not.set(id, 'gone')
    else if (both.size === there.size) not.set(id, 'all')
    else for (const m of edit.measures) left.add(m)
  }
  return { left, not }
}

const total = (list: readonly { readonly duration: Fraction }[]) =>
  list.reduce((sum, e) => add(sum, e.duration), ZERO)

function replaced(
  tune: Tune,
  change: Replacing,
  origin: Map<EventId, readonly EventId[]>,
): Tune | RefusedWhy {
  const { events, by } = change.edit
  const at = tune.measures.findIndex(m => m.events.some(e => e.id === events[0]))
  const measure = tune.measures[at]
  const from = measure?.events.findIndex(e => e.id === events[0]) ?? -1
  const old = measure?.events.slice(from, from + events.length) ?? []
  if (!measure || old.length < events.length || old.some((e, i) => e.id !== events[i])) return 'gone'
  const longer = compare(total(by), total(old))
  if (longer !== 0) {
    const { full, length } = placeMeasures(tune)[at]!
    const whole = add(length, sub(total(by), total(old)))
    if (!change.edit.fills || longer < 0 || compare(whole, full) > 0) return 'length'
  }
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
  const pitches = (e: TuneEvent | undefined) =>
    new Set(e?.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)) : [])
  const free = (e: TuneEvent): TuneEvent => {
    if (e.kind !== 'note' || !e.heads.some(h => h.tied)) return e
    const there = pitches(next.get(e.id))
    if (e.heads.every(h => !h.tied || there.has(formatPitch(h.pitch)))) return e
    const heads = e.heads.map(h => (h.tied && !there.has(formatPitch(h.pitch)) ? { pitch: h.pitch } : h))
    return { ...e, heads }
  }
  return { ...tune, measures: tune.measures.map(m => ({ ...m, events: m.events.map(free) })) }
}

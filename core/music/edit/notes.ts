/** Putting notes and rests in, taking them out. */
import { add, compare, frac, isZero, mul, sub, ZERO, type Fraction } from '../fraction'
import { diatonic, type Pitch } from '../pitch'
import { eventsLength, placeMeasures } from '../timeline'
import type { Measure, Tune, TuneEvent } from '../tune'
import {
  CLOSES,
  eventsOf,
  findEvent,
  FreshIds,
  mapNotes,
  only,
  OPENS,
  tidy,
  unchanged,
  without,
  type Edited,
} from './edited'

/** What is put in: no pitch is a rest. */
export interface NewEvent {
  readonly pitches: readonly Pitch[]
  /** As written, in quarters: in a tuplet the sounding length is shorter. */
  readonly length: Fraction
  readonly tuplet?: { readonly actual: number; readonly normal: number }
}

const headsOf = (pitches: readonly Pitch[], tied = false) =>
  [...pitches]
    .sort((a, b) => diatonic(a) - diatonic(b))
    .map(pitch => ({ pitch, ...(tied && { tied: true }) }))

function makeEvent(
  id: string,
  e: NewEvent,
  duration: Fraction,
  tied: boolean,
  tuplet?: TuneEvent['tuplet'],
): TuneEvent {
  const common = { id, duration, ...(tuplet && { tuplet }) }
  return e.pitches.length === 0
    ? { kind: 'rest', ...common }
    : { kind: 'note', ...common, heads: headsOf(e.pitches, tied) }
}

/** The tuplet a new event joins: the one before it while that is not full, else a new one. */
function tupletFor(before: TuneEvent | undefined, events: readonly TuneEvent[], e: NewEvent, ids: FreshIds) {
  if (!e.tuplet) return undefined
  const open = before?.tuplet
  if (open && open.actual === e.tuplet.actual && open.normal === e.tuplet.normal) {
    const own = events.filter(x => x.tuplet?.group === open.group)
    const written = (x: TuneEvent) => mul(x.duration, frac(open.actual, open.normal))
    const full = mul(
      own.map(written).reduce((a, b) => (compare(a, b) <= 0 ? a : b)),
      frac(open.actual),
    )
    if (compare(own.map(written).reduce(add, ZERO), full) < 0) return open
  }
  return { group: ids.next('t'), ...e.tuplet }
}

/**
 * Puts an event after another (null: at the very beginning). At the end of the tune a full measure opens the
 * next one, and a note longer than the room left is tied over the barline; inside the tune the measure simply
 * grows, which {@link checkTune} points out.
 */
export function insertAfter(tune: Tune, after: string | null, e: NewEvent): Edited {
  const ids = new FreshIds(tune.lastId)
  if (tune.measures.length === 0) {
    const first: Measure = { id: ids.next('m'), events: [] }
    return insertAfter({ ...tune, measures: [first], lastId: ids.lastId }, null, e)
  }
  const found = findEvent(tune, after)
  if (after !== null && !found) return unchanged(tune)
  let at = found?.at ?? 0
  let index = found ? found.index + 1 : 0
  const following = tune.measures[at + 1]
  if (found && index === found.measure.events.length && following?.events.length === 0)
    [at, index] = [at + 1, 0]
  const measure = tune.measures[at]!
  const atEnd = at === tune.measures.length - 1 && index === measure.events.length
  const tuplet = tupletFor(measure.events[index - 1], measure.events, e, ids)
  const duration = tuplet ? mul(e.length, frac(tuplet.normal, tuplet.actual)) : e.length
  if (atEnd) return append(tune, e, duration, tuplet, ids)
  const id = ids.next('n')
  const events = measure.events.toSpliced(index, 0, makeEvent(id, e, duration, false, tuplet))
  return {
    tune: { ...tune, measures: tune.measures.with(at, { ...measure, events }), lastId: ids.lastId },
    chosen: id,
  }
}

/** At the end: fills measure after measure, tying over the barlines. */
function append(
  tune: Tune,
  e: NewEvent,
  duration: Fraction,
  tuplet: TuneEvent['tuplet'],
  ids: FreshIds,
): Edited {
  const measures: Measure[] = [...tune.measures]
  const full = placeMeasures(tune).at(-1)!.full
  let [rest, chosen] = [duration, '']
  while (!isZero(rest)) {
    let last = measures.at(-1)!
    let room = sub(full, eventsLength(last.events))
    if (room.n <= 0) {
      // The end of the tune moves on with it.
      const { barline, ...open } = last
      measures[measures.length - 1] = barline === 'final' ? open : last
      last = { id: ids.next('m'), events: [], ...(barline === 'final' && { barline }) }
      measures.push(last)
      room = full
    }
    // A tuplet note is never cut in two.
    const now = compare(rest, room) <= 0 || tuplet ? rest : room
    rest = sub(rest, now)
    const id = ids.next('n')
    chosen ||= id
    const made = makeEvent(id, e, now, !isZero(rest), tuplet)
    measures[measures.length - 1] = { ...last, events: [...last.events, made] }
    if (isZero(rest)) chosen = id
  }
  return { tune: { ...tune, measures, lastId: ids.lastId }, chosen }
}

/**
 * Ends the measure of an event here, full or not: what is put in next begins a new one. For pickups and for
 * bars of their own length.
 */
export function openMeasure(tune: Tune, after: string): Edited {
  const found = findEvent(tune, after)
  if (!found) return unchanged(tune, after)
  const ids = new FreshIds(tune.lastId)
  const { measure, at, index } = found
  const later = measure.events.slice(index + 1)
  if (later.length === 0 && tune.measures[at + 1]?.events.length === 0) return unchanged(tune, after)
  const first = tidy<Measure>({ ...measure, ...without(CLOSES), events: measure.events.slice(0, index + 1) })
  const second = tidy<Measure>({ ...measure, ...without(OPENS), id: ids.next('m'), events: later })
  return {
    tune: { ...tune, measures: tune.measures.toSpliced(at, 1, first, second), lastId: ids.lastId },
    chosen: after,
  }
}

/**
 * Takes events out. A measure left with nothing goes too; its repeat, key and the like pass to its
 * neighbours.
 */
export function removeEvents(tune: Tune, gone: readonly string[]): Edited {
  const out = new Set(gone)
  const order = eventsOf(tune)
  const first = order.findIndex(e => out.has(e.id))
  if (first < 0) return unchanged(tune)
  const measures = tune.measures.map(m =>
    m.events.some(e => out.has(e.id)) ? { ...m, events: m.events.filter(e => !out.has(e.id)) } : m,
  )
  const emptied = (m: Measure, i: number) => m.events.length === 0 && m !== tune.measures[i]
  const slurs = mendSlurs(tune, out)
  const left = untieBefore({ ...tune, measures: dropMeasures(measures, emptied), slurs }, order, out)
  const chosen = order.slice(0, first).findLast(e => !out.has(e.id)) ?? order.find(e => !out.has(e.id))
  return { tune: left, chosen: chosen?.id ?? null }
}

/** Leaves out some measures; what opens a part passes to the next one, what closes it to the one before. */
export function dropMeasures(
  measures: readonly Measure[],
  drop: (m: Measure, i: number) => boolean,
): Measure[] {
  const out: Measure[] = []
  let opening: Partial<Measure> = {}
  measures.forEach((m, i) => {
    if (!drop(m, i)) {
      out.push(tidy({ ...opening, ...m }))
      opening = {}
      return
    }
    opening = { ...opening, ...only(m, OPENS) }
    const before = out.at(-1)
    if (before) out[out.length - 1] = { ...before, ...only(m, CLOSES), ...only(before, CLOSES) }
  })
  return out
}

/** Slurs whose end was taken out end at the nearest note that is left. */
function mendSlurs(tune: Tune, gone: ReadonlySet<string>): Tune['slurs'] {
  const ids = eventsOf(tune).map(e => e.id)
  return tune.slurs.flatMap(s => {
    if (!gone.has(s.from) && !gone.has(s.to)) return [s]
    const inside = ids.slice(ids.indexOf(s.from), ids.indexOf(s.to) + 1).filter(id => !gone.has(id))
    return inside.length > 1 ? [{ from: inside[0]!, to: inside.at(-1)! }] : []
  })
}

/** A tie into a note that is gone is taken off. */
function untieBefore(tune: Tune, order: readonly TuneEvent[], gone: ReadonlySet<string>): Tune {
  const before = order.flatMap((e, i) => (gone.has(order[i + 1]?.id ?? '') && !gone.has(e.id) ? [e.id] : []))
  return mapNotes(tune, before, e =>
    e.heads.some(h => h.tied) ? { ...e, heads: e.heads.map(h => ({ pitch: h.pitch })) } : e,
  )
}

/** Turns notes into rests of the same length; what hangs on a note goes with it, chord names stay. */
export function toRests(tune: Tune, ids: readonly string[]): Edited {
  const wanted = new Set(ids)
  const measures = tune.measures.map(m => ({
    ...m,
    events: m.events.map((e): TuneEvent => {
      if (!wanted.has(e.id) || e.kind === 'rest') return e
      const { id, duration, tuplet, chord, remarks } = e
      return tidy({ kind: 'rest' as const, id, duration, tuplet, chord, remarks })
    }),
  }))
  const slurs = mendSlurs(tune, wanted)
  return {
    tune: untieBefore({ ...tune, measures, slurs }, eventsOf(tune), wanted),
    chosen: ids.at(-1) ?? null,
  }
}

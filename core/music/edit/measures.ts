/**
 * Measures as a whole: barlines, repeats, endings, key and metre, cut and paste, drawing the barlines anew.
 */
import { add, compare, isZero, sub, ZERO, type Fraction } from '../fraction'
import type { Key } from '../key'
import type { Metre } from '../metre'
import { placeMeasures } from '../timeline'
import type { Measure, Tune, TuneEvent } from '../tune'
import {
  CLOSES,
  editMeasures,
  eventsOf,
  findEvent,
  only,
  OPENS,
  without,
  FreshIds,
  tidy,
  unchanged,
  type Edited,
} from './edited'
import { dropMeasures, removeEvents } from './notes'

type Fields = Partial<Omit<Measure, 'id' | 'events' | 'key' | 'metre'>>

/** Changes what a measure carries; a field given as undefined is taken off. */
export const setMeasure = (tune: Tune, at: number, fields: Fields): Edited => ({
  tune: editMeasures(tune, (m, i) => (i === at ? tidy({ ...m, ...fields }) : m)),
  chosen: null,
})

/** Signs of the way through that a measure can carry; the two jumps exclude each other. */
export const WAY_SIGNS = ['segno', 'coda', 'fine', 'toCoda', 'dc', 'ds'] as const
export type WaySign = (typeof WAY_SIGNS)[number]

export const waySignsOf = (m: Measure): WaySign[] =>
  WAY_SIGNS.filter(s => (s === 'dc' || s === 'ds' ? m.jump === s : m[s] === true))

/** Of two jumps the one that was not there before counts. */
export function setWaySigns(tune: Tune, at: number, signs: readonly WaySign[]): Edited {
  const before = tune.measures[at]!.jump
  const jumps = signs.filter(s => s === 'dc' || s === 'ds')
  const on = (s: WaySign) => (signs.includes(s) ? (true as const) : undefined)
  const jump = jumps.find(j => j !== before) ?? jumps[0]
  return setMeasure(tune, at, {
    segno: on('segno'),
    coda: on('coda'),
    fine: on('fine'),
    toCoda: on('toCoda'),
    jump,
  })
}

/** How often what ends here is played: twice is what a repeat sign says by itself. */
export const setRepeatTimes = (tune: Tune, at: number, times: number): Edited =>
  setMeasure(tune, at, { repeatEnd: true, repeatTimes: times > 2 ? Math.min(9, times) : undefined })

/** A new key from a measure on; the sounding notes stay. At the first measure it is the key of the tune. */
export function setKeyFrom(tune: Tune, at: number, key: Key): Edited {
  if (at === 0) return { tune: { ...tune, key }, chosen: null }
  return { tune: editMeasures(tune, (m, i) => (i === at ? { ...m, key } : m)), chosen: null }
}

export function setMetreFrom(tune: Tune, at: number, metre: Metre): Edited {
  if (at === 0) return { tune: { ...tune, metre }, chosen: null }
  return { tune: editMeasures(tune, (m, i) => (i === at ? { ...m, metre } : m)), chosen: null }
}

/**
 * Draws the barlines anew from a measure to the end of its part (the next repeat, ending, double bar, label
 * or change of metre): every measure is filled, notes over a barline are cut and tied. A pickup at the start
 * keeps its length.
 */
export function rebar(tune: Tune, from: number): Edited {
  const placed = placeMeasures(tune)
  const start = from === 0 && placed[0] && compare(placed[0].length, placed[0].full) < 0 ? 1 : from
  if (!placed[start]) return unchanged(tune)
  const full = placed[start].full
  const closes = (m: Measure) => CLOSES.some(f => m[f])
  const opens = (m: Measure) => m.endings || OPENS.some(f => m[f])
  let end = start
  while (placed[end + 1] && !closes(tune.measures[end]!) && !opens(tune.measures[end + 1]!)) end++
  const ids = new FreshIds(tune.lastId)
  const bars = fill(
    tune.measures.slice(start, end + 1).flatMap(m => m.events),
    full,
    ids,
  )
  const first = tune.measures[start]!
  const ends = only(tune.measures[end]!, CLOSES)
  const rebuilt = bars.map((events, i): Measure =>
    tidy({
      ...(i === 0 ? { ...first, ...without(CLOSES) } : { id: ids.next('m') }),
      events,
      ...(i === bars.length - 1 && ends),
    }),
  )
  const measures = tune.measures.toSpliced(start, end - start + 1, ...rebuilt)
  return { tune: { ...tune, measures, lastId: ids.lastId }, chosen: null }
}

/**
 * Events dealt out into measures of one length; a note over the barline is cut in two and tied. A tuplet note
 * is never cut.
 */
function fill(events: readonly TuneEvent[], full: Fraction, ids: FreshIds): TuneEvent[][] {
  const bars: TuneEvent[][] = [[]]
  let used = ZERO
  const put = (e: TuneEvent) => {
    bars.at(-1)!.push(e)
    used = add(used, e.duration)
  }
  for (const event of events) {
    let rest = event
    for (;;) {
      if (compare(used, full) >= 0) {
        bars.push([])
        used = ZERO
      }
      const room = sub(full, used)
      if (compare(rest.duration, room) <= 0 || rest.tuplet) break
      const [head, tail] = cut(rest, room, ids)
      put(head)
      rest = tail
    }
    if (!isZero(rest.duration)) put(rest)
  }
  return bars
}

function cut(e: TuneEvent, at: Fraction, ids: FreshIds): [TuneEvent, TuneEvent] {
  const tail = { duration: sub(e.duration, at), id: ids.next('n') }
  if (e.kind === 'rest')
    return [
      { ...e, duration: at },
      { kind: 'rest', ...tail },
    ]
  const tied = e.heads.map(h => ({ pitch: h.pitch, tied: true }))
  return [
    { ...e, duration: at, heads: tied },
    { kind: 'note', ...tail, heads: e.heads },
  ]
}

/** A stretch of music cut or copied: whole measures, or events of them. */
export interface Clip {
  readonly measures: readonly Measure[]
  readonly whole: boolean
  readonly slurs: Tune['slurs']
}

/** Copies events; when they make up whole measures, measures are copied with what they carry. */
export function copyEvents(tune: Tune, ids: readonly string[]): Clip {
  const wanted = new Set(ids)
  const touched = tune.measures.filter(m => m.events.some(e => wanted.has(e.id)))
  const whole = touched.every(m => m.events.every(e => wanted.has(e.id)))
  const measures = touched.map(m => ({ ...m, events: m.events.filter(e => wanted.has(e.id)) }))
  return { measures, whole, slurs: tune.slurs.filter(s => wanted.has(s.from) && wanted.has(s.to)) }
}

/**
 * Puts a copy after an event (null: at the beginning): whole measures after its measure, else events right
 * after it. New ids throughout.
 */
export function paste(tune: Tune, after: string | null, clip: Clip): Edited {
  if (clip.measures.length === 0) return unchanged(tune, after)
  const ids = new FreshIds(tune.lastId)
  const renamed = new Map<string, string>()
  const groups = new Map<string, string>()
  const copyEvent = (e: TuneEvent): TuneEvent => {
    const id = ids.next('n')
    renamed.set(e.id, id)
    if (!e.tuplet) return { ...e, id }
    const group = groups.get(e.tuplet.group) ?? groups.set(e.tuplet.group, ids.next('t')).get(e.tuplet.group)!
    return { ...e, id, tuplet: { ...e.tuplet, group } }
  }
  const copies = clip.measures.map(m => ({ ...m, id: ids.next('m'), events: m.events.map(copyEvent) }))
  const found = findEvent(tune, after)
  const at = found?.at ?? -1
  let measures: readonly Measure[]
  if (clip.whole || tune.measures.length === 0) measures = tune.measures.toSpliced(at + 1, 0, ...copies)
  else {
    const host = tune.measures[Math.max(0, at)]!
    const events = host.events.toSpliced(found ? found.index + 1 : 0, 0, ...copies.flatMap(m => m.events))
    measures = tune.measures.with(Math.max(0, at), { ...host, events })
  }
  const slurs = clip.slurs.map(s => ({ from: renamed.get(s.from)!, to: renamed.get(s.to)! }))
  const chosen = copies.flatMap(m => m.events).at(-1)?.id ?? after
  return { tune: { ...tune, measures, slurs: [...tune.slurs, ...slurs], lastId: ids.lastId }, chosen }
}

/** Takes a whole measure out, with its notes. */
export function removeMeasure(tune: Tune, at: number): Edited {
  const measure = tune.measures[at]
  if (!measure) return unchanged(tune)
  if (measure.events.length > 0)
    return removeEvents(
      tune,
      measure.events.map(e => e.id),
    )
  const measures = dropMeasures(tune.measures, (_, i) => i === at)
  return { tune: { ...tune, measures }, chosen: eventsOf(tune)[0]?.id ?? null }
}

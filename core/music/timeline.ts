/** Lays a tune out in time, in the order it is written (repeats not unfolded). */
import { add, compare, mod, sub, ZERO, type Fraction } from './fraction'
import type { Key } from './key'
import { midi } from './pitch'
import { feltGroups } from './groups'
import { measureLength, metreName, type Metre } from './metre'
import type { Measure, NoteEvent, Tune, TuneEvent } from './tune'

export interface PlacedMeasure {
  readonly measure: Measure
  readonly index: number
  /**
   * Number as printed: a pickup is 0, the first full measure 1; a pickup inside the tune shares its
   * neighbour's number.
   */
  readonly number: number
  /** Start in quarters from the start of the tune. */
  readonly start: Fraction
  readonly length: Fraction
  readonly full: Fraction
  readonly key: Key
  readonly metre: Metre
  /** The metre with the groups its beats fall into, where they are of two kinds and the tune tells. */
  readonly felt: Metre
}

export interface Placed<E extends TuneEvent = TuneEvent> {
  readonly event: E
  readonly measure: PlacedMeasure
  /** Start in quarters from the start of the tune. */
  readonly start: Fraction
  /** Place in the measure in quarters, counted so that a pickup ends on the barline. */
  readonly inMeasure: Fraction
}

export const eventsLength = (events: readonly TuneEvent[]) =>
  events.reduce((t, e) => add(t, e.duration), ZERO)

/** Every measure with its number, start, length, key and metre. */
export const placeMeasures = (tune: Tune): readonly PlacedMeasure[] => once(MEASURES, tune, findMeasures)

/** Kept with the tune, which never changes: many ask for the same. */
const MEASURES = new WeakMap<Tune, readonly PlacedMeasure[]>()
const EVENTS = new WeakMap<Tune, readonly Placed[]>()

function once<T>(known: WeakMap<Tune, T>, tune: Tune, find: (tune: Tune) => T): T {
  const found = known.get(tune) ?? find(tune)
  known.set(tune, found)
  return found
}

function findMeasures(tune: Tune): PlacedMeasure[] {
  let [start, key, metre, number] = [ZERO, tune.key, tune.metre, 0]
  const out: PlacedMeasure[] = []
  const felt = feltMetres(tune)
  tune.measures.forEach((measure, index) => {
    key = measure.key ?? key
    metre = measure.metre ?? metre
    const full = measureLength(metre)
    const length = eventsLength(measure.events)
    const before = out[index - 1]
    // A short measure that completes the short one before it (a repeat inside a bar) or leads in is not
    // counted.
    const leadsIn = compare(length, full) < 0 && (index === 0 || completes(before, length))
    if (!leadsIn) number++
    out.push({ measure, index, number, start, length, full, key, metre, felt: felt(metre) })
    start = add(start, length)
  })
  return out
}

/** Each metre of a tune as it is felt: heard from its full measures. */
function feltMetres(tune: Tune): (metre: Metre) => Metre {
  const full = new Map<string, { metre: Metre; measures: (readonly TuneEvent[])[] }>()
  let metre = tune.metre
  for (const m of tune.measures) {
    metre = m.metre ?? metre
    const name = metreName(metre)
    const known = full.get(name) ?? { metre, measures: [] }
    full.set(name, known)
    if (compare(eventsLength(m.events), measureLength(metre)) === 0) known.measures.push(m.events)
  }
  const found = new Map<string, Metre>()
  for (const [name, { metre, measures }] of full) {
    const groups = feltGroups(metre, measures)
    found.set(name, groups && !metre.groups ? { ...metre, groups } : metre)
  }
  return m => found.get(metreName(m)) ?? m
}

function completes(before: PlacedMeasure | undefined, length: Fraction): boolean {
  return (
    !!before &&
    compare(before.length, before.full) < 0 &&
    compare(add(before.length, length), before.full) <= 0
  )
}

/**
 * True for a short measure that leads in: its notes count from the end of the measure, not from its start.
 */
export function leadsIn(placed: PlacedMeasure, before: PlacedMeasure | undefined): boolean {
  if (compare(placed.length, placed.full) >= 0) return false
  return (
    !before ||
    before.measure.repeatEnd === true ||
    before.measure.barline !== undefined ||
    completes(before, placed.length)
  )
}

/** Every event with its place. */
export const placeEvents = (tune: Tune): readonly Placed[] => once(EVENTS, tune, findEvents)

function findEvents(tune: Tune): Placed[] {
  const measures = placeMeasures(tune)
  const out: Placed[] = []
  measures.forEach((measure, i) => {
    const offset = leadsIn(measure, measures[i - 1]) ? sub(measure.full, measure.length) : ZERO
    let at = ZERO
    for (const event of measure.measure.events) {
      out.push({
        event,
        measure,
        start: add(measure.start, at),
        inMeasure: mod(add(offset, at), measure.full),
      })
      at = add(at, event.duration)
    }
  })
  return out
}

export const isNote = (p: Placed): p is Placed<NoteEvent> => p.event.kind === 'note'

export interface TiedOn {
  /** Index of a head, and of the one it goes on as in the next note. */
  readonly head: number
  readonly next: number
}

/** Heads of a note that are tied on to the next: a tie meets the same pitch, wherever it stands there. */
export function tiedOn(a: TuneEvent | undefined, b: TuneEvent | undefined): TiedOn[] {
  if (a?.kind !== 'note' || b?.kind !== 'note' || !a.heads.some(h => h.tied)) return []
  return b.heads.flatMap((h, next) => {
    const head = a.heads.findIndex(x => x.tied && midi(x.pitch) === midi(h.pitch))
    return head < 0 ? [] : [{ head, next }]
  })
}

/**
 * Whether a note goes on by ties from the one before: all of it, some of its pitches while others begin, or
 * nothing.
 */
export function heldOver(a: TuneEvent | undefined, b: TuneEvent): 'all' | 'some' | 'none' {
  const held = tiedOn(a, b).length
  return held === 0 || b.kind !== 'note' ? 'none' : held === b.heads.length ? 'all' : 'some'
}

/**
 * Events tied together: the ids of those that do nothing but go on, each with the event that began the tone.
 */
export function tieOrigins(placed: readonly Placed[]): Map<string, string> {
  const origins = new Map<string, string>()
  for (let i = 1; i < placed.length; i++) {
    const [a, b] = [placed[i - 1]!, placed[i]!]
    if (heldOver(a.event, b.event) === 'all') {
      origins.set(b.event.id, origins.get(a.event.id) ?? a.event.id)
    }
  }
  return origins
}

/**
 * What notation decides before anything is drawn: written values, the accidentals that must be shown, and
 * which notes share a beam.
 */
import { groupBy } from '#core/groupBy'
import { div, frac, isZero, mod, toNumber, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import { alterations, type Key } from '#core/music/key'
import { beatLength, inThrees, isUneven, onBeat, type Metre } from '#core/music/metre'
import { diatonic, type Pitch } from '#core/music/pitch'
import { placeEvents, placeMeasures, type Placed, type PlacedMeasure } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import { writtenLength } from '#core/music/edit/lengths'
import { valuesOf, type NoteValue } from './values'

/** An alteration to be printed: −2 … 2, 0 a natural. */
export type Accidental = -2 | -1 | 0 | 1 | 2

export interface NotatedEvent {
  readonly placed: Placed
  /** More than one for a length no single value has: they are tied. */
  readonly values: readonly NoteValue[]
  /** For each head, the lowest first, and each grace note: the accidental shown, or null. */
  readonly accidentals: readonly (Accidental | null)[]
  readonly graces: readonly (Accidental | null)[]
}

export interface NotatedMeasure {
  readonly placed: PlacedMeasure
  readonly events: readonly NotatedEvent[]
  /** Notes under one beam, at least two each. */
  readonly beams: readonly (readonly EventId[])[]
}

export interface Notated {
  readonly tune: Tune
  readonly measures: readonly NotatedMeasure[]
}

/** Linear in the events. */
export function notate(tune: Tune): Notated {
  const byMeasure = new Map<number, Placed[]>()
  for (const p of placeEvents(tune)) {
    const list = byMeasure.get(p.measure.index)
    if (list) list.push(p)
    else byMeasure.set(p.measure.index, [p])
  }
  const measures = placeMeasures(tune).map(placed => notateMeasure(placed, byMeasure.get(placed.index) ?? []))
  return { tune, measures }
}

function notateMeasure(placed: PlacedMeasure, notes: readonly Placed[]): NotatedMeasure {
  const shown = accidentalsIn(placed.key)
  const events = notes.map((p): NotatedEvent => {
    const note = p.event.kind === 'note' ? p.event : null
    // Grace notes come first in the bar, and so do their accidentals.
    const graces = (note?.grace ?? []).map(shown)
    const accidentals = (note?.heads ?? []).map(h => shown(h.pitch))
    return { placed: p, values: valuesOf(writtenLength(p.event)), accidentals, graces }
  })
  return { placed, events, beams: beamsOf(placed.felt, events) }
}

/**
 * A measure with the others of its events left out: what stands keeps its time, and has the accidentals it
 * needs without them.
 */
export function onlyEvents(
  { placed, events }: NotatedMeasure,
  kept: (e: NotatedEvent) => boolean,
): NotatedMeasure {
  return notateMeasure(
    placed,
    events.filter(kept).map(e => e.placed),
  )
}

/** Which accidental a pitch needs here: null when the key or the bar gives it already. */
function accidentalsIn(key: Key): (p: Pitch) => Accidental | null {
  const byKey = alterations(key)
  const inBar = new Map<number, number>()
  return p => {
    const given = inBar.get(diatonic(p)) ?? byKey[p.step]
    inBar.set(diatonic(p), p.alter)
    return given === p.alter ? null : (p.alter as Accidental)
  }
}

/** Whether a beam joins these notes and no others: a number at it needs no bracket. */
export const underOneBeam = ({ beams }: Pick<NotatedMeasure, 'beams'>, ids: readonly EventId[]): boolean =>
  beams.some(b => b.length === ids.length && b.every((id, k) => id === ids[k]))

/** What a beam shows: the beat, or the three eighths of a measure. */
const beamBeat = (m: Metre) => (inThrees(m) ? frac(12, m.unit) : beatLength(m))

/**
 * The stretch of time one beam of eighths may cover: a beat; pairs of beats of 4/4 and of 2/4, as players
 * read them.
 */
function beamSpan(m: Metre) {
  const beat = beamBeat(m)
  return m.unit === 4 && m.beats % 2 === 0 ? { n: 2 * beat.n, d: beat.d } : beat
}

/** Where other notes than eighths are under a beam it shows the beat; in half notes their quarters. */
const shortBeam = (m: Metre) => {
  const beat = beamBeat(m)
  return inThrees(m) || toNumber(beat) < 1 ? beat : frac(1)
}
const isEighth = ({ placed: { event } }: NotatedEvent) => toNumber(event.duration) === 0.5

function beamsOf(metre: Metre, events: readonly NotatedEvent[]): EventId[][] {
  const span = beamSpan(metre)
  const short = shortBeam(metre)
  const cutsAt = (at: Fraction) => (isUneven(metre) ? onBeat(metre, at) : isZero(mod(at, span)))
  const groups: EventId[][] = []
  let open: NotatedEvent[] = []
  const add = (list: readonly NotatedEvent[]) => {
    if (list.length > 1) groups.push(list.map(e => e.placed.event.id))
  }
  const close = () => {
    if (isUneven(metre) || open.every(isEighth)) add(open)
    else groupBy(open, e => String(Math.floor(toNumber(div(e.placed.inMeasure, short))))).forEach(b => add(b))
    open = []
  }
  for (const e of events) {
    const { placed, values } = e
    const beamed =
      placed.event.kind === 'note' && values.length === 1 && toNumber(writtenLength(placed.event)) < 1
    if (!beamed || cutsAt(placed.inMeasure)) close()
    if (beamed) open.push(e)
  }
  close()
  return groups
}

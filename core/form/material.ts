/**
 * The tune as the analysis hears it: tones on a grid of whole ticks, bars counted from their downbeats,
 * second endings set aside.
 */
import type { Fraction } from '#core/music/fraction'
import { midi, type Pitch, STEPS } from '#core/music/pitch'
import {
  leadsIn,
  placeEvents,
  placeMeasures,
  tieOrigins,
  type Placed,
  type PlacedMeasure,
} from '#core/music/timeline'
import type { Tune } from '#core/music/tune'

/** 1/10080 of a quarter: whole for every division by 2 to 10, 12, 14, 16, 32. */
export type Ticks = number
export const TICKS_PER_QUARTER = 10_080
export const ticks = (f: Fraction): Ticks => Math.round((f.n * TICKS_PER_QUARTER) / f.d)

/** One event of the line: a tone with what is tied to it, or a rest. */
export interface Tone {
  readonly id: string
  readonly placed: Placed
  /** From the start of the line. */
  readonly at: Ticks
  readonly length: Ticks
  /** Height of the top note; null for a rest. */
  readonly midi: number | null
  /** The same on the staff: letters counted up from C in octave 0. */
  readonly step: number
  readonly breath: boolean
  readonly dynamic: string | undefined
}

/** A measure that counts: led-in ones belong to the bar they lead into. */
export interface Bar {
  readonly measure: PlacedMeasure
  readonly at: Ticks
  readonly length: Ticks
}

export interface Material {
  readonly events: readonly Placed[]
  readonly measures: readonly PlacedMeasure[]
  /** Every event but those of second and later endings, in order; a tied tone is one. */
  readonly line: readonly Tone[]
  readonly byId: ReadonlyMap<string, Tone>
  /** By the index of the measure. */
  readonly bars: ReadonlyMap<number, Bar>
}

const stepOf = (p: Pitch) => STEPS.indexOf(p.step) + 7 * p.octave

/** An ending played on a later pass only. */
export const isLaterEnding = (m: PlacedMeasure) =>
  m.measure.endings !== undefined && !m.measure.endings.includes(1)

export function materialOf(tune: Tune): Material {
  const measures = placeMeasures(tune)
  const events = placeEvents(tune)
  const tied = tieOrigins(events)
  const line: Tone[] = []
  const starts = new Map<number, Ticks>()
  let at: Ticks = 0
  for (const p of events) {
    if (isLaterEnding(p.measure)) continue
    if (!starts.has(p.measure.index)) starts.set(p.measure.index, at)
    const length = ticks(p.event.duration)
    const last = line.at(-1)
    if (last && tied.has(p.event.id) && last.midi !== null)
      line[line.length - 1] = { ...last, length: last.length + length }
    else line.push(toneOf(p, at, length))
    at += length
  }
  const bars = new Map<number, Bar>()
  for (const measure of measures) {
    const from = starts.get(measure.index)
    const counts = from !== undefined && !leadsIn(measure, measures[measure.index - 1])
    if (counts) bars.set(measure.index, { measure, at: from, length: ticks(measure.length) })
  }
  return { events, measures, line, byId: new Map(line.map(t => [t.id, t])), bars }
}

function toneOf(placed: Placed, at: Ticks, length: Ticks): Tone {
  const { event } = placed
  if (event.kind === 'rest')
    return { id: event.id, placed, at, length, midi: null, step: 0, breath: true, dynamic: undefined }
  const top = event.heads.at(-1)!.pitch
  const breath = event.marks?.some(m => m === 'comma' || m === 'lift' || m === 'fermata') ?? false
  return {
    id: event.id,
    placed,
    at,
    length,
    midi: midi(top),
    step: stepOf(top),
    breath,
    dynamic: event.dynamic,
  }
}

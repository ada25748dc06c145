/**
 * What an arrangement asks, read off its derived results: the ground on which skills are tested. Every fact
 * has the note that asks.
 */
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Stroke } from '#core/bowing/stroke'
import type { HandState } from '#core/fingering/candidates'
import type { FingeredNote } from '#core/fingering/fingering'
import type { Shift } from '#core/fingering/derived'
import { sub, toNumber } from '#core/music/fraction'
import { eventOf, type EventId } from '#core/music/ids'
import { beatAt, beatStrength, inThrees, isUneven, secondsPerQuarter } from '#core/music/metre'
import { isNote, placeEvents, tieOrigins, type Placed } from '#core/music/timeline'
import type { InstrumentId, NoteEvent, Tune } from '#core/music/tune'

export interface NoteRef {
  readonly note: EventId
  readonly measure: number
}

/** A written note with its time. */
export interface RhythmFact extends NoteRef {
  readonly event: NoteEvent
  /** In quarters, ties summed up; seconds of the same. */
  readonly length: number
  readonly seconds: number
  readonly at: number
  readonly strength: number
  /** It begins between beats and sounds over the next one. */
  readonly pushed: boolean
  readonly placed: Placed<NoteEvent>
}

export interface HandFact extends NoteRef {
  readonly place: FingeredNote
  readonly state: HandState
  /** The notes that sound together with it. */
  readonly together: readonly FingeredNote[]
}

/** A change of string between two notes. */
export interface CrossingFact extends NoteRef {
  /** How many strings further. */
  readonly strings: number
  readonly slurred: boolean
}

export interface Facts {
  readonly d: Derived
  readonly recipe: Arrangement
  readonly instrument: InstrumentId
  readonly tune: Tune
  readonly hand: readonly HandFact[]
  readonly rhythm: readonly RhythmFact[]
  readonly strokes: readonly Stroke[]
  readonly crossings: readonly CrossingFact[]
  readonly shifts: readonly (Shift & NoteRef)[]
  readonly measureOf: (note: EventId) => number
}

export function factsOf(d: Derived, recipe: Arrangement): Facts {
  const placed = placeEvents(d.tune)
  const measures = new Map(placed.map(p => [p.event.id, p.measure.number]))
  const measureOf = (note: EventId) => measures.get(note) ?? 0
  return {
    d,
    recipe,
    instrument: recipe.played.instrument,
    tune: d.tune,
    hand: handFacts(d),
    rhythm: rhythmFacts(d, placed),
    strokes: d.bowing.written,
    crossings: crossingFacts(d, measureOf),
    shifts: d.shifts.map(s => ({ ...s, note: s.to })),
    measureOf,
  }
}

function handFacts({ fingering }: Derived): HandFact[] {
  const { states } = fingering.problem
  const own = fingering.notes.filter(n => n.tiedFrom === undefined)
  const groups: FingeredNote[][] = []
  for (const n of own) (groups[n.tone] ??= []).push(n)
  return own.map(place => ({
    note: eventOf(place.id),
    measure: place.measure,
    place,
    state: states[place.tone]![fingering.tables.path[place.tone]!]!,
    together: groups[place.tone]!,
  }))
}

function crossingFacts({ bowing }: Derived, measureOf: Facts['measureOf']): CrossingFact[] {
  const { stringOf } = bowing.problem.options
  const out: CrossingFact[] = []
  let last: number | null = null
  for (const s of bowing.written)
    s.tones.forEach((note, i) => {
      const string = stringOf(note)
      if (last !== null && string !== last)
        out.push({ note, measure: measureOf(note), strings: Math.abs(string - last), slurred: i > 0 })
      last = string
    })
  return out
}

function rhythmFacts(d: Derived, placed: readonly Placed[]): RhythmFact[] {
  const origins = tieOrigins(placed)
  const quarter = secondsPerQuarter(d.tempo)
  const out: RhythmFact[] = []
  for (const p of placed.filter(isNote)) {
    const own = toNumber(p.event.duration)
    const last = out.at(-1)
    if (origins.has(p.event.id) && last) {
      const length = last.length + own
      out[out.length - 1] = {
        ...last,
        length,
        seconds: length * quarter,
        pushed: isPushed(last.placed, length),
      }
      continue
    }
    out.push({
      note: p.event.id,
      measure: p.measure.number,
      event: p.event,
      length: own,
      seconds: own * quarter,
      at: toNumber(p.inMeasure),
      strength: beatStrength(p.measure.felt, p.inMeasure),
      pushed: isPushed(p, own),
      placed: p,
    })
  }
  return out
}

function isPushed(p: Placed, length: number): boolean {
  const { metre, felt } = p.measure
  if (isUneven(felt)) {
    const beat = beatAt(felt, p.inMeasure)
    const since = toNumber(sub(p.inMeasure, beat.start))
    return since > 1e-9 && since + length > toNumber(beat.length) + 1e-9
  }
  // Two half notes are heard as four quarters here: the signs are the same.
  const beat = inThrees(metre) ? 12 / metre.unit : 1
  const at = toNumber(p.inMeasure)
  const into = at % beat
  return into > 1e-9 && into + length > beat + 1e-9
}

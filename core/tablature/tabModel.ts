/**
 * The page of tablature as data: systems of measures of events, each with what stands on the tab lines, the bow mark, the phrase label and the
 * position where it changes. No pixels: the screen, the PDF and the text drawer all draw from this.
 */
import { groupBy } from '#core/groupBy'
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement, Schools } from '#core/arrangement/recipe'
import type { Direction } from '#core/bowing/bowing'
import type { HeadPlace } from '#core/fingering/candidates'
import type { FingeredNote } from '#core/fingering/fingering'
import { digitText } from '#core/instruments/digits'
import { lettersOf } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import type { Dynamic, InstrumentId, Mark, TuneEvent } from '#core/music/tune'
import type { Fraction } from '#core/music/fraction'

export interface TabDigit {
  /** Tab line, 0 the highest string on top. */
  readonly line: number
  /** "2", "‹2" low, "3›" high, "x4" extended, "3°" harmonic, "0", "T". */
  readonly text: string
}

export interface TabEvent {
  readonly id: string
  readonly rest: boolean
  readonly duration: Fraction
  readonly tuplet?: TuneEvent['tuplet']
  readonly digits: readonly TabDigit[]
  /** The other line, where it differs. */
  readonly ossia?: readonly TabDigit[]
  /** A tie's continuation shows no digit. */
  readonly tied: boolean
  readonly bow?: Direction
  readonly lift: boolean
  /** A comma after the note: breathe, lift. */
  readonly comma: boolean
  /** Taken in the same bow as the event before. */
  readonly joined: boolean
  readonly chord?: string
  readonly phrase?: string
  readonly position?: string
  readonly marks: readonly Mark[]
  readonly remarks: readonly string[]
  readonly dynamic?: Dynamic
  /** May be left out. */
  readonly optional: boolean
}

export interface TabMeasure {
  readonly index: number
  readonly number: number
  readonly repeatStart: boolean
  readonly repeatEnd: boolean
  readonly endings?: readonly number[]
  readonly barline?: 'double' | 'final'
  readonly label?: string
  readonly events: readonly TabEvent[]
}

export interface TabModel {
  readonly title: string
  readonly lineLabels: readonly string[]
  readonly systems: readonly (readonly TabMeasure[])[]
}

const ROMAN = ['I', 'II', 'III', 'IV', 'V']
export const lineLabels = (
  id: InstrumentId,
  school: Schools['strings'] = 'letters',
  tuning: Tuning | null = null,
) => (school === 'numbers' ? ROMAN.slice(0, lettersOf(id, tuning).length) : lettersOf(id, tuning))

/** Strings of a cross-tuning by the pitch they sound: "C#". */
const soundingLabels = (tuning: Tuning) => tuning.map(m => formatPitch(pitchOfMidi(m)).replace(/-?\d+$/, ''))

/** What a recipe calls its strings, the highest first. */
export const stringLabels = (r: Pick<Arrangement, 'instrument' | 'tuning' | 'schools'>) =>
  r.tuning && r.schools.crossNames === 'sounding' && r.schools.strings === 'letters'
    ? soundingLabels(r.tuning)
    : lineLabels(r.instrument, r.schools.strings, r.tuning)

export interface TabOptions {
  readonly instrument: InstrumentId
  /** Names of the strings where they are not the home letters. */
  readonly labels?: readonly string[]
  readonly strings?: Schools['strings']
  /** The other line, by event. */
  readonly ossia?: ReadonlyMap<string, readonly HeadPlace[]>
  readonly phraseNames?: Readonly<Record<string, string>>
  /** Notes a system holds before the next measure goes to a new line. */
  readonly widest?: number
}

export function tabModel(d: Derived, options: TabOptions): TabModel {
  const context = {
    ossia: options.ossia,
    notes: groupBy(d.fingering.notes, n => n.id.split('.')[0]!),
    strokes: new Map(d.bowing.written.map(s => [s.notes[0]!, s])),
    phrases: new Map(d.form.phrases.map(p => [p.events[0]!, options.phraseNames?.[p.events[0]!] || p.label])),
  }
  let position = 'first'
  const measures = placeMeasures(d.tune).map(({ measure, index, number }): TabMeasure => ({
    index,
    number,
    repeatStart: measure.repeatStart === true,
    repeatEnd: measure.repeatEnd === true,
    ...(measure.endings && { endings: measure.endings }),
    ...(measure.barline && { barline: measure.barline }),
    ...(measure.label && { label: measure.label }),
    events: measure.events.map(e => {
      const fingered = context.notes.get(e.id) ?? []
      const here = fingered.find(n => n.finger !== 0)?.position
      const moves = here !== undefined && here !== position
      position = here ?? position
      return tabEvent(e, fingered, d, context, moves ? here : undefined)
    }),
  }))
  return {
    title: d.tune.title,
    lineLabels: options.labels ?? lineLabels(options.instrument, options.strings),
    systems: breakSystems(measures, options.widest),
  }
}

interface Context {
  readonly ossia: TabOptions['ossia']
  readonly notes: ReadonlyMap<string, readonly FingeredNote[]>
  readonly strokes: ReadonlyMap<string, Derived['bowing']['written'][number]>
  readonly phrases: ReadonlyMap<string, string>
}

function tabEvent(
  e: TuneEvent,
  fingered: readonly FingeredNote[],
  d: Derived,
  context: Context,
  position?: string,
): TabEvent {
  const stroke = context.strokes.get(e.id)
  const tied = fingered.some(n => n.tiedFrom !== undefined)
  const phrase = context.phrases.get(e.id)
  const other = context.ossia?.get(e.id)
  return {
    id: e.id,
    rest: e.kind === 'rest',
    duration: e.duration,
    ...(e.tuplet && { tuplet: e.tuplet }),
    digits: tied
      ? []
      : fingered.map(n => ({ line: n.string, text: digitText(n.finger, n.mark, n.harmonic) })),
    ...(other && {
      ossia: other.map(p => ({ line: p.string, text: digitText(p.finger, p.mark, p.harmonic) })),
    }),
    tied,
    ...(stroke && { bow: stroke.direction }),
    lift: stroke?.lift ?? false,
    comma: e.kind === 'note' && (e.marks?.some(m => m === 'comma' || m === 'lift') ?? false),
    joined: d.joined.has(e.id),
    ...(e.chord && { chord: e.chord }),
    ...(phrase && { phrase }),
    ...(position && { position }),
    marks: e.kind === 'note' ? (e.marks ?? []) : [],
    remarks: e.remarks ?? [],
    ...(e.kind === 'note' && e.dynamic && { dynamic: e.dynamic }),
    optional: e.kind === 'note' && e.optional === true,
  }
}

/** Events a system comfortably holds, and measures: four is what a reader expects of a dance tune. */
const WIDEST = 34
const MOST_MEASURES = 4

/** A part starts a line of its own when the line before it holds at least this many measures. */
const FULL_ENOUGH = 3

/** Breaks lines by how much a measure holds and where parts begin; a pickup does not count as a measure. */
export function breakSystems(measures: readonly TabMeasure[], widest = WIDEST): TabMeasure[][] {
  const systems: TabMeasure[][] = []
  let [count, width] = [0, 0]
  measures.forEach((m, i) => {
    const weight = Math.max(2, m.events.length)
    const last = systems.at(-1)
    const newPart = (m.repeatStart || m.label !== undefined) && count >= FULL_ENOUGH
    if (!last || newPart || count >= MOST_MEASURES || (count > 0 && width + weight > widest)) {
      systems.push([m])
      ;[count, width] = [0, 0]
    } else last.push(m)
    const leadsIn = m.number === 0 || m.number === measures[i - 1]?.number
    count += leadsIn ? 0 : 1
    width += weight
  })
  return systems
}

/**
 * Tablature as data: measures of events, each with what stands on the tab lines, the bow mark, the phrase
 * label and the position where it changes. No pixels: the screen, the PDF and the text drawer all draw from
 * this.
 */
import { groupBy } from '#core/groupBy'
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import { standsOf, taughtAsPlayed } from '#core/arrangement/taughtPlayed'
import type { Direction } from '#core/bowing/line'
import type { HeadPlace } from '#core/fingering/candidates'
import type { FingeredNote } from '#core/fingering/fingering'
import { digitText } from '#core/instruments/digits'
import type { Fraction } from '#core/music/fraction'
import type { Key } from '#core/music/key'
import { placeMeasures } from '#core/music/timeline'
import type { Dynamic, Mark, Measure, Tune, TuneEvent } from '#core/music/tune'
import { fingerNeeds, type FingerNeed } from './fingerNeed'
import { handMarks, type HandMarks } from './handMarks'
import { positionText, shownMark, stringLabels, tabLine, type Named } from './names'
import { wayMarks, type WayMarks } from './way'
import { eventOf } from '#core/music/ids'
import { landmarkMark } from '#core/teach/landmark'
import { bowMarksOf, joinedAsBowed } from './bowMarks'

export interface TabDigit {
  /** Tab line from the top. */
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
  /** How much a reader needs its finger over the staff; absent where it follows by itself. */
  readonly need?: FingerNeed
  /** A tie's continuation shows no digit. */
  readonly tied: boolean
  /** What the hand does here beside its fingers. */
  readonly hand?: HandMarks
  readonly bow?: Direction
  /** The bow is set anew before it; or goes on the same way, stopped. */
  readonly lift: boolean
  readonly hook?: true
  /**
   * Marks Nokta added and nobody took yet: of the stroke's beginning, of the slur from the note before, of a
   * slur parted here.
   */
  readonly added?: 'slur' | 'hook' | 'lift' | 'part'
  /** A comma after the note: breathe, lift. */
  readonly comma: boolean
  /** Taken in the same bow as the event before. */
  readonly joined: boolean
  readonly chord?: string
  readonly phrase?: string
  /** Where the hand stands, where that changes: "third pos.". */
  readonly position?: string
  /** The hand stands elsewhere than in first position. */
  readonly away?: true
  /** The hand has moved here: towards the bridge or the nut, and what it goes by. */
  readonly shift?: { readonly to: 'bridge' | 'nut'; readonly landmark: string | null }
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
  readonly way?: WayMarks
  readonly events: readonly TabEvent[]
}

export interface TabModel {
  readonly lineLabels: readonly string[]
  readonly measures: readonly TabMeasure[]
}

/** What the page asks of a recipe. */
export type Titled = Named &
  Pick<Arrangement, 'shown'> & {
    readonly played: Pick<Arrangement['played'], 'pins'>
    readonly taught: Pick<Arrangement['taught'], 'names' | 'remarks'>
  }

export function tabModel(d: Derived, recipe: Titled): TabModel {
  const labels = stringLabels(recipe)
  const { names, remarks } = taughtAsPlayed(recipe.taught, standsOf(d.arranged))
  const context: Context = {
    recipe,
    strings: labels.length,
    ossia: d.ossia,
    notes: groupBy(d.fingering.notes, n => eventOf(n.id)),
    hands: handMarks(d, recipe),
    needs: fingerNeeds(d, recipe, new Set(Object.keys(recipe.played.pins.fingers))),
    strokes: new Map(d.bowing.written.map(s => [s.notes[0]!, s])),
    bowed: bowMarksOf(d, recipe.shown.bowMarks),
    added: new Map(d.bowing.written.flatMap(s => s.added.map(a => [a.note, a.way]))),
    joined: joinedAsBowed(d),
    remarks: new Map(
      d.form.phrases.flatMap(p => {
        const said = remarks[p.events[0]!]
        return said ? [[p.events[0]!, said]] : []
      }),
    ),
    phrases: new Map(d.form.phrases.map(p => [p.events[0]!, names[p.events[0]!] || p.label])),
  }
  const shifts = new Map(
    d.shifts.map(s => [
      s.to,
      { to: s.anchorTo > s.anchorFrom ? ('bridge' as const) : ('nut' as const), landmark: landmarkMark(s) },
    ]),
  )
  let position = 'first'
  const measures = placeMeasures(d.tune).map(({ measure, index, number, key }): TabMeasure => ({
    index,
    number,
    repeatStart: measure.repeatStart === true,
    repeatEnd: measure.repeatEnd === true,
    ...(measure.endings && { endings: measure.endings }),
    ...(measure.barline && { barline: measure.barline }),
    ...(measure.label && { label: measure.label }),
    ...wayOf(measure, d.tune),
    events: measure.events.map((e, i) => {
      const fingered = context.notes.get(e.id) ?? []
      const here = fingered.find(n => n.finger !== 0)
      const moves = here !== undefined && here.position !== position
      position = here?.position ?? position
      const name = moves ? positionText(here, recipe, key) : undefined
      const shift = shifts.get(e.id)
      const own = tabEvent(e, fingered, context, key, name)
      const said = [i === 0 ? remarks[measure.id] : undefined, context.remarks.get(e.id)].filter(
        x => x !== undefined,
      )
      return {
        ...own,
        remarks: [...said, ...own.remarks],
        ...(position !== 'first' && { away: true }),
        ...(shift && { shift }),
      }
    }),
  }))
  return {
    lineLabels: recipe.shown.tabLines === 'highest' ? labels : [...labels].reverse(),
    measures,
  }
}

function wayOf(m: Measure, tune: Tune): Pick<TabMeasure, 'way'> {
  const way = wayMarks(m, tune)
  return way ? { way } : {}
}

interface Context {
  readonly recipe: Titled
  readonly strings: number
  /** The other line, by event. */
  readonly ossia: ReadonlyMap<string, readonly HeadPlace[]>
  readonly notes: ReadonlyMap<string, readonly FingeredNote[]>
  readonly hands: ReadonlyMap<string, HandMarks>
  readonly needs: ReadonlyMap<string, FingerNeed>
  readonly strokes: ReadonlyMap<string, Derived['bowing']['written'][number]>
  /** Strokes whose direction is shown. */
  readonly bowed: ReadonlySet<string>
  readonly added: ReadonlyMap<string, 'slur' | 'hook' | 'lift' | 'part'>
  readonly joined: ReadonlySet<string>
  readonly phrases: ReadonlyMap<string, string>
  /** What is remarked on the phrase that begins there. */
  readonly remarks: ReadonlyMap<string, string>
}

function tabEvent(
  e: TuneEvent,
  fingered: readonly FingeredNote[],
  context: Context,
  key: Key,
  position?: string,
): TabEvent {
  const { recipe, strings } = context
  const stroke = context.strokes.get(e.id)
  const added = context.added.get(e.id)
  const tied = fingered.some(n => n.tiedFrom !== undefined)
  const phrase = context.phrases.get(e.id)
  const other = context.ossia.get(e.id)
  const hand = context.hands.get(e.id)
  const need = context.needs.get(e.id)
  const line = (string: number) => tabLine(string, strings, recipe.shown.tabLines)
  return {
    id: e.id,
    rest: e.kind === 'rest',
    duration: e.duration,
    ...(e.tuplet && { tuplet: e.tuplet }),
    digits: tied
      ? []
      : fingered.map(n => ({
          line: line(n.string),
          text: digitText(n.finger, shownMark(n, recipe, key), n.harmonic),
        })),
    ...(other && {
      ossia: other.map(p => ({ line: line(p.string), text: digitText(p.finger, p.mark, p.harmonic) })),
    }),
    tied,
    ...(need && { need }),
    ...(hand && { hand }),
    ...(stroke && context.bowed.has(e.id) && { bow: stroke.direction }),
    lift: stroke?.lift ?? false,
    ...(stroke?.hook && { hook: true as const }),
    ...(added && { added }),
    comma: e.kind === 'note' && (e.marks?.some(m => m === 'comma' || m === 'lift') ?? false),
    joined: context.joined.has(e.id),
    ...(e.chord && { chord: e.chord }),
    ...(phrase && { phrase }),
    ...(position && { position }),
    marks: e.kind === 'note' ? (e.marks ?? []) : [],
    remarks: e.remarks ?? [],
    ...(e.kind === 'note' && e.dynamic && { dynamic: e.dynamic }),
    optional: e.kind === 'note' && e.optional === true,
  }
}

/** Everything the Hand station says beside the fingers themselves, for a derived arrangement. */
import type { Derived } from '#core/arrangement/derive'
import type { PassageRule } from '#core/fingering/passageRule'
import { HOME_ANCHOR, type Finger, type MarkKind } from '#core/instruments/hands'
import { formatPitch, type Midi } from '#core/music/pitch'
import { wayKey, wholeAlternatives, type Stretch, type Way } from '#core/fingering/alternatives'
import { whySentence } from '#core/words/why'
import { fingeringProblem, solveFingering, type Fingering } from '#core/fingering/fingering'
import type { Manner } from '#core/fingering/places'
import { tallyOf, type Tally } from '#core/fingering/tally'
import type { Tone } from '#core/line/tones'
import type { HandModel } from '#core/instruments/handModel'
import { togetherOf } from '#core/form/together'
import { ceilingsOf, ceilingText, firstToGive, type Ceiling } from './ceilings'
import { cuesOf, type Cue } from './cues'
import { landmarkText } from './landmark'
import { ornamentsOf, type OrnamentHand } from './ornaments'
import { ringing, type Ringing } from './ringing'
import { handShapes, shapeChanges, type HandShape, type ShapeChange } from './shapes'
import { eventOf, onEvent, type NoteId } from '#core/music/ids'
import type { FingerPins } from '#core/fingering/fingerPin'

export interface SolutionNote {
  readonly id: string
  readonly measure: number
  readonly pitch: string
  readonly string: number
  readonly finger: Finger
  readonly mark: MarkKind
  readonly offset: number
  readonly anchor: number
}

export interface Solution {
  /** Stays the same as long as it does the same. */
  readonly id: string
  readonly way: Way
  readonly extra: number
  /** How the line stands with it. */
  readonly tally: Tally
  readonly differences: readonly { readonly name: string; readonly amount: number }[]
  /** The notes that change, as they would be. */
  readonly changed: readonly SolutionNote[]
  readonly waived: number
  /** The rule that would make it so, where one does; else it is pinned note by note. */
  readonly rule: PassageRule['rule'] | null
}

export interface PhraseHand {
  /** First event. */
  readonly id: string
  readonly label: string
  /** "playable up to quarter note = 112; above that …"; null when nothing in it limits the tempo. */
  readonly ceiling: string | null
  readonly perMinute: number | null
  /** The school of places it is fingered by. */
  readonly manner: Manner
  readonly shapes: readonly HandShape[]
}

export interface HandReport {
  /** How the line stands as it is. */
  readonly tally: Tally
  readonly solutions: readonly Solution[]
  readonly phrases: readonly PhraseHand[]
  /**
   * What another fingering would do for the chosen phrase beyond its ceiling; null when nothing better is
   * known.
   */
  readonly above: { readonly text: string; readonly changed: readonly SolutionNote[] } | null
  readonly landmarks: readonly {
    readonly from: string
    readonly to: string
    readonly measure: number
    readonly text: string
  }[]
  readonly changes: readonly ShapeChange[]
  readonly cues: readonly Cue[]
  readonly ornaments: readonly OrnamentHand[]
  /** By note id; only notes that ring or want another place than the tempered one. */
  readonly ringing: Readonly<Record<string, Ringing>>
  /** Notes fingered otherwise than in the phrase they repeat, with the reason. */
  readonly otherwise: readonly { readonly note: string; readonly measure: number; readonly why: string }[]
}

export interface HandReportOptions {
  readonly pins: FingerPins
  /** First event of the phrase that alternatives are wanted for; the whole tune when null. */
  readonly phrase: string | null
  readonly model: HandModel
  readonly drone: Midi | null
}

/** How many other solutions are shown. */
const SOLUTIONS = 8

/** Of a phrase the manner of its first tone that is played. */
function mannerOf({ problem }: Fingering, events: ReadonlySet<string>): Manner {
  const i = problem.tones.findIndex(t => events.has(t.id))
  return problem.around[i]?.manner ?? 'plain'
}

export function handReport(d: Derived, options: HandReportOptions): HandReport {
  const f = d.fingering
  const { model } = options
  const ceilings = ceilingsOf(f, model)
  const phrases = d.form.phrases.map(p => ({ id: p.events[0]!, label: p.label, events: new Set(p.events) }))
  const chosen = phrases.find(p => p.id === options.phrase) ?? null
  const events = chosen?.events ?? new Set(f.problem.tones.map(t => t.id))
  const weakest = sensible(firstToGive(ceilings, events), d.tempo.perMinute)
  return {
    tally: tallyOf(f.problem, f.tables.path, model),
    solutions: solutionsOf(f, chosen?.events ?? null, model),
    phrases: phrases.map(p => {
      const first = sensible(firstToGive(ceilings, p.events), d.tempo.perMinute)
      return {
        id: p.id,
        label: p.label,
        ceiling: first && ceilingText(first),
        perMinute: first?.tempo.perMinute ?? null,
        manner: mannerOf(f, p.events),
        shapes: handShapes(f, p.events),
      }
    }),
    above: weakest && beyond(d, weakest, options.pins, model),
    landmarks: d.shifts.map(s => ({ from: s.from, to: s.to, measure: s.measure, text: landmarkText(s) })),
    changes: shapeChanges(f),
    cues: cuesOf(f),
    ornaments: ornamentsOf(f, d.tune),
    ringing: ringingNotes(f, options.drone),
    otherwise: otherwise(d),
  }
}

/** A ceiling at more than so many times the tempo limits nobody. */
const FAR_OFF = 2.5
const sensible = (c: Ceiling | null, perMinute: number) =>
  c && c.tempo.perMinute <= FAR_OFF * perMinute ? c : null

function stretchOf(f: Fingering, events: ReadonlySet<string> | null): Stretch | undefined {
  if (!events) return undefined
  const own = f.problem.tones.flatMap((t, i) => (events.has(t.id) ? [i] : []))
  return own.length === 0 ? undefined : { from: own[0]!, to: own.at(-1)! }
}

/** The rule of the recipe that makes a way of playing come about, where there is one. */
function ruleOf(way: Way): PassageRule['rule'] | null {
  switch (way.id) {
    case 'noOpen':
    case 'noFourth':
      return { kind: way.id }
    case 'firstPosition':
      return { kind: 'position', anchor: HOME_ANCHOR }
    case 'still':
      return { kind: 'position', anchor: way.anchor }
    case 'string':
      return { kind: 'string', string: way.string }
    case 'openWherever':
      return null
  }
}

function solutionsOf(f: Fingering, events: ReadonlySet<string> | null, model: HandModel): Solution[] {
  return wholeAlternatives(f, SOLUTIONS, stretchOf(f, events)).map(a => {
    const changed = notesOf(f, a.changed, a.path)
    const differences = Object.entries(a.difference).map(([name, amount]) => ({ name, amount }))
    return {
      id: wayKey(a.way),
      way: a.way,
      extra: a.extra,
      tally: tallyOf(f.problem, a.path, model),
      differences,
      changed,
      waived: a.waived,
      rule: ruleOf(a.way),
    }
  })
}

function notesOf({ problem }: Fingering, tones: readonly number[], path: readonly number[]): SolutionNote[] {
  return tones.flatMap(i => {
    const tone = problem.tones[i]!
    const state = problem.states[i]![path[i]!]!
    return state.places.map(p => {
      const { id, pitch } = tone.heads[p.head]!
      return {
        id,
        measure: tone.measure,
        pitch: formatPitch(pitch),
        string: p.string,
        finger: p.finger,
        mark: p.mark,
        offset: p.offset,
        anchor: state.anchor,
      }
    })
  })
}

/** How far beyond the ceiling another fingering is looked for. */
const BEYOND = 1.12

/** "above that use …": what the solver takes at a tempo beyond the ceiling, where that holds to more. */
function beyond(d: Derived, weakest: Ceiling, pins: FingerPins, model: HandModel): HandReport['above'] {
  const f = d.fingering
  const tempo = { ...weakest.tempo, perMinute: Math.round(weakest.tempo.perMinute * BEYOND) }
  if (tempo.perMinute > 400) return null
  const problem = fingeringProblem(d.tune, { ...f.problem.options, tempo })
  const faster = solveFingering(problem, pins)
  const phrase = d.form.phrases.find(p => p.events.includes(weakest.to))
  const events = new Set(phrase?.events ?? [])
  const now = new Map(f.notes.map(n => [n.id, `${n.string}:${n.finger}`]))
  const tones = problem.tones.flatMap((t, i) =>
    events.has(t.id) && faster.notes.some(n => n.tone === i && now.get(n.id) !== `${n.string}:${n.finger}`)
      ? [i]
      : [],
  )
  const holds = firstToGive(ceilingsOf(faster, model), events)
  if (tones.length === 0 || (holds && holds.tempo.perMinute <= weakest.tempo.perMinute)) return null
  const changed = notesOf(faster, tones, faster.tables.path)
  return { text: holds ? ceilingText(holds) : 'nothing in it limits the tempo then', changed }
}

function ringingNotes(f: Fingering, drone: Midi | null): Record<string, Ringing> {
  const { tuning, length } = f.problem.options
  return Object.fromEntries(
    f.notes.flatMap(n => {
      const r = ringing(n, tuning, length, drone)
      return r.with.length > 0 || r.pure ? [[n.id, r] as const] : []
    }),
  )
}

function otherwise(d: Derived): HandReport['otherwise'] {
  const f = d.fingering
  const { repeats } = togetherOf(d.form)
  const byEvent = new Map(f.notes.filter(n => n.tiedFrom === undefined).map(n => [eventOf(n.id), n]))
  return [...(repeats ?? [])].flatMap(([id, earlier]) => {
    const [a, b] = [byEvent.get(id), byEvent.get(earlier)]
    if (!a || !b || (a.string === b.string && a.finger === b.finger)) return []
    return [{ note: a.id, measure: a.measure, why: whySentence(f, a.tone) }]
  })
}

/**
 * The notes that repeat a note, and the note itself: in the phrases that are kin to its own, and wherever its
 * bar comes again, on the same strings, moved or not. What "in all kin" means.
 */
export function alikeNotes(d: Derived, note: NoteId): NoteId[] {
  const { repeats } = togetherOf(d.form)
  const first = (id: string) => repeats?.get(id) ?? id
  const event = eventOf(note)
  const own = first(event)
  const known = new Set(d.fingering.notes.map(n => n.id))
  const bars = barsOf(d.fingering)
  const mine = bars.find(b => b.tones.some(t => t.id === event))
  const at = mine?.tones.findIndex(t => t.id === event) ?? -1
  const again = mine && mine.tones.length >= LEAST_FIGURE ? bars.filter(b => b.key === mine.key) : []
  const returns = new Set(again.map(b => b.tones[at]!.id))
  return d.fingering.problem.tones
    .filter(t => first(t.id) === own || returns.has(t.id))
    .map(t => onEvent(note, t.id))
    .filter(id => known.has(id))
}

/** Fewer notes are no figure: any two bars of two notes look alike. */
const LEAST_FIGURE = 4

/** The tones of every measure, and what it is as a figure for the hand: rhythm, intervals, strings. */
function barsOf({ problem, tables }: Fingering): { tones: readonly Tone[]; key: string }[] {
  const bars: { tones: Tone[]; key: string }[] = []
  let last = -1
  problem.tones.forEach((t, i) => {
    if (t.measure !== last) bars.push({ tones: [], key: '' })
    last = t.measure
    const bar = bars.at(-1)!
    bar.tones.push(t)
    const up = t.heads.map(h => h.sounding - bar.tones[0]!.heads[0]!.sounding)
    const strings = problem.states[i]![tables.path[i]!]!.places.map(p => p.string)
    bar.key += `${t.duration.n}/${t.duration.d}:${up.join()}:${strings.join()} `
  })
  return bars
}

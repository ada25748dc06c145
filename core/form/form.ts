/**
 * Parts and phrases, their kin and their roles. What the page marks comes first, then what the ear finds; the
 * teacher's own boundaries and kin win over both.
 */
import { add, sub, toNumber, type Fraction } from '#core/music/fraction'
import { defaultTempo, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { leadsIn, type Placed, type PlacedMeasure } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import { divide, firstAt, leadIn, twoBars, type Opening, type Section } from './boundaries'
import { isLoose, relate, type Kin, type Related } from './kinship'
import { overlap, stretch, type Stretch } from './likeness'
import { isLaterEnding, materialOf, ticks, TICKS_PER_QUARTER, type Material, type Tone } from './material'
import { rolesOf, type Role } from './roles'
import { ownEvents } from './sections'
import { groupParts, likeGroups } from './unmarked'

export type { Kin, Relation } from './kinship'

/** Event id → a phrase begins here (true), or does not (false): the teacher's word against the analysis. */
export type Boundaries = Readonly<Record<string, boolean>>
/** First event of a phrase → first event of the earlier phrase it is kin to; null: kin to none. */
export type KinPins = Readonly<Record<string, string | null>>

export interface FormOptions {
  readonly boundaries?: Boundaries
  readonly kin?: KinPins
  readonly tempo?: Tempo
}

export interface Ending {
  readonly numbers: readonly number[]
  readonly events: readonly string[]
}

export interface Phrase {
  /** "A1": part letter and number among the phrases of that letter. */
  readonly label: string
  /** Kin share a family: 0, 1, 2 … in order of appearance. */
  readonly family: number
  /** Marks how often the family was met with a change: 0 the first time or when the same. */
  readonly variant: number
  /** Ids of the events of the phrase, rests and all endings included. */
  readonly events: readonly string[]
  readonly notes: readonly Placed[]
  readonly start: Fraction
  readonly end: Fraction
  readonly from: { readonly measure: number; readonly start: Fraction }
  readonly to: { readonly measure: number; readonly start: Fraction }
  /** Length in measures, rounded to halves; later endings are not counted. */
  readonly bars: number
  /** The nearest first. */
  readonly kin: readonly Kin[]
  readonly role: Role
  /** First and second ending, when the phrase has both. */
  readonly endings: readonly Ending[]
  readonly stretch: Stretch
}

export interface Part {
  /** "A"; a part that comes back changed has a stroke: "A′". */
  readonly label: string
  readonly measures: readonly [first: number, last: number]
  /** Indices of its first and last measure. */
  readonly indices: readonly [first: number, last: number]
  readonly repeated: boolean
  /** It was there before, all but note for note. */
  readonly again: boolean
  readonly phrases: readonly Phrase[]
}

export interface Form {
  readonly parts: readonly Part[]
  readonly phrases: readonly Phrase[]
}

/** A phrase before it has a name. */
interface Cut {
  readonly events: readonly Placed[]
  readonly stretch: Stretch
}

interface Group {
  readonly given?: string | undefined
  readonly cuts: readonly Cut[]
}

/**
 * Linear in the events but for the comparing of phrases, which are few. Never fails: a tune without events
 * has no part.
 */
export function analyseForm(tune: Tune, options: FormOptions = {}): Form {
  const material = materialOf(tune)
  const tempo = options.tempo ?? tune.tempo ?? defaultTempo(tune.metre)
  const secondsPerTick = secondsPerQuarter(tempo) / TICKS_PER_QUARTER
  const groups: Group[] = []
  const known: Opening[] = []
  const sections = ownEvents(material)
  for (const { events, measures, marked } of sections) {
    const cuts = cutSection(material, events, measures, known, secondsPerTick, options.boundaries ?? {})
    let at = 0
    for (const size of marked ? [cuts.length] : groupParts(cuts.map(c => c.stretch))) {
      groups.push({
        given: at === 0 ? measures[0]!.measure.label : undefined,
        cuts: cuts.slice(at, at + size),
      })
      at += size
    }
  }
  return named(groups, options.kin ?? {})
}

/** A line that begins again is listened for among so many openings. */
const OPENINGS = 48

/** A tune of so many bars and more has two halves. */
const HALVED = 12

function cutSection(
  material: Material,
  events: readonly Placed[],
  measures: readonly PlacedMeasure[],
  known: Opening[],
  secondsPerTick: number,
  boundaries: Boundaries,
): Cut[] {
  const tones = events.flatMap(e => material.byId.get(e.event.id) ?? [])
  const bars = measures.flatMap(m => material.bars.get(m.index) ?? []).filter(b => !isLaterEnding(b.measure))
  const lastTone = tones.at(-1)
  const end = lastTone ? lastTone.at + lastTone.length : 0
  const mean = tones.reduce((sum, t) => sum + t.length, 0) / Math.max(1, tones.length)
  const section: Section = { bars, tones, end, secondsPerTick, mean }
  const downbeat = bars[0]?.at ?? tones[0]?.at ?? 0
  const own = tones.length > 0 ? downbeat - tones[0]!.at : 0
  // A part whose pickup stands in the ending before it leads in as the tune does.
  const opening = material.measures[0]!
  const usual = own > 0 || !leadsIn(opening, undefined) ? own : ticks(opening.length)
  const openings: Opening[] = []
  const starts = new Map<string, number>()
  const open = (bar: number, tone: number) =>
    openings.push({ bars: twoBars(section, bar), pickup: tones.slice(tone, firstAt(tones, bars[bar]!.at)) })
  if (bars.length > 0 && tones.length > 0) {
    open(0, 0)
    for (const b of divide(section, known.slice(-OPENINGS))) {
      const before = [...known.slice(-OPENINGS), ...openings]
      const atHalf = bars.length >= HALVED && 2 * b === bars.length
      const first = leadIn(section, bars[b]!.at, usual, before, twoBars(section, b), atHalf)
      if (!tones[first]) continue
      starts.set(tones[first].id, bars[b]!.at)
      open(b, first)
    }
  }
  known.push(...openings)
  return split(events, tones, starts, boundaries, { downbeat, end, bars: bars.map(b => b.at) })
}

function split(
  events: readonly Placed[],
  tones: readonly Tone[],
  starts: ReadonlyMap<string, number>,
  boundaries: Boundaries,
  place: { downbeat: number; end: number; bars: readonly number[] },
): Cut[] {
  const byId = new Map(tones.map((t, i) => [t.id, i]))
  const pieces: Placed[][] = []
  events.forEach((p, i) => {
    const begins = boundaries[p.event.id] ?? starts.has(p.event.id)
    if (i === 0 || begins) pieces.push([p])
    else pieces.at(-1)!.push(p)
  })
  const firstTone = (piece: readonly Placed[]) =>
    piece.map(p => byId.get(p.event.id)).find(i => i !== undefined)
  const firsts = pieces.map(firstTone)
  return pieces.map((piece, i) => {
    const from = firsts[i] ?? tones.length
    const next = firsts.find((x, k) => k > i && x !== undefined) ?? tones.length
    const own = tones.slice(from, next)
    const begin = own[0]?.at ?? place.end
    const end = own.length > 0 ? own.at(-1)!.at + own.at(-1)!.length : begin
    // A phrase found or moved by hand is counted from its own first downbeat.
    const counted =
      starts.get(piece[0]!.event.id) ?? (i === 0 ? place.downbeat : downbeatNear(begin, end, place.bars))
    return { events: piece, stretch: stretch(own, counted, end) }
  })
}

/** The first bar line at or after a place, unless most of a bar lies before it. */
function downbeatNear(begin: number, end: number, bars: readonly number[]): number {
  const next = bars.find(b => b >= begin)
  const before = bars.findLast(b => b <= begin) ?? begin
  if (next === undefined || next >= end) return before
  return next - begin <= (next - before) / 2 ? next : before
}

function named(groups: readonly Group[], pins: KinPins): Form {
  const parts: Part[] = []
  const phrases: Phrase[] = []
  const counts = new Map<string, number>()
  const letters: { letter: string; cuts: readonly Cut[] }[] = []
  for (const group of groups) {
    if (group.cuts.length === 0) continue
    const { letter, label, again, like } = letterOf(group, letters)
    // What is the same as an earlier one is compared with through that one.
    if (like < 1) letters.push({ letter, cuts: group.cuts })
    const own = group.cuts.map(cut => {
      const number = (counts.get(letter) ?? 0) + 1
      counts.set(letter, number)
      const phrase = described(`${letter}${number}`, cut, phrases, pins)
      phrases.push(phrase)
      return phrase
    })
    const roles = rolesOf(own.map(p => ({ ...p, key: p.notes[0]!.measure.key })))
    const withRoles = own.map((p, i) => ({ ...p, role: roles[i]! }))
    phrases.splice(phrases.length - own.length, own.length, ...withRoles)
    const measures = group.cuts.flatMap(c => c.events.map(e => e.measure))
    const [first, last] = [bodyOf(group.cuts[0]!), measures.at(-1)!]
    parts.push({
      label: group.given ?? label,
      measures: [first.number, last.number],
      indices: [first.index, last.index],
      repeated: measures.some(m => m.measure.repeatEnd === true),
      again,
      phrases: withRoles,
    })
  }
  return { parts, phrases }
}

/** The measure a part begins in; a pickup taken over from the measure before does not count. */
function bodyOf(cut: Cut): PlacedMeasure {
  const first = cut.events[0]!.measure
  const full = ticks(first.length) === ticks(first.full)
  const borrowed = full && cut.events[0]!.inMeasure.n > 0
  return borrowed ? (cut.events.find(e => e.measure !== first)?.measure ?? first) : first
}

const LETTERS = 26
const partLetter = (i: number) =>
  String.fromCharCode(65 + (i % LETTERS)) + (i >= LETTERS ? String(Math.floor(i / LETTERS)) : '')

/** From here on a part is an earlier one again, or that one changed (when it also opens alike). */
const SAME_PART = 0.93
const CHANGED_PART = 0.6

function letterOf(group: Group, before: readonly { letter: string; cuts: readonly Cut[] }[]) {
  const own = group.cuts.map(c => c.stretch)
  let best = { like: 0, letter: '' }
  for (const { letter, cuts } of before.slice(-COMPARED)) {
    const opens = overlap(own[0]!, cuts[0]!.stretch) >= 0.6
    const like = opens
      ? likeGroups(
          own,
          cuts.map(c => c.stretch),
        )
      : 0
    if (like > best.like) best = { like, letter }
  }
  if (best.like >= SAME_PART) return { letter: best.letter, label: best.letter, again: true, like: best.like }
  if (best.like >= CHANGED_PART)
    return { letter: best.letter, label: `${best.letter}′`, again: false, like: best.like }
  const letter = partLetter(new Set(before.map(b => b.letter)).size)
  return { letter, label: letter, again: false, like: best.like }
}

function described(label: string, { events, stretch }: Cut, known: readonly Phrase[], pins: KinPins): Phrase {
  const [first, last] = [events[0]!, events.at(-1)!]
  const full = toNumber(first.measure.full)
  const quarters = stretch.tones.reduce((sum, t) => sum + t.length, 0) / TICKS_PER_QUARTER
  const found = kinOf(label, first.event.id, stretch, known, pins)
  const close = found.find(k => !isLoose(k.kin.relation))
  const family = close ? close.of.family : known.reduce((most, k) => Math.max(most, k.family + 1), 0)
  const variants = known.filter(k => k.family === family).map(k => k.variant)
  return {
    label,
    family,
    variant: !close ? 0 : close.kin.relation === 'same' ? close.of.variant : Math.max(0, ...variants) + 1,
    events: events.map(e => e.event.id),
    notes: events,
    start: first.start,
    end: add(last.start, last.event.duration),
    from: { measure: first.measure.number, start: first.inMeasure },
    to: { measure: last.measure.number, start: last.inMeasure },
    bars: Math.round((quarters / full) * 2) / 2,
    kin: found.map(f => f.kin),
    role: 'statement',
    endings: endingsOf(events),
    stretch,
  }
}

/** What being in the same part is worth. */
const NEAR = 0.08
/** So many kin are told of a phrase. */
const MOST_KIN = 3

/**
 * A phrase is compared with so many different ones before it, the latest: more than any tune one would teach
 * has.
 */
const COMPARED = 160

function kinOf(label: string, id: string, own: Stretch, known: readonly Phrase[], pins: KinPins) {
  const pin = pins[id]
  if (pin === null) return []
  // What is the same as an earlier one is compared with through that one.
  const different = known.filter(k => k.kin[0]?.relation !== 'same' || k.events[0] === pin).slice(-COMPARED)
  const all = different.flatMap((of, order) => {
    const declared = pin !== undefined && of.events[0] === pin
    const related = relate(own, of.stretch) ?? (declared ? declaredKin(own) : null)
    if (!related) return []
    const { worth } = related
    // Between two of nearly the same likeness the one of the same part is what the pupil has in the ear.
    const near = label[0] === of.label[0] && worth < 1 ? NEAR : 0
    return [{ of, order, worth: declared ? 2 : worth + near, related, declared }]
  })
  all.sort((a, b) => b.worth - a.worth || a.order - b.order)
  return all.slice(0, MOST_KIN).map(({ of, declared, related: { worth: _, ...kin } }) => {
    const relation = declared && isLoose(kin.relation) ? ('declared' as const) : kin.relation
    return { of, kin: { phrase: of.label, ...kin, relation } }
  })
}

const declaredKin = (own: Stretch): Related => ({
  relation: 'declared',
  differences: own.tones.filter(t => t.midi !== null).map(t => t.id),
  worth: 2,
})

function endingsOf(events: readonly Placed[]): Ending[] {
  const out = new Map<string, Ending>()
  for (const { event, measure } of events) {
    const numbers = measure.measure.endings
    if (!numbers) continue
    const key = numbers.join()
    out.set(key, { numbers, events: [...(out.get(key)?.events ?? []), event.id] })
  }
  return out.size > 1 ? [...out.values()] : []
}

/** Length of a phrase in quarters as it is written. */
export const writtenLength = (p: Phrase): number => toNumber(sub(p.end, p.start))

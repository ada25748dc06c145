/**
 * Parts and phrases. Parts from repeats, double bars and labels; phrases from the bar count of a part, moved by the teacher's own boundaries;
 * letters by kinship: bars are compared note for note.
 */
import { compare, formatFraction, type Fraction } from '#core/music/fraction'
import { formatPitch, midi } from '#core/music/pitch'
import {
  isNote,
  leadsIn,
  placeEvents,
  placeMeasures,
  type Placed,
  type PlacedMeasure,
} from '#core/music/timeline'
import type { Tune } from '#core/music/tune'

/** Event id → a phrase begins here (true), or does not (false): the teacher's word against the analysis. */
export type Boundaries = Readonly<Record<string, boolean>>

export type Relation = 'same' | 'ending differs' | 'start differs' | 'same rhythm' | 'transposed'

export interface Kin {
  /** Label of the earlier phrase. */
  readonly phrase: string
  readonly relation: Relation
  /** Ids of the notes of this phrase that differ. */
  readonly differences: readonly string[]
}

export interface Phrase {
  /** "A1": part letter and number in the part. */
  readonly label: string
  /** Kin share a family: 0, 1, 2 … in order of appearance. */
  readonly family: number
  /** Marks how often the family was met with a change: 0 the first time or when the same. */
  readonly variant: number
  /** Ids of the events of the phrase, rests included. */
  readonly events: readonly string[]
  readonly notes: readonly Placed[]
  readonly start: Fraction
  readonly end: Fraction
  readonly from: { readonly measure: number; readonly start: Fraction }
  readonly to: { readonly measure: number; readonly start: Fraction }
  /** Length in measures, rounded to halves. */
  readonly bars: number
  readonly kin?: Kin
}

export interface Part {
  readonly label: string
  readonly measures: readonly [first: number, last: number]
  /** Indices of its first and last measure. */
  readonly indices: readonly [first: number, last: number]
  readonly repeated: boolean
  readonly phrases: readonly Phrase[]
}

export interface Form {
  readonly parts: readonly Part[]
  readonly phrases: readonly Phrase[]
}

export function analyseForm(tune: Tune, boundaries: Boundaries = {}): Form {
  const measures = placeMeasures(tune)
  const events = placeEvents(tune)
  const parts: Part[] = []
  const known: Phrase[] = []
  splitParts(measures).forEach((group, i) => {
    const letter = partLetter(i)
    const given = group[0]!.measure.label
    const [low, high] = [group[0]!.index, group.at(-1)!.index]
    const own = events.filter(p => p.measure.index >= low && p.measure.index <= high)
    if (own.length === 0) return
    const phrases = splitPhrases(own, group, measures, boundaries).map((notes, k) => {
      const phrase = describe(`${letter}${k + 1}`, notes, known)
      known.push(phrase)
      return phrase
    })
    parts.push({
      label: given ?? letter,
      measures: [group[0]!.number, group.at(-1)!.number],
      indices: [low, high],
      repeated: group.some(m => m.measure.repeatEnd === true),
      phrases,
    })
  })
  return { parts, phrases: known }
}

const partLetter = (i: number) =>
  String.fromCharCode(65 + (i % 26)) + (i >= 26 ? String(Math.floor(i / 26)) : '')

/** A new part begins after a closed repeat (its endings included), at an opened one, after a double bar, at a label. */
function splitParts(measures: readonly PlacedMeasure[]): PlacedMeasure[][] {
  const groups: PlacedMeasure[][] = []
  measures.forEach((m, i) => {
    const before = measures[i - 1]?.measure
    const afterEnd = before?.repeatEnd === true && !m.measure.endings
    const leavesEndings = before?.endings !== undefined && !m.measure.endings
    const starts =
      !before ||
      m.measure.repeatStart ||
      afterEnd ||
      leavesEndings ||
      before.barline !== undefined ||
      !!m.measure.label
    const previous = groups.at(-1)
    // A bare pickup before the repeat sign belongs to the part it leads into.
    const onlyPickup =
      previous?.length === 1 &&
      compare(previous[0]!.length, previous[0]!.full) < 0 &&
      !previous[0]!.measure.repeatEnd
    if (starts && !(onlyPickup && previous)) groups.push([m])
    else previous!.push(m)
  })
  return groups
}

/** Measures to a phrase: four in parts of eight and more that divide so, two in short ones, else what divides best. */
export function barsPerPhrase(count: number): number {
  if (count >= 8 && count % 4 === 0) return 4
  if (count <= 4) return count % 2 === 0 && count > 2 ? 2 : count
  for (const n of [4, 3, 5]) if (count % n === 0) return n
  return 4
}

function splitPhrases(
  events: readonly Placed[],
  group: readonly PlacedMeasure[],
  all: readonly PlacedMeasure[],
  boundaries: Boundaries,
): Placed[][] {
  const full = group.filter(
    m => !leadsIn(m, all[m.index - 1]) && !(m.measure.endings && !m.measure.endings.includes(1)),
  )
  const per = barsPerPhrase(full.length)
  const starts = new Set<number>()
  full.forEach((m, i) => {
    const rest = full.length - i
    if (i > 0 && i % per === 0 && rest >= Math.min(2, per)) starts.add(m.index)
  })
  const byBars = phraseStarts(events, starts, pickupLength(events, group, all))
  const out: Placed[][] = []
  events.forEach((p, i) => {
    const startsNew = boundaries[p.event.id] ?? byBars.has(p.event.id)
    if (i === 0 || startsNew) out.push([p])
    else out.at(-1)!.push(p)
  })
  return out
}

/** Length of the pickup a part begins with, in quarters as a number; its later phrases lead in the same way when the notes allow. */
function pickupLength(
  events: readonly Placed[],
  group: readonly PlacedMeasure[],
  all: readonly PlacedMeasure[],
): number {
  const first = group[0]!
  if (!events.length || !leadsIn(first, all[first.index - 1])) return 0
  return first.length.n / first.length.d
}

/**
 * The events phrases begin with: the first of each measure in `starts`, or, where the part begins with a pickup and a note of that length leads
 * into the measure after a longer one, that note.
 */
function phraseStarts(events: readonly Placed[], starts: ReadonlySet<number>, pickup: number): Set<string> {
  const at = (x: Placed) => x.start.n / x.start.d
  const out = new Set<string>()
  events.forEach((p, i) => {
    const before = events[i - 1]
    if (!before || !starts.has(p.measure.index) || before.measure.index === p.measure.index) return
    let k = i
    while (k > 0 && at(events[k]!) > at(p) - pickup) k--
    const leads =
      pickup > 0 && k > 0 && at(events[k]!) === at(p) - pickup && longer(events[k - 1]!, events[k]!)
    out.add((leads ? events[k]! : p).event.id)
  })
  return out
}

const longer = (a: Placed, b: Placed) =>
  a.event.kind === 'rest' || compare(a.event.duration, b.event.duration) > 0

function describe(label: string, events: readonly Placed[], known: readonly Phrase[]): Phrase {
  const [first, last] = [events[0]!, events.at(-1)!]
  const end = {
    n: last.start.n * last.event.duration.d + last.event.duration.n * last.start.d,
    d: last.start.d * last.event.duration.d,
  }
  const quarters = end.n / end.d - first.start.n / first.start.d
  const full = last.measure.full.n / last.measure.full.d
  const kin = findKin(events, known)
  const family = kin ? kin.of.family : new Set(known.map(k => k.family)).size
  const changed = kin && kin.kin.relation !== 'same'
  const variant = !kin
    ? 0
    : changed
      ? Math.max(0, ...known.filter(k => k.family === family).map(k => k.variant)) + 1
      : kin.of.variant
  return {
    label,
    family,
    variant,
    events: events.map(e => e.event.id),
    notes: events,
    start: first.start,
    end,
    from: { measure: first.measure.number, start: first.inMeasure },
    to: { measure: last.measure.number, start: last.inMeasure },
    bars: Math.round((quarters / full) * 2) / 2,
    ...(kin && { kin: kin.kin }),
  }
}

const token = (p: Placed) =>
  formatFraction(p.event.duration) +
  (isNote(p) ? p.event.heads.map(h => formatPitch(h.pitch)).join('+') : 'z')
const rhythm = (p: Placed) => formatFraction(p.event.duration) + p.event.kind[0]

/** Share of a phrase that may differ for it still to be kin by its start or its ending. */
const MOST_DIFFERENT = 0.5

function findKin(events: readonly Placed[], known: readonly Phrase[]): { of: Phrase; kin: Kin } | null {
  const mine = events.map(token)
  let best: { of: Phrase; kin: Kin } | null = null
  for (const of of known) {
    const kin = relate(events, mine, of)
    if (kin && (!best || kin.differences.length < best.kin.differences.length)) best = { of, kin }
  }
  return best
}

function relate(events: readonly Placed[], mine: readonly string[], of: Phrase): Kin | null {
  const theirs = of.notes.map(token)
  const kin = (relation: Relation, differences: readonly string[]): Kin => ({
    phrase: of.label,
    relation,
    differences,
  })
  const short = Math.min(mine.length, theirs.length)
  let [head, tail] = [0, 0]
  while (head < short && mine[head] === theirs[head]) head++
  if (head === mine.length && head === theirs.length) return kin('same', [])
  while (tail < short - head && mine.at(-1 - tail) === theirs.at(-1 - tail)) tail++
  const ids = (from: number, to: number) => events.slice(from, to).map(e => e.event.id)
  const enough = (n: number) => n >= 3 && n >= Math.max(mine.length, theirs.length) * (1 - MOST_DIFFERENT)
  const interval = transposition(events, of)
  if (interval) return kin('transposed', ids(0, events.length))
  if (enough(head) && head >= tail) return kin('ending differs', ids(head, mine.length - tail))
  if (enough(tail)) return kin('start differs', ids(head, mine.length - tail))
  return null
}

/** Same rhythm and every pitch moved by the same number of semitones. */
function transposition(events: readonly Placed[], of: Phrase): number {
  const [a, b] = [events, of.notes]
  if (a.length !== b.length || a.length < 4 || !a.every((p, i) => rhythm(p) === rhythm(b[i]!))) return 0
  const moves = a.flatMap((p, i) => {
    const q = b[i]!
    return isNote(p) && isNote(q)
      ? [midi(p.event.heads.at(-1)!.pitch) - midi(q.event.heads.at(-1)!.pitch)]
      : []
  })
  return moves.every(m => m === moves[0]) ? (moves[0] ?? 0) : 0
}

/** Phrases in the order that teaches least new notes at a time: as written, phrases that are the same left out. */
export const learningOrder = (form: Form): string[] =>
  form.phrases.filter(p => p.kin?.relation !== 'same').map(p => p.label)

/** Notes of a phrase that are new when all phrases before it are known. */
export function newMaterial(form: Form): { phrase: string; newNotes: number; notes: number }[] {
  return form.phrases.map(p => {
    const notes = p.notes.filter(isNote).length
    const differing = p.kin?.relation === 'transposed' ? notes : p.kin?.differences.length
    return { phrase: p.label, newNotes: differing ?? notes, notes }
  })
}

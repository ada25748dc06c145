/**
 * A version that was found, as changes of a recipe: for each group, or groups a note is held over, the notes
 * that take their place.
 */
import { isReplacing, type Change } from '#core/arrangement/change'
import { add, equal, sub, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import { transposePitch, type Interval } from '#core/music/pitch'
import { octaveShift } from '#core/music/transpose'
import type { EventBody, Mark, NoteEvent } from '#core/music/tune'
import { withWords } from './carried'
import { becauseOf, type Has } from './because'
import type { EasedKind, MadeChange } from './change'
import type { Filling, Slot } from './fillings'
import type { Source, SourceNote, Span } from './source'
import type { Upbeats } from './upbeats'

export interface Plainness {
  /** Notes without ornaments; of two together the upper one. */
  readonly plain: ReadonlySet<EventId>
  readonly single: ReadonlySet<EventId>
}

export interface WrittenVersion {
  readonly changes: readonly Change[]
  readonly told: readonly (MadeChange & { readonly kind: EasedKind })[]
  /** The slot each made event stands in, by its id. */
  readonly slots: ReadonlyMap<EventId, Slot>
  /** By id of an event a change made: the written one it stands for. */
  readonly sources: ReadonlyMap<EventId, EventId>
}

const ORNAMENTS: readonly Mark[] = [
  'trill',
  'turn',
  'mordent',
  'upperMordent',
  'roll',
  'cut',
  'slide',
  'accent',
  'staccato',
  'tenuto',
  'comma',
  'lift',
  'harmonic',
]

/**
 * @param toWritten from a played pitch back to a written one
 * @param has what of a group the level has: where it has its rhythm and notes, what was thinned was so for
 * its load
 */
export function writtenVersion(
  source: Source,
  fillings: readonly Filling[],
  toWritten: Interval,
  plainness: Plainness,
  has: Has,
  refused: ReadonlySet<string>,
  upbeats: Upbeats,
): WrittenVersion {
  const changes: Change[] = []
  const told: (MadeChange & { readonly kind: EasedKind })[] = []
  const slots = new Map<EventId, Slot>()
  const sources = new Map<EventId, EventId>()
  let unsung: SourceNote[] = []
  for (const [from, to] of unitsOf(fillings)) {
    const spans = source.spans.slice(from, to)
    const begun = spans.flatMap(s => s.notes.filter(n => n.at >= s.start - EPS))
    if (upbeats.measures.some(m => m.measure === spans[0]!.group.measure.measure.id)) {
      unsung.push(...begun)
      continue
    }
    const fills = fillOf(source, spans, to, upbeats)
    const own = lastFor(joinedHeld(fillings.slice(from, to), spans), fills)
    const events = spans.flatMap(s => s.group.events)
    const bodies = own.map((s, i) => bodyOf(s, own[i + 1], toWritten, plainness))
    // They wait for the first note: a group of rests takes none.
    const sounds = own.some(s => s.pitch)
    const before = sounds ? unsung.flatMap(n => (n.event.syllables ? [n.event.syllables] : [])) : []
    const by = withWords(bodies, own, begun, before)
    if (sounds) unsung = []
    const sung = before.length > 0 && sameNotes(bodies, events)
    const kind = sung
      ? 'words'
      : fills
        ? 'fill'
        : kindOf(spans, fillings.slice(from, to), own, plainness, has)
    const id = `${kind}-${events[0]!.id}`.slice(0, 24)
    const same = sameNotes(by, events)
    if (same || refused.has(id)) {
      own.forEach((s, i) => same && slots.set(events[i]!.id, s))
      continue
    }
    changes.push({
      id,
      kind,
      accepted: true,
      ...(EXPLAINED.has(kind) && { because: becauseOf(spans, own, has) }),
      edit: { do: 'replace', events: events.map(e => e.id), by, ...(fills && { fills: true }) },
    })
    told.push({ id, kind, measure: spans[0]!.group.measure.number, notes: events.map(e => e.id) })
    own.forEach((s, i) => {
      slots.set(`${id}~${i + 1}`, s)
      sources.set(`${id}~${i + 1}`, s.source?.id ?? events[0]!.id)
    })
  }
  return { changes: swung(changes), told, slots, sources }
}

/** So many pairs evened out, and the tune has lost its lilt to the eye. */
const EVENED = 3

/**
 * Where dotted pairs are evened out, the first of them says how they are played: the lilt is easier told than
 * read.
 */
function swung(changes: readonly Change[]): readonly Change[] {
  const evened = changes.filter(c => isReplacing(c) && c.kind === 'even' && arePairs(c.edit.by))
  const first = evened[0]
  if (evened.length < EVENED || !first || !isReplacing(first)) return changes
  const [note, ...others] = first.edit.by
  const by = [{ ...note!, remarks: [...(note!.remarks ?? []), SWING] }, ...others]
  return changes.map(c => (c === first ? { ...first, edit: { ...first.edit, by } } : c))
}
const SWING = 'swing it'

/** Eighths in pairs. */
const arePairs = (by: readonly EventBody[]) =>
  by.length >= 2 && by.every(b => b.kind === 'note' && b.duration.n === 1 && b.duration.d === 2)

/** What else a version does says why by its name. */
const EXPLAINED: ReadonlySet<EasedKind> = new Set(['thin', 'lighten', 'even', 'onBeat', 'replace'])

/**
 * How much longer the last note of a measure lasts, where the upbeat it waited for is left out; null anywhere
 * else.
 */
function fillOf(source: Source, spans: readonly Span[], to: number, { fills }: Upbeats): Fraction | null {
  const { measure } = spans.at(-1)!.group
  const full = fills.get(measure.index)
  return full && source.spans[to]?.group.measure !== measure ? sub(full, measure.length) : null
}

function lastFor(slots: readonly Slot[], longer: Fraction | null): Slot[] {
  if (!longer) return [...slots]
  const last = slots.at(-1)!
  const before = slots.at(-2)
  // A rest at the very end goes too.
  if (!last.pitch && before?.pitch)
    return [...slots.slice(0, -2), { ...before, length: add(add(before.length, last.length), longer) }]
  return [...slots.slice(0, -1), { ...last, length: add(last.length, longer) }]
}

/** Groups by themselves, or with those a note is held over. */
function unitsOf(fillings: readonly Filling[]): [number, number][] {
  const out: [number, number][] = []
  fillings.forEach((f, i) => {
    if (f.held !== null && out.length > 0) out[out.length - 1]![1] = i + 1
    else out.push([i, i + 1])
  })
  return out
}

function joinedHeld(fillings: readonly Filling[], spans: readonly Span[]): Slot[] {
  const out = [...fillings[0]!.slots]
  fillings.slice(1).forEach((_, i) => {
    const last = out.at(-1)!
    const by = spans[i + 1]!.group.length
    out[out.length - 1] = { ...last, length: add(last.length, by), quarters: last.quarters + by.n / by.d }
  })
  return out
}

function bodyOf(slot: Slot, next: Slot | undefined, toWritten: Interval, p: Plainness): EventBody {
  const { source, pitch } = slot
  if (!source || !pitch) return { kind: 'rest', duration: slot.length }
  const { id, tuplet, grace, dynamic, marks, finger, string, heads: _, ...rest } = source.event
  const whole = equal(slot.length, source.event.duration)
  const plain = p.plain.has(id)
  const left = marks?.filter(
    m => (!plain || !ORNAMENTS.includes(m)) && (slot.own || (m !== 'harmonic' && m !== 'open')),
  )
  return {
    ...rest,
    duration: slot.length,
    heads: headsOf(slot, source, next, toWritten, p.single.has(id)),
    ...(left && left.length > 0 && { marks: left }),
    ...(whole && tuplet && { tuplet }),
    ...(grace && !plain && slot.own && { grace }),
    ...(dynamic && !plain && { dynamic }),
    ...(slot.own && finger !== undefined && { finger }),
    ...(slot.own && string !== undefined && { string }),
  } as EventBody
}

type Head = NoteEvent['heads'][number]
function headsOf(
  slot: Slot,
  source: SourceNote,
  next: Slot | undefined,
  toWritten: Interval,
  single: boolean,
): Head[] {
  const goesOn = source.event.heads.some(h => h.tied) && (next === undefined || next.source?.tiedOn === true)
  const tied = goesOn && next?.midi !== undefined ? next.midi === slot.midi : goesOn
  const heads = slot.own ? source.event.heads : []
  const octaves = slot.own ? (slot.midi - source.midi) / 12 : 0
  const list = slot.own
    ? heads
        .slice(single ? -1 : 0)
        .map(h => (octaves === 0 ? h.pitch : transposePitch(h.pitch, octaveShift(octaves))))
    : [transposePitch(slot.pitch!, toWritten)]
  return list.map(pitch => ({ pitch, ...(tied && { tied: true }) }))
}

const EPS = 1e-6

const sameNotes = (by: readonly EventBody[], events: Span['group']['events']) =>
  by.length === events.length && by.every((b, i) => sameBody(b, events[i]!))

function sameBody(by: EventBody, { id: _, ...own }: Span['group']['events'][number]): boolean {
  return canonical(by) === canonical(own as EventBody)
}
const canonical = (b: EventBody) => JSON.stringify(Object.entries(b).sort(([x], [y]) => (x < y ? -1 : 1)))

function kindOf(
  spans: readonly Span[],
  fillings: readonly Filling[],
  own: readonly Slot[],
  p: Plainness,
  has: Has,
): EasedKind {
  const events = spans.flatMap(s => s.group.events)
  const notes = events.filter(e => e.kind === 'note').length
  const sameRhythm = own.length === events.length && own.every((s, i) => equal(s.length, events[i]!.duration))
  if (!sameRhythm) {
    if (own.filter(s => s.pitch).length >= notes) return syncopated(spans) ? 'onBeat' : 'even'
    if (!spans.every(has.rhythm)) return 'thin'
    return spans.every(has.notes) ? 'lighten' : 'replace'
  }
  if (own.some(s => !s.own)) return 'replace'
  if (fillings.some(f => f.fold !== 0)) return 'fold'
  return own.some(s => s.source && p.single.has(s.source.id) && s.source.event.heads.length > 1)
    ? 'single'
    : 'plain'
}

/** A note begins between beats and sounds over the next one. */
const syncopated = (spans: readonly Span[]) =>
  spans.some(s =>
    s.notes.some(
      n => n.strength === 0 && s.notes.some(m => m.at < n.at) && Math.ceil(n.at + 1e-6) < n.until - 1e-6,
    ),
  )

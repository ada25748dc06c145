/** A group of notes made easier: fewer notes, plainer ones, others in their place. Pure: from a group and what is to be done to it to the notes that take its place. */
import { add, compare, equal, frac, isZero, mod, mul, sub, type Fraction } from '#core/music/fraction'
import { inThrees } from '#core/music/metre'
import type { Pitch } from '#core/music/pitch'
import type { EventBody, Mark, NoteEvent, TuneEvent } from '#core/music/tune'
import { partsOf, soundingAt, type Group } from './groups'

export interface Reduction {
  /** 1: two notes to the beat (of three the three, or a long and a short), 2: one. */
  readonly thin?: 1 | 2
  /** A long and a short that share their beats become two of one length; what ends between beats ends on one. */
  readonly even?: boolean
  /** A note that begins between beats and sounds over the next one begins on it; the note before it lasts until then. */
  readonly onBeat?: boolean
  /** Without ornaments, graces, dynamics and signs of the bow. */
  readonly plain?: boolean
  /** Of two notes together the upper one. */
  readonly single?: boolean
  /** Rests in the place of the notes: a pickup left out. */
  readonly silent?: boolean
  /** Its pitches are the tune's own an octave away, with the phrase around it. */
  readonly fold?: boolean
  /** Other pitches, by the id of the note they take the place of. */
  readonly pitches?: Readonly<Record<string, Pitch>>
}

export type ReductionKind = 'thin' | 'even' | 'onBeat' | 'plain' | 'single' | 'pickup' | 'fold' | 'replace'

/** What it is told as: by the most that is done. Where no note went nothing was thinned. */
export function kindOf(r: Reduction, g: Group, by: readonly Reduced[]): ReductionKind {
  const notes = (list: readonly { readonly kind: string }[]) => list.filter(e => e.kind === 'note').length
  const fewer = notes(by.map(x => x.body)) < notes(g.events)
  if (r.silent) return 'pickup'
  if (r.thin === 2 && fewer) return 'thin'
  if (r.even || (r.thin && !r.onBeat)) return 'even'
  if (r.onBeat) return 'onBeat'
  if (r.pitches && Object.keys(r.pitches).length > 0) return r.fold ? 'fold' : 'replace'
  return r.single ? 'single' : 'plain'
}

/** An event that takes a place, and the written one it comes from. */
export interface Reduced {
  readonly body: EventBody
  readonly from: string
}

const ORNAMENTS: readonly Mark[] = ['trill', 'turn', 'mordent', 'upperMordent', 'roll', 'cut', 'slide', 'accent', 'staccato', 'tenuto', 'comma', 'lift', 'harmonic'] // prettier-ignore

/** Null where nothing would change. */
export function reduced(written: Group, r: Reduction): Reduced[] | null {
  const g = r.onBeat ? onBeats(written) : written
  const thin = r.thin && !(r.thin === 2 && r.even && sharesTwoBeats(g)) ? thinned(g, r.thin) : g.events.map(e => kept(e, e.duration, true)) // prettier-ignore
  const list = r.silent ? rests(g) : r.even ? evened(thin, g) : thin
  const done = list.map(x => ({ ...x, body: eased(x, r) }))
  const same = done.length === written.events.length && done.every((x, i) => JSON.stringify(x.body) === JSON.stringify(kept(written.events[i]!, written.events[i]!.duration, true).body)) // prettier-ignore
  return same ? null : done
}

const rests = (g: Group): Reduced[] => [{ body: { kind: 'rest', duration: g.length }, from: g.id }]

/** The event without its id; a tie goes on only from the group's last note. */
function kept(e: TuneEvent, duration: Fraction, whole: boolean): Reduced {
  const { id, ...body } = e
  if (body.kind === 'rest') return { body: { ...body, duration }, from: id }
  const { tuplet: _, ...plain } = body
  const heads = whole ? body.heads : body.heads.map(h => ({ pitch: h.pitch }))
  return { body: whole ? { ...body, duration } : { ...plain, heads, duration }, from: id }
}

/** The group without syncopation: no note goes but one whose sound begins with the beat it was tied to. */
function onBeats(g: Group): Group {
  if (g.events.some(e => e.kind === 'note' && e.tuplet)) return g
  const out: TuneEvent[] = []
  let at = g.at
  for (const e of g.events) {
    const [into, end] = [mod(at, g.beat), add(at, e.duration)]
    const beat = add(at, sub(g.beat, into))
    const over =
      compare(end, beat) > 0 || (equal(end, beat) && e.kind === 'note' && e.heads.some(h => h.tied))
    at = end
    const last = out.at(-1)
    if (e.kind !== 'note' || isZero(into) || !over || !last) {
      out.push(e)
      continue
    }
    out[out.length - 1] = { ...last, duration: add(last.duration, sub(g.beat, into)) }
    if (compare(end, beat) > 0) out.push({ ...e, duration: sub(end, beat) })
  }
  return { ...g, events: out }
}

/** One note to each part: the one that begins there, or that sounds over it; a note that sounds over several parts stays one. */
function thinned(g: Group, how: 1 | 2): Reduced[] {
  const threes = inThrees(g.measure.metre)
  const parts = how === 2 ? partsOf(g, g.beat) : threes ? ofThree(g) : partsOf(g, mul(g.beat, frac(1, 2)))
  const out: Reduced[] = []
  for (const p of parts) {
    const there = soundingAt(g, p.at)
    if (!there) continue
    // Less than a beat: nothing begins there, and what sounds has ended.
    if (how === 2 && !threes && compare(p.length, g.beat) < 0) {
      out.push(rest(p.length, there.event.id))
      continue
    }
    const last = out.at(-1)
    if (last?.from === there.event.id && last.body.kind === there.event.kind && !there.begins) {
      out[out.length - 1] = kept(there.event, add(last.body.duration, p.length), false)
      continue
    }
    // A rest on the beat gives way to the note after it.
    const event = there.event.kind === 'rest' ? (firstWithin(g, p.at, p.length) ?? there.event) : there.event
    out.push(kept(event, p.length, false))
  }
  return tiedOn(out, g)
}

/** The last note is tied on where it was. */
function tiedOn(list: readonly Reduced[], g: Group): Reduced[] {
  const end = list.at(-1)
  const last = g.events.at(-1)!
  if (end?.body.kind !== 'note' || end.from !== last.id || last.kind !== 'note') return [...list]
  return [...list.slice(0, -1), { ...end, body: { ...end.body, heads: last.heads } }]
}

const rest = (duration: Fraction, from: string): Reduced => ({ body: { kind: 'rest', duration }, from })

/** A dotted pair over two beats: evened out both of its notes stay, though only one begins on a beat. */
function sharesTwoBeats(g: Group): boolean {
  const [a, b] = g.events
  return g.events.length === 2 && a!.kind === 'note' && b!.kind === 'note' && compare(g.length, mul(g.beat, frac(2))) >= 0 && equal(a!.duration, mul(b!.duration, frac(3))) // prettier-ignore
}

/**
 * Without dots: a pair of three and one (or one and three) has two of two; a note that lasts into half a beat ends with the beat before, and the note after it
 * begins there; with nothing after it the rest is a rest.
 */
function evened(list: readonly Reduced[], g: Group): Reduced[] {
  const out = [...list]
  let at = frac(0)
  for (let i = 0; i < out.length; i++) {
    const [a, b] = [out[i]!, out[i + 1]]
    const last = a.body.duration
    const pair =
      b && (equal(last, mul(b.body.duration, frac(3))) || equal(b.body.duration, mul(last, frac(3))))
    const into = mod(add(g.at, add(at, last)), g.beat)
    if (a.body.kind === 'note' && pair) {
      const half = mul(add(last, b.body.duration), frac(1, 2))
      out.splice(i, 2, lasting(a, half), lasting(b, half))
    } else if (
      a.body.kind === 'note' &&
      !isZero(into) &&
      compare(last, g.beat) > 0 &&
      compare(last, into) > 0
    ) {
      out[i] = lasting(a, sub(last, into))
      if (b) out[i + 1] = lasting(b, add(b.body.duration, into))
      else out.push(rest(into, a.from))
    } else if (a.body.kind === 'note' && !b && isDotted(last) && !equal(last, g.beat)) {
      const third = mul(last, frac(1, 3))
      out[i] = lasting(a, mul(third, frac(2)))
      out.push(rest(third, a.from))
    }
    at = add(at, out[i]!.body.duration)
  }
  return tiedOn(out, g)
}

const isDotted = (d: Fraction) => [frac(3, 2), frac(3, 4), frac(3, 8)].some(x => equal(x, d))
const lasting = (x: Reduced, duration: Fraction): Reduced => {
  const heads = x.body.kind === 'note' ? { heads: x.body.heads.map(h => ({ pitch: h.pitch })) } : {}
  return { ...x, body: { ...x.body, duration, ...heads } as EventBody }
}

/** With three parts to the beat: those three where there is anything shorter, else a long and a short. */
function ofThree(g: Group) {
  const third = mul(g.beat, frac(1, 3))
  if (g.events.some(e => compare(e.duration, third) < 0)) return partsOf(g, third)
  return partsOf(g, g.beat).flatMap(p => {
    const long = mul(g.beat, frac(2, 3))
    if (compare(p.length, g.beat) < 0) return [p]
    return [
      { at: p.at, length: long },
      { at: add(p.at, long), length: third },
    ]
  })
}

function firstWithin(g: Group, at: Fraction, length: Fraction): NoteEvent | null {
  let now = frac(0)
  for (const e of g.events) {
    if (e.kind === 'note' && compare(now, at) >= 0 && compare(now, add(at, length)) < 0) return e
    now = add(now, e.duration)
  }
  return null
}

function eased({ body, from }: Reduced, r: Reduction): EventBody {
  if (body.kind === 'rest') return body
  let note = body
  if (r.single && note.heads.length > 1) note = { ...note, heads: note.heads.slice(-1) }
  if (r.plain) {
    const { grace: _g, dynamic: _d, marks, ...rest } = note
    const left = marks?.filter(m => !ORNAMENTS.includes(m)) ?? []
    note = left.length > 0 ? { ...rest, marks: left } : rest
  }
  const pitch = r.pitches?.[from]
  // What the source says of finger and string is of the note it was.
  if (pitch) {
    const { finger: _f, string: _s, marks, ...rest } = note
    const left = marks?.filter(m => m !== 'harmonic' && m !== 'open') ?? []
    const { tied } = note.heads.at(-1)!
    note = { ...rest, heads: [{ pitch, ...(tied && { tied }) }], ...(left.length > 0 && { marks: left }) }
  }
  return note
}

export const sameLength = (list: readonly Reduced[], length: Fraction) =>
  equal(list.reduce((sum, x) => add(sum, x.body.duration), frac(0)), length) // prettier-ignore

/** A group of notes made easier: fewer notes, plainer ones, others in their place. Pure: from a group and what is to be done to it to the notes that take its place. */
import { add, compare, equal, frac, mul, type Fraction } from '#core/music/fraction'
import { isCompound } from '#core/music/metre'
import type { Pitch } from '#core/music/pitch'
import type { EventBody, Mark, NoteEvent, TuneEvent } from '#core/music/tune'
import { partsOf, soundingAt, type Group } from './groups'

export interface Reduction {
  /** 1: two notes to the beat, 2: one. */
  readonly thin?: 1 | 2
  /** Without ornaments, graces, dynamics and signs of the bow. */
  readonly plain?: boolean
  /** Of two notes together the upper one. */
  readonly single?: boolean
  /** Rests in the place of the notes: a pickup left out. */
  readonly silent?: boolean
  /** Other pitches, by the id of the note they take the place of. */
  readonly pitches?: Readonly<Record<string, Pitch>>
}

/** An event that takes a place, and the written one it comes from. */
export interface Reduced {
  readonly body: EventBody
  readonly from: string
}

const ORNAMENTS: readonly Mark[] = ['trill', 'turn', 'mordent', 'roll', 'cut', 'slide', 'accent', 'staccato', 'tenuto', 'comma', 'lift', 'harmonic'] // prettier-ignore

/** Null where nothing would change. */
export function reduced(g: Group, r: Reduction): Reduced[] | null {
  const list = r.silent ? rests(g) : (r.thin ? thinned(g, r.thin) : g.events.map(e => kept(e, e.duration, true))) // prettier-ignore
  const done = list.map(x => ({ ...x, body: eased(x, r) }))
  const same = done.length === g.events.length && done.every((x, i) => JSON.stringify(x.body) === JSON.stringify(kept(g.events[i]!, g.events[i]!.duration, true).body)) // prettier-ignore
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

/** One note to each part: the one that begins there, or that sounds over it; a note that sounds over several parts stays one. */
function thinned(g: Group, how: 1 | 2): Reduced[] {
  const evened = how === 1 || compare(g.length, mul(g.beat, frac(2))) >= 0 ? even(g) : null
  if (evened) return evened
  const compound = isCompound(g.measure.metre)
  const parts = how === 2 || !compound ? partsOf(g, how === 2 ? g.beat : mul(g.beat, frac(1, 2))) : longShort(g) // prettier-ignore
  const out: Reduced[] = []
  for (const p of parts) {
    const there = soundingAt(g, p.at)
    if (!there) continue
    const last = out.at(-1)
    if (last?.from === there.event.id && !there.begins) {
      out[out.length - 1] = kept(there.event, add(last.body.duration, p.length), false)
      continue
    }
    // A rest on the beat gives way to the note after it.
    const event = there.event.kind === 'rest' ? (firstWithin(g, p.at, p.length) ?? there.event) : there.event
    out.push(kept(event, p.length, false))
  }
  const end = out.at(-1)
  const lastEvent = g.events.at(-1)!
  if (end && end.from === lastEvent.id && lastEvent.kind === 'note') out[out.length - 1] = { ...end, body: { ...end.body, heads: lastEvent.heads } as EventBody } // prettier-ignore
  return out
}

/** A dotted pair becomes two notes of one length: both stay. */
function even(g: Group): Reduced[] | null {
  const [a, b] = g.events
  if (g.events.length !== 2 || a!.kind !== 'note' || b!.kind !== 'note') return null
  if (!equal(a!.duration, mul(b!.duration, frac(3)))) return null
  const half = mul(g.length, frac(1, 2))
  return [kept(a!, half, false), kept(b!, half, true)]
}

/** In three parts to the beat: a long and a short. */
function longShort(g: Group) {
  return partsOf(g, g.beat).flatMap(p => {
    const long = mul(g.beat, frac(2, 3))
    if (compare(p.length, g.beat) < 0) return [p]
    return [
      { at: p.at, length: long },
      { at: add(p.at, long), length: mul(g.beat, frac(1, 3)) },
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
    note = { ...rest, heads: [{ pitch }], ...(left.length > 0 && { marks: left }) }
  }
  return note
}

export const sameLength = (list: readonly Reduced[], length: Fraction) =>
  equal(list.reduce((sum, x) => add(sum, x.body.duration), frac(0)), length) // prettier-ignore

/**
 * What is taught of a tune (where phrases begin, their names, lines and kin) speaks of its notes by their
 * ids. Where a change put others in their place, these carry the word on: read, it is of the notes as they
 * are played; kept, of those that are written, so that it stays true whatever is changed.
 */
import type { EventId } from '#core/music/ids'
import { add, formatFraction, ZERO } from '#core/music/fraction'
import type { Measure, Tune } from '#core/music/tune'
import type { Arranged } from './arrange'
import type { Arrangement, Taught } from './recipe'

/** For events that changes made: the written one that begins at the same time of the same measure. */
export type Stands = Readonly<Record<EventId, EventId>>

export function standsOf({ origin, tune, written }: Pick<Arranged, 'origin' | 'tune' | 'written'>): Stands {
  if (origin.size === 0) return {}
  const own = new Map(written.measures.map(m => [m.id, m]))
  return Object.fromEntries(
    changedMeasures(tune, origin).flatMap(m => {
      const there = new Map([...beginnings(own.get(m.id))].map(([id, at]) => [at, id]))
      return [...beginnings(m)].flatMap(([id, at]) =>
        origin.has(id) && there.has(at) ? [[id, there.get(at)!]] : [],
      )
    }),
  )
}

const changedMeasures = (tune: Tune, origin: Arranged['origin']) =>
  tune.measures.filter(m => m.events.some(e => origin.has(e.id)))

/** When each event of a measure begins. */
function beginnings(m: Measure | undefined): Map<EventId, string> {
  let at = ZERO
  return new Map(
    (m?.events ?? []).map(e => {
      const entry = [e.id, formatFraction(at)] as const
      at = add(at, e.duration)
      return entry
    }),
  )
}

/** What of it speaks of notes. */
type OfNotes = Partial<Pick<Taught, 'boundaries' | 'kin' | 'names' | 'lines' | 'remarks'>>

export const taughtAsPlayed = <T extends OfNotes>(taught: T, stands: Stands): T =>
  renamed(taught, Object.fromEntries(Object.entries(stands).map(([made, own]) => [own, made])))

export const taughtAsWritten = <T extends OfNotes>(taught: T, stands: Stands): T => renamed(taught, stands)

/**
 * A recipe whose stretches (rules of the hand, schools and parts of the bow) begin and end at the notes that
 * are played. Those that begin or end in a part that is left out wait.
 */
export function stretchesAsPlayed(
  r: Arrangement,
  arranged: Pick<Arranged, 'origin' | 'tune' | 'written' | 'left'>,
): Arrangement {
  const { passages, bow } = r.played
  if (passages.length + bow.passages.length === 0 || (arranged.origin.size === 0 && arranged.left.size === 0))
    return r
  const made = Object.fromEntries(
    Object.entries(standsOf(arranged)).map(([there, own]) => [own, there]),
  ) as Readonly<Record<string, EventId>>
  const away = new Set<string>(
    arranged.written.measures.filter(m => arranged.left.has(m.id)).flatMap(m => m.events.map(e => e.id)),
  )
  const there = <S extends { readonly from: string; readonly to: string }>(s: S) => ({
    ...s,
    from: made[s.from] ?? s.from,
    to: made[s.to] ?? s.to,
    ...((away.has(s.from) || away.has(s.to)) && { waits: true }),
  })
  return {
    ...r,
    played: {
      ...r.played,
      passages: passages.map(there),
      bow: { ...bow, passages: bow.passages.map(there) },
    },
  }
}

/** Every id of a note by its other name, where it has one. */
function renamed<T extends OfNotes>(t: T, other: Readonly<Record<string, string>>): T {
  if (Object.keys(other).length === 0) return t
  const named = (id: string) => other[id] ?? id
  const keys = <V>(record: Readonly<Record<string, V>>, value = (v: V) => v) =>
    Object.fromEntries(Object.entries(record).map(([id, v]) => [named(id), value(v)]))
  return {
    ...t,
    ...(t.boundaries && { boundaries: keys(t.boundaries) }),
    ...(t.kin && { kin: keys(t.kin, to => (to === null ? null : named(to))) }),
    ...(t.names && { names: keys(t.names) }),
    ...(t.lines && { lines: keys(t.lines) }),
    ...(t.remarks && { remarks: keys(t.remarks) }),
  }
}

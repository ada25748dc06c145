/**
 * Names of things in a tune. An event (a note, a chord, a rest) has an id of its own; each note of a double
 * stop has one made of it: the event's own for the lowest, then "n5.2", "n5.3". What a change of an
 * arrangement makes is named after the change: "c7~1". The two kinds of id are types of their own, so that
 * one is not taken for the other.
 */
declare const of: unique symbol
type Named<Of extends string> = string & { readonly [of]?: Of }

export type EventId = Named<'event'>
export type NoteId = Named<'note'>

const NOTE = '.'
const MADE = '~'

/** The id of the i-th note of an event, the lowest first. `noteId('n5', 1)` is "n5.2". */
export const noteId = (event: EventId, i: number): NoteId =>
  i === 0 ? (event as string) : `${event}${NOTE}${i + 1}`

/** The event a note belongs to. Inverse of {@link noteId}. `eventOf('n5.2')` is "n5". */
export function eventOf(note: NoteId | EventId): EventId {
  const at = note.indexOf(NOTE)
  return at < 0 ? (note as string) : note.slice(0, at)
}

/** Which note of its event it is, the lowest 0. `headOf('n5.2')` is 1. */
export function headOf(note: NoteId): number {
  const at = note.indexOf(NOTE)
  return at < 0 ? 0 : Number(note.slice(at + 1)) - 1
}

/** The same note of another event. */
export const onEvent = (note: NoteId, event: EventId): NoteId => noteId(event, headOf(note))

/**
 * The id of the i-th event a change makes: no edit of a tune ever gives such a one. `madeId('c7', 0)` is
 * "c7~1".
 */
export const madeId = (change: string, i: number): EventId => `${change}${MADE}${i + 1}`

/** The change that made an event; null for one of the tune itself. */
export function changeOf(event: EventId): string | null {
  const at = event.indexOf(MADE)
  return at < 0 ? null : event.slice(0, at)
}

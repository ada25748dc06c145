/**
 * Problems and findings are data: a code, a place, values. The sentence is made in one place per language
 * (core/words). A mend is a small edit that answers the finding; its words come from there too.
 */
import type { EventId, NoteId } from '#core/music/ids'
import type { Key } from '#core/music/key'
import type { Catalogue, None } from './catalogue'

export type Severity = 'error' | 'warning' | 'note'
export type FindingCode = keyof Catalogue

export interface Where {
  readonly line?: number
  readonly column?: number
  /** Measure number as printed. */
  readonly measure?: number
  /** The note, or its event. */
  readonly note?: NoteId | EventId
}

interface FindingOf<C extends FindingCode> {
  readonly code: C
  readonly severity: Severity
  readonly where: Where
  readonly values: Catalogue[C]
  readonly mends?: readonly Mend[]
}
export type Finding = { readonly [C in FindingCode]: FindingOf<C> }[FindingCode]

/** A small edit of the recipe; or, for `moveNote`, of the tune. */
export type Mend =
  /** The bow is set anew before this note, in this direction. */
  | { readonly kind: 'stroke'; readonly note: EventId; readonly direction: 'down' | 'up' }
  | { readonly kind: 'join'; readonly note: EventId; readonly slurred: boolean }
  /** Marks of the bow that go together, and what they change: tried before they are offered. */
  | { readonly kind: 'bow'; readonly edits: readonly BowEdit[]; readonly effect?: BowEffect }
  /** Another finger, on another string. */
  | { readonly kind: 'finger'; readonly note: NoteId; readonly string: number; readonly finger: 0 | 4 }
  | { readonly kind: 'unpin'; readonly note: NoteId | EventId; readonly what: 'finger' | 'stroke' }
  /** Index of the passage rule in the recipe. */
  | { readonly kind: 'dropRule'; readonly index: number }
  | { readonly kind: 'dropChange'; readonly change: string }
  | { readonly kind: 'key'; readonly key: Key }
  | { readonly kind: 'octave'; readonly octave: number; readonly by: 1 | -1 }
  /** Changes the tune itself: this note so many octaves up. */
  | { readonly kind: 'moveNote'; readonly note: NoteId | EventId; readonly octaves: number }

/**
 * One mark of the bow at a note: slurred to the note before, hooked, lifted before, or parted from the note
 * before.
 */
export interface BowEdit {
  readonly note: EventId
  readonly way: 'slur' | 'hook' | 'lift' | 'part'
  /** Measure it stands in, for its words. */
  readonly measure?: number
}

/** Measures whose first beat comes down with it, and how many findings it answers. */
export interface BowEffect {
  readonly measures: readonly number[]
  readonly answers: number
}

/** The values a finding needs; none where its catalogue entry has none. */
export type ValuesOf<C extends FindingCode> = Catalogue[C] extends None
  ? [values?: None, mends?: readonly Mend[]]
  : [values: Catalogue[C], mends?: readonly Mend[]]

export const finding = <C extends FindingCode>(
  code: C,
  severity: Severity,
  where: Where,
  ...[values, mends]: ValuesOf<C>
) => ({ code, severity, where, values: values ?? {}, ...(mends?.length ? { mends } : {}) }) as Finding

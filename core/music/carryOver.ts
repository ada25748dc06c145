/**
 * A tune read anew from a text that cannot hold everything: what the text has no place for stays as it was on
 * the notes, measures and facts that are still there. Ids must have been kept first ({@link keepIds}).
 */
import { midi } from './pitch'
import { MARKS, type Measure, type NoteEvent, type Tune } from './tune'
import { tidy } from './edit/edited'

/** What a kind of text has no place for. */
export interface NotHeld {
  readonly notes: readonly (keyof NoteEvent)[]
  readonly facts: readonly (keyof Tune)[]
  readonly measures?: readonly (keyof Measure)[]
  /** The text has but one kind of rest. */
  readonly hiddenRests?: boolean
  /** Marks of these names. */
  readonly marks?: readonly string[]
  /** The text says sounds, not spellings. */
  readonly spelling?: boolean
}

const FACTS = ['rights', 'tags', 'notToBeConfusedWith', 'settings', 'instrument'] as const
export const ABC_HOLDS_NOT: NotHeld = { notes: ['optional', 'string'], marks: ['cut'], facts: FACTS }
export const SPOKEN_HOLDS_NOT: NotHeld = {
  notes: ['optional', 'string', 'finger', 'dynamic', 'syllables', 'remarks'],
  marks: MARKS,
  facts: [...FACTS, 'otherTitles', 'composer', 'learnedFrom', 'kind', 'notes', 'tempo', 'clef'],
  measures: ['segno', 'coda', 'fine', 'toCoda', 'jump', 'repeatTimes'],
  hiddenRests: true,
  spelling: true,
}

export function carryOver(before: Tune, read: Tune, lost: NotHeld): Tune {
  const old = new Map(before.measures.flatMap(m => m.events.map(e => [e.id, e] as const)))
  const stood = new Map(before.measures.map(m => [m.id, m]))
  const measures = read.measures.map(m => ({
    ...m,
    ...entriesOf(stood.get(m.id), lost.measures ?? []),
    events: m.events.map(e => {
      const was = old.get(e.id)
      if (lost.hiddenRests && e.kind === 'rest' && was?.kind === 'rest' && was.hidden)
        return { ...e, hidden: true }
      return e.kind === 'note' && was?.kind === 'note' ? keep(was, e, lost) : e
    }),
  }))
  const facts = Object.fromEntries(lost.facts.map(f => [f, before[f]]))
  const there = new Set(measures.map(m => m.id))
  const play = { ...before.play, struck: before.play.struck.filter(id => there.has(id)) }
  return tidy({ ...read, measures, ...facts, play })
}

/** What is there of some fields. */
const entriesOf = <T extends object>(of: T | undefined, fields: readonly (keyof T)[]): Partial<T> =>
  Object.fromEntries(fields.flatMap(f => (of?.[f] === undefined ? [] : [[f, of[f]]]))) as Partial<T>

function keep(was: NoteEvent, now: NoteEvent, lost: NotHeld): NoteEvent {
  const same =
    was.heads.length === now.heads.length &&
    was.heads.every((h, i) => midi(h.pitch) === midi(now.heads[i]!.pitch))
  const kept: Record<string, unknown> = entriesOf(was, lost.notes)
  // A finger and a string belong to the pitch they were written for.
  if (!same) for (const f of ['finger', 'string']) delete kept[f]
  const marks = [
    ...(now.marks ?? []),
    // A harmonic too belongs to its pitch.
    ...(was.marks ?? []).filter(
      m => lost.marks?.includes(m) && !now.marks?.includes(m) && (same || m !== 'harmonic'),
    ),
  ]
  const heads =
    same && lost.spelling ? now.heads.map((h, i) => ({ ...h, pitch: was.heads[i]!.pitch })) : now.heads
  return { ...now, ...(marks.length > 0 && { marks }), ...kept, heads }
}

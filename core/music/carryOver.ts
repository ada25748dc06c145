/**
 * A tune read anew from a text that cannot hold everything: what the text has no place for stays as it was on the notes, measures and facts that are
 * still there. Ids must have been kept first ({@link keepIds}).
 */
import { midi } from './pitch'
import type { NoteEvent, Tune } from './tune'
import { tidy } from './edit/edited'

/** What a kind of text has no place for. */
export interface NotHeld {
  readonly notes: readonly (keyof NoteEvent)[]
  readonly facts: readonly (keyof Tune)[]
  /** Marks of these names only; all of them when `marks` is among the notes' fields. */
  readonly marks?: readonly string[]
  /** The text says sounds, not spellings. */
  readonly spelling?: boolean
}

const FACTS = ['rights', 'tags', 'notToBeConfusedWith', 'settings', 'instrument'] as const
export const ABC_HOLDS_NOT: NotHeld = { notes: ['optional', 'string'], marks: ['cut'], facts: FACTS }
export const SPOKEN_HOLDS_NOT: NotHeld = {
  notes: ['optional', 'string', 'finger', 'marks', 'dynamic', 'syllables', 'remarks'],
  facts: [...FACTS, 'otherTitles', 'composer', 'learnedFrom', 'kind', 'notes', 'tempo', 'clef'],
  spelling: true,
}

export function carryOver(before: Tune, read: Tune, lost: NotHeld): Tune {
  const old = new Map(before.measures.flatMap(m => m.events.map(e => [e.id, e] as const)))
  const measures = read.measures.map(m => ({
    ...m,
    events: m.events.map(e => {
      const was = old.get(e.id)
      return e.kind === 'note' && was?.kind === 'note' ? keep(was, e, lost) : e
    }),
  }))
  const facts = Object.fromEntries(lost.facts.map(f => [f, before[f]]))
  const there = new Set(measures.map(m => m.id))
  const play = { ...before.play, struck: before.play.struck.filter(id => there.has(id)) }
  return tidy({ ...read, measures, ...facts, play })
}

function keep(was: NoteEvent, now: NoteEvent, lost: NotHeld): NoteEvent {
  const same =
    was.heads.length === now.heads.length &&
    was.heads.every((h, i) => midi(h.pitch) === midi(now.heads[i]!.pitch))
  const kept = Object.fromEntries(lost.notes.flatMap(f => (was[f] === undefined ? [] : [[f, was[f]]])))
  // A finger and a string belong to the pitch they were written for.
  if (!same) for (const f of ['finger', 'string']) delete kept[f]
  const marks = [
    ...(now.marks ?? []),
    ...(was.marks ?? []).filter(m => lost.marks?.includes(m) && !now.marks?.includes(m)),
  ]
  const heads =
    same && lost.spelling ? now.heads.map((h, i) => ({ ...h, pitch: was.heads[i]!.pitch })) : now.heads
  return { ...now, ...(marks.length > 0 && { marks }), ...kept, heads }
}

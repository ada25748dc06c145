/** What hangs on notes: marks, dynamics, chords, words, remarks, grace notes, slurs. */
import type { Pitch } from '../pitch'
import { heldOver } from '../timeline'
import type { Dynamic, Mark, NoteEvent, Syllable, Tune } from '../tune'
import { eventsOf, idsBetween, mapEvents, mapNotes, tidy, unchanged, type Edited } from './edited'

const done = (tune: Tune, ids: readonly string[]): Edited => ({ tune, chosen: ids.at(-1) ?? null })

/** Puts a mark on all of some notes, or takes it off when all have it. */
export function toggleMark(tune: Tune, ids: readonly string[], mark: Mark): Edited {
  const notes = eventsOf(tune).filter((e): e is NoteEvent => ids.includes(e.id) && e.kind === 'note')
  const off = notes.every(n => n.marks?.includes(mark))
  const change = (e: NoteEvent): NoteEvent => {
    const others = (e.marks ?? []).filter(m => m !== mark)
    const marks = off ? others : [...others, mark]
    return tidy({ ...e, marks: marks.length > 0 ? marks : undefined })
  }
  return done(mapNotes(tune, ids, change), ids)
}

export const setDynamic = (tune: Tune, ids: readonly string[], dynamic: Dynamic | undefined): Edited =>
  done(
    mapNotes(tune, ids.slice(0, 1), e => tidy({ ...e, dynamic })),
    ids,
  )

export function toggleOptional(tune: Tune, ids: readonly string[]): Edited {
  const on = eventsOf(tune).some(e => ids.includes(e.id) && e.kind === 'note' && !e.optional)
  return done(
    mapNotes(tune, ids, e => tidy({ ...e, optional: on || undefined })),
    ids,
  )
}

/** A chord name over an event; empty takes it away. */
export const setChord = (tune: Tune, id: string, name: string): Edited =>
  done(
    mapEvents(tune, [id], e => tidy({ ...e, chord: name.trim().slice(0, 40) || undefined })),
    [id],
  )

/** Small remarks printed at an event, one a line; technique cues are remarks. */
export function setRemarks(tune: Tune, id: string, text: string): Edited {
  const remarks = text
    .split('\n')
    .map(r => r.trim().slice(0, 400))
    .filter(Boolean)
    .slice(0, 20)
  return done(
    mapEvents(tune, [id], e => tidy({ ...e, remarks: remarks.length > 0 ? remarks : undefined })),
    [id],
  )
}

export const setGrace = (tune: Tune, id: string, pitches: readonly Pitch[]): Edited =>
  done(
    mapNotes(tune, [id], e => tidy({ ...e, grace: pitches.length > 0 ? pitches : undefined })),
    [id],
  )

/**
 * The words under a note, one verse. `null` takes them away. A hyphen at the end leads on to the next note.
 */
export function setSyllable(tune: Tune, id: string, verse: number, text: string | null): Edited {
  const trimmed = text?.trim() ?? ''
  const hyphen = trimmed.endsWith('-')
  const word = (hyphen ? trimmed.slice(0, -1) : trimmed).slice(0, 80)
  const syllable: Syllable | null = word === '' ? null : { text: word, ...(hyphen && { hyphen: true }) }
  const next = mapNotes(tune, [id], e => {
    const list: (Syllable | null)[] = [...(e.syllables ?? [])]
    while (list.length <= verse) list.push(null)
    list[verse] = syllable
    while (list.length > 0 && list.at(-1) === null) list.pop()
    return tidy({ ...e, syllables: list.length > 0 ? list : undefined })
  })
  return done(next, [id])
}

/**
 * Lays a line of words under the notes from an event on: words by spaces, syllables by hyphens, `*` skips a
 * note, `_` holds the syllable for one more. Tied notes and rests take none. Words left over come back.
 */
export function layWords(tune: Tune, from: string, verse: number, line: string): Edited & { left: string[] } {
  const pieces = line
    .trim()
    .split(/\s+/)
    .flatMap(w => w.split(/(?<=[^-]-)(?=[^-])/))
    .filter(Boolean)
  const all = eventsOf(tune)
  const targets = all.slice(all.findIndex(e => e.id === from)).filter((e, i, list) => {
    return e.kind === 'note' && heldOver(list[i - 1], e) !== 'all'
  })
  const result = pieces
    .slice(0, targets.length)
    .reduce(
      (t, piece, i) =>
        piece === '*' || piece === '_' ? t : setSyllable(t, targets[i]!.id, verse, piece).tune,
      tune,
    )
  return { tune: result, chosen: from, left: pieces.slice(targets.length) }
}

/** A slur from one event to another; the same slur again, or one inside the same notes, is taken off. */
export function toggleSlur(tune: Tune, a: string, b: string): Edited {
  const ids = idsBetween(tune, a, b)
  if (ids.length < 2) return unchanged(tune, b)
  const inside = new Set(ids)
  const within = tune.slurs.filter(s => inside.has(s.from) && inside.has(s.to))
  const kept = tune.slurs.filter(s => !within.includes(s))
  const same = within.length === 1 && within[0]!.from === ids[0] && within[0]!.to === ids.at(-1)
  return { tune: { ...tune, slurs: same ? kept : [...kept, { from: ids[0]!, to: ids.at(-1)! }] }, chosen: b }
}

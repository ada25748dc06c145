/** Changing which notes sound. */
import { placeMeasures } from '../timeline'
import type { Key } from '../key'
import { diatonic, midi, type Pitch, type Step } from '../pitch'
import type { NoteEvent, Tune } from '../tune'
import { eventsOf, findEvent, mapEvents, mapNotes, type Edited, unchanged } from './edited'
import { byHalfSteps, byLetters, letterNear, respelled } from './spelling'

/** The key in force at an event. */
export function keyAt(tune: Tune, id: string | null): Key {
  const found = findEvent(tune, id)
  return placeMeasures(tune)[found?.at ?? 0]?.key ?? tune.key
}

/**
 * The pitch a new note is measured from: the note chosen or the last one before it, else the middle of the
 * staff.
 */
export function pitchNear(tune: Tune, id: string | null): Pitch {
  const all = eventsOf(tune)
  const upTo = id === null ? [] : all.slice(0, all.findIndex(e => e.id === id) + 1)
  const note = upTo.findLast(e => e.kind === 'note')
  if (note?.kind === 'note') return note.heads.at(-1)!.pitch
  const middle = { treble: 4, alto: 4, tenor: 3, bass: 3 }[tune.clef]
  return { step: tune.key.step, alter: tune.key.alter, octave: middle }
}

const sortHeads = (heads: NoteEvent['heads']) =>
  [...heads].sort((a, b) => diatonic(a.pitch) - diatonic(b.pitch))

/**
 * Other pitches for an event; a rest becomes a note. A written finger or string belonged to the old pitch.
 */
export function setPitches(tune: Tune, id: string, pitches: readonly Pitch[]): Edited {
  if (pitches.length === 0) return unchanged(tune, id)
  const heads = sortHeads(pitches.map(pitch => ({ pitch })))
  const next = mapEvents(tune, [id], e => {
    if (e.kind === 'rest') {
      const { hidden: _hidden, ...rest } = e
      return { ...rest, kind: 'note', heads }
    }
    const { finger: _f, string: _s, ...rest } = e
    return { ...rest, heads }
  })
  return { tune: next, chosen: id }
}

export const setLetter = (tune: Tune, id: string, step: Step): Edited =>
  setPitches(tune, id, [letterNear(step, pitchNear(tune, id), keyAt(tune, id))])

/**
 * Applies one change of pitch to every head of some events; where it can't be done for one of them nothing
 * changes.
 */
function movePitches(tune: Tune, ids: readonly string[], move: (p: Pitch, key: Key) => Pitch | null): Edited {
  const keys = new Map(placeMeasures(tune).flatMap(m => m.measure.events.map(e => [e.id, m.key] as const)))
  let possible = true
  const moved = (p: Pitch, id: string) => {
    const to = move(p, keys.get(id)!)
    if (!to) possible = false
    return to ?? p
  }
  const next = mapNotes(tune, ids, ({ finger: _f, string: _s, ...e }) => ({
    ...e,
    heads: sortHeads(e.heads.map(h => ({ ...h, pitch: moved(h.pitch, e.id) }))),
    ...(e.grace && { grace: e.grace.map(p => moved(p, e.id)) }),
  }))
  return possible ? { tune: next, chosen: ids.at(-1) ?? null } : unchanged(tune, ids.at(-1) ?? null)
}

/** Along the scale of the key: diatonic transposition of some notes. */
export const moveByLetters = (tune: Tune, ids: readonly string[], by: number) =>
  movePitches(tune, ids, (p, key) => byLetters(p, by, key))
export const moveByHalfSteps = (tune: Tune, ids: readonly string[], by: number) =>
  movePitches(tune, ids, (p, key) => byHalfSteps(p, by, key))
export const moveByOctaves = (tune: Tune, ids: readonly string[], by: number) =>
  movePitches(tune, ids, p =>
    p.octave + by >= 0 && p.octave + by <= 8 ? { ...p, octave: p.octave + by } : null,
  )
export const respell = (tune: Tune, ids: readonly string[]) => movePitches(tune, ids, p => respelled(p) ?? p)

/** Adds a note to a double stop, or takes it off when it is there already (never the last one). */
export function toggleHead(tune: Tune, id: string, pitch: Pitch): Edited {
  const next = mapNotes(tune, [id], e => {
    const without = e.heads.filter(h => midi(h.pitch) !== midi(pitch))
    if (without.length === 0) return e
    return { ...e, heads: without.length < e.heads.length ? without : sortHeads([...e.heads, { pitch }]) }
  })
  return { tune: next, chosen: id }
}

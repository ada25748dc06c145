/** Phrases that lie out of the hand and within it an octave away: they go there as a whole, so that their line stays what it is. */
import type { Phrase } from '#core/form/form'
import type { EventId } from '#core/music/ids'
import { isZero } from '#core/music/fraction'
import { midi, type Pitch } from '#core/music/pitch'
import { isNote, type Placed } from '#core/music/timeline'
import type { NoteEvent } from '#core/music/tune'

export interface Fold {
  readonly notes: readonly EventId[]
  /** Octaves it goes. */
  readonly by: -1 | 1
}

/** It goes for so many of its notes, so large a share of them; and for no larger leap, in half steps, where it begins and ends. */
const NOTES = 3
const SHARE = 0.25
const LEAP = 16
/** So large a share of its notes may be out of the hand there too: other notes are found for them. */
const LEFT = 0.125

/**
 * @param asking notes out of the hand
 * @param allowed pitches within it
 * @returns the phrases that are better off an octave away, down before up
 */
export function foldsOf(
  phrases: readonly Phrase[],
  asking: ReadonlySet<EventId>,
  allowed: readonly Pitch[],
): Fold[] {
  const known = new Set(allowed.map(midi))
  const lines = phrases.map(p => p.notes.filter(isNote)).filter(l => l.length > 0)
  const by = lines.map(own => octaveOf(own, own.filter(n => asking.has(n.event.id)).length, known))
  // Next to one that stays, a phrase whose leap is too large stays too; and so may its neighbour then.
  const at = (i: number, n: Placed<NoteEvent>) => height(n) + 12 * by[i]!
  const leaps = (i: number) => i >= 0 && i + 1 < lines.length && Math.abs(at(i + 1, lines[i + 1]![0]!) - at(i, lines[i]!.at(-1)!)) > LEAP // prettier-ignore
  for (let again = true; again;) {
    const far = by.findIndex((b, i) => b !== 0 && (leaps(i - 1) || leaps(i)))
    again = far >= 0
    if (again) by[far] = 0
  }
  return lines.flatMap((own, i): Fold[] => {
    const octaves = by[i]!
    if (octaves === 0) return []
    const along = by[i + 1] === 0 ? upbeatAlong(lines[i + 1]!, octaves) : []
    return [{ notes: [...own, ...along].map(n => n.event.id), by: octaves }]
  })

  /** The upbeat to a phrase that stays goes along with the one before it, when it lies out of the hand and within it an octave away. */
  function upbeatAlong(line: readonly Placed<NoteEvent>[], octaves: -1 | 1) {
    const first = line.findIndex(n => n.measure !== line[0]!.measure)
    const upbeat = isZero(line[0]!.inMeasure) ? [] : line.slice(0, Math.max(0, first))
    const goes = (n: Placed<NoteEvent>) => asking.has(n.event.id) && n.event.heads.length === 1 && known.has(height(n) + 12 * octaves) // prettier-ignore
    const near =
      upbeat.length > 0 && Math.abs(height(line[first]!) - height(upbeat.at(-1)!) - 12 * octaves) <= LEAP
    return near && upbeat.every(goes) ? upbeat : []
  }
}

/** Where it lies in the hand but for a few notes, down before up; 0 where it stays. */
function octaveOf(own: readonly Placed<NoteEvent>[], out: number, known: ReadonlySet<number>): -1 | 0 | 1 {
  if (out < NOTES || out < SHARE * own.length || own.some(n => n.event.heads.length > 1)) return 0
  const left = (octaves: number) => own.filter(n => !known.has(height(n) + 12 * octaves)).length
  return ([-1, 1] as const).find(o => out - left(o) >= NOTES && left(o) <= LEFT * own.length) ?? 0
}

const height = (n: Placed<NoteEvent>) => midi(n.event.heads.at(-1)!.pitch)

/** Phrases that lie out of the hand and within it an octave away: they go there as a whole, so that their line stays what it is. */
import type { Phrase } from '#core/form/form'
import type { EventId } from '#core/music/ids'
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
  const lines = phrases.map(p => p.notes.filter(isNote))
  const all = lines.flat()
  return lines.flatMap(own => {
    const out = own.filter(n => asking.has(n.event.id)).length
    if (out < NOTES || out < SHARE * own.length || own.some(n => n.event.heads.length > 1)) return []
    const [before, after] = [all[all.indexOf(own[0]!) - 1], all[all.indexOf(own.at(-1)!) + 1]]
    const by = ([-1, 1] as const).find(octaves => {
      const there = own.map(n => height(n) + 12 * octaves)
      const near = (n: typeof before, h: number) => !n || Math.abs(height(n) - h) <= LEAP
      const left = there.filter(h => !known.has(h)).length
      const better = out - left >= NOTES && left <= LEFT * own.length
      return better && near(before, there[0]!) && near(after, there.at(-1)!)
    })
    return by ? [{ notes: own.map(n => n.event.id), by }] : []
  })
}

const height = (n: Placed<NoteEvent>) => midi(n.event.heads.at(-1)!.pitch)

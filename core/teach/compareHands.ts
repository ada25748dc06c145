/** Two whole fingerings of one tune side by side: what each asks of the hand, and the notes that differ. */
import type { Derived } from '#core/arrangement/derive'
import { formatPitch } from '#core/music/pitch'
import { formatTempo } from '#core/music/metre'
import type { FingeredNote } from '#core/fingering/fingering'
import { tallyOf, type Tally } from '#core/fingering/tally'
import type { HandModel } from '#core/instruments/handModel'
import { ceilingsOf, firstToGive } from './ceilings'
import type { SolutionNote } from './handReport'

export interface HandFacts extends Omit<Tally, 'holdsTo'> {
  /** "1/4=112", everything that limits it counted; null when nothing does. */
  readonly holdsTo: string | null
}

export interface HandComparison {
  readonly now: HandFacts
  readonly then: HandFacts
  /** The notes of the other fingering where it differs. */
  readonly changed: readonly SolutionNote[]
}

export function handFacts(d: Derived, model: HandModel): HandFacts {
  const { problem, tables } = d.fingering
  const first = firstToGive(ceilingsOf(d.fingering, model), new Set(problem.tones.map(t => t.id)))
  return { ...tallyOf(problem, tables.path, model), holdsTo: first && formatTempo(first.tempo) }
}

/**
 * The same finger on the same string, and for a stopped note from the same hand: 4 and a reached 4 are two
 * things.
 */
const sameHand = (a: FingeredNote, b: FingeredNote) =>
  a.string === b.string && a.finger === b.finger && (a.finger === 0 || a.anchor === b.anchor)

/** @param other another arrangement of the same tune for the same instrument */
export function compareHands(own: Derived, other: Derived, model: HandModel): HandComparison {
  const now = new Map(own.fingering.notes.map(n => [n.id, n]))
  const changed = other.fingering.notes.flatMap((n): SolutionNote[] => {
    const mine = now.get(n.id)
    if (!mine || n.tiedFrom !== undefined || sameHand(mine, n)) return []
    const { id, measure, string, finger, mark, offset, anchor } = n
    return [{ id, measure, pitch: formatPitch(n.pitch), string, finger, mark, offset, anchor }]
  })
  return { now: handFacts(own, model), then: handFacts(other, model), changed }
}

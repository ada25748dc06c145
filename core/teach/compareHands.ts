/** Two whole fingerings of one tune side by side: what each asks of the hand, and the notes that differ. */
import type { Derived } from '#core/arrangement/derive'
import type { Mm } from '#core/instruments/instruments'
import { formatPitch } from '#core/music/pitch'
import { formatTempo } from '#core/music/metre'
import type { FingeredNote } from '#core/fingering/fingering'
import type { HandModel } from '#core/instruments/handModel'
import { ceilingsOf, firstToGive } from './ceilings'
import type { SolutionNote } from './handReport'

export interface HandFacts {
  readonly shifts: number
  /** How far the hand goes in all. */
  readonly way: Mm
  readonly crossings: number
  readonly open: number
  readonly fourth: number
  /** Notes reached out of the hand. */
  readonly reached: number
  /** "1/4=112"; null when nothing limits the tempo. */
  readonly holdsTo: string | null
}

export interface HandComparison {
  readonly now: HandFacts
  readonly then: HandFacts
  /** The notes of the other fingering where it differs. */
  readonly changed: readonly SolutionNote[]
}

export function handFacts(d: Derived, model: HandModel): HandFacts {
  const notes = d.fingering.notes.filter(n => n.tiedFrom === undefined)
  const count = (of: (n: (typeof notes)[number]) => boolean) => notes.filter(of).length
  const first = firstToGive(ceilingsOf(d.fingering, model), new Set(d.fingering.problem.tones.map(t => t.id)))
  return {
    shifts: d.shifts.length,
    way: Math.round(d.shifts.reduce((t, s) => t + s.mm, 0)),
    crossings: d.crossings.length,
    open: count(n => n.finger === 0),
    fourth: count(n => n.finger === 4),
    reached: count(n => n.mark === 'extended'),
    holdsTo: first && formatTempo(first.tempo),
  }
}

/** The same finger on the same string, and for a stopped note from the same hand: 4 and a reached 4 are two things. */
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

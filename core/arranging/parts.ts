/** What versions are made of: the tune with the parts it is played with. */
import { applyChanges } from '#core/arrangement/changes'
import { leavesPart, type Leaving } from '#core/arrangement/change'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { analyseForm } from '#core/form/form'
import type { Demand } from '#core/grading/demands'
import type { Tune } from '#core/music/tune'

/** A part of the tune as it is written. */
export interface PartChoice {
  /** "A"; parts of one label are told apart by where they stand. */
  readonly label: string
  /** Measures from one number to another. */
  readonly from: number
  readonly to: number
  /** Ids of its measures, and of what stands in them as it is written. */
  readonly measures: readonly string[]
  readonly events: readonly string[]
  readonly left: boolean
}

/** The parts that may be left out: none where there is but one. */
export function partChoices(tune: Tune, { played, taught }: Arrangement): PartChoice[] {
  const { boundaries, kin } = taught
  const { left } = applyChanges(tune, played.changes.filter(leavesPart))
  const parts = analyseForm(tune, { boundaries, kin, tempo: played.tempo ?? tune.tempo }).parts
  if (parts.length < 2) return []
  return parts.map(({ label, measures: [from, to], indices: [first, last] }) => {
    const own = tune.measures.slice(first, last + 1)
    const events = own.flatMap(m => m.events.map(e => e.id))
    return { label, from, to, measures: own.map(m => m.id), events, left: own.every(m => left.has(m.id)) }
  })
}

/**
 * The part in which everything that is asked too much stands; null where it is more than one, or some are
 * left out already.
 * @param origin the written events that what a change made stands for
 */
export function partThatAsks(
  parts: readonly PartChoice[],
  blocked: readonly Demand[],
  origin: Readonly<Record<string, readonly string[]>> = {},
): PartChoice | null {
  if (parts.some(p => p.left)) return null
  const notes = new Set(blocked.flatMap(d => d.notes.flatMap(n => origin[n.note] ?? [n.note])))
  const own = parts.filter(p => p.events.some(e => notes.has(e)))
  return own.length === 1 ? own[0]! : null
}

export interface Parts {
  /** Without the measures left out; the very same where none is. */
  readonly tune: Tune
  /** The arrangement without the changes that leave them out. */
  readonly base: Arrangement
  readonly leaving: readonly Leaving[]
}

export function partsPlayed(tune: Tune, recipe: Arrangement): Parts {
  const leaving = recipe.played.changes.filter(leavesPart)
  if (leaving.length === 0) return { tune, base: recipe, leaving }
  const changes = recipe.played.changes.filter(c => !leavesPart(c))
  return { tune: applyChanges(tune, leaving).tune, base: withPlayed(recipe, { changes }), leaving }
}

/** What was made of it, for the whole tune again. */
export const withLeaving = (r: Arrangement, leaving: readonly Leaving[]): Arrangement =>
  leaving.length === 0 ? r : withPlayed(r, { changes: [...leaving, ...r.played.changes] })

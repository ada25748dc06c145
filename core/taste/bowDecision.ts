/**
 * What the bow marks a teacher took, refused or set say of taste: the bowing with them, against the one with
 * everything allowed and nothing of the teacher's.
 */
import { derive, type DeriveMemory, type Derived } from '#core/arrangement/derive'
import type { DeriveContext } from '#core/arrangement/context'
import { pinned, withBow, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { MAY_ALL } from '#core/bowing/schools'
import { costOfBowing } from '#core/bowing/search'
import { bowTraits } from '#core/bowing/tasteTraits'
import { MOST_KEPT, type TasteDecision, type TastePair } from '#core/instruments/taste'
import type { EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'

/**
 * Null where the teacher said nothing of the bow, or what was said can't be had in this school. What was
 * taken just as it was proposed is told by the nearest bowing without it. One bowing more for each mark
 * taken, at most {@link MOST_KEPT}.
 */
export function bowDecisionOf(
  tune: Tune,
  recipe: Arrangement,
  { model, learner }: DeriveContext,
  id: string,
  memory: DeriveMemory,
): TasteDecision | null {
  const { pins } = recipe.played
  const joins = ownJoins(recipe)
  if (Object.keys(joins).length === 0 && !Object.values(pins.strokes).some(p => p.way)) return null
  const others = Object.fromEntries(Object.entries(pins.joins).filter(([note]) => !(note in joins)))
  const unsaid = withPlayed(recipe, { pins: { ...pins, joins: others, strokes: withoutWays(recipe) } })
  const bowed = (r: Arrangement) => derive(tune, withBow(r, { may: MAY_ALL }), { model, learner }, memory)
  const [free, own] = [bowed(unsaid), bowed(recipe)]
  const set = pairOf(free, own, free)
  if (set === 'impossible') return null
  const taken = Object.keys(joins)
    .filter(note => joins[note])
    .slice(0, MOST_KEPT)
  const kept = taken.flatMap((note): TastePair[] => {
    const pair = pairOf(free, own, bowed(pinned(recipe, 'joins', note, false)))
    return pair && pair !== 'impossible' && pair.dearer < 0 ? [pair] : []
  })
  return set || kept.length > 0 ? { id, set, kept } : null
}

/** Slurs taken and refused by the teacher; those that a version brought are not among them. */
function ownJoins({ played: { pins, eased } }: Arrangement): Readonly<Record<EventId, boolean>> {
  const brought = (note: EventId, on: boolean) => (on ? eased?.slurred : eased?.parted)?.includes(note)
  return Object.fromEntries(Object.entries(pins.joins).filter(([note, on]) => !brought(note, on)))
}

/** Directions stay: they tell of the phrase, not of taste. */
const withoutWays = ({ played }: Arrangement) =>
  Object.fromEntries(Object.entries(played.pins.strokes).map(([id, { way: _, ...pin }]) => [id, pin]))

/**
 * Both as they are found before measures are made alike, and priced as if nobody had said anything; null
 * where they differ in nothing a taste could tell.
 */
function pairOf(free: Derived, own: Derived, other: Derived): TastePair | null | 'impossible' {
  const { line } = free.bowing.searches.free
  const [a, b] = [own.bowing.searches.free.strokes, other.bowing.searches.free.strokes]
  const dearer = costOfBowing(line, a) - costOfBowing(line, b)
  if (!Number.isFinite(dearer)) return 'impossible'
  const [mine, theirs] = [bowTraits(line, a), bowTraits(line, b)]
  const more = mine.map((n, i) => Math.max(-200, Math.min(200, n - theirs[i]!)))
  const rounded = Math.max(-100, Math.min(100, Math.round(1000 * dearer) / 1000))
  return more.every(n => n === 0) ? null : { more, dearer: rounded }
}

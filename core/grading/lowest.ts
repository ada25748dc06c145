/**
 * The lowest level an arrangement can be played at: its fingers and bows found anew within each level, until
 * nothing asks for more.
 */
import type { DeriveContext } from '#core/arrangement/context'
import { derive, placesOf, type Derived, type DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { LEVELS, type Level } from '#core/levels/levels'
import type { Tune } from '#core/music/tune'
import { lowestHand } from '#core/fingering/limits'
import { SKILLS } from './catalogue'
import { gradeOf, type Grade, type LevelTable } from './demands'

export interface Graded {
  readonly level: Level
  readonly grade: Grade
  readonly derived: Derived
  /** The recipe it was fingered by: its level is the one found. */
  readonly recipe: Arrangement
  /** Notes that are off the instrument, at any level. */
  readonly unplayable: number
}

/**
 * A level set in the recipe is taken as it is. Else the hand is asked to stay within a level, from the lowest
 * that has a place for every note; where that asks for more than its level, the next is tried, from the
 * lowest that rhythm and reading allow. What no level holds comes out as 8, with the notes that are off the
 * instrument counted. Nothing above `atMost` is looked for.
 */
export function lowestLevel(
  tune: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
  table: LevelTable = {},
  atMost: Level = 8,
): Graded {
  const at = (level: Level): Graded => {
    const own = withPlayed(recipe, { level })
    const derived = derive(tune, own, context, memory)
    const grade = gradeOf(derived, own, table)
    const unplayable = derived.findings.filter(f => f.severity === 'error').length
    return { level: grade.level, grade, derived, recipe: own, unplayable }
  }
  if (recipe.played.level !== null) return at(recipe.played.level)
  const hand = lowestHand(placesOf(tune, recipe, context, memory).states, recipe.played.instrument)
  let best = at(hand)
  // Of two at one level the hand that stays within the lower one is taken.
  const from = Math.max(hand + 1, lowestBound(best.grade))
  for (const level of LEVELS.slice(from - 1)) {
    if (level >= best.level || level > atMost) break
    const tried = at(level)
    if (tried.level < best.level) best = tried
  }
  return best
}

/** The level of what no other fingering changes: rhythm, reading, ornaments. */
export function lowestBound({ demands }: Grade): Level {
  const fixed = demands.filter(d =>
    d.asked.kind === 'limit'
      ? d.asked.limit === 'fastest' || d.asked.limit === 'leap'
      : FIXED.has(d.asked.skill),
  )
  return fixed.reduce<Level>((most, d) => (d.level > most ? d.level : most), 1)
}

const FIXED = new Set(SKILLS.filter(s => ['rhythm', 'ornament', 'reading'].includes(s.domain)).map(s => s.id))

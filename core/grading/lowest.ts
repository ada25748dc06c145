/** The lowest level an arrangement can be played at: its fingers and bows found anew within each level, until nothing asks for more. */
import type { DeriveContext } from '#core/arrangement/context'
import { derive, type Derived, type DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Level } from '#core/levels/levels'
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

const ALL: readonly Level[] = [1, 2, 3, 4, 5, 6, 7, 8]

/**
 * A level set in the recipe is taken as it is. Else the hand is asked to stay within a level, from the lowest that rhythm, bow and reading allow; where it can't,
 * the next is tried. What no level holds comes out as 8, with the notes that are off the instrument counted.
 */
export function lowestLevel(
  tune: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
  table: LevelTable = {},
): Graded {
  const at = (level: Level | null): Graded => {
    const own = withPlayed(recipe, { level })
    const derived = derive(tune, own, context, memory)
    const grade = gradeOf(derived, own, table)
    const unplayable = derived.findings.filter(f => f.severity === 'error').length
    return { level: grade.level, grade, derived, recipe: own, unplayable }
  }
  if (recipe.played.level !== null) return at(recipe.played.level)
  const free = at(null)
  let best = free
  const hand = lowestHand(free.derived.fingering.problem.states, recipe.played.instrument)
  for (const level of ALL.slice(Math.max(lowestBound(free), hand) - 1)) {
    if (level >= best.level) break
    const tried = at(level)
    if (tried.unplayable > free.unplayable) continue
    // Of two at one level the hand that stays within the lower one is taken.
    if (tried.level < best.level || (tried.level === best.level && best === free)) best = tried
    if (tried.grade.level <= level) break
  }
  return best
}

/** What no other fingering changes: rhythm, reading, ornaments. */
function lowestBound({ grade }: Graded): Level {
  const fixed = grade.demands.filter(d => d.asked.kind === 'limit' ? d.asked.limit === 'fastest' || d.asked.limit === 'leap' : FIXED.has(d.asked.skill)) // prettier-ignore
  return fixed.reduce<Level>((most, d) => (d.level > most ? d.level : most), 1)
}

const FIXED = new Set(SKILLS.filter(s => ['rhythm', 'ornament', 'reading'].includes(s.domain)).map(s => s.id))

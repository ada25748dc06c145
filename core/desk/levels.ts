/** What a part asks for, what a tune asks of a learner, and how it lies in other keys. */
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import type { DeriveContext } from '#core/arrangement/context'
import { DeriveMemory } from '#core/arrangement/derive'
import { forLearner, withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { keptOf } from '#core/arranging/kept'
import { partChoices, partsPlayed } from '#core/arranging/parts'
import { gradeOf, type LevelTable } from '#core/grading/demands'
import { fitOf, isWithinReach } from '#core/grading/fit'
import type { KeyQuestion, KeyRow } from '#core/grading/keyRows'
import { tryKey as tried } from '#core/grading/keySearch'
import { lowestLevel } from '#core/grading/lowest'
import type { Learner } from '#core/instruments/learner'
import type { Tune } from '#core/music/tune'
import type { Memories } from './memories'
import type { PartDocuments } from './part'
import type { GradeView, ReachView } from './views'

/** What the part asks for, and its level. */
export function grade(memories: Memories, part: PartDocuments, table: LevelTable): GradeView {
  const { tune, recipe } = part
  const d = memories.derived(part)
  const changes = playedChanges(recipe.played)
  const kept = changes.some(c => c.accepted)
    ? keptOf(partsPlayed(tune, recipe).tune, applyChanges(tune, changes).tune, d.tempo)
    : null
  return { grade: gradeOf(d, recipe, table), kept, parts: partChoices(tune, recipe) }
}

/** The tune of a part in one key on one instrument, a row for each tuning it fits. */
export function tryKey(
  memories: Memories,
  { tune, context }: PartDocuments,
  question: KeyQuestion,
  table: LevelTable,
): readonly KeyRow[] {
  const { instrument, key } = question
  const search = { instruments: [instrument], keys: [key], tunings: 'all' as const, table }
  return tried(tune, question, search, context, memories.searches)
}

/** A tune as it is written, for a learner. */
export function reach(tune: Tune, learner: Learner, context: DeriveContext, table: LevelTable): ReachView {
  const base = forLearner(newArrangement(learner.instrument, learner.size), learner)
  const graded = lowestLevel(tune, withPlayed(base, { level: null }), context, new DeriveMemory(), table)
  const fit = fitOf(graded.grade.demands, learner)
  const news = fit.news.flatMap(d => (d.asked.kind === 'skill' ? [d.asked.skill] : []))
  return { within: graded.unplayable === 0 && isWithinReach(fit), level: graded.level, news }
}

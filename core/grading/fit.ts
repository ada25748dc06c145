/** An arrangement held against what one learner knows: what is new, what comes first, what is beyond it. */
import type { Learner, SkillState } from '#core/instruments/learner'
import { isSkill, skillOf, type SkillId } from './catalogue'
import type { Level } from '#core/levels/levels'
import type { Demand, LevelTable } from './demands'
import { LIMITS } from './limits'

export const stateOf = (learner: Learner, skill: SkillId): SkillState => {
  const said = learner.skills[skill]
  if (said) return said
  const level = skillOf(skill).levels[learner.instrument]
  return level !== undefined && level <= learner.level ? 'known' : 'notYet'
}

/**
 * The ladder as one learner stands on it: what they know or are learning is asked no higher than they are,
 * what they do not know yet lies above them. A version made by it holds nothing a teacher said is not yet
 * known.
 */
export function tableFor(learner: Learner, table: LevelTable): LevelTable {
  const out: Record<string, Level> = { ...table }
  for (const [skill, state] of Object.entries(learner.skills)) {
    if (!isSkill(skill)) continue
    const level = table[skill] ?? skillOf(skill).levels[learner.instrument]
    if (level === undefined) continue
    out[skill] =
      state === 'notYet'
        ? (Math.max(level, Math.min(8, learner.level + 1)) as Level)
        : (Math.min(level, learner.level) as Level)
  }
  return out
}

/**
 * Whether a demand asks for more than a level.
 * @param fastest notes a second a learner was found to manage: it counts instead of what the level bears;
 * null where nobody tried
 */
export function isAbove(d: Demand, level: Level, fastest: number | null): boolean {
  if (d.asked.kind === 'skill') return d.level > level
  const { limit, amount } = d.asked
  const most =
    limit === 'fastest' && fastest !== null ? fastest : LIMITS.find(l => l.id === limit)!.most[level - 1]!
  return amount > most + 1e-9
}

export interface NotYet {
  readonly skill: SkillId
  /** Skills that come before it and are not known either. */
  readonly first: readonly SkillId[]
}

export interface Fit {
  /** Asked for and not known yet, the most notes last. */
  readonly news: readonly Demand[]
  readonly learning: readonly Demand[]
  /** More, faster or wider than the learner's level bears. */
  readonly beyond: readonly Demand[]
  /** New skills whose own ground is missing. */
  readonly notYet: readonly NotYet[]
}

/** More new things at once than this is said. */
export const MOST_NEW = 2

export function fitOf(demands: readonly Demand[], learner: Learner): Fit {
  const of = (state: SkillState) =>
    demands.filter(d => d.asked.kind === 'skill' && stateOf(learner, d.asked.skill) === state)
  const news = of('notYet').toSorted((a, b) => a.notes.length - b.notes.length)
  const beyond = demands.filter(d => d.asked.kind === 'limit' && isAbove(d, learner.level, learner.fastest))
  const notYet = news.flatMap(d => {
    if (d.asked.kind !== 'skill') return []
    const { skill } = d.asked
    const first = skillOf(skill).after.filter(s => belongs(s, learner) && stateOf(learner, s) === 'notYet')
    return first.length > 0 ? [{ skill, first }] : []
  })
  return { news, learning: of('learning'), beyond, notYet }
}

const belongs = (skill: SkillId, { instrument }: Learner) => skillOf(skill).levels[instrument] !== undefined

/** Nothing beyond the learner, and no more new things than one tune can teach. */
export const isWithinReach = (f: Fit) =>
  f.news.length <= MOST_NEW && f.beyond.length === 0 && f.notYet.length === 0

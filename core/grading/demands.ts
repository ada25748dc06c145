/**
 * What an arrangement asks for, skill by skill with the notes that ask, and the level that holds all of it.
 */
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Level } from '#core/levels/levels'
import type { InstrumentId } from '#core/music/tune'
import { skillOf, SKILLS, type SkillId } from './catalogue'
import { factsOf, type Facts, type NoteRef } from './facts'
import { levelFor, LIMITS, type Limit } from './limits'

/** A studio's own order: skills moved to another level. */
export type LevelTable = Readonly<Record<string, Level>>

export type Asked =
  | { readonly kind: 'skill'; readonly skill: SkillId }
  | { readonly kind: 'limit'; readonly limit: Limit['id']; readonly amount: number }

export interface Demand {
  readonly asked: Asked
  readonly level: Level
  /** Each note once, in order. */
  readonly notes: readonly NoteRef[]
}

export interface Grade {
  readonly level: Level
  /** By level, the highest first. */
  readonly demands: readonly Demand[]
  /**
   * The level it would be but for a few notes: those that ask for more; null when nothing so small stands in
   * the way.
   */
  readonly butFor: { readonly level: Level; readonly demands: readonly Demand[] } | null
}

export function gradeOf(d: Derived, recipe: Arrangement, table: LevelTable = {}): Grade {
  const demands = demandsOf(factsOf(d, recipe), table)
  const level = levelOf(demands)
  return { level, demands, butFor: butFor(demands, level, d.fingering.notes.length) }
}

/**
 * The level a skill belongs to on an instrument, by a studio's order; undefined where the instrument has no
 * such skill.
 */
export function skillLevel(id: SkillId, instrument: InstrumentId, table: LevelTable = {}): Level | undefined {
  const plainly = skillOf(id).levels[instrument]
  return plainly && (table[id] ?? plainly)
}

/** Asked by the tune as a whole: no place of it more than another. */
export const isOfTune = ({ asked }: Pick<Demand, 'asked'>): boolean =>
  asked.kind === 'skill' && skillOf(asked.skill).ofTune === true

export function demandsOf(f: Facts, table: LevelTable = {}): Demand[] {
  const out: Demand[] = []
  for (const skill of SKILLS) {
    const level = skillLevel(skill.id, f.instrument, table)
    if (level === undefined) continue
    const notes = once(skill.asks(f))
    if (notes.length > 0) out.push({ asked: { kind: 'skill', skill: skill.id }, level, notes })
  }
  for (const limit of LIMITS) out.push(...limitDemands(f, limit))
  return out.sort((a, b) => b.level - a.level)
}

/** A limit asks once a level: the notes that need it, and the most any of them asks. */
function limitDemands(f: Facts, limit: Limit): Demand[] {
  const byLevel = new Map<Level, (NoteRef & { amount: number })[]>()
  for (const ask of limit.asks(f)) {
    const level = levelFor(limit, ask.amount)
    const known = byLevel.get(level)
    if (known) known.push(ask)
    else if (level > 1) byLevel.set(level, [ask])
  }
  return [...byLevel].map(([level, notes]) => ({
    asked: { kind: 'limit', limit: limit.id, amount: Math.max(...notes.map(n => n.amount)) },
    level,
    notes: once(notes),
  }))
}

const once = (notes: readonly NoteRef[]): NoteRef[] => [
  ...new Map(notes.map(n => [n.note, { note: n.note, measure: n.measure }])).values(),
]

const levelOf = (demands: readonly Demand[]): Level =>
  demands.reduce<Level>((most, d) => (d.level > most ? d.level : most), 1)

/** So many notes in a hundred are a few. */
const FEW = 0.04

function butFor(demands: readonly Demand[], level: Level, notes: number): Grade['butFor'] {
  const few = Math.max(1, Math.round(FEW * notes))
  const asking = new Set<string>()
  let found: Grade['butFor'] = null
  // Downwards: the lower the level, the more notes ask for more.
  for (let below = (level - 1) as Level; below >= 1; below = (below - 1) as Level) {
    for (const d of demands) if (d.level === below + 1) for (const n of d.notes) asking.add(n.note)
    if (asking.size > few) break
    found = { level: below, demands: demands.filter(d => d.level > below) }
  }
  return found
}

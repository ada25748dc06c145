/** Every skill there is, as data. */
import { BOW } from './skills/bow'
import { LEFT_HAND } from './skills/leftHand'
import { ORNAMENT } from './skills/ornament'
import { READING } from './skills/reading'
import { RHYTHM } from './skills/rhythm'
import { TWO_STRINGS } from './skills/twoStrings'
import type { SkillRow } from './skill'

const ROWS = [...LEFT_HAND, ...TWO_STRINGS, ...BOW, ...RHYTHM, ...ORNAMENT, ...READING]

export type SkillId = (typeof ROWS)[number]['id']
type Before = (typeof ROWS)[number]['after'][number]

/** Every skill; one that comes "after" a skill there is not does not compile. */
export const SKILLS: readonly SkillRow<SkillId, SkillId>[] = ROWS satisfies readonly {
  readonly after: readonly (Before & SkillId)[]
}[]

const byId: ReadonlyMap<string, SkillRow<SkillId, SkillId>> = new Map(SKILLS.map(s => [s.id, s]))
export const isSkill = (id: string): id is SkillId => byId.has(id)
/** A skill by its id. */
export const skillOf = (id: SkillId) => byId.get(id)!
/** A skill by an id from outside: from what is stored, or typed. */
export const skillById = (id: string) => byId.get(id)

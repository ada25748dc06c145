/** Every skill there is, as data. */
import { BOW } from './skills/bow'
import { LEFT_HAND } from './skills/leftHand'
import { ORNAMENT } from './skills/ornament'
import { READING } from './skills/reading'
import { RHYTHM } from './skills/rhythm'
import { TWO_STRINGS } from './skills/twoStrings'
import type { Skill } from './skill'

export const SKILLS: readonly Skill[] = [
  ...LEFT_HAND,
  ...TWO_STRINGS,
  ...BOW,
  ...RHYTHM,
  ...ORNAMENT,
  ...READING,
]
export const skillById = new Map(SKILLS.map(s => [s.id, s]))

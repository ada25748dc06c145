/**
 * A learner, as little as is needed: a name or initials, what is played on, the reach, and what is known. It
 * stays with the studio: backups hold none of it.
 */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { LEVELS } from './level'

/** What a learner is to a skill; what is not said follows from the level. */
export const SKILL_STATES = ['known', 'learning', 'notYet'] as const
export type SkillState = (typeof SKILL_STATES)[number]

export const learnerSchema = z
  .strictObject({
    id: z.string().min(1).max(60),
    name: text(60).min(1),
    instrument: z.enum(INSTRUMENT_IDS),
    size: z.string().max(20),
    /**
     * From the tip of the first finger to the tip of the fourth, opened without strain, in mm; null where
     * nobody measured it.
     */
    span: z.number().min(20).max(260).nullable(),
    /** What this level has is known, but for what is said of single skills. */
    level: z.literal(LEVELS),
    skills: z.record(z.string().regex(/^[a-zA-Z0-9]{1,30}$/), z.enum(SKILL_STATES)),
    /** Notes a second that are played at ease; null follows the level. */
    fastest: z.number().min(0.5).max(20).nullable(),
    notes: text(4000),
  })
  .readonly()
export type Learner = z.infer<typeof learnerSchema>

export const newLearner = (
  id: string,
  name: string,
  instrument: Learner['instrument'],
  size: string,
): Learner => ({
  id,
  name,
  instrument,
  size,
  span: null,
  level: 1,
  skills: {},
  fastest: null,
  notes: '',
})

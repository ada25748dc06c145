/** What a studio's teacher decided, as far as it tells of taste: kept in the studio's document, forgotten at a word. */
import { z } from 'zod'

/** What a taste of fingers is told in: each time of it may cost a teacher a little more, or less, than our weights say. */
export const TRAITS = ['openQuick', 'openLong', 'away', 'shift', 'crossingSlurred', 'crossing', 'reach', 'slide'] as const // prettier-ignore
export type Trait = (typeof TRAITS)[number]
export const handTasteSchema = z.partialRecord(z.enum(TRAITS), z.number().min(-1).max(1)).readonly()
/** By trait, in the unit of the weights of the hand; what is not there is as we have it. */
export type HandTaste = z.infer<typeof handTasteSchema>

/** The latest so many are kept. */
export const MOST_DECISIONS = 120

/** Two ways through a line, the chosen one and another. */
const pairSchema = z
  .strictObject({
    /** How many more of each trait the chosen one has, in the order of the traits. */
    more: z.array(z.int().min(-200).max(200)).length(TRAITS.length).readonly(),
    /** What it costs more by our own weights. */
    dearer: z.number().min(-100).max(100),
  })
  .readonly()
export type TastePair = z.infer<typeof pairSchema>
/** So many of what was left as it was are kept beside a decision. */
export const MOST_KEPT = 12

const decisionSchema = z
  .strictObject({
    /** Tune and arrangement: the last word on it counts. */
    id: z.string().min(1).max(200),
    /** The line with all the fingers the teacher set, against the one with none of them; null where that tells of nothing. */
    set: pairSchema.nullable(),
    /** What was left as it was around it, against what would have been nearest. */
    kept: z.array(pairSchema).max(MOST_KEPT).readonly(),
  })
  .readonly()
export type TasteDecision = z.infer<typeof decisionSchema>

export const tasteSchema = z
  .strictObject({
    decisions: z.array(decisionSchema).max(MOST_DECISIONS).readonly(),
    off: z.array(z.enum(TRAITS)).max(TRAITS.length).readonly(),
    /** What was learned of them. */
    learned: handTasteSchema,
  })
  .readonly()
export type TasteDocument = z.infer<typeof tasteSchema>
export const NO_TASTE: TasteDocument = { decisions: [], off: [], learned: {} }

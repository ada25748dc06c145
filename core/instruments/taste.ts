/**
 * What a studio's teacher decided, as far as it tells of taste: kept in the studio's document, forgotten at a
 * word.
 */
import { z } from 'zod'

/**
 * What a taste of fingers is told in: each time of it may cost a teacher a little more, or less, than our
 * weights say.
 */
export const TRAITS = [
  'openQuick',
  'openLong',
  'away',
  'shift',
  'crossingSlurred',
  'crossing',
  'reach',
  'slide',
] as const
export type Trait = (typeof TRAITS)[number]
export const handTasteSchema = z.partialRecord(z.enum(TRAITS), z.number().min(-1).max(1)).readonly()
/** By trait, in the unit of the weights of the hand; what is not there is as we have it. */
export type HandTaste = z.infer<typeof handTasteSchema>

/** What a taste of the bow is told in: marks that are not written, and written slurs that are parted. */
export const BOW_TRAITS = ['slur', 'hook', 'lift', 'part'] as const
export type BowTrait = (typeof BOW_TRAITS)[number]
export const bowTasteSchema = z.partialRecord(z.enum(BOW_TRAITS), z.number().min(-2).max(2)).readonly()
/** By trait, in the unit of the weights of the bow. */
export type BowTaste = z.infer<typeof bowTasteSchema>

/** The latest so many are kept. */
export const MOST_DECISIONS = 120
/** So many of what was left as it was are kept beside a decision. */
export const MOST_KEPT = 12

/** Two ways through a line, the chosen one and another. */
const pairOf = (traits: number) =>
  z
    .strictObject({
      /** How many more of each trait the chosen one has, in the order of the traits. */
      more: z.array(z.int().min(-200).max(200)).length(traits).readonly(),
      /** What it costs more by our own weights. */
      dearer: z.number().min(-100).max(100),
    })
    .readonly()
export type TastePair = z.infer<ReturnType<typeof pairOf>>

const decisionOf = (traits: number) =>
  z
    .strictObject({
      /** Tune and arrangement: the last word on it counts. */
      id: z.string().min(1).max(200),
      /**
       * The line as the teacher set it, against the one with nothing of the teacher's; null where that tells
       * of nothing.
       */
      set: pairOf(traits).nullable(),
      /** What was left as it was around it, against what would have been nearest. */
      kept: z.array(pairOf(traits)).max(MOST_KEPT).readonly(),
    })
    .readonly()
export type TasteDecision = z.infer<ReturnType<typeof decisionOf>>

/** What was decided, which traits are switched off, and what was learned. */
export interface TasteOf<T extends string> {
  readonly decisions: readonly TasteDecision[]
  readonly off: readonly T[]
  readonly learned: Readonly<Partial<Record<T, number>>>
}

export const tasteSchema = z
  .strictObject({
    decisions: z.array(decisionOf(TRAITS.length)).max(MOST_DECISIONS).readonly(),
    off: z.array(z.enum(TRAITS)).max(TRAITS.length).readonly(),
    learned: handTasteSchema,
  })
  .readonly()
export type TasteDocument = z.infer<typeof tasteSchema>

export const bowTasteDocumentSchema = z
  .strictObject({
    decisions: z.array(decisionOf(BOW_TRAITS.length)).max(MOST_DECISIONS).readonly(),
    off: z.array(z.enum(BOW_TRAITS)).max(BOW_TRAITS.length).readonly(),
    learned: bowTasteSchema,
  })
  .readonly()
export type BowTasteDocument = z.infer<typeof bowTasteDocumentSchema>

export const NO_TASTE = { decisions: [], off: [], learned: {} } as const

/** What a recipe says of the bow beside its school and its pins. */
import { z } from 'zod'
import { PART_NAMES } from '#core/bowing/pins'
import { LONGEST_PATTERN } from '#core/bowing/pattern'
import { habitsSchema, NO_HABITS } from '#core/bowing/habits'
import { BOW_SCHOOLS, MAY_NOTHING, maySchema } from '#core/bowing/schools'
import { fractionSchema } from '#core/music/fraction'

const id = z.string().min(1).max(60)

/**
 * How many units share each bow, over and over; the unit in quarters, and how many units after the barline it
 * begins.
 */
export const grooveSchema = z
  .strictObject({
    pattern: z
      .array(z.int().min(1).max(16))
      .min(1)
      .max(LONGEST_PATTERN)
      .readonly()
      .refine(p => p.reduce((a, b) => a + b, 0) <= LONGEST_PATTERN, 'spans too many units'),
    unit: fractionSchema.refine(f => f.n > 0, 'a unit has a length'),
    offset: z.int().min(0).max(LONGEST_PATTERN),
  })
  .readonly()

/** From one event to another, both included: another school, or a part of the bow. */
export const bowPassageSchema = z
  .strictObject({
    from: id,
    to: id,
    school: z.enum(BOW_SCHOOLS).optional(),
    groove: grooveSchema.optional(),
    part: z.enum(PART_NAMES).optional(),
  })
  .readonly()

export const bowSchema = z
  .strictObject({
    /** What may be added to the written marks. */
    may: maySchema,
    /** How dotted pairs and triplets are bowed unasked. */
    habits: habitsSchema,
    groove: grooveSchema.nullable(),
    /** Stretches of their own; the later ones count where they meet. */
    passages: z.array(bowPassageSchema).max(200).readonly(),
  })
  .readonly()

export type BowRecipe = z.infer<typeof bowSchema>
export type BowPassage = z.infer<typeof bowPassageSchema>
export type GrooveRecipe = z.infer<typeof grooveSchema>

export const DEFAULT_BOW: BowRecipe = { may: MAY_NOTHING, habits: NO_HABITS, groove: null, passages: [] }

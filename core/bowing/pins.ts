/** What a teacher says of one stroke, by the event it begins with. */
import { z } from 'zod'

export const PART_NAMES = ['frog', 'lower', 'middle', 'upper', 'tip', 'whole'] as const

export const strokePinSchema = z
  .strictObject({
    direction: z.enum(['down', 'up']).optional(),
    /** A hooked bow; or the bow set anew; or a plain turn. */
    way: z.enum(['hook', 'lift', 'turn']).optional(),
    /** Where it begins: 0 the frog, 1 the tip. */
    at: z.number().min(0).max(1).optional(),
    part: z.enum(PART_NAMES).optional(),
  })
  .readonly()
export type StrokePin = z.infer<typeof strokePinSchema>
export type PartName = (typeof PART_NAMES)[number]

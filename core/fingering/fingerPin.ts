import { z } from 'zod'

/**
 * What a teacher has fixed at a note: a string (0 is the highest), a finger, the place of the hand (semitones
 * of the first finger above the nut).
 */
export const fingerPinSchema = z
  .strictObject({
    string: z.int().min(0).max(4).optional(),
    finger: z.literal([0, 1, 2, 3, 4, 'T']).optional(),
    anchor: z.int().min(1).max(24).optional(),
  })
  .readonly()
export type FingerPin = z.infer<typeof fingerPinSchema>
/** By note id. */
export type FingerPins = Readonly<Record<string, FingerPin>>

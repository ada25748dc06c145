import { z } from 'zod'

/** A rule for a stretch of the tune: from one event to another, both included. */
export const passageRuleSchema = z
  .strictObject({
    from: z.string().min(1).max(60),
    to: z.string().min(1).max(60),
    rule: z.discriminatedUnion('kind', [
      /** Stay on this string; 0 is the highest. */
      z.strictObject({ kind: z.literal('string'), string: z.int().min(0).max(4) }),
      z.strictObject({ kind: z.literal('noOpen') }),
      z.strictObject({ kind: z.literal('noFourth') }),
      /**
       * The hand stays where it is: at this anchor (semitones above the open string), or where it lies best.
       */
      z.strictObject({ kind: z.literal('position'), anchor: z.int().min(1).max(21).nullable() }),
      /** Violin and viola: this phrase rather in first position, or kept in one position. */
      z.strictObject({ kind: z.literal('places'), school: z.enum(['home', 'position']) }),
      z.strictObject({ kind: z.literal('sound'), sound: z.enum(['clear', 'round', 'ringing', 'covered']) }),
    ]),
  })
  .readonly()
export type PassageRule = z.infer<typeof passageRuleSchema>

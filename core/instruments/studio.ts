/** What a studio knows of its own instruments and learners' hands: one document, for every tune. */
import { z } from 'zod'
import { versioned } from '#core/documents/versioned'
import { HAND_MODEL, handModelSchema } from '#core/instruments/handModel'
import { INSTRUMENT_IDS } from '#core/music/tune'

export const STUDIO_VERSION = 1

/** A learner's measured hand. Initials or a first name are enough: the least possible is kept. */
export const handRecordSchema = z
  .strictObject({
    id: z.string().min(1).max(60),
    name: z.string().min(1).max(60),
    instrument: z.enum(INSTRUMENT_IDS),
    size: z.string().max(20),
    /** From the tip of the first finger to the tip of the fourth, opened without strain, in mm. */
    span: z.number().min(20).max(260),
  })
  .readonly()
export type HandRecord = z.infer<typeof handRecordSchema>

const byInstrument = <T extends z.ZodType>(of: T) => z.partialRecord(z.enum(INSTRUMENT_IDS), of).default({})

const schema = z
  .strictObject({
    version: z.literal(STUDIO_VERSION),
    /** Tension of each home string in newtons, highest string first; null where nobody entered it. */
    tensions: byInstrument(z.array(z.number().min(5).max(600).nullable()).max(5).readonly()),
    /** Colours of the tapes that are really on the instruments, by semitones above the open string. */
    tapes: byInstrument(z.record(z.string().regex(/^\d{1,2}$/), z.string().regex(/^#[0-9a-f]{6}$/i))),
    hands: z.array(handRecordSchema).max(500).readonly().default([]),
    handModel: handModelSchema.default(HAND_MODEL),
  })
  .readonly()
export const studioSchema = versioned(schema, [])
export type Studio = z.infer<typeof studioSchema>

export const newStudio = (): Studio => studioSchema.parse({ version: STUDIO_VERSION })

/** The contract between client and server: paths, bodies and errors. Both sides check with these schemas. */
import { z } from 'zod'
import { arrangementSchema } from '#core/arrangement/recipe'
import { INSTRUMENT_IDS, keySchema, metreSchema, tuneSchema } from '#core/music/tune'

export const API = '/api/v1'
/** Largest request body, bytes. */
export const BODY_LIMIT = 4 * 1024 * 1024

export const paths = {
  health: `${API}/health`,
  tunes: `${API}/tunes`,
  tune: (id: string) => `${API}/tunes/${encodeURIComponent(id)}`,
  restoreTune: (id: string) => `${API}/tunes/${encodeURIComponent(id)}/restore`,
  arrangements: (tuneId: string) => `${API}/tunes/${encodeURIComponent(tuneId)}/arrangements`,
  arrangement: (id: string) => `${API}/arrangements/${encodeURIComponent(id)}`,
  backup: `${API}/backup`,
} as const

const id = z.string().min(1).max(60)
const version = z.int().min(1)
const source = z.string().max(2_000_000).nullable()

export const arrangementRecordSchema = z.object({ id, tuneId: id, version, arrangement: arrangementSchema })
export const tuneRecordSchema = z.object({
  id,
  version,
  source,
  tune: tuneSchema,
  updatedAt: z.iso.datetime(),
})
export const tuneWithArrangementsSchema = tuneRecordSchema.extend({
  arrangements: z.array(arrangementRecordSchema),
})

export const tuneListSchema = z.object({
  tunes: z.array(
    z.object({
      id,
      title: z.string(),
      kind: z.string(),
      key: keySchema,
      metre: metreSchema,
      measures: z.int(),
      updatedAt: z.iso.datetime(),
      instruments: z.array(z.enum(INSTRUMENT_IDS)),
    }),
  ),
})

export const createTuneSchema = z.object({ source, tune: tuneSchema, arrangement: arrangementSchema })
export const saveTuneSchema = z.object({ version, source, tune: tuneSchema })
export const createArrangementSchema = z.object({ arrangement: arrangementSchema })
export const saveArrangementSchema = z.object({ version, arrangement: arrangementSchema })
export const savedSchema = z.object({ version })
export const healthSchema = z.object({ ok: z.literal(true), version: z.string() })

export const ERROR_CODES = [
  'badRequest',
  'notFound',
  'conflict',
  'tooLarge',
  'forbidden',
  'internal',
] as const
export const errorSchema = z.object({
  error: z.object({
    code: z.enum(ERROR_CODES),
    message: z.string(),
    /** The field or place at fault, "" when there is none. */
    where: z.string(),
  }),
})
/** A stale save: what is stored now comes with the refusal; the caller still has its own. */
export const conflictSchema = errorSchema.extend({
  current: z.union([tuneRecordSchema, arrangementRecordSchema]),
})

export type TuneList = z.infer<typeof tuneListSchema>
export type TuneListItem = TuneList['tunes'][number]
export type TuneRecord = z.infer<typeof tuneRecordSchema>
export type TuneWithArrangements = z.infer<typeof tuneWithArrangementsSchema>
export type ArrangementRecord = z.infer<typeof arrangementRecordSchema>
export type ApiErrorCode = (typeof ERROR_CODES)[number]

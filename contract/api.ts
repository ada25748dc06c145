/** The contract between client and server: paths, bodies and errors. Both sides check with these schemas. */
import { z } from 'zod'
import { RELATIONS } from '#core/form/kinship'
import { arrangementSchema } from '#core/arrangement/recipe'
import { studioSchema } from '#core/instruments/studio'
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
  shelf: (query: Readonly<Record<string, string | number | undefined>>) => {
    const given = Object.entries(query).filter(([, v]) => v !== undefined && v !== '')
    return `${API}/tunes?${new URLSearchParams(given.map(([k, v]) => [k, String(v)]))}`
  },
  importTunes: `${API}/tunes/import`,
  alike: `${API}/tunes/alike`,
  duplicates: `${API}/tunes/duplicates`,
  versions: (tuneId: string) => `${API}/tunes/${encodeURIComponent(tuneId)}/versions`,
  kin: (tuneId: string) => `${API}/tunes/${encodeURIComponent(tuneId)}/kin`,
  studio: `${API}/studio`,
  version: (id: string) => `${API}/versions/${encodeURIComponent(id)}`,
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

/** What the shelf shows of a tune. */
export const tuneItemSchema = z.object({
  id,
  title: z.string(),
  otherTitles: z.array(z.string()),
  composer: z.string(),
  kind: z.string(),
  key: keySchema,
  metre: metreSchema,
  measures: z.int(),
  tags: z.array(z.string()),
  rights: z.string(),
  /** Settings of one tune carry the same mark. */
  settings: z.string().nullable(),
  updatedAt: z.iso.datetime(),
  instruments: z.array(z.enum(INSTRUMENT_IDS)),
  /** Levels its arrangements are made for. */
  levels: z.array(z.int()),
  crossTuned: z.boolean(),
})
export const SORTS = ['title', 'changed', 'kind', 'key', 'measures', 'composer'] as const
/** What is asked of the shelf; everything that is given must fit. */
export const shelfQuerySchema = z.object({
  search: z.string().max(200).optional(),
  kind: z.string().max(80).optional(),
  key: z.string().max(40).optional(),
  metre: z.string().max(10).optional(),
  instrument: z.enum(INSTRUMENT_IDS).optional(),
  level: z.coerce.number().int().min(1).max(8).optional(),
  tuning: z.enum(['home', 'cross']).optional(),
  tag: z.string().max(60).optional(),
  settings: z.string().max(60).optional(),
  sort: z.enum(SORTS).default('title'),
  order: z.enum(['up', 'down']).default('up'),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(200),
})
const facet = z.array(z.object({ value: z.string(), count: z.int() }))
export const tuneListSchema = z.object({
  tunes: z.array(tuneItemSchema),
  /** How many fit, of which `tunes` is a part; and how many there are in all. */
  total: z.int(),
  shelf: z.int(),
  /** Values there are on the shelf, for the filters. */
  facets: z.object({ kind: facet, key: facet, metre: facet, instrument: facet, level: facet, tag: facet }),
})

/** The studio's own document, saved with the version it was read at. */
export const studioRecordSchema = z.object({ version, studio: studioSchema })
export type StudioRecord = z.infer<typeof studioRecordSchema>

export const IMPORT_LIMIT = 100
export const importSchema = z.object({
  tunes: z
    .array(z.object({ source, tune: tuneSchema, arrangement: arrangementSchema }))
    .min(1)
    .max(IMPORT_LIMIT),
})
export const importedSchema = z.object({ ids: z.array(id) })
const printSchema = z.array(z.int().min(0)).max(400)
export const alikeRequestSchema = z.object({ prints: z.array(printSchema).max(2000) })
const alike = z.object({ id, title: z.string(), likeness: z.number() })
export const alikeSchema = z.object({ alike: z.array(z.array(alike)) })
/** The teacher's boundaries in the tune, which phrases are found by. */
export const kinRequestSchema = z.object({ boundaries: z.record(z.string().max(60), z.boolean()) })
const shelfKin = z.object({
  phrase: z.string(),
  start: id,
  of: z.string(),
  relation: z.enum(RELATIONS),
  differences: z.int(),
  moved: z.object({ steps: z.int(), semitones: z.int(), exact: z.boolean() }).optional(),
})
export const kinSchema = z.object({
  tunes: z.array(z.object({ id, title: z.string(), kin: z.array(shelfKin) })),
})
export type TuneKin = z.infer<typeof kinSchema>['tunes'][number]
export const duplicatesSchema = z.object({
  pairs: z.array(z.object({ a: tuneItemSchema, b: tuneItemSchema, likeness: z.number() })),
})

export const versionItemSchema = z.object({
  id,
  name: z.string(),
  kept: z.boolean(),
  createdAt: z.iso.datetime(),
  measures: z.int(),
})
export const versionListSchema = z.object({ versions: z.array(versionItemSchema) })
export const versionSchema = versionItemSchema.extend({
  source,
  tune: tuneSchema,
  arrangements: z.array(z.object({ id, arrangement: arrangementSchema })),
})
export const nameVersionSchema = z.object({ name: z.string().max(120) })

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
  current: z.union([tuneRecordSchema, arrangementRecordSchema, studioRecordSchema]),
})

export type TuneList = z.infer<typeof tuneListSchema>
export type TuneListItem = z.infer<typeof tuneItemSchema>
export type ShelfQuery = z.infer<typeof shelfQuerySchema>
export type VersionItem = z.infer<typeof versionItemSchema>
export type Version = z.infer<typeof versionSchema>
export type TuneRecord = z.infer<typeof tuneRecordSchema>
export type TuneWithArrangements = z.infer<typeof tuneWithArrangementsSchema>
export type ArrangementRecord = z.infer<typeof arrangementRecordSchema>
export type ApiErrorCode = (typeof ERROR_CODES)[number]

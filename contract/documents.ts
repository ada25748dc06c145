/**
 * Everything that is sent, as schemas: strict, so that a field nobody knows is an error with its place, never
 * dropped.
 */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { storedArrangementSchema } from '#core/formats/backup/backup'
import { RELATIONS } from '#core/form/kinship'
import { arrangementSchema } from '#core/arrangement/recipe'
import { STUDIO_PARTS, studioPartSchema, studioSchema } from '#core/instruments/studio'
import { metreSchema } from '#core/music/metre'
import { keySchema } from '#core/music/key'
import { INSTRUMENT_IDS, tuneSchema } from '#core/music/tune'

const id = z.string().min(1).max(60)
/** What a column of the database holds. */
const version = z.int().min(1).max(2_147_483_646)
const source = text(2_000_000).nullable()

export const arrangementRecordSchema = z.strictObject({
  id,
  tuneId: id,
  version,
  arrangement: arrangementSchema,
})
export const tuneRecordSchema = z.strictObject({
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
export const tuneItemSchema = z.strictObject({
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
export const shelfQuerySchema = z.strictObject({
  search: text(200).optional(),
  kind: z.string().max(80).optional(),
  key: z.string().max(40).optional(),
  metre: z.string().max(100).optional(),
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
const facet = z.array(z.strictObject({ value: z.string(), count: z.int() }))
export const tuneListSchema = z.strictObject({
  tunes: z.array(tuneItemSchema),
  /** How many fit, of which `tunes` is a part; and how many there are in all. */
  total: z.int(),
  shelf: z.int(),
  /** Values there are on the shelf, for the filters. */
  facets: z.strictObject({
    kind: facet,
    key: facet,
    metre: facet,
    instrument: facet,
    level: facet,
    tag: facet,
  }),
})

/** What a studio entered, with the version of each of its parts; a part nobody stored yet is at 0. */
const partVersion = z.int().min(0).max(2_147_483_646)
export const studioRecordSchema = z.strictObject({
  versions: z.record(z.enum(STUDIO_PARTS), partVersion),
  studio: studioSchema,
})
export type StudioRecord = z.infer<typeof studioRecordSchema>
/** A part, saved with the version it was read at. */
export const saveStudioSchema = z.strictObject({ version: partVersion, doc: studioPartSchema })

export const IMPORT_LIMIT = 100
export const createTuneSchema = z.strictObject({ source, tune: tuneSchema, arrangement: arrangementSchema })
/** With the arrangements it comes with; the ids they had tell which speaks of which. */
const importedTuneSchema = z.strictObject({
  source,
  tune: tuneSchema,
  arrangements: z.array(storedArrangementSchema).min(1).max(1000),
})
export const importSchema = z.strictObject({ tunes: z.array(importedTuneSchema).min(1).max(IMPORT_LIMIT) })
export const importedSchema = z.strictObject({ ids: z.array(id) })
const printSchema = z.array(z.int().min(0)).max(400)
export const alikeRequestSchema = z.strictObject({ prints: z.array(printSchema).max(2000) })
const alike = z.strictObject({ id, title: z.string(), likeness: z.number() })
export const alikeSchema = z.strictObject({ alike: z.array(z.array(alike)) })
/** The teacher's boundaries in the tune, which phrases are found by. */
export const kinRequestSchema = z.strictObject({ boundaries: z.record(z.string().max(60), z.boolean()) })
const shelfKin = z.strictObject({
  phrase: z.string(),
  start: id,
  of: z.string(),
  relation: z.enum(RELATIONS),
  differences: z.int(),
  moved: z.strictObject({ steps: z.int(), semitones: z.int(), exact: z.boolean() }).optional(),
})
export const kinSchema = z.strictObject({
  tunes: z.array(z.strictObject({ id, title: z.string(), kin: z.array(shelfKin) })),
})
export type TuneKin = z.infer<typeof kinSchema>['tunes'][number]
/** Tunes that were put away, the last one first. */
export const awaySchema = z.strictObject({
  tunes: z.array(z.strictObject({ id, title: z.string(), putAway: z.iso.datetime() })),
})
export type AwayTune = z.infer<typeof awaySchema>['tunes'][number]
export const duplicatesSchema = z.strictObject({
  pairs: z.array(z.strictObject({ a: tuneItemSchema, b: tuneItemSchema, likeness: z.number() })),
})

export const versionItemSchema = z.strictObject({
  id,
  name: z.string(),
  kept: z.boolean(),
  createdAt: z.iso.datetime(),
  measures: z.int(),
})
export const versionListSchema = z.strictObject({ versions: z.array(versionItemSchema) })
export const versionSchema = versionItemSchema.extend({
  source,
  tune: tuneSchema,
  arrangements: z.array(z.strictObject({ id, arrangement: arrangementSchema })),
})
export const nameVersionSchema = z.strictObject({ name: text(120) })

/**
 * What changed of a tune and its arrangements, saved all together or not at all. Each document comes with the
 * version it was read at; an arrangement nobody stored yet has none. One that was taken away and comes again
 * (by undo) has its old id and no version.
 */
export const saveDocumentsSchema = z.strictObject({
  tune: z.strictObject({ version, source, tune: tuneSchema }).nullable(),
  arrangements: z
    .array(z.strictObject({ id, version: version.nullable(), arrangement: arrangementSchema }))
    .max(1000),
  removed: z.array(z.strictObject({ id, version })).max(1000),
})
export const savedDocumentsSchema = z.strictObject({
  tune: version.nullable(),
  arrangements: z.array(z.strictObject({ id, version })),
})
export const savedSchema = z.strictObject({ version })
export const healthSchema = z.strictObject({ ok: z.literal(true), version: z.string() })

export type TuneList = z.infer<typeof tuneListSchema>
export type TuneListItem = z.infer<typeof tuneItemSchema>
export type ShelfQuery = z.infer<typeof shelfQuerySchema>
export type VersionItem = z.infer<typeof versionItemSchema>
export type Version = z.infer<typeof versionSchema>
export type TuneRecord = z.infer<typeof tuneRecordSchema>
export type TuneWithArrangements = z.infer<typeof tuneWithArrangementsSchema>
export type ArrangementRecord = z.infer<typeof arrangementRecordSchema>
export type SaveDocuments = z.infer<typeof saveDocumentsSchema>
export type SavedDocuments = z.infer<typeof savedDocumentsSchema>

import { sql } from 'drizzle-orm'
import { boolean, index, integer, json, jsonb, pgTable, serial, text, timestamp } from 'drizzle-orm/pg-core'
import type { MelodyPrint } from '../../core/melody/print'
import type { TuneListItem } from '../../contract/documents'

/** What the shelf lists and searches, and the melody's fingerprint. `form` tells which fields it has: an older one is made anew. */
export const SUMMARY_FORM = 3
export type TuneSummary = Pick<
  TuneListItem,
  'kind' | 'key' | 'metre' | 'measures' | 'otherTitles' | 'composer' | 'tags' | 'rights' | 'settings'
> & { readonly form: number; readonly print: MelodyPrint }

/**
 * Tunes as documents; what the shelf lists stands in columns of its own. Documents are `json`, stored as the text they came in: nothing asks the database
 * about a tune's insides, and taking them apart to `jsonb` was half the time of an import.
 */
export const tunes = pgTable(
  'tunes',
  {
    id: text('id').primaryKey(),
    /** Whose it is: every question is asked within a studio. */
    studio: text('studio').notNull().default('studio'),
    version: integer('version').notNull().default(1),
    title: text('title').notNull(),
    source: text('source'),
    doc: json('doc').notNull(),
    /** What the shelf lists, so that a list need not open the documents. */
    summary: jsonb('summary').$type<TuneSummary>().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true })
      .notNull()
      .default(sql`now()`),
    updatedAt: timestamp('updated_at', { withTimezone: true })
      .notNull()
      .default(sql`now()`),
    /** Set when the tune was put away; it can be brought back. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
  },
  t => [index('tunes_title').on(t.title), index('tunes_studio').on(t.studio)],
)

export const arrangements = pgTable(
  'arrangements',
  {
    id: text('id').primaryKey(),
    tuneId: text('tune_id')
      .notNull()
      .references(() => tunes.id, { onDelete: 'cascade' }),
    version: integer('version').notNull().default(1),
    doc: jsonb('doc').notNull(),
    /** What the shelf lists of it, so that a list need not know the document. */
    instrument: text('instrument').notNull(),
    level: integer('level'),
    crossTuned: boolean('cross_tuned').notNull().default(false),
    /** Order of making: the first is the one a tune opens with. */
    place: serial('place').notNull(),
    /** Set when it was taken away; undo brings it back to its place. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
  },
  t => [index('arrangements_tune').on(t.tuneId)],
)

/** Earlier states of a tune with its arrangements. Those with a name, or kept by hand, stay; the others make room. */
export const versions = pgTable(
  'versions',
  {
    id: text('id').primaryKey(),
    tuneId: text('tune_id')
      .notNull()
      .references(() => tunes.id, { onDelete: 'cascade' }),
    name: text('name').notNull().default(''),
    kept: boolean('kept').notNull().default(false),
    source: text('source'),
    doc: jsonb('doc').notNull(),
    arrangements: jsonb('arrangements').notNull(),
    createdAt: timestamp('created_at', { withTimezone: true })
      .notNull()
      .default(sql`now()`),
    place: serial('place').notNull(),
  },
  t => [index('versions_tune').on(t.tuneId)],
)

/** The studios' own documents: one row each. */
export const studios = pgTable('studios', {
  id: text('id').primaryKey(),
  version: integer('version').notNull().default(1),
  doc: json('doc').notNull(),
})

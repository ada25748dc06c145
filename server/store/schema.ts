import { sql } from 'drizzle-orm'
import {
  boolean,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
} from 'drizzle-orm/pg-core'
import type { MelodyPrint } from '../../core/melody/print'
import type { TuneListItem } from '../../contract/documents'

/** What the shelf lists of a tune's document. */
export type TuneSummary = Pick<
  TuneListItem,
  'kind' | 'key' | 'metre' | 'measures' | 'otherTitles' | 'composer' | 'tags' | 'rights' | 'settings'
>

/**
 * The columns that are made of a tune's document; where they were made otherwise they are made anew when the
 * store is opened.
 */
export const COLUMNS_FORM = 4

/**
 * How often a studio's shelf was changed. Every change takes the next number, and with it the row: changes of
 * one shelf come one after another.
 */
export const shelves = pgTable('shelves', {
  studio: text('studio').primaryKey(),
  revision: integer('revision').notNull().default(0),
})

/**
 * Tunes as documents; what the shelf lists stands in columns of its own. Documents are `json`, stored as the
 * text they came in: nothing asks the database about a tune's insides, and taking them apart to `jsonb` was
 * half the time of an import.
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
    /** The melody's fingerprint. */
    print: jsonb('print').$type<MelodyPrint>().notNull().default([]),
    createdAt: timestamp('created_at', { withTimezone: true })
      .notNull()
      .default(sql`now()`),
    updatedAt: timestamp('updated_at', { withTimezone: true })
      .notNull()
      .default(sql`now()`),
    /** Set when the tune was put away; it can be brought back. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
    /** The shelf's revision that changed it last: the tune, its arrangements or its versions. */
    revision: integer('revision').notNull().default(0),
    /** What the shelf searches, filters and sorts by; see `tuneColumns`. */
    columnsForm: integer('columns_form').notNull().default(0),
    titleOrder: text('title_order').notNull().default(''),
    kindOrder: text('kind_order').notNull().default(''),
    composerOrder: text('composer_order').notNull().default(''),
    kind: text('kind').notNull().default(''),
    keyName: text('key_name').notNull().default(''),
    metreName: text('metre_name').notNull().default(''),
    measures: integer('measures').notNull().default(0),
    tags: text('tags').array().notNull().default([]),
    settings: text('settings'),
    /** Plain letters of all that is told of the tune; and with the instruments it is arranged for. */
    ownLetters: text('own_letters').notNull().default(''),
    letters: text('letters').notNull().default(''),
    /** Of its arrangements. */
    instruments: text('instruments').array().notNull().default([]),
    levels: integer('levels').array().notNull().default([]),
    crossTuned: boolean('cross_tuned').notNull().default(false),
  },
  t => [
    index('tunes_by_title').on(t.studio, t.titleOrder, t.id),
    index('tunes_by_revision').on(t.studio, t.revision),
    index('tunes_by_change').on(t.studio, t.updatedAt),
  ],
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

/**
 * Earlier states of a tune with its arrangements. Those with a name, or kept by hand, stay; the others make
 * room.
 */
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

/**
 * What a studio entered, part by part, each with a version of its own: who names a level does not stand in
 * the way of who erases a learner.
 */
export const studioParts = pgTable(
  'studio_parts',
  {
    studio: text('studio').notNull(),
    part: text('part').notNull(),
    version: integer('version').notNull().default(1),
    doc: json('doc').notNull(),
  },
  t => [primaryKey({ columns: [t.studio, t.part] })],
)

/** As it was before there were parts: a row is taken apart when the store is opened. */
export const studios = pgTable('studios', {
  id: text('id').primaryKey(),
  version: integer('version').notNull().default(1),
  doc: json('doc').notNull(),
})

/** The highest number of each kind of document that was ever stored here (`formats.ts`). */
export const formats = pgTable('formats', {
  kind: text('kind').primaryKey(),
  version: integer('version').notNull(),
})

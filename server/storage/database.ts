/** The one place that knows which database it is: opened, migrated, closed. */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { PGlite } from '@electric-sql/pglite'
import type { ExtractTablesWithRelations } from 'drizzle-orm'
import { sql } from 'drizzle-orm'
import type { PgDatabase, PgQueryResultHKT, PgTable } from 'drizzle-orm/pg-core'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import * as schema from './schema'
import { ThreadClient } from './threadClient'

/** What the repositories speak to: a PostgreSQL, embedded or not, or a transaction in it. */
export type Db = PgDatabase<PgQueryResultHKT, typeof schema, ExtractTablesWithRelations<typeof schema>>

export interface Database {
  readonly db: Db
  close(): Promise<void>
}

/** Whose documents a repository sees. */
export interface Scope {
  readonly studio: string
}
/** What a question is asked of. */
export interface Store {
  readonly db: Db
  readonly scope: Scope
}
export const HOME_STUDIO: Scope = { studio: 'studio' }

/** Where the data is: in a folder (which the caller has locked), on a server, or in memory alone. */
export type DatabasePlace = { readonly folder: string } | { readonly url: string } | { readonly memory: true }

/** A kind of database this version does not open. */
export class NoSuchDatabase extends Error {
  constructor() {
    super(
      'DATABASE_URL is reserved for a PostgreSQL server, which this version does not use yet. Unset it to use the data folder.',
    )
  }
}

/**
 * Takes what was written over or deleted in a table out of the files too: the table is written anew, then the log that still holds the old rows is ended and its
 * files removed instead of used again. A few tenths of a second.
 */
export async function purge(db: Db, table: PgTable): Promise<void> {
  await db.execute(sql`vacuum full ${table}`)
  await db.execute(sql`set wal_recycle = off`)
  await db.execute(sql`checkpoint`)
  await db.execute(sql`select pg_switch_wal()`)
  await db.execute(sql`checkpoint`)
}

const MIGRATIONS = fileURLToPath(new URL('../migrations', import.meta.url))

export async function openDatabase(place: DatabasePlace): Promise<Database> {
  if ('url' in place) throw new NoSuchDatabase()
  const path = 'folder' in place ? join(place.folder, 'pg') : undefined
  if (path) mkdirSync(path, { recursive: true })
  const client = new ThreadClient(path ?? null)
  // The mapper asks it for these two verbs alone.
  const db = drizzle(client as unknown as PGlite, { schema })
  try {
    await migrate(db, { migrationsFolder: MIGRATIONS })
  } catch (e) {
    await client.close().catch(() => {})
    throw e
  }
  return { db, close: () => client.close() }
}

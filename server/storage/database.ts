/** The one place that knows which database it is: opened, migrated, closed. */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { PGlite } from '@electric-sql/pglite'
import type { ExtractTablesWithRelations } from 'drizzle-orm'
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import * as schema from './schema'

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

const MIGRATIONS = fileURLToPath(new URL('../migrations', import.meta.url))

export async function openDatabase(place: DatabasePlace): Promise<Database> {
  if ('url' in place) throw new NoSuchDatabase()
  const path = 'folder' in place ? join(place.folder, 'pg') : undefined
  if (path) mkdirSync(path, { recursive: true })
  const client = path ? new PGlite(path) : new PGlite()
  const db = drizzle(client, { schema })
  await migrate(db, { migrationsFolder: MIGRATIONS })
  return { db, close: () => client.close() }
}

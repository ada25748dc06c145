/** The embedded database in a folder: opened, migrated, closed. */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { PGlite } from '@electric-sql/pglite'
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import * as schema from './schema'

export type Db = PgliteDatabase<typeof schema>

export interface Database {
  readonly db: Db
  close(): Promise<void>
}

const MIGRATIONS = fileURLToPath(new URL('../migrations', import.meta.url))

/** Opens the database of a data folder (which the caller has locked); in memory without one. */
export async function openDatabase(folder?: string): Promise<Database> {
  const path = folder && join(folder, 'pg')
  if (path) mkdirSync(path, { recursive: true })
  const client = path ? new PGlite(path) : new PGlite()
  const db = drizzle(client, { schema })
  await migrate(db, { migrationsFolder: MIGRATIONS })
  return { db, close: () => client.close() }
}

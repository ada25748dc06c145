/**
 * The embedded adapter of the store: a PostgreSQL in a folder, or in memory, on a thread of its own. Who
 * opens a folder has locked it.
 */
import { existsSync, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import type { PGlite } from '@electric-sql/pglite'
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { MIGRATIONS, type Connection } from '../port'
import * as schema from '../schema'
import { upgraded } from '../upgrade'
import { backupFiles } from './backups'
import { ThreadClient } from './threadClient'

/** Where the database lies in a data folder, and the file that every one of its kind has. */
const DATABASE = 'pg'
const ITS_VERSION = 'PG_VERSION'

/** There are backups, but nothing they are backups of: an empty shelf would look as if all was lost. */
export const isDatabaseGone = (folder: string): boolean =>
  !existsSync(join(folder, DATABASE, ITS_VERSION)) && backupFiles(join(folder, 'backups')).length > 0

export class DatabaseGone extends Error {
  constructor(folder: string) {
    super(
      `The database of ${folder} is missing or cut, but backups lie beside it. To put the newest back: move what is left of “${DATABASE}” away and run npm run restore. To begin with an empty shelf: move “backups” away.`,
    )
  }
}

/** @param folder in memory alone without one */
export async function openEmbedded(folder: string | null): Promise<Connection> {
  const path = folder === null ? null : join(folder, DATABASE)
  if (path) mkdirSync(path, { recursive: true })
  const client = new ThreadClient(path)
  // The mapper asks it for two verbs alone.
  const db = drizzle(client as unknown as PGlite, { schema })
  try {
    await migrate(db, { migrationsFolder: MIGRATIONS })
    await upgraded(db)
  } catch (e) {
    await client.close().catch(() => {})
    throw e
  }
  return {
    db,
    close: () => client.close(),
    /**
     * The table is written anew, then the log that still holds the old rows is ended and its files removed
     * instead of used again. A few tenths of a second.
     */
    async erase(table) {
      await db.execute(sql`vacuum full ${table}`)
      await db.execute(sql`set wal_recycle = off`)
      await db.execute(sql`checkpoint`)
      await db.execute(sql`select pg_switch_wal()`)
      await db.execute(sql`checkpoint`)
    },
  }
}

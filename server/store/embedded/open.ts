/**
 * The embedded adapter of the store: a PostgreSQL in a folder, or in memory, on a thread of its own. Who
 * opens a folder has locked it.
 */
import { existsSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import type { PGlite } from '@electric-sql/pglite'
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { MIGRATIONS, type Connection } from '../port'
import * as schema from '../schema'
import { upgraded, type Tell } from '../upgrade'
import { isDiskFull } from '../limits'
import { NewerStore, refuseNewer } from '../formats'
import { backupFiles, backupTime } from './backups'
import { ownersFolder } from './owner'
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
      `The database of ${folder} is missing or cut, but backups lie beside it. To put the newest back run npm run restore: what is left is set aside. To begin with an empty shelf: move “backups” away.`,
    )
  }
}

/** There is a database, and it can't be opened. */
export class DatabaseDamaged extends Error {
  constructor(folder: string, why: unknown) {
    const said = deepest(why).split('\n')[0]!.slice(0, 160)
    const newest = backupFiles(join(folder, 'backups'))[0]
    const back = newest
      ? `The newest backup is of ${new Date(backupTime(newest)).toISOString().slice(0, 16).replace('T', ' ')} UTC. To put it back run npm run restore: what is damaged is set aside beside it, nothing is thrown away.`
      : 'There is no backup beside it. Keep the folder as it is; with a backup from elsewhere run npm run restore -- FILE.'
    super(`The database of ${folder} is damaged and can’t be opened (${said}). ${back}`)
  }
}

/** What the database itself said, below what the mapper says of the query. */
const deepest = (e: unknown): string =>
  e instanceof Error ? (e.cause === undefined ? e.message : deepest(e.cause)) : String(e)

/** Moves what is left of a database away, under a name with the date. Returns where it lies; null for none. */
export function setAside(folder: string, now: Date): string | null {
  const path = join(folder, DATABASE)
  if (!existsSync(path)) return null
  const stamp = now.toISOString().slice(0, 19).replace(/[-:]/g, '')
  const aside = join(folder, `${DATABASE}-damaged-${stamp}`)
  renameSync(path, aside)
  return aside
}

/**
 * Throws {@link DatabaseDamaged} where there is a database that does not open.
 * @param folder in memory alone without one
 * @param tell hears of work that takes its time
 */
export async function openEmbedded(folder: string | null, tell?: Tell): Promise<Connection> {
  const was = folder !== null && existsSync(join(folder, DATABASE, ITS_VERSION))
  try {
    return await opened(folder, tell)
  } catch (e) {
    if (!was || isDiskFull(e) || e instanceof NewerStore) throw e
    throw new DatabaseDamaged(folder, e)
  }
}

async function opened(folder: string | null, tell?: Tell): Promise<Connection> {
  const path = folder === null ? null : join(folder, DATABASE)
  if (path) ownersFolder(path)
  const client = new ThreadClient(path)
  // The mapper asks it for two verbs alone.
  const db = drizzle(client as unknown as PGlite, { schema })
  try {
    await refuseNewer(db)
    await migrate(db, { migrationsFolder: MIGRATIONS })
    await upgraded(db, tell)
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

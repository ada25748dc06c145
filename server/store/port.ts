/**
 * The port of the store: what the shelf and the studio speak to, whichever PostgreSQL stands behind it. Two
 * adapters fill it: `embedded/open.ts` (a database in a folder of its own, one process to a folder) and
 * `postgres.ts` (a server that many processes share). Whoever holds a `Connection` sees the same tables.
 */
import { fileURLToPath } from 'node:url'
import type { ExtractTablesWithRelations } from 'drizzle-orm'
import type { PgDatabase, PgQueryResultHKT, PgTable } from 'drizzle-orm/pg-core'
import type * as schema from './schema'

/** A database, or a transaction in it. */
export type Db = PgDatabase<PgQueryResultHKT, typeof schema, ExtractTablesWithRelations<typeof schema>>

export interface Connection {
  readonly db: Db
  /**
   * Takes what was written over or deleted in a table out of the files too, where the files are ours; on a
   * server that is its keeper's.
   */
  erase(table: PgTable): Promise<void>
  close(): Promise<void>
}

/** Whose documents are asked for: every query is made within a studio. */
export interface Scope {
  readonly studio: string
}

/** What a query is made on. */
export interface Store {
  readonly db: Db
  readonly scope: Scope
}

export const MIGRATIONS = fileURLToPath(new URL('../migrations', import.meta.url))

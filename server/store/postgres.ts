/**
 * The adapter of the store for a PostgreSQL server that many processes share. Backups are its keeper's
 * (`pg_dump`); what is erased is gone from the tables, and from the files when the server cleans them.
 */
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { Pool } from 'pg'
import { NewerStore, refuseNewer } from './formats'
import { MIGRATIONS, type Connection } from './port'
import * as schema from './schema'
import { upgraded, type Tell } from './upgrade'

/** The server can't be reached, or does not let us in. */
export class NoServer extends Error {
  constructor(cause: unknown) {
    const why = cause instanceof Error ? ((cause as { code?: string }).code ?? cause.name) : 'unknown'
    super(`DATABASE_URL: the PostgreSQL server can’t be used (${why}).`, { cause })
  }
}

const MOST_CONNECTIONS = 10
/** Two processes that start at once bring the tables up to date one after the other. */
const MIGRATING = 4_747_001

export async function openPostgres(url: string, tell?: Tell): Promise<Connection> {
  const pool = new Pool({ connectionString: url, max: MOST_CONNECTIONS, connectionTimeoutMillis: 10_000 })
  // A connection that breaks while nobody uses it is replaced at the next query.
  pool.on('error', () => {})
  const db = drizzle(pool, { schema })
  try {
    const one = await pool.connect()
    try {
      await one.query('select pg_advisory_lock($1)', [MIGRATING])
      await refuseNewer(db)
      await migrate(drizzle(one, { schema }), { migrationsFolder: MIGRATIONS })
      await upgraded(db, tell)
    } finally {
      await one.query('select pg_advisory_unlock($1)', [MIGRATING]).catch(() => {})
      one.release()
    }
  } catch (e) {
    await pool.end().catch(() => {})
    throw e instanceof NewerStore ? e : new NoServer(e)
  }
  return {
    db,
    close: () => pool.end(),
    erase: async table => void (await db.execute(sql`vacuum ${table}`)),
  }
}

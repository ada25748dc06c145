/**
 * Which program wrote a store: a newer one may have written what this one cannot read. Each opening notes the
 * number of its migrations and of the documents it writes; a store with a higher one is refused before
 * anything of it is touched.
 */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import { ARRANGEMENT_VERSION } from '#core/arrangement/recipe'
import { STUDIO_VERSION } from '#core/instruments/studio'
import { TUNE_VERSION } from '#core/music/tune'
import { MIGRATIONS, type Db } from './port'
import { formats } from './schema'

export class NewerStore extends Error {
  constructor() {
    super(
      'What is stored was written by a newer Nokta, and this one would misread it: start the newer one. Nothing was changed.',
    )
  }
}

const OURS: Readonly<Record<string, number>> = {
  tune: TUNE_VERSION,
  arrangement: ARRANGEMENT_VERSION,
  studio: STUDIO_VERSION,
}

/** When the last of our own migrations was made: what the mapper notes of each it carries out. */
function lastMigration(): number {
  const journal = JSON.parse(readFileSync(join(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  return Math.max(...journal.entries.map(e => e.when))
}

interface Rows<K extends string> {
  readonly rows: readonly Readonly<Record<K, string | null>>[]
}
const isThere = async (db: Db, table: string): Promise<boolean> => {
  const { rows } = (await db.execute(sql`select to_regclass(${table})::text as name`)) as Rows<'name'>
  return rows[0]?.name !== null
}

/** Throws {@link NewerStore}. */
export async function refuseNewer(db: Db): Promise<void> {
  if (await isThere(db, 'drizzle.__drizzle_migrations')) {
    const { rows } = (await db.execute(
      sql`select max(created_at)::text as last from drizzle.__drizzle_migrations`,
    )) as Rows<'last'>
    if (Number(rows[0]?.last ?? 0) > lastMigration()) throw new NewerStore()
  }
  if (!(await isThere(db, 'public.formats'))) return
  const written = await db.select().from(formats)
  if (written.some(f => f.version > (OURS[f.kind] ?? 0))) throw new NewerStore()
}

/** From now on documents of these versions may be stored. */
export async function noteFormats(db: Db): Promise<void> {
  const rows = Object.entries(OURS).map(([kind, version]) => ({ kind, version }))
  await db
    .insert(formats)
    .values(rows)
    .onConflictDoUpdate({
      target: formats.kind,
      set: { version: sql`excluded.version` },
      setWhere: sql`${formats.version} < excluded.version`,
    })
}

/** Earlier states of a tune: kept by themselves now and then, and by name whenever the teacher says so. */
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm'
import { arrangementSchema } from '#core/arrangement/recipe'
import { tuneSchema, type Tune } from '#core/music/tune'
import type { Version, VersionItem } from '#contract/api'
import type { Db } from './database'
import { arrangements, tunes, versions } from './schema'

/** Minutes between two versions that are kept by themselves. */
export const BETWEEN_VERSIONS = 10
/** So many of them stay for each tune; named ones stay for good. */
export const KEPT_VERSIONS = 40

const itemOf = (row: {
  id: string
  name: string
  kept: boolean
  createdAt: Date
  measures: number
}): VersionItem => ({
  ...row,
  createdAt: row.createdAt.toISOString(),
})

const shown = {
  id: versions.id,
  name: versions.name,
  kept: versions.kept,
  createdAt: versions.createdAt,
  measures: sql<number>`jsonb_array_length(${versions.doc} -> 'measures')`,
}

/** Newest first. */
export async function listVersions(db: Db, tuneId: string): Promise<VersionItem[]> {
  const rows = await db
    .select(shown)
    .from(versions)
    .where(eq(versions.tuneId, tuneId))
    .orderBy(desc(versions.place))
  return rows.map(itemOf)
}

export async function getVersion(db: Db, id: string): Promise<Version | null> {
  const [row] = await db.select().from(versions).where(eq(versions.id, id))
  if (!row) return null
  const tune: Tune = tuneSchema.parse(row.doc)
  const recipes = (row.arrangements as { id: string; arrangement: unknown }[]).map(a => ({
    id: a.id,
    arrangement: arrangementSchema.parse(a.arrangement),
  }))
  const { name, kept, source, createdAt } = row
  return {
    ...itemOf({ id, name, kept, createdAt, measures: tune.measures.length }),
    source,
    tune,
    arrangements: recipes,
  }
}

/** Stores what the tune is now. Null when there is no such tune. */
async function snapshot(
  db: Db,
  newId: () => string,
  tuneId: string,
  name: string,
  kept: boolean,
): Promise<VersionItem | null> {
  const [row] = await db
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, tuneId), isNull(tunes.deletedAt)))
  if (!row) return null
  const recipes = await db
    .select({ id: arrangements.id, arrangement: arrangements.doc })
    .from(arrangements)
    .where(eq(arrangements.tuneId, tuneId))
    .orderBy(asc(arrangements.place))
  const [made] = await db
    .insert(versions)
    .values({ id: newId(), tuneId, name, kept, source: row.source, doc: row.doc, arrangements: recipes })
    .returning(shown)
  return itemOf(made!)
}

export const keepVersion = (db: Db, newId: () => string, tuneId: string, name: string) =>
  snapshot(db, newId, tuneId, name, true)

/** Before a save: keeps the state that is about to be replaced, unless one was kept a short while ago. */
export async function keepVersionBefore(
  db: Db,
  newId: () => string,
  tuneId: string,
  version: number,
): Promise<void> {
  const [current] = await db.select({ version: tunes.version }).from(tunes).where(eq(tunes.id, tuneId))
  if (current?.version !== version) return
  const [recent] = await db
    .select({ id: versions.id })
    .from(versions)
    .where(
      and(
        eq(versions.tuneId, tuneId),
        sql`${versions.createdAt} > now() - make_interval(mins => ${BETWEEN_VERSIONS})`,
      ),
    )
    .limit(1)
  if (recent) return
  await snapshot(db, newId, tuneId, '', false)
  await db.execute(sql`delete from ${versions} where ${versions.id} in (
    select ${versions.id} from ${versions} where ${versions.tuneId} = ${tuneId} and not ${versions.kept}
    order by ${versions.place} desc offset ${KEPT_VERSIONS})`)
}

/** Gives a version a name, and keeps it for good. False when there is none. */
export async function renameVersion(db: Db, id: string, name: string): Promise<boolean> {
  const done = await db
    .update(versions)
    .set({ name, kept: true })
    .where(eq(versions.id, id))
    .returning({ id: versions.id })
  return done.length > 0
}

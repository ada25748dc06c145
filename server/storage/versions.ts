/** Earlier states of a tune: kept by themselves now and then, and by name whenever the teacher says so. */
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { arrangementSchema } from '#core/arrangement/recipe'
import { tuneSchema, type Tune } from '#core/music/tune'
import type { Version, VersionItem } from '#contract/documents'
import type { Db, Scope } from './database'
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

/** What versions are asked of: a database and whose tunes. */
interface Store {
  readonly db: Db
  readonly scope: Scope
  readonly newId: () => string
}

/** Tunes of the studio, put away or not. */
const ours = ({ db, scope }: Store) =>
  db.select({ id: tunes.id }).from(tunes).where(eq(tunes.studio, scope.studio))

/** Newest first. */
export async function listVersions(store: Store, tuneId: string): Promise<VersionItem[]> {
  const rows = await store.db
    .select(shown)
    .from(versions)
    .where(and(eq(versions.tuneId, tuneId), inArray(versions.tuneId, ours(store))))
    .orderBy(desc(versions.place))
  return rows.map(itemOf)
}

export async function getVersion(store: Store, id: string): Promise<Version | null> {
  const [row] = await store.db
    .select()
    .from(versions)
    .where(and(eq(versions.id, id), inArray(versions.tuneId, ours(store))))
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

/** Stores what a tune is now with its arrangements. Null when there is no such tune. */
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
    .where(and(eq(arrangements.tuneId, tuneId), isNull(arrangements.deletedAt)))
    .orderBy(asc(arrangements.place))
  const [made] = await db
    .insert(versions)
    .values({ id: newId(), tuneId, name, kept, source: row.source, doc: row.doc, arrangements: recipes })
    .returning(shown)
  return itemOf(made!)
}

export async function keepVersion(store: Store, tuneId: string, name: string): Promise<VersionItem | null> {
  const [found] = await store.db
    .select({ id: tunes.id })
    .from(tunes)
    .where(and(eq(tunes.id, tuneId), eq(tunes.studio, store.scope.studio)))
  return found ? snapshot(store.db, store.newId, tuneId, name, true) : null
}

/** Before a save: keeps the state that is about to be replaced, unless one was kept a short while ago; `always` before something is taken away. */
export async function keepVersionBefore(
  db: Db,
  newId: () => string,
  tuneId: string,
  always: boolean,
): Promise<void> {
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
  if (recent && !always) return
  await snapshot(db, newId, tuneId, '', false)
  await db.execute(sql`delete from ${versions} where ${versions.id} in (
    select ${versions.id} from ${versions} where ${versions.tuneId} = ${tuneId} and not ${versions.kept}
    order by ${versions.place} desc offset ${KEPT_VERSIONS})`)
}

/** Gives a version a name, and keeps it for good. The id of its tune; null when there is none. */
export async function renameVersion(store: Store, id: string, name: string): Promise<string | null> {
  const done = await store.db
    .update(versions)
    .set({ name, kept: true })
    .where(and(eq(versions.id, id), inArray(versions.tuneId, ours(store))))
    .returning({ tuneId: versions.tuneId })
  return done[0]?.tuneId ?? null
}

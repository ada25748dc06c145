/** Earlier states of a tune: kept by themselves now and then, and by name whenever the teacher says so. */
import { and, desc, eq, inArray, sql, type SQL } from 'drizzle-orm'
import { arrangementSchema } from '#core/arrangement/recipe'
import { tuneSchema, type Tune } from '#core/music/tune'
import type { Version, VersionItem } from '#contract/documents'
import type { Db, Store } from './port'
import { changing } from './revisions'
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

/** What makes new ones needs ids for them. */
interface Keeper extends Store {
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

/**
 * The query that stores what a tune (`t`) is now with its arrangements; nothing where there is no such tune,
 * or not as `where` asks.
 */
const snapshot = (
  db: Db,
  of: { readonly id: string; readonly tuneId: string; readonly name: string; readonly kept: boolean },
  where: SQL,
) => {
  const recipes = sql`(select coalesce(jsonb_agg(jsonb_build_object('id', a.id, 'arrangement', a.doc) order by a.place), '[]') from ${arrangements} a where a.tune_id = t.id and a.deleted_at is null)`
  return db
    .insert(versions)
    .select(
      sql`select ${of.id}, t.id, ${of.name}, ${of.kept}::boolean, t.source, t.doc::jsonb, ${recipes}, now(), nextval(pg_get_serial_sequence('versions', 'place')) from ${tunes} t where t.id = ${of.tuneId} and t.deleted_at is null and ${where}`,
    )
    .returning(shown)
}

/** Null where there is no such tune. */
export async function keepVersion(store: Keeper, tuneId: string, name: string): Promise<VersionItem | null> {
  return changing(store, async (tx, touched) => {
    const of = { id: store.newId(), tuneId, name, kept: true }
    const [made] = await snapshot(tx, of, sql`t.studio = ${store.scope.studio}`)
    if (made) touched(tuneId)
    return made ? itemOf(made) : null
  })
}

/**
 * Keeps the state of a tune that is about to be replaced as a version and lets go of the oldest, unless one
 * was kept a short while ago. Part of the change that replaces it.
 * @param always before something is taken away
 */
export async function keepBefore(
  { db, scope }: Store,
  id: string,
  tuneId: string,
  always = false,
): Promise<void> {
  const lately = sql`exists (select 1 from ${versions} v where v.tune_id = ${tuneId} and v.created_at > now() - make_interval(mins => ${BETWEEN_VERSIONS}))`
  const here = sql`t.studio = ${scope.studio}`
  const kept = await snapshot(
    db,
    { id, tuneId, name: '', kept: false },
    always ? here : sql`${here} and not ${lately}`,
  )
  if (kept.length === 0) return
  const rest = sql`(select v.id from ${versions} v where v.tune_id = ${tuneId} and not v.kept order by v.place desc offset ${KEPT_VERSIONS})`
  await db.delete(versions).where(inArray(versions.id, rest))
}

/** Gives a version a name, and keeps it for good. False when there is none. */
export async function renameVersion(store: Store, id: string, name: string): Promise<boolean> {
  return changing(store, async (tx, touched) => {
    const [done] = await tx
      .update(versions)
      .set({ name, kept: true })
      .where(and(eq(versions.id, id), inArray(versions.tuneId, ours({ db: tx, scope: store.scope }))))
      .returning({ tuneId: versions.tuneId })
    if (done) touched(done.tuneId)
    return done !== undefined
  })
}

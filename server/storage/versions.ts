/** Earlier states of a tune: kept by themselves now and then, and by name whenever the teacher says so. */
import { and, desc, eq, inArray, sql, type SQL } from 'drizzle-orm'
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

/** Stores what a tune is now with its arrangements, in one question; nothing where there is no such tune, or not as `where` asks. */
async function snapshot(
  db: Db,
  of: { readonly id: string; readonly tuneId: string; readonly name: string; readonly kept: boolean },
  where: SQL = sql`true`,
): Promise<VersionItem | null> {
  const recipes = sql`(select coalesce(jsonb_agg(jsonb_build_object('id', a.id, 'arrangement', a.doc) order by a.place), '[]') from ${arrangements} a where a.tune_id = t.id and a.deleted_at is null)`
  const [made] = await db
    .insert(versions)
    .select(sql`select ${of.id}, t.id, ${of.name}, ${of.kept}::boolean, t.source, t.doc::jsonb, ${recipes}, now(), nextval(pg_get_serial_sequence('versions', 'place')) from ${tunes} t where t.id = ${of.tuneId} and t.deleted_at is null and ${where}`)
    .returning(shown)
  return made ? itemOf(made) : null
} // prettier-ignore

export const keepVersion = (store: Store, tuneId: string, name: string): Promise<VersionItem | null> =>
  snapshot(store.db, { id: store.newId(), tuneId, name, kept: true }, sql`t.studio = ${store.scope.studio}`)

/** Whether a version of a tune was kept a short while ago. */
export const keptLately = (tuneId: string): SQL =>
  sql`exists (select 1 from ${versions} v where v.tune_id = ${tuneId} and v.created_at > now() - make_interval(mins => ${BETWEEN_VERSIONS}))`

/** Before a save: keeps the state that is about to be replaced, unless one was kept a short while ago; `always` before something is taken away. */
export async function keepVersionBefore(
  db: Db,
  newId: () => string,
  tuneId: string,
  always: boolean,
): Promise<void> {
  const of = { id: newId(), tuneId, name: '', kept: false }
  if (!(await snapshot(db, of, always ? undefined : sql`not ${keptLately(tuneId)}`))) return
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

/**
 * Changes of a shelf, one after another: each takes the next revision, and what it touched carries it. What
 * is kept in memory anywhere is checked against that number.
 */
import { eq, inArray, sql } from 'drizzle-orm'
import type { Db, Store } from './port'
import { arrangements, shelves, tunes } from './schema'

/** How often the shelf was changed; 0 where nothing ever was put on it. */
export async function revisionOf({ db, scope }: Store): Promise<number> {
  const [row] = await db
    .select({ revision: shelves.revision })
    .from(shelves)
    .where(eq(shelves.studio, scope.studio))
  return row?.revision ?? 0
}

/**
 * One change, whole or not at all. The shelf's row is locked until it is over, so that revisions are seen in
 * their order.
 * @param work names the tunes it touched
 */
export function changing<T>(
  { db, scope }: Store,
  work: (tx: Db, touched: (...ids: readonly string[]) => void) => Promise<T>,
): Promise<T> {
  return db.transaction(async tx => {
    const [shelf] = await tx
      .insert(shelves)
      .values({ studio: scope.studio, revision: 1 })
      .onConflictDoUpdate({ target: shelves.studio, set: { revision: sql`${shelves.revision} + 1` } })
      .returning({ revision: shelves.revision })
    const ids = new Set<string>()
    const result = await work(tx, (...list) => list.forEach(id => ids.add(id)))
    if (ids.size > 0) await marked(tx, [...ids], shelf!.revision)
    return result
  })
}

/** What the list tells of a tune's arrangements is brought up to date with its revision. */
async function marked(tx: Db, ids: readonly string[], revision: number) {
  const own = sql`from ${arrangements} a where a.tune_id = ${tunes.id} and a.deleted_at is null`
  await tx
    .update(tunes)
    .set({
      revision,
      instruments: sql`coalesce((select array_agg(distinct a.instrument order by a.instrument) ${own}), '{}')`,
      levels: sql`coalesce((select array_agg(distinct a.level order by a.level) ${own} and a.level is not null), '{}')`,
      crossTuned: sql`exists (select 1 ${own} and a.cross_tuned)`,
      letters: sql`${tunes.ownLetters} || ' ' || coalesce((select string_agg(distinct a.instrument, ' ') ${own}), '')`,
    })
    .where(inArray(tunes.id, [...ids]))
}

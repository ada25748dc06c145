/** The queries about tunes that are made all the time, prepared once. */
import { and, eq, isNull, sql } from 'drizzle-orm'
import { fromJson } from './columns'
import type { Store } from './port'
import { arrangements, tunes } from './schema'

const asked = ({ scope }: Store) =>
  and(
    sql`${tunes.id} = any(${sql.placeholder('ids')}::text[])`,
    eq(tunes.studio, scope.studio),
    isNull(tunes.deletedAt),
  )

/** At which revision some tunes are. */
export const revisionsOf = (store: Store) =>
  store.db
    .select({ id: tunes.id, revision: tunes.revision })
    .from(tunes)
    .where(asked(store))
    .prepare('tune_revisions')

/** Tunes with their arrangements in the order they were made. */
export const wholeTunes = (store: Store) =>
  store.db
    .select({
      id: tunes.id,
      version: tunes.version,
      source: tunes.source,
      doc: tunes.doc,
      updatedAt: tunes.updatedAt,
      own: sql`(select coalesce(json_agg(json_build_object('id', a.id, 'version', a.version, 'doc', a.doc) order by a.place), '[]') from ${arrangements} a where a.tune_id = tunes.id and a.deleted_at is null)`.mapWith(
        fromJson<{ id: string; version: number; doc: unknown }[]>,
      ),
    })
    .from(tunes)
    .where(asked(store))
    .prepare('whole_tunes')
export type WholeRow = Awaited<ReturnType<ReturnType<typeof wholeTunes>['execute']>>[number]

/** An arrangement at the version it was read at. */
export const asItWas = (tuneId: string, a: { readonly id: string; readonly version: number | null }) =>
  and(
    eq(arrangements.id, a.id),
    eq(arrangements.tuneId, tuneId),
    isNull(arrangements.deletedAt),
    eq(arrangements.version, a.version ?? 0),
  )

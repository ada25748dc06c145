/** The questions about tunes that are asked all the time, made ready once. */
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Db, Scope, Store } from './database'
import { listed } from './records'
import { arrangements, tunes } from './schema'
import { keptBefore } from './versions'

/** Tunes with their arrangements in the order they were made, in one question that is made ready once. */
export const wholeTunes = (db: Db, scope: Scope) =>
  db
    .select({
      id: tunes.id,
      version: tunes.version,
      source: tunes.source,
      doc: tunes.doc,
      updatedAt: tunes.updatedAt,
      own: sql`(select coalesce(json_agg(json_build_object('id', a.id, 'version', a.version, 'doc', a.doc) order by a.place), '[]') from ${arrangements} a where a.tune_id = tunes.id and a.deleted_at is null)`.mapWith(listed<{ id: string; version: number; doc: unknown }>),
    })
    .from(tunes)
    .where(and(sql`${tunes.id} = any(${sql.placeholder('ids')}::text[])`, eq(tunes.studio, scope.studio), isNull(tunes.deletedAt)))
    .prepare('whole_tunes') // prettier-ignore
export type WholeRow = Awaited<ReturnType<ReturnType<typeof wholeTunes>['execute']>>[number]

/** An arrangement at the version it was read at. */
export const asItWas = (tuneId: string, a: { readonly id: string; readonly version: number | null }) =>
  and(eq(arrangements.id, a.id), eq(arrangements.tuneId, tuneId), isNull(arrangements.deletedAt), eq(arrangements.version, a.version ?? 0)) // prettier-ignore

/** The question that replaces a tune, made ready: where it is there and at the version it was read at. `keeping` keeps what it was, where that is due. */
export function replacedTune({ db, scope }: Store, keeping = false) {
  const given = {
    id: sql.placeholder('id'),
    version: sql.placeholder('version'),
    kept: sql.placeholder('kept'),
  }
  const kept = keeping ? keptBefore({ db, scope }, given.kept, given.id, sql`t.version = ${given.version}`) : [] // prettier-ignore
  return db
    .with(...kept)
    .update(tunes)
    .set({
      title: sql`${sql.placeholder('title')}`,
      source: sql`${sql.placeholder('source')}`,
      doc: sql`${sql.param(sql.placeholder('doc'), tunes.doc)}`,
      summary: sql`${sql.param(sql.placeholder('summary'), tunes.summary)}`,
      version: sql`${tunes.version} + 1`,
      updatedAt: sql`now()`,
    })
    .where(
      and(
        eq(tunes.id, given.id),
        eq(tunes.version, given.version),
        eq(tunes.studio, scope.studio),
        isNull(tunes.deletedAt),
      ),
    )
    .returning({ version: tunes.version, updatedAt: tunes.updatedAt })
    .prepare('replaced_tune')
}
export type ReplacedTune = ReturnType<typeof replacedTune>

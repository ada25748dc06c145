/** All tunes of a studio as the text of a backup. */
import { and, asc, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import { groupBy } from '#core/groupBy'
import type { Db } from './database'
import { arrangements, tunes, versions } from './schema'

/** Few enough that reading them is not felt. */
const TEXTS_AT_ONCE = 8
const loopTurns = () => new Promise<void>(done => setImmediate(done))

/** The same as text, some tunes at a time and as they are stored, so that a large shelf is never whole in memory and others are answered in between. */
export async function* textsOf(db: Db, ours: SQL): AsyncGenerator<string> {
  const ids = await db
    .select({ id: tunes.id })
    .from(tunes)
    .where(ours)
    .orderBy(asc(tunes.createdAt), asc(tunes.id))
  for (let i = 0; i < ids.length; i += TEXTS_AT_ONCE) {
    const some = ids.slice(i, i + TEXTS_AT_ONCE).map(r => r.id)
    const rows = await db
      .select({ id: tunes.id, source: tunes.source, away: tunes.deletedAt, doc: sql<string>`${tunes.doc}::text` })
      .from(tunes)
      .where(inArray(tunes.id, some))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    await loopTurns()
    const recipes = await db
      .select({ id: arrangements.id, tuneId: arrangements.tuneId, doc: sql<string>`${arrangements.doc}::text` })
      .from(arrangements)
      .where(and(inArray(arrangements.tuneId, some), isNull(arrangements.deletedAt)))
      .orderBy(asc(arrangements.place))
    await loopTurns()
    const kept = await db
      .select({ tuneId: versions.tuneId, name: versions.name, at: versions.createdAt, source: versions.source, doc: sql<string>`${versions.doc}::text`, arrangements: sql<string>`${versions.arrangements}::text` })
      .from(versions)
      .where(and(inArray(versions.tuneId, some), versions.kept))
      .orderBy(asc(versions.place))
    const keptOf = groupBy(kept, v => v.tuneId)
    const version = (v: (typeof kept)[number]) => `{"name":${JSON.stringify(v.name)},"createdAt":${JSON.stringify(v.at.toISOString())},"source":${JSON.stringify(v.source)},"tune":${v.doc},"arrangements":${v.arrangements}}`
    const byTune = groupBy(recipes, r => r.tuneId)
    const texts = rows.map(r => {
      const named = keptOf.get(r.id) ?? []
      const own = (byTune.get(r.id) ?? []).map(a => `{"id":${JSON.stringify(a.id)},"arrangement":${a.doc}}`)
      return `{"id":${JSON.stringify(r.id)},"source":${JSON.stringify(r.source)},"tune":${r.doc},"arrangements":[${own.join(',')}]${r.away ? ',"away":true' : ''}${named.length > 0 ? `,"versions":[${named.map(version).join(',')}]` : ''}}`
    })
    yield (i > 0 ? ',' : '') + texts.join(',')
    // Who asked in between is answered first.
    await loopTurns()
  }
} // prettier-ignore

/**
 * All tunes of a studio as the text of a backup: some at a time, and each packed once for as long as nothing
 * changes it. The documents go in as the text they are stored as: taking apart and writing again what nobody
 * looks at was most of a backup's time.
 */
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { promisify } from 'node:util'
import { gzip, gzipSync } from 'node:zlib'
import { BETWEEN } from '#core/formats/backup/backup'
import { groupBy } from '#core/groupBy'
import type { Store } from './port'
import { arrangements, tunes, versions } from './schema'

/** A part of a backup that is packed already, and how long it is unpacked: such parts in a row are one packed file. */
export interface Packed {
  readonly packed: Buffer
  readonly length: number
}

/** Few enough that reading them is not felt. */
const TEXTS_AT_ONCE = 8
/** Bytes of packed tunes kept ready: what is over is packed anew each time. */
const MOST_KEPT = 64 * 2 ** 20
const pack = promisify(gzip)
const packedText = (text: string): Packed => ({ packed: gzipSync(text), length: Buffer.byteLength(text) })
const COMMA = packedText(BETWEEN)

interface Kept {
  readonly revision: number
  readonly own: Packed
}
interface Run {
  readonly id: string
  readonly revision: number
}

export class BackupTexts {
  private readonly kept = new Map<string, Kept>()
  private bytes = 0

  constructor(
    private readonly store: Store,
    private readonly most = MOST_KEPT,
  ) {}

  /** How many are ready. */
  get ready() {
    return this.kept.size
  }

  /**
   * Some tunes at a time and as they are stored, so that a large shelf is never whole in memory and others
   * are answered in between.
   */
  async *plain(): AsyncGenerator<string> {
    let first = true
    for await (const some of this.runs()) {
      const texts = await this.read(some.map(r => r.id))
      yield (first ? '' : BETWEEN) + some.flatMap(({ id }) => texts.get(id) ?? []).join(BETWEEN)
      first = false
    }
  }

  /** The same packed: only what changed since it was last asked is read and packed. */
  async *packed(): AsyncGenerator<Packed> {
    let first = true
    for await (const some of this.runs()) {
      const known = (r: Run) => (this.kept.get(r.id)?.revision === r.revision ? this.kept.get(r.id)! : null)
      const missing = some.filter(r => !known(r))
      const made = new Map(some.flatMap(r => (known(r) ? [[r.id, known(r)!.own] as const] : [])))
      const texts = missing.length > 0 ? await this.read(missing.map(r => r.id)) : new Map<string, string>()
      for (const { id, revision } of missing) {
        const text = texts.get(id)
        if (text === undefined) continue
        const own: Packed = { packed: await pack(text, { level: 4 }), length: Buffer.byteLength(text) }
        made.set(id, own)
        this.keep(id, { revision, own })
      }
      for (const { id } of some) {
        const own = made.get(id)
        if (!own) continue
        if (!first) yield COMMA
        yield own
        first = false
      }
    }
  }

  /**
   * Where it was changed while it was read, the text is newer than the revision says, and is packed once more
   * next time.
   */
  private keep(id: string, kept: Kept) {
    this.bytes -= this.kept.get(id)?.own.packed.length ?? 0
    this.kept.delete(id)
    if (this.bytes + kept.own.packed.length > this.most) return
    this.kept.set(id, kept)
    this.bytes += kept.own.packed.length
  }

  private async *runs(): AsyncGenerator<readonly Run[]> {
    const { db, scope } = this.store
    const all = await db
      .select({ id: tunes.id, revision: tunes.revision })
      .from(tunes)
      .where(eq(tunes.studio, scope.studio))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const there = new Set(all.map(r => r.id))
    for (const id of this.kept.keys()) if (!there.has(id)) this.forget(id)
    for (let i = 0; i < all.length; i += TEXTS_AT_ONCE) yield all.slice(i, i + TEXTS_AT_ONCE)
  }

  private forget(id: string) {
    this.bytes -= this.kept.get(id)?.own.packed.length ?? 0
    this.kept.delete(id)
  }

  /** By id, in the order of the shelf. */
  private async read(some: readonly string[]): Promise<Map<string, string>> {
    const rows = await this.store.db
      .select({
        id: tunes.id,
        source: tunes.source,
        away: tunes.deletedAt,
        doc: sql<string>`${tunes.doc}::text`,
      })
      .from(tunes)
      .where(inArray(tunes.id, [...some]))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const recipes = await this.store.db
      .select({
        id: arrangements.id,
        tuneId: arrangements.tuneId,
        doc: sql<string>`${arrangements.doc}::text`,
      })
      .from(arrangements)
      .where(and(inArray(arrangements.tuneId, [...some]), isNull(arrangements.deletedAt)))
      .orderBy(asc(arrangements.place))
    const named = await this.store.db
      .select({
        tuneId: versions.tuneId,
        name: versions.name,
        at: versions.createdAt,
        source: versions.source,
        doc: sql<string>`${versions.doc}::text`,
        arrangements: sql<string>`${versions.arrangements}::text`,
      })
      .from(versions)
      .where(and(inArray(versions.tuneId, [...some]), versions.kept))
      .orderBy(asc(versions.place))
    const namedOf = groupBy(named, v => v.tuneId)
    const version = (v: (typeof named)[number]) =>
      `{"name":${JSON.stringify(v.name)},"createdAt":${JSON.stringify(v.at.toISOString())},"source":${JSON.stringify(v.source)},"tune":${v.doc},"arrangements":${v.arrangements}}`
    const byTune = groupBy(recipes, r => r.tuneId)
    return new Map(
      rows.map(r => {
        const kept = namedOf.get(r.id) ?? []
        const own = (byTune.get(r.id) ?? []).map(a => `{"id":${JSON.stringify(a.id)},"arrangement":${a.doc}}`)
        return [
          r.id,
          `{"id":${JSON.stringify(r.id)},"source":${JSON.stringify(r.source)},"tune":${r.doc},"arrangements":[${own.join(',')}]${r.away ? ',"away":true' : ''}${kept.length > 0 ? `,"versions":[${kept.map(version).join(',')}]` : ''}}`,
        ]
      }),
    )
  }
}

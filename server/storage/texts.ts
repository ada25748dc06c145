/** All tunes of a studio as the text of a backup: some at a time, and each packed once for as long as nothing changes it. */
import { and, asc, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import { promisify } from 'node:util'
import { gzip, gzipSync } from 'node:zlib'
import { groupBy } from '#core/groupBy'
import type { Packed } from './backups'
import type { Db } from './database'
import { arrangements, tunes, versions } from './schema'

/** Few enough that reading them is not felt. */
const TEXTS_AT_ONCE = 8
/** Bytes of packed tunes kept ready: what is over is packed anew each time. */
const MOST_KEPT = 64 * 2 ** 20
const pack = promisify(gzip)
const packedText = (text: string): Packed => ({ packed: gzipSync(text), length: Buffer.byteLength(text) })
const COMMA = packedText(',')

export class BackupTexts {
  private readonly kept = new Map<string, Packed>()
  private bytes = 0
  /** Goes up with every change: what was read before one is not kept. */
  private changes = 0

  constructor(
    private readonly db: Db,
    private readonly ours: SQL,
    private readonly most = MOST_KEPT,
  ) {}

  /** These are not what they were. */
  forget(ids: readonly string[]) {
    this.changes++
    for (const id of ids) {
      this.bytes -= this.kept.get(id)?.packed.length ?? 0
      this.kept.delete(id)
    }
  }

  /** How many are ready. */
  get ready() {
    return this.kept.size
  }

  /** Some tunes at a time and as they are stored, so that a large shelf is never whole in memory and others are answered in between. */
  async *plain(): AsyncGenerator<string> {
    let first = true
    for await (const some of this.runs()) {
      const texts = await this.read(some)
      yield (first ? '' : ',') + some.flatMap(id => texts.get(id) ?? []).join(',')
      first = false
    }
  }

  /** The same packed: only what changed since it was last asked is read and packed. */
  async *packed(): AsyncGenerator<Packed> {
    let first = true
    for await (const some of this.runs()) {
      const before = this.changes
      const missing = some.filter(id => !this.kept.has(id))
      const made = new Map(some.flatMap(id => (this.kept.has(id) ? [[id, this.kept.get(id)!] as const] : [])))
      for (const [id, text] of missing.length > 0 ? await this.read(missing) : []) {
        const own: Packed = { packed: await pack(text, { level: 4 }), length: Buffer.byteLength(text) }
        made.set(id, own)
        if (before === this.changes) this.keep(id, own)
      }
      for (const id of some) {
        const own = made.get(id)
        if (!own) continue
        if (!first) yield COMMA
        yield own
        first = false
      }
    }
  }

  private keep(id: string, own: Packed) {
    if (this.kept.has(id) || this.bytes + own.packed.length > this.most) return
    this.kept.set(id, own)
    this.bytes += own.packed.length
  }

  private async *runs(): AsyncGenerator<readonly string[]> {
    const ids = await this.db
      .select({ id: tunes.id })
      .from(tunes)
      .where(this.ours)
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    for (let i = 0; i < ids.length; i += TEXTS_AT_ONCE) yield ids.slice(i, i + TEXTS_AT_ONCE).map(r => r.id)
  }

  /** By id, in the order of the shelf. */
  private async read(some: readonly string[]): Promise<Map<string, string>> {
    const rows = await this.db
      .select({ id: tunes.id, source: tunes.source, away: tunes.deletedAt, doc: sql<string>`${tunes.doc}::text` })
      .from(tunes)
      .where(inArray(tunes.id, [...some]))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const recipes = await this.db
      .select({ id: arrangements.id, tuneId: arrangements.tuneId, doc: sql<string>`${arrangements.doc}::text` })
      .from(arrangements)
      .where(and(inArray(arrangements.tuneId, [...some]), isNull(arrangements.deletedAt)))
      .orderBy(asc(arrangements.place))
    const named = await this.db
      .select({ tuneId: versions.tuneId, name: versions.name, at: versions.createdAt, source: versions.source, doc: sql<string>`${versions.doc}::text`, arrangements: sql<string>`${versions.arrangements}::text` })
      .from(versions)
      .where(and(inArray(versions.tuneId, [...some]), versions.kept))
      .orderBy(asc(versions.place))
    const namedOf = groupBy(named, v => v.tuneId)
    const version = (v: (typeof named)[number]) => `{"name":${JSON.stringify(v.name)},"createdAt":${JSON.stringify(v.at.toISOString())},"source":${JSON.stringify(v.source)},"tune":${v.doc},"arrangements":${v.arrangements}}`
    const byTune = groupBy(recipes, r => r.tuneId)
    return new Map(rows.map(r => {
      const kept = namedOf.get(r.id) ?? []
      const own = (byTune.get(r.id) ?? []).map(a => `{"id":${JSON.stringify(a.id)},"arrangement":${a.doc}}`)
      return [r.id, `{"id":${JSON.stringify(r.id)},"source":${JSON.stringify(r.source)},"tune":${r.doc},"arrangements":[${own.join(',')}]${r.away ? ',"away":true' : ''}${kept.length > 0 ? `,"versions":[${kept.map(version).join(',')}]` : ''}}`]
    }))
  }
} // prettier-ignore

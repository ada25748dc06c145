/** Tunes in the database. Saves carry the version they were read at; a stale one changes nothing and gets what is stored. */
import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { Arrangement } from '#core/arrangement/recipe'
import { arrangementSchema } from '#core/arrangement/recipe'
import type { StoredTune } from '#core/formats/backup/backup'
import { tuneSchema, type InstrumentId, type Tune } from '#core/music/tune'
import type { ArrangementRecord, TuneListItem, TuneRecord, TuneWithArrangements } from '#contract/api'
import type { Db } from './database'
import { arrangements, tunes, type TuneSummary } from './schema'

/** The result of a save with a version: done, unknown, or stale. */
export type Saved<T> = { readonly saved: number } | { readonly missing: true } | { readonly stale: T }

const COLLATE = new Intl.Collator('en', { numeric: true })

const summaryOf = ({ kind, key, metre, measures }: Tune): TuneSummary => ({
  kind,
  key,
  metre,
  measures: measures.length,
})

type TuneRow = typeof tunes.$inferSelect
type ArrangementRow = typeof arrangements.$inferSelect

const tuneRecord = (row: TuneRow): TuneRecord => ({
  id: row.id,
  version: row.version,
  source: row.source,
  tune: tuneSchema.parse(row.doc),
  updatedAt: row.updatedAt.toISOString(),
})

const arrangementRecord = (row: ArrangementRow): ArrangementRecord => ({
  id: row.id,
  tuneId: row.tuneId,
  version: row.version,
  arrangement: arrangementSchema.parse(row.doc),
})

export class TuneStore {
  constructor(
    private readonly db: Db,
    private readonly newId: () => string,
    /** Called after every change. */
    private readonly changed: () => void = () => {},
  ) {}

  /** What the shelf lists, by title. Read once; then every change brings its own entry up to date (one process owns the folder). */
  async list(): Promise<readonly TuneListItem[]> {
    this.items ??= this.readItems().then(list => new Map(list.map(i => [i.id, i])))
    const items = await this.items
    this.sorted ??= [...items.values()].sort((a, b) => COLLATE.compare(a.title, b.title))
    return this.sorted
  }

  private items: Promise<Map<string, TuneListItem>> | null = null
  private sorted: TuneListItem[] | null = null

  private async readItems(only?: string): Promise<TuneListItem[]> {
    const rows = await this.db
      .select({ id: tunes.id, title: tunes.title, summary: tunes.summary, updatedAt: tunes.updatedAt })
      .from(tunes)
      .where(and(isNull(tunes.deletedAt), only === undefined ? undefined : eq(tunes.id, only)))
    const kinds = await this.db
      .selectDistinct({ tuneId: arrangements.tuneId, instrument: arrangements.instrument })
      .from(arrangements)
      .where(only === undefined ? undefined : eq(arrangements.tuneId, only))
      .orderBy(asc(arrangements.instrument))
    const instruments = new Map<string, InstrumentId[]>()
    for (const { tuneId, instrument } of kinds) {
      const own = instruments.get(tuneId)
      if (own) own.push(instrument as InstrumentId)
      else instruments.set(tuneId, [instrument as InstrumentId])
    }
    return rows.map(({ summary, updatedAt, ...r }) => ({
      ...r,
      ...summary,
      updatedAt: updatedAt.toISOString(),
      instruments: instruments.get(r.id) ?? [],
    }))
  }

  /** After a change of a tune: its entry in the list, and whoever wants to know. */
  private async touched(tuneId: string): Promise<void> {
    if (this.items) {
      const [items, [item]] = [await this.items, await this.readItems(tuneId)]
      if (item) items.set(tuneId, item)
      else items.delete(tuneId)
      this.sorted = null
    }
    this.changed()
  }

  async get(id: string): Promise<TuneWithArrangements | null> {
    const [row] = await this.db
      .select()
      .from(tunes)
      .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)))
    if (!row) return null
    const rows = await this.db
      .select()
      .from(arrangements)
      .where(eq(arrangements.tuneId, id))
      .orderBy(asc(arrangements.place))
    return { ...tuneRecord(row), arrangements: rows.map(arrangementRecord) }
  }

  /** A tune with its first arrangements, all or nothing. */
  async create(
    source: string | null,
    tune: Tune,
    recipes: readonly Arrangement[],
  ): Promise<TuneWithArrangements> {
    const id = this.newId()
    await this.db.transaction(async tx => {
      await tx.insert(tunes).values({ id, title: tune.title, source, doc: tune, summary: summaryOf(tune) })
      for (const doc of recipes)
        await tx
          .insert(arrangements)
          .values({ id: this.newId(), tuneId: id, doc, instrument: doc.instrument })
    })
    await this.touched(id)
    return (await this.get(id))!
  }

  async save(id: string, version: number, source: string | null, tune: Tune): Promise<Saved<TuneRecord>> {
    const [row] = await this.db
      .update(tunes)
      .set({
        source,
        doc: tune,
        summary: summaryOf(tune),
        title: tune.title,
        version: version + 1,
        updatedAt: sql`now()`,
      })
      .where(and(eq(tunes.id, id), eq(tunes.version, version), isNull(tunes.deletedAt)))
      .returning({ version: tunes.version })
    if (row) {
      await this.touched(id)
      return { saved: row.version }
    }
    const current = await this.get(id)
    return current ? { stale: current } : { missing: true }
  }

  /** Puts a tune away; {@link restore} brings it back. False when there is none. */
  async putAway(id: string): Promise<boolean> {
    const gone = await this.db
      .update(tunes)
      .set({ deletedAt: sql`now()` })
      .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)))
      .returning({ id: tunes.id })
    await this.touched(id)
    return gone.length > 0
  }

  async restore(id: string): Promise<boolean> {
    const back = await this.db
      .update(tunes)
      .set({ deletedAt: null })
      .where(and(eq(tunes.id, id), isNotNull(tunes.deletedAt)))
      .returning({ id: tunes.id })
    await this.touched(id)
    return back.length > 0
  }

  async addArrangement(tuneId: string, arrangement: Arrangement): Promise<ArrangementRecord | null> {
    if (!(await this.get(tuneId))) return null
    const [row] = await this.db
      .insert(arrangements)
      .values({ id: this.newId(), tuneId, doc: arrangement, instrument: arrangement.instrument })
      .returning()
    await this.touched(tuneId)
    return arrangementRecord(row!)
  }

  async saveArrangement(id: string, version: number, doc: Arrangement): Promise<Saved<ArrangementRecord>> {
    const [row] = await this.db
      .update(arrangements)
      .set({ doc, instrument: doc.instrument, version: version + 1 })
      .where(and(eq(arrangements.id, id), eq(arrangements.version, version)))
      .returning({ version: arrangements.version, tuneId: arrangements.tuneId })
    if (row) {
      await this.touched(row.tuneId)
      return { saved: row.version }
    }
    const [current] = await this.db.select().from(arrangements).where(eq(arrangements.id, id))
    return current ? { stale: arrangementRecord(current) } : { missing: true }
  }

  /** Everything that is on the shelf, for a backup. */
  async all(): Promise<StoredTune[]> {
    const rows = await this.db
      .select()
      .from(tunes)
      .where(isNull(tunes.deletedAt))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const recipes = await this.db.select().from(arrangements).orderBy(asc(arrangements.place))
    const byTune = group(recipes)
    return rows.map(r => ({
      id: r.id,
      source: r.source,
      tune: tuneSchema.parse(r.doc),
      arrangements: (byTune.get(r.id) ?? []).map(a => ({
        id: a.id,
        arrangement: arrangementSchema.parse(a.doc),
      })),
    }))
  }
}

function group(rows: readonly ArrangementRow[]): Map<string, ArrangementRow[]> {
  const out = new Map<string, ArrangementRow[]>()
  for (const r of rows) out.set(r.tuneId, [...(out.get(r.tuneId) ?? []), r])
  return out
}

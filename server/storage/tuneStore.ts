/** Tunes in the database. Saves carry the version they were read at; a stale one changes nothing and gets what is stored. */
import { and, asc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm'
import { groupBy } from '#core/groupBy'
import type { Arrangement } from '#core/arrangement/recipe'
import { arrangementSchema } from '#core/arrangement/recipe'
import { analyseForm, type Boundaries } from '#core/form/form'
import { kinIn, phrasePrint } from '#core/form/shelfKin'
import type { StoredTune } from '#core/formats/backup/backup'
import { tuneSchema, type InstrumentId, type Tune } from '#core/music/tune'
import { PrintIndex, type MelodyPrint } from '#core/melody/print'
import type {
  ArrangementRecord,
  ShelfQuery,
  TuneKin,
  TuneList,
  TuneListItem,
  TuneRecord,
  TuneWithArrangements,
} from '#contract/api'
import type { Db } from './database'
import { arrangements, SUMMARY_FORM, tunes, type TuneSummary } from './schema'
import { arrangementRecord, summaryOf, tuneRecord } from './records'
import { getVersion, keepVersion, keepVersionBefore, listVersions, renameVersion } from './versions'
import { byTitle, facetsOf, searchText, shelfPage, type ListedTune } from './shelfList'

/** The result of a save with a version: done, unknown, or stale. */
export type Saved<T> = { readonly saved: number } | { readonly missing: true } | { readonly stale: T }

/** Fewer marks than this tell nothing of a phrase; so much of it another tune must hold; so many of them are opened. */
const LEAST_MARKS = 3
const HELD_SHARE = 0.45
const MOST_OPENED = 6

export class TuneStore {
  constructor(
    private readonly db: Db,
    private readonly newId: () => string,
    /** Called after every change. */
    private readonly changed: () => void = () => {},
  ) {}

  /** What the shelf shows for a query. The list is read once; then every change brings its own entry up to date (one process owns the folder). */
  async shelf(query: ShelfQuery): Promise<TuneList> {
    const items = await this.listed()
    this.sorted ??= byTitle([...items.values()])
    this.facets ??= facetsOf(this.sorted)
    return shelfPage(this.sorted, this.facets, query)
  }

  /** Every tune of the shelf, by title. */
  async list(): Promise<readonly TuneListItem[]> {
    const items = await this.listed()
    this.sorted ??= byTitle([...items.values()])
    return this.sorted.map(t => t.item)
  }

  private items: Promise<Map<string, ListedTune>> | null = null
  private sorted: ListedTune[] | null = null
  private facets: TuneList['facets'] | null = null
  private readonly prints = new PrintIndex()

  private listed(): Promise<Map<string, ListedTune>> {
    this.items ??= this.readItems().then(list => new Map(list.map(t => [t.item.id, t])))
    return this.items
  }

  /** Tunes on the shelf that sound like each of some fingerprints. */
  async alike(prints: readonly MelodyPrint[]): Promise<{ id: string; title: string; likeness: number }[][]> {
    const items = await this.listed()
    return prints.map(p =>
      this.prints
        .alike(p)
        .slice(0, 5)
        .map(a => ({ ...a, title: items.get(a.id)!.item.title })),
    )
  }

  /**
   * Phrases of a tune that others on the shelf have too: the index says which tunes to open, and only those few are compared phrase by phrase. Null when
   * there is no such tune.
   */
  async kinOf(id: string, boundaries: Boundaries): Promise<TuneKin[] | null> {
    const own = await this.docs([id])
    if (!own[0]) return null
    await this.listed()
    const form = analyseForm(own[0].tune, { boundaries })
    const found = new Map<string, number>()
    for (const p of form.phrases) {
      const print = phrasePrint(p)
      if (print.length < LEAST_MARKS) continue
      for (const { id: other, likeness } of this.prints.holding(print, HELD_SHARE, id)) found.set(other, (found.get(other) ?? 0) + likeness) // prettier-ignore
    }
    const likest = [...found].sort((a, b) => b[1] - a[1]).slice(0, MOST_OPENED).map(([other]) => other) // prettier-ignore
    const there = await this.docs(likest)
    const kin = there.map(t => ({ id: t.id, title: t.tune.title, kin: kinIn(form, t.tune) }))
    return kin.filter(t => t.kin.length > 0).sort((a, b) => b.kin.length - a.kin.length)
  }

  private async docs(ids: readonly string[]): Promise<{ id: string; tune: Tune }[]> {
    if (ids.length === 0) return []
    const rows = await this.db
      .select({ id: tunes.id, doc: tunes.doc })
      .from(tunes)
      .where(and(inArray(tunes.id, [...ids]), isNull(tunes.deletedAt)))
    return rows.map(r => ({ id: r.id, tune: r.doc as Tune }))
  }

  /** Pairs of tunes that sound alike, the likest first. */
  async duplicates(): Promise<{ a: TuneListItem; b: TuneListItem; likeness: number }[]> {
    const items = await this.listed()
    return this.prints
      .pairs()
      .sort((x, y) => y.likeness - x.likeness)
      .slice(0, 500)
      .map(p => ({ a: items.get(p.a)!.item, b: items.get(p.b)!.item, likeness: p.likeness }))
  }

  private async readItems(only?: readonly string[]): Promise<ListedTune[]> {
    const rows = await this.db
      .select({ id: tunes.id, title: tunes.title, summary: tunes.summary, updatedAt: tunes.updatedAt })
      .from(tunes)
      .where(and(isNull(tunes.deletedAt), only && inArray(tunes.id, [...only])))
    const recipes = await this.db
      .select({
        tuneId: arrangements.tuneId,
        instrument: arrangements.instrument,
        level: sql<number | null>`(${arrangements.doc} ->> 'level')::int`,
        crossTuned: sql<boolean>`jsonb_typeof(${arrangements.doc} -> 'tuning') = 'array'`,
      })
      .from(arrangements)
      .where(only && inArray(arrangements.tuneId, [...only]))
      .orderBy(asc(arrangements.instrument))
    const byTune = groupBy(recipes, r => r.tuneId)
    const out: ListedTune[] = []
    for (const { summary: stored, updatedAt, ...row } of rows) {
      const summary = stored.form === SUMMARY_FORM ? stored : await this.summarised(row.id)
      const { form: _form, print, ...shown } = summary
      const own = byTune.get(row.id) ?? []
      const item: TuneListItem = {
        ...row,
        ...shown,
        updatedAt: updatedAt.toISOString(),
        instruments: [...new Set(own.map(r => r.instrument as InstrumentId))],
        levels: [...new Set(own.flatMap(r => r.level ?? []))].sort(),
        crossTuned: own.some(r => r.crossTuned),
      }
      this.prints.set(row.id, print)
      out.push({ item, text: searchText(item) })
    }
    return out
  }

  /** Makes the summary of a tune stored by an older Nokta anew. */
  private async summarised(id: string): Promise<TuneSummary> {
    const [row] = await this.db.select({ doc: tunes.doc }).from(tunes).where(eq(tunes.id, id))
    const summary = summaryOf(tuneSchema.parse(row!.doc))
    await this.db.update(tunes).set({ summary }).where(eq(tunes.id, id))
    return summary
  }

  /** After a change of a tune: its entry in the list, and whoever wants to know. */
  private async touched(...tuneIds: readonly string[]): Promise<void> {
    if (this.items) {
      const [items, fresh] = [
        await this.items,
        new Map((await this.readItems(tuneIds)).map(t => [t.item.id, t])),
      ]
      for (const id of tuneIds) {
        const item = fresh.get(id)
        if (item) items.set(id, item)
        else {
          items.delete(id)
          this.prints.delete(id)
        }
      }
    }
    this.sorted = this.facets = null
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
    const [id] = await this.createAll([{ source, tune, recipes }])
    return (await this.get(id!))!
  }

  /** Some tunes at once: all of them or none. */
  async createAll(
    list: readonly { source: string | null; tune: Tune; recipes: readonly Arrangement[] }[],
  ): Promise<string[]> {
    const made = list.map(t => ({ ...t, id: this.newId() }))
    await this.db.transaction(async tx => {
      await tx.insert(tunes).values(
        made.map(({ id, tune, source }) => ({
          id,
          title: tune.title,
          source,
          doc: tune,
          summary: summaryOf(tune),
        })),
      )
      const recipes = made.flatMap(({ id, recipes }) =>
        recipes.map(doc => ({ id: this.newId(), tuneId: id, doc, instrument: doc.instrument })),
      )
      if (recipes.length > 0) await tx.insert(arrangements).values(recipes)
    })
    await this.touched(...made.map(t => t.id))
    return made.map(t => t.id)
  }

  /** Saves a tune. What stood there before is kept as a version when the last one is older than {@link BETWEEN_VERSIONS}. */
  async save(id: string, version: number, source: string | null, tune: Tune): Promise<Saved<TuneRecord>> {
    await keepVersionBefore(this.db, this.newId, id, version)
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

  readonly versions = {
    list: (tuneId: string) => listVersions(this.db, tuneId),
    get: (id: string) => getVersion(this.db, id),
    keep: (tuneId: string, name: string) => keepVersion(this.db, this.newId, tuneId, name),
    rename: (id: string, name: string) => renameVersion(this.db, id, name),
  }

  /** Everything that is on the shelf, for a backup. */
  async all(): Promise<StoredTune[]> {
    const rows = await this.db
      .select()
      .from(tunes)
      .where(isNull(tunes.deletedAt))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const recipes = await this.db.select().from(arrangements).orderBy(asc(arrangements.place))
    const byTune = groupBy(recipes, r => r.tuneId)
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

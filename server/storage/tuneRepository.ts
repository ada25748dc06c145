/**
 * Tunes with their arrangements, within one studio. Saves carry the versions they were read at and are carried out whole or not at all; a stale one changes nothing
 * and gets what is stored.
 */
import { and, asc, desc, eq, exists, isNotNull, isNull, sql, type SQL } from 'drizzle-orm'
import { withSheet } from '#core/arrangement/edits'
import { AS_WRITTEN } from '#core/styles/sheetRecipe'
import { arrangementSchema } from '#core/arrangement/recipe'
import type { StoredArrangement, StoredTune } from '#core/formats/backup/backup'
import { groupBy } from '#core/groupBy'
import { tuneSchema } from '#core/music/tune'
import type { AwayTune, SaveDocuments, SavedDocuments, TuneWithArrangements } from '#contract/documents'
import { Together } from '../together'
import type { Db, Scope } from './database'
import type { ListedTuneDocument } from './listings'
import { arrangementRecord, recipeColumns, tuneColumns, tuneRecord } from './records'
import { arrangements, tunes, versions } from './schema'
import { BackupTexts } from './texts'
import { asItWas, replacedTune, wholeTunes, type ReplacedTune, type WholeRow } from './tuneQuestions'
import { keptBefore } from './versions'

/** With what the list tells of it, where the tune alone was saved. */
export type Saved =
  | { readonly saved: SavedDocuments; readonly listed?: ListedTuneDocument }
  | { readonly missing: true }
  | { readonly stale: TuneWithArrangements }

/** A tune before it is on the shelf, with the arrangements it comes with. */
export type NewTune = Omit<StoredTune, 'id'>

/** Undoes a transaction in which a document turned out to be stale. */
class Stale extends Error {}

type SavedArrangement = SaveDocuments['arrangements'][number]

/** When all of them have ended, however: what is asked in a transaction is asked before it is undone. */
async function allOf<T extends readonly unknown[]>(
  list: T,
): Promise<{ -readonly [K in keyof T]: Awaited<T[K]> }> {
  await Promise.allSettled(list)
  return Promise.all(list)
}

/** What a tune that came in is called here; of its arrangements by what they were called there. */
export interface NewIds {
  readonly id: string
  readonly arrangements: ReadonlyMap<string, string>
}

/** In one question: reading more at once would be felt. */
const READ_TOGETHER = 8

const withArrangements = ({ own, ...tune }: WholeRow): TuneWithArrangements => ({
  ...tuneRecord(tune),
  arrangements: own.map(a => arrangementRecord({ ...a, tuneId: tune.id })),
})

export class TuneRepository {
  constructor(
    readonly db: Db,
    readonly scope: Scope,
    readonly newId: () => string,
    /** Bytes of packed texts kept ready for backups. */
    mostPacked?: number,
  ) {
    this.ours = eq(tunes.studio, scope.studio)
    const asked = wholeTunes(db, scope)
    this.whole = new Together(READ_TOGETHER, async ids => new Map((await asked.execute({ ids })).map(row => [row.id, row]))) // prettier-ignore
    this.tuneAlone = replacedTune(this, true)
    this.texts = new BackupTexts(db, this.ours, mostPacked)
  }

  readonly ours: SQL
  /** What backups are made of. */
  readonly texts: BackupTexts
  private readonly whole: Together<WholeRow>
  private readonly tuneAlone: ReplacedTune
  private here = (id: string) => and(eq(tunes.id, id), this.ours, isNull(tunes.deletedAt))

  async get(id: string): Promise<TuneWithArrangements | null> {
    const row = await this.whole.get(id)
    return row && withArrangements(row)
  }

  /** Some tunes at once, each with its first arrangements: all of them or none. Returns the ids they got, in the same order. */
  async createAll(list: readonly NewTune[]): Promise<NewIds[]> {
    const made = list.map(t => ({ ...t, id: this.newId(), own: this.withNewIds(t.arrangements) }))
    await this.db.transaction(async tx => {
      await tx.insert(tunes).values(
        made.map(({ id, tune, source, away }) => ({
          id,
          studio: this.scope.studio,
          ...tuneColumns(source, tune),
          ...(away && { deletedAt: new Date() }),
        })),
      )
      const recipes = made.flatMap(t =>
        t.own.map(a => ({
          id: a.id,
          tuneId: t.id,
          ...recipeColumns(a.arrangement),
        })),
      )
      if (recipes.length > 0) await tx.insert(arrangements).values(recipes)
      const kept = made.flatMap(t => (t.versions ?? []).map(v => ({ id: this.newId(), tuneId: t.id, name: v.name, kept: true, source: v.source, doc: v.tune, arrangements: this.withNewIds(v.arrangements), createdAt: new Date(v.createdAt) }))) // prettier-ignore
      if (kept.length > 0) await tx.insert(versions).values(kept)
    })
    return made.map(t => ({
      id: t.id,
      arrangements: new Map(t.arrangements.map((a, i) => [a.id, t.own[i]!.id])),
    }))
  }

  /** Under ids of our own; what speaks of another of them goes along, what speaks of one that is not there is dropped. */
  private withNewIds(list: readonly StoredArrangement[]): StoredArrangement[] {
    const ids = new Map(list.map(a => [a.id, this.newId()]))
    return list.map(({ id, arrangement }) => {
      const { sheet } = arrangement.shown
      const under =
        sheet.under === null || sheet.under === AS_WRITTEN ? sheet.under : (ids.get(sheet.under) ?? null)
      return {
        id: ids.get(id)!,
        arrangement: under === sheet.under ? arrangement : withSheet(arrangement, { under }),
      }
    })
  }

  /** Tunes that were put away, the last one first. */
  async away(): Promise<AwayTune[]> {
    const rows = await this.db
      .select({ id: tunes.id, title: tunes.title, at: tunes.deletedAt })
      .from(tunes)
      .where(and(this.ours, isNotNull(tunes.deletedAt)))
      .orderBy(desc(tunes.deletedAt))
    return rows.map(r => ({ id: r.id, title: r.title, putAway: r.at!.toISOString() }))
  }

  /** A tune that was put away, with its arrangements and versions, for good. False when there is none. */
  async throwAway(id: string): Promise<boolean> {
    const gone = await this.db
      .delete(tunes)
      .where(and(eq(tunes.id, id), this.ours, isNotNull(tunes.deletedAt)))
      .returning({ id: tunes.id })
    return gone.length > 0
  }

  /** Everything that changed, whole or not at all. What stood there before is kept as a version, always before something is taken away. */
  async save(id: string, docs: SaveDocuments): Promise<Saved> {
    try {
      const alone = await this.saveAlone(id, docs)
      if (alone) return alone
      return await this.db.transaction(async tx => {
        const [kept, pruned] = keptBefore(
          { db: tx, scope: this.scope },
          this.newId(),
          id,
          sql`true`,
          docs.removed.length > 0,
        )
        await tx.with(kept, pruned).select({ id: kept.id }).from(kept)
        // None of these waits for the answer to another; whichever finds something stale undoes all.
        const [[row], tune, own] = await allOf([
          tx.select({ id: tunes.id }).from(tunes).where(this.here(id)).for('update'),
          docs.tune && this.replaceTune(replacedTune({ db: tx, scope: this.scope }), id, docs.tune),
          allOf(docs.arrangements.map(a => this.saveArrangement(tx, id, a))),
          allOf(docs.removed.map(a => this.removeArrangement(tx, id, a))),
        ])
        if (!row) throw new Stale()
        return { saved: { tune: tune?.version ?? null, arrangements: own } }
      })
    } catch (e) {
      if (!(e instanceof Stale)) throw e
      const stale = await this.get(id)
      return stale ? { stale } : { missing: true }
    }
  }

  /** One document that changed, as while someone edits: one question, whole in itself. Null where there is more to do. */
  private async saveAlone(
    id: string,
    { tune, arrangements: own, removed }: SaveDocuments,
  ): Promise<Saved | null> {
    const [only] = own
    if (removed.length > 0 || (tune ? 1 : 0) + own.length !== 1 || only?.version === null) return null
    if (tune) {
      const listed = await this.replaceTune(this.tuneAlone, id, tune)
      return { saved: { tune: listed.version, arrangements: [] }, listed }
    }
    const there = this.db.select({ id: tunes.id }).from(tunes).where(this.here(id))
    const asRead = this.db.select({ id: arrangements.id }).from(arrangements).where(asItWas(id, only!))
    const [kept, pruned] = keptBefore(this, this.newId(), id, exists(asRead))
    const saved = await this.replaceArrangement(this.db.with(kept, pruned), id, only!, exists(there))
    return { saved: { tune: null, arrangements: [saved] } }
  }

  /** What is new of it. */
  private async replaceTune(
    question: ReplacedTune,
    id: string,
    { version, source, tune }: NonNullable<SaveDocuments['tune']>,
  ): Promise<ListedTuneDocument & { readonly version: number }> {
    const columns = tuneColumns(source, tune)
    const [row] = await question.execute({ ...columns, id, version, kept: this.newId() })
    if (!row) throw new Stale()
    return { ...row, title: columns.title, summary: columns.summary }
  }

  /** The same of an arrangement that is there. */
  private async replaceArrangement(
    db: Pick<Db, 'update'>,
    tuneId: string,
    a: SavedArrangement,
    where?: SQL,
  ): Promise<{ readonly id: string; readonly version: number }> {
    const [row] = await db
      .update(arrangements)
      .set({ ...recipeColumns(a.arrangement), version: sql`${arrangements.version} + 1` })
      .where(and(asItWas(tuneId, a), where))
      .returning({ id: arrangements.id, version: arrangements.version })
    if (!row) throw new Stale()
    return row
  }

  private async saveArrangement(tx: Db, tuneId: string, a: SavedArrangement) {
    if (a.version !== null) return this.replaceArrangement(tx, tuneId, a)
    const own = and(eq(arrangements.id, a.id), eq(arrangements.tuneId, tuneId))
    const columns = recipeColumns(a.arrangement)
    const [back] = await tx
      .update(arrangements)
      .set({ ...columns, version: sql`${arrangements.version} + 1`, deletedAt: null })
      .where(and(own, isNotNull(arrangements.deletedAt)))
      .returning({ version: arrangements.version })
    if (back) return { id: a.id, version: back.version }
    const [made] = await tx
      .insert(arrangements)
      .values({ id: a.id, tuneId, ...columns })
      .onConflictDoNothing()
      .returning({ version: arrangements.version })
    if (!made) throw new Stale()
    return { id: a.id, version: made.version }
  }

  private async removeArrangement(tx: Db, tuneId: string, a: SaveDocuments['removed'][number]) {
    const gone = await tx
      .update(arrangements)
      .set({ deletedAt: sql`now()` })
      .where(asItWas(tuneId, a))
      .returning({ id: arrangements.id })
    if (gone.length === 0) throw new Stale()
  }

  /** Puts a tune away; {@link bringBack} undoes it. False when there is none. */
  async putAway(id: string): Promise<boolean> {
    const gone = await this.db
      .update(tunes)
      .set({ deletedAt: sql`now()` })
      .where(this.here(id))
      .returning({ id: tunes.id })
    return gone.length > 0
  }

  async bringBack(id: string): Promise<boolean> {
    const back = await this.db
      .update(tunes)
      .set({ deletedAt: null })
      .where(and(eq(tunes.id, id), this.ours, isNotNull(tunes.deletedAt)))
      .returning({ id: tunes.id })
    return back.length > 0
  }

  /** Everything that is on the shelf, for a backup. */
  async all(): Promise<StoredTune[]> {
    const rows = await this.db
      .select()
      .from(tunes)
      .where(and(this.ours, isNull(tunes.deletedAt)))
      .orderBy(asc(tunes.createdAt), asc(tunes.id))
    const recipes = await this.db
      .select()
      .from(arrangements)
      .where(isNull(arrangements.deletedAt))
      .orderBy(asc(arrangements.place))
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

/**
 * Tunes with their arrangements, within one studio. Saves carry the versions they were read at and are
 * carried out whole or not at all; a stale one changes nothing and gets what is stored.
 */
import { and, asc, desc, eq, isNotNull, isNull, sql, type SQL } from 'drizzle-orm'
import { withSheet } from '#core/arrangement/edits'
import { AS_WRITTEN } from '#core/styles/sheetRecipe'
import { arrangementSchema } from '#core/arrangement/recipe'
import type { StoredArrangement, StoredTune } from '#core/formats/backup/backup'
import { groupBy } from '#core/groupBy'
import { tuneSchema } from '#core/music/tune'
import type { AwayTune, SaveDocuments, SavedDocuments, TuneWithArrangements } from '#contract/documents'
import { Together } from './together'
import { arrangementRecord, recipeColumns, tuneColumns, tuneRecord } from './columns'
import type { Db, Scope, Store } from './port'
import { MOST_ARRANGEMENTS, OverLimit } from './limits'
import { changing } from './revisions'
import { arrangements, tunes, versions } from './schema'
import { asItWas, revisionsOf, wholeTunes, type WholeRow } from './tuneQueries'
import { keepBefore } from './versions'

export type Saved =
  { readonly saved: SavedDocuments } | { readonly missing: true } | { readonly stale: TuneWithArrangements }

/** A tune before it is on the shelf, with the arrangements it comes with. */
export type NewTune = Omit<StoredTune, 'id'>

/** Undoes a change in which a document turned out to be stale. */
class Stale extends Error {}

type SavedArrangement = SaveDocuments['arrangements'][number]

/** What a tune that came in is called here; of its arrangements by what they were called there. */
export interface NewIds {
  readonly id: string
  readonly arrangements: ReadonlyMap<string, string>
}

/** In one query: reading more at once would be felt. */
const READ_TOGETHER = 8

export class TuneRepository implements Store {
  readonly ours: SQL
  private readonly whole: Together<WholeRow>
  private readonly revisions: Together<{ readonly id: string; readonly revision: number }>

  constructor(
    readonly db: Db,
    readonly scope: Scope,
    readonly newId: () => string,
  ) {
    this.ours = eq(tunes.studio, scope.studio)
    const byId = <T extends { readonly id: string }>(rows: readonly T[]) =>
      new Map(rows.map(row => [row.id, row]))
    const [whole, revisions] = [wholeTunes(this), revisionsOf(this)]
    this.whole = new Together(READ_TOGETHER, async ids => byId(await whole.execute({ ids })))
    this.revisions = new Together(READ_TOGETHER, async ids => byId(await revisions.execute({ ids })))
  }

  private here = (id: string) => and(eq(tunes.id, id), this.ours, isNull(tunes.deletedAt))

  async get(id: string): Promise<TuneWithArrangements | null> {
    const row = await this.whole.get(id)
    if (!row) return null
    const { own, ...tune } = row
    const arrangements = own.map(a => arrangementRecord({ ...a, tuneId: tune.id }))
    return { ...tuneRecord(tune), arrangements }
  }

  /** The revision that changed it last; null where it is not there. */
  async revisionOf(id: string): Promise<number | null> {
    return (await this.revisions.get(id))?.revision ?? null
  }

  /**
   * Some tunes at once, each with its first arrangements: all of them or none. Returns the ids they got, in
   * the same order.
   */
  async createAll(list: readonly NewTune[]): Promise<NewIds[]> {
    const made = list.map(t => ({ ...t, id: this.newId(), own: this.withNewIds(t.arrangements) }))
    await changing(this, async (tx, touched) => {
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
      const kept = made.flatMap(t =>
        (t.versions ?? []).map(v => ({
          id: this.newId(),
          tuneId: t.id,
          name: v.name,
          kept: true,
          source: v.source,
          doc: v.tune,
          arrangements: this.withNewIds(v.arrangements),
          createdAt: new Date(v.createdAt),
        })),
      )
      if (kept.length > 0) await tx.insert(versions).values(kept)
      touched(...made.map(t => t.id))
    })
    return made.map(t => ({
      id: t.id,
      arrangements: new Map(t.arrangements.map((a, i) => [a.id, t.own[i]!.id])),
    }))
  }

  /**
   * Under ids of our own; what speaks of another of them goes along, what speaks of one that is not there is
   * dropped.
   */
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

  /**
   * Everything that changed, whole or not at all. What stood there before is kept as a version, always before
   * something is taken away.
   */
  async save(id: string, docs: SaveDocuments): Promise<Saved> {
    try {
      return await changing(this, async (tx, touched) => {
        const [there] = await tx.select({ id: tunes.id }).from(tunes).where(this.here(id))
        if (!there) throw new Stale()
        await keepBefore({ db: tx, scope: this.scope }, this.newId(), id, docs.removed.length > 0)
        const tune = docs.tune && (await this.replaceTune(tx, id, docs.tune))
        const own: SavedDocuments['arrangements'] = []
        for (const a of docs.arrangements) own.push(await this.saveArrangement(tx, id, a))
        for (const a of docs.removed) await this.removeArrangement(tx, id, a)
        if (docs.arrangements.some(a => a.version === null)) await this.withinLimit(tx, id)
        touched(id)
        return { saved: { tune, arrangements: own } }
      })
    } catch (e) {
      if (!(e instanceof Stale)) throw e
      const stale = await this.get(id)
      return stale ? { stale } : { missing: true }
    }
  }

  private async withinLimit(tx: Db, tuneId: string) {
    const there = await tx.$count(
      arrangements,
      and(eq(arrangements.tuneId, tuneId), isNull(arrangements.deletedAt)),
    )
    if (there > MOST_ARRANGEMENTS)
      throw new OverLimit(`A tune holds at most ${MOST_ARRANGEMENTS} arrangements.`, 'arrangements')
  }

  /** The version it has now. */
  private async replaceTune(
    tx: Db,
    id: string,
    { version, source, tune }: NonNullable<SaveDocuments['tune']>,
  ): Promise<number> {
    const [row] = await tx
      .update(tunes)
      .set({ ...tuneColumns(source, tune), version: sql`${tunes.version} + 1`, updatedAt: sql`now()` })
      .where(and(this.here(id), eq(tunes.version, version)))
      .returning({ version: tunes.version })
    if (!row) throw new Stale()
    return row.version
  }

  private async replaceArrangement(
    tx: Db,
    tuneId: string,
    a: SavedArrangement,
  ): Promise<{ readonly id: string; readonly version: number }> {
    const [row] = await tx
      .update(arrangements)
      .set({ ...recipeColumns(a.arrangement), version: sql`${arrangements.version} + 1` })
      .where(asItWas(tuneId, a))
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
  putAway = (id: string) => this.moved(this.here(id), sql`now()`)

  bringBack = (id: string) => this.moved(and(eq(tunes.id, id), this.ours, isNotNull(tunes.deletedAt)), null)

  private moved(which: SQL | undefined, deletedAt: SQL | null): Promise<boolean> {
    return changing(this, async (tx, touched) => {
      const [row] = await tx.update(tunes).set({ deletedAt }).where(which).returning({ id: tunes.id })
      if (row) touched(row.id)
      return row !== undefined
    })
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

/** The list of the shelf: searched, filtered, sorted and counted by the database. */
import { and, asc, count, desc, eq, inArray, isNull, like, sql, type SQL } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import type { ShelfQuery, TuneList, TuneListItem } from '#contract/documents'
import { orderOf, plainLetters } from './letters'
import type { Store } from './port'
import { revisionOf } from './revisions'
import { tunes } from './schema'

const itemColumns = {
  id: tunes.id,
  title: tunes.title,
  updatedAt: tunes.updatedAt,
  instruments: tunes.instruments,
  levels: tunes.levels,
  crossTuned: tunes.crossTuned,
  summary: tunes.summary,
}
type ItemRow = Pick<typeof tunes.$inferSelect, keyof typeof itemColumns>

const itemOf = ({ summary, updatedAt, ...row }: ItemRow): TuneListItem => {
  return {
    ...row,
    ...summary,
    instruments: row.instruments as TuneListItem['instruments'],
    updatedAt: updatedAt.toISOString(),
  }
}

/** What each part of a query asks of a tune. */
const ASKED: { readonly [K in keyof ShelfQuery]?: (value: NonNullable<ShelfQuery[K]>) => SQL } = {
  kind: kind => eq(tunes.kind, kind),
  key: key => eq(tunes.keyName, key),
  metre: metre => eq(tunes.metreName, metre),
  instrument: instrument => sql`${instrument} = any(${tunes.instruments})`,
  level: level => sql`${level} = any(${tunes.levels})`,
  tuning: tuning => eq(tunes.crossTuned, tuning === 'cross'),
  tag: tag => sql`${tag} = any(${tunes.tags})`,
  settings: settings => eq(tunes.settings, settings),
}

/** Every word anywhere in what is told of a tune, in any order. */
const having = (search: string) =>
  plainLetters(search)
    .split(/\s+/)
    .filter(Boolean)
    .map(word => like(tunes.letters, `%${word.replace(/[\\%_]/g, '\\$&')}%`))

/** Every order is one on top of that by title. */
const ORDER: Readonly<Record<ShelfQuery['sort'], readonly (readonly [PgColumn, 'up' | 'down'])[]>> = {
  title: [],
  changed: [[tunes.updatedAt, 'down']],
  kind: [[tunes.kindOrder, 'up']],
  key: [[tunes.keyName, 'up']],
  measures: [[tunes.measures, 'up']],
  composer: [[tunes.composerOrder, 'up']],
}

type Facets = TuneList['facets']
const FACET_COLUMNS = {
  kind: tunes.kind,
  key: tunes.keyName,
  metre: tunes.metreName,
  instrument: tunes.instruments,
  level: tunes.levels,
  tag: tunes.tags,
} as const satisfies Readonly<Record<keyof Facets, PgColumn>>
const FACETS = Object.keys(FACET_COLUMNS) as (keyof Facets)[]

interface Counted {
  readonly revision: number
  readonly shelf: number
  readonly facets: Facets
}

export class ShelfList {
  private readonly here: SQL
  /** Good for as long as the shelf's revision is what it was. */
  private counted: Counted | null = null

  constructor(private readonly store: Store) {
    this.here = and(eq(tunes.studio, store.scope.studio), isNull(tunes.deletedAt))!
  }

  async page(q: ShelfQuery): Promise<TuneList> {
    const asked = Object.entries(ASKED).flatMap(([part, fits]) => {
      const value = q[part as keyof ShelfQuery]
      return value === undefined ? [] : [(fits as (v: unknown) => SQL)(value)]
    })
    const conditions = [...having(q.search ?? ''), ...asked]
    const where = and(this.here, ...conditions)
    const order = [...ORDER[q.sort], [tunes.titleOrder, 'up'] as const, [tunes.id, 'up'] as const]
    const rows = await this.store.db
      .select(itemColumns)
      .from(tunes)
      .where(where)
      .orderBy(...order.map(([column, way]) => (way === q.order ? asc(column) : desc(column))))
      .offset(q.offset)
      .limit(q.limit)
    const { shelf, facets } = await this.counts()
    const total = conditions.length === 0 ? shelf : await this.count(where!)
    return { tunes: rows.map(itemOf), total, shelf, facets }
  }

  /** All of it by title. */
  async all(): Promise<TuneListItem[]> {
    const rows = await this.store.db
      .select(itemColumns)
      .from(tunes)
      .where(this.here)
      .orderBy(asc(tunes.titleOrder), asc(tunes.id))
    return rows.map(itemOf)
  }

  /** Of these those that are on the shelf. */
  async some(ids: readonly string[]): Promise<Map<string, TuneListItem>> {
    if (ids.length === 0) return new Map()
    const rows = await this.store.db
      .select(itemColumns)
      .from(tunes)
      .where(and(this.here, inArray(tunes.id, [...ids])))
    return new Map(rows.map(r => [r.id, itemOf(r)]))
  }

  private async count(where: SQL): Promise<number> {
    const [row] = await this.store.db.select({ n: count() }).from(tunes).where(where)
    return row!.n
  }

  private async counts(): Promise<Counted> {
    const revision = await revisionOf(this.store)
    if (this.counted?.revision !== revision) this.counted = { revision, ...(await this.countAll()) }
    return this.counted
  }

  /**
   * How many tunes there are of each kind, in each key …: every column counted by itself, all in one pass
   * over the shelf.
   */
  private async countAll(): Promise<Omit<Counted, 'revision'>> {
    const columns = Object.values(FACET_COLUMNS)
    const sets = sql.join(
      columns.map(c => sql`(${c})`),
      sql`, `,
    )
    const rows = await this.store.db
      .select({ ...FACET_COLUMNS, n: count() })
      .from(tunes)
      .where(this.here)
      .groupBy(sql`grouping sets (${sets})`)
    const of = (facet: keyof Facets) => {
      const counts = new Map<string, number>()
      for (const row of rows)
        for (const value of [row[facet] ?? []].flat())
          if (value !== '') counts.set(String(value), (counts.get(String(value)) ?? 0) + row.n)
      return [...counts]
        .map(([value, n]) => ({ value, count: n }))
        .sort((a, b) => (orderOf(a.value) < orderOf(b.value) ? -1 : 1))
    }
    const shelf = rows.filter(r => (r.kind as string | null) !== null).reduce((n, r) => n + r.n, 0)
    return { shelf, facets: Object.fromEntries(FACETS.map(f => [f, of(f)])) as Facets }
  }
}

/** Searching, filtering and sorting the shelf. Pure: from the list and a query to what is shown. */
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import type { ShelfQuery, TuneList, TuneListItem } from '#contract/documents'
import { COLLATE, plainLetters, type ByTitle, type ListedTune } from './byTitle'

/** What each part of a question asks of a tune. */
const ASKED: { readonly [K in keyof ShelfQuery]?: (t: TuneListItem, value: NonNullable<ShelfQuery[K]>) => boolean } = {
  kind: (t, kind) => t.kind === kind,
  key: (t, key) => keyName(t.key) === key,
  metre: (t, metre) => metreName(t.metre) === metre,
  instrument: (t, instrument) => t.instruments.includes(instrument),
  level: (t, level) => t.levels.includes(level),
  tuning: (t, tuning) => t.crossTuned === (tuning === 'cross'),
  tag: (t, tag) => t.tags.includes(tag),
  settings: (t, settings) => t.settings === settings,
} // prettier-ignore

/** Those that have every word and are as asked, by title. */
function fitting(shelf: ByTitle, q: ShelfQuery): ListedTune[] {
  const words = plainLetters(q.search ?? '')
    .split(/\s+/)
    .filter(Boolean)
  let left = words.length > 0 ? shelf.having(words) : shelf.all()
  for (const [part, fits] of Object.entries(ASKED)) {
    const value = q[part as keyof ShelfQuery]
    if (value !== undefined) left = left.filter(t => fits(t.item, value as never))
  }
  return left
}

const ORDER: Readonly<Record<ShelfQuery['sort'], ((a: TuneListItem, b: TuneListItem) => number) | null>> = {
  title: null,
  changed: (a, b) => (a.updatedAt < b.updatedAt ? 1 : a.updatedAt > b.updatedAt ? -1 : 0),
  kind: (a, b) => COLLATE.compare(a.kind, b.kind),
  key: (a, b) => COLLATE.compare(keyName(a.key), keyName(b.key)),
  measures: (a, b) => a.measures - b.measures,
  composer: (a, b) => COLLATE.compare(a.composer, b.composer),
}

const FACETS: Readonly<Record<keyof TuneList['facets'], (t: TuneListItem) => readonly string[]>> = {
  kind: t => [t.kind],
  key: t => [keyName(t.key)],
  metre: t => [metreName(t.metre)],
  instrument: t => t.instruments,
  level: t => t.levels.map(String),
  tag: t => t.tags,
}

/** How many tunes there are of each kind, in each key …; kept in step tune by tune. */
export class FacetCounts {
  private readonly counts = Object.fromEntries(Object.keys(FACETS).map(f => [f, new Map<string, number>()])) as Record<keyof typeof FACETS, Map<string, number>> // prettier-ignore
  private told: string | null = null

  /** One tune more (1), or one less (-1). */
  count(t: TuneListItem, by: 1 | -1) {
    this.told = null
    for (const [facet, of] of Object.entries(FACETS) as [keyof typeof FACETS, (typeof FACETS)['kind']][]) {
      const counts = this.counts[facet]
      for (const value of of(t)) {
        if (value === '') continue
        const now = (counts.get(value) ?? 0) + by
        if (now > 0) counts.set(value, now)
        else counts.delete(value)
      }
    }
  }

  /** As they are sent, {@link TuneList}'s `facets`. */
  get facets(): string {
    if (this.told !== null) return this.told
    const sorted = (m: ReadonlyMap<string, number>) => [...m].map(([value, count]) => ({ value, count })).sort((a, b) => COLLATE.compare(a.value, b.value)) // prettier-ignore
    const { kind, key, metre, instrument, level, tag } = this.counts
    const facets: TuneList['facets'] = { kind: sorted(kind), key: sorted(key), metre: sorted(metre), instrument: sorted(instrument), level: sorted(level), tag: sorted(tag) } // prettier-ignore
    return (this.told = JSON.stringify(facets))
  }
}

/** The answer as it is sent, a {@link TuneList}. Every order is a stable one on top of that by title. */
export function shelfPage(shelf: ByTitle, facets: string, q: ShelfQuery): string {
  const found = fitting(shelf, q)
  const order = ORDER[q.sort]
  if (order) found.sort((a, b) => order(a.item, b.item))
  if (q.order === 'down') found.reverse()
  const tunes = found.slice(q.offset, q.offset + q.limit).map(t => t.json)
  return `{"tunes":[${tunes.join(',')}],"total":${found.length},"shelf":${shelf.size},"facets":${facets}}`
}

/** Searching, filtering and sorting the shelf. Pure: from the list and a query to what is shown. */
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import type { ShelfQuery, TuneList, TuneListItem } from '#contract/documents'

const COLLATE = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

/** Letters without their accents, lower case: "Élan" is found by "elan". */
export const plainLetters = (text: string) =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLowerCase()

/** All that a search looks through, made once for each tune. */
export const searchText = (t: TuneListItem) =>
  plainLetters([t.title, ...t.otherTitles, t.composer, t.kind, keyName(t.key), metreName(t.metre), ...t.tags, ...t.instruments].join(' ')) // prettier-ignore

export interface ListedTune {
  readonly item: TuneListItem
  readonly text: string
}

const fits = (q: ShelfQuery): ((t: ListedTune) => boolean) => {
  const words = plainLetters(q.search ?? '')
    .split(/\s+/)
    .filter(Boolean)
  return ({ item, text }) =>
    words.every(w => text.includes(w)) &&
    (q.kind === undefined || item.kind === q.kind) &&
    (q.key === undefined || keyName(item.key) === q.key) &&
    (q.metre === undefined || metreName(item.metre) === q.metre) &&
    (q.instrument === undefined || item.instruments.includes(q.instrument)) &&
    (q.level === undefined || item.levels.includes(q.level)) &&
    (q.tuning === undefined || item.crossTuned === (q.tuning === 'cross')) &&
    (q.tag === undefined || item.tags.includes(q.tag)) &&
    (q.settings === undefined || item.settings === q.settings)
}

const ORDER: Readonly<Record<ShelfQuery['sort'], (a: TuneListItem, b: TuneListItem) => number>> = {
  title: () => 0,
  changed: (a, b) => (a.updatedAt < b.updatedAt ? 1 : a.updatedAt > b.updatedAt ? -1 : 0),
  kind: (a, b) => COLLATE.compare(a.kind, b.kind),
  key: (a, b) => COLLATE.compare(keyName(a.key), keyName(b.key)),
  measures: (a, b) => a.measures - b.measures,
  composer: (a, b) => COLLATE.compare(a.composer, b.composer),
}

const TITLES = (a: ListedTune, b: ListedTune) => COLLATE.compare(a.item.title, b.item.title) || (a.item.id < b.item.id ? -1 : 1) // prettier-ignore

/** The shelf by title: every other order is a stable one on top of it. */
export const byTitle = (list: readonly ListedTune[]): ListedTune[] => [...list].sort(TITLES)

/** Where a tune stands in a list by title, or would. */
function placeOf(sorted: readonly ListedTune[], t: ListedTune): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (TITLES(sorted[middle]!, t) < 0) low = middle + 1
    else high = middle
  }
  return low
}
export const putIn = (sorted: ListedTune[], t: ListedTune) => sorted.splice(placeOf(sorted, t), 0, t)
export const takeOut = (sorted: ListedTune[], t: ListedTune) => {
  const at = placeOf(sorted, t)
  if (sorted[at] === t) sorted.splice(at, 1)
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
  private told: TuneList['facets'] | null = null

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

  get facets(): TuneList['facets'] {
    const sorted = (m: ReadonlyMap<string, number>) => [...m].map(([value, count]) => ({ value, count })).sort((a, b) => COLLATE.compare(a.value, b.value)) // prettier-ignore
    const { kind, key, metre, instrument, level, tag } = this.counts
    return (this.told ??= { kind: sorted(kind), key: sorted(key), metre: sorted(metre), instrument: sorted(instrument), level: sorted(level), tag: sorted(tag) }) // prettier-ignore
  }
}

/** `sorted` must come from {@link byTitle}. */
export function shelfPage(
  sorted: readonly ListedTune[],
  facets: TuneList['facets'],
  q: ShelfQuery,
): TuneList {
  const found = sorted.filter(fits(q)).map(t => t.item)
  if (q.sort !== 'title') found.sort(ORDER[q.sort])
  if (q.order === 'down') found.reverse()
  return {
    tunes: found.slice(q.offset, q.offset + q.limit),
    total: found.length,
    shelf: sorted.length,
    facets,
  }
}

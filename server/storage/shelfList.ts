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

/** The shelf by title: every other order is a stable one on top of it. */
export const byTitle = (list: readonly ListedTune[]): ListedTune[] =>
  [...list].sort((a, b) => COLLATE.compare(a.item.title, b.item.title))

export function counted(values: Iterable<string>): { value: string; count: number }[] {
  const counts = new Map<string, number>()
  for (const v of values) if (v !== '') counts.set(v, (counts.get(v) ?? 0) + 1)
  return [...counts]
    .map(([value, count]) => ({ value, count }))
    .sort((a, b) => COLLATE.compare(a.value, b.value))
}

export function facetsOf(list: readonly ListedTune[]): TuneList['facets'] {
  const all = (of: (t: TuneListItem) => readonly string[]) => counted(list.flatMap(t => of(t.item)))
  return {
    kind: all(t => [t.kind]),
    key: all(t => [keyName(t.key)]),
    metre: all(t => [metreName(t.metre)]),
    instrument: all(t => t.instruments),
    level: all(t => t.levels.map(String)),
    tag: all(t => t.tags),
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

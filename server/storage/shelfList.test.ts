import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { TuneListItem } from '#contract/documents'
import { shelfQuerySchema } from '#contract/documents'
import {
  byTitle,
  FacetCounts,
  plainLetters,
  putIn,
  searchText,
  shelfPage,
  takeOut,
  type ListedTune,
} from './shelfList'

const item = (title: string, more: Partial<TuneListItem> = {}): TuneListItem => ({
  id: title, title, otherTitles: [], composer: '', kind: 'reel', key: { step: 'D', alter: 0, mode: 'major' }, metre: { beats: 4, unit: 4 }, measures: 16,
  tags: [], rights: 'own', settings: null, updatedAt: '2026-01-01T00:00:00.000Z', instruments: ['violin'], levels: [], crossTuned: false, ...more,
}) // prettier-ignore
const listed = (...items: TuneListItem[]) => byTitle(items.map(i => ({ item: i, text: searchText(i) })))
const facetsOf = (list: readonly ListedTune[]) => {
  const counts = new FacetCounts()
  for (const t of list) counts.count(t.item, 1)
  return counts.facets
}
const ask = (list: ReturnType<typeof listed>, q: object = {}) => shelfPage(list, facetsOf(list), shelfQuerySchema.parse(q)) // prettier-ignore
const titles = (list: ReturnType<typeof listed>, q: object = {}) => ask(list, q).tunes.map(t => t.title)

describe('the shelf', () => {
  const list = listed(
    item('Tune 10', { kind: 'jig', tags: ['ball', 'loud'] }), item('tune 9', { measures: 8 }), item('Élan', { composer: 'Ada Ström', levels: [2, 4] }),
    item('Zigzag', { crossTuned: true, updatedAt: '2026-02-01T00:00:00.000Z', instruments: ['cello', 'bass'], settings: 'mark' }),
  ) // prettier-ignore

  it('orders titles as people do: numbers by size, accents aside', () => {
    expect(titles(list)).toEqual(['Élan', 'tune 9', 'Tune 10', 'Zigzag'])
  })
  it('finds every word anywhere, in any order', () => {
    expect(titles(list, { search: 'strom elan' })).toEqual(['Élan'])
    expect(titles(list, { search: '  TUNE  d major ' })).toEqual(['tune 9', 'Tune 10'])
    expect(plainLetters('Ström Élan')).toBe('strom elan')
  })
  it('filters by each fact', () => {
    expect(titles(list, { kind: 'jig' })).toEqual(['Tune 10'])
    expect(titles(list, { tag: 'loud' })).toEqual(['Tune 10'])
    expect(titles(list, { level: '4' })).toEqual(['Élan'])
    expect(titles(list, { instrument: 'bass' })).toEqual(['Zigzag'])
    expect(titles(list, { tuning: 'home' })).toHaveLength(3)
    expect(titles(list, { settings: 'mark' })).toEqual(['Zigzag'])
    expect(titles(list, { metre: '3/4' })).toEqual([])
  })
  it('filters by key, metre and tuning as they are named', () => {
    const g = { step: 'G', alter: 0, mode: 'major' } as const
    const other = listed(item('Waltz', { key: g, metre: { beats: 3, unit: 4 } }), item('Reel'), item('Crossed', { crossTuned: true })) // prettier-ignore
    expect(titles(other, { key: 'G major' })).toEqual(['Waltz'])
    expect(titles(other, { key: 'D major' })).toEqual(['Crossed', 'Reel'])
    expect(titles(other, { metre: '3/4' })).toEqual(['Waltz'])
    expect(titles(other, { tuning: 'cross' })).toEqual(['Crossed'])
    expect(facetsOf(other).key).toEqual([{ value: 'D major', count: 2 }, { value: 'G major', count: 1 }]) // prettier-ignore
    expect(facetsOf(other).metre).toEqual([{ value: '3/4', count: 1 }, { value: '4/4', count: 2 }]) // prettier-ignore
  })
  it('sorts by title either way, by what is said of them, and by what was changed last', () => {
    const day = (n: number) => ({ updatedAt: `2026-01-0${n}T00:00:00.000Z` })
    const dated = listed(item('A', { ...day(2), kind: 'waltz' }), item('B', { ...day(3), kind: 'air' }), item('C', { ...day(1), kind: 'jig' }), item('D', { ...day(2), kind: 'jig' })) // prettier-ignore
    expect(titles(dated, { order: 'down' })).toEqual(['D', 'C', 'B', 'A'])
    expect(titles(dated, { sort: 'changed' })).toEqual(['B', 'A', 'D', 'C'])
    expect(titles(dated, { sort: 'changed', order: 'down' })).toEqual(['C', 'D', 'A', 'B'])
    expect(titles(dated, { sort: 'kind' })).toEqual(['B', 'C', 'D', 'A'])
  })
  it('takes out of the list only what is in it', () => {
    const [a, b] = [...listed(item('A')), ...listed(item('B'))]
    const sorted = [a!]
    takeOut(sorted, b!)
    expect(sorted).toEqual([a])
  })
  it('sorts stably, pages, and tells how many fit', () => {
    expect(titles(list, { sort: 'measures' })).toEqual(['tune 9', 'Élan', 'Tune 10', 'Zigzag'])
    expect(titles(list, { sort: 'changed' })[0]).toBe('Zigzag')
    expect(ask(list, { offset: 1, limit: 2 })).toMatchObject({ total: 4, shelf: 4, tunes: [{ title: 'tune 9' }, { title: 'Tune 10' }] }) // prettier-ignore
  })
  it('counts what the filters offer', () => {
    expect(facetsOf(list).kind).toEqual([{ value: 'jig', count: 1 }, { value: 'reel', count: 3 }]) // prettier-ignore
    expect(facetsOf(listed(item('No kind', { kind: '' }))).kind).toEqual([])
    expect(facetsOf(list).tag).toEqual([{ value: 'ball', count: 1 }, { value: 'loud', count: 1 }]) // prettier-ignore
  })
  it('kept in step tune by tune is as it is made anew', () => {
    const tune = fc.record({ title: fc.constantFrom('A', 'a', 'Élan', 'Tune 2', 'Tune 10', ''), kind: fc.constantFrom('', 'reel', 'jig'), tags: fc.uniqueArray(fc.constantFrom('loud', 'ball')) }) // prettier-ignore
    fc.assert(
      fc.property(fc.array(tune), fc.array(fc.nat()), (tunes, leaving) => {
        const sorted: ListedTune[] = []
        const counts = new FacetCounts()
        const there = tunes.map((t, i) => {
          const own = item(t.title, { ...t, id: `t${i}` })
          const listedOne = { item: own, text: searchText(own) }
          putIn(sorted, listedOne)
          counts.count(own, 1)
          return listedOne
        })
        for (const n of leaving) {
          const [gone] = there.splice(n % Math.max(1, there.length), 1)
          if (!gone) continue
          takeOut(sorted, gone)
          counts.count(gone.item, -1)
        }
        expect(sorted).toEqual(byTitle(there))
        expect(counts.facets).toEqual(facetsOf(there))
      }),
    )
  })
})

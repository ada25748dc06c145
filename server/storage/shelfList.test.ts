import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { TuneListItem } from '#contract/documents'
import { shelfQuerySchema, tuneListSchema } from '#contract/documents'
import { ByTitle, listedTune, plainLetters, type ListedTune } from './byTitle'
import { FacetCounts, shelfPage } from './shelfList'

const item = (title: string, more: Partial<TuneListItem> = {}): TuneListItem => ({
  id: title, title, otherTitles: [], composer: '', kind: 'reel', key: { step: 'D', alter: 0, mode: 'major' }, metre: { beats: 4, unit: 4 }, measures: 16,
  tags: [], rights: 'own', settings: null, updatedAt: '2026-01-01T00:00:00.000Z', instruments: ['violin'], levels: [], crossTuned: false, ...more,
}) // prettier-ignore
const listed = (...items: TuneListItem[]) => new ByTitle(items.map(listedTune))
const facetCounts = (list: readonly ListedTune[]) => {
  const counts = new FacetCounts()
  for (const t of list) counts.count(t.item, 1)
  return counts.facets
}
/** As the contract has it. */
const ask = (list: ByTitle, q: object = {}) => tuneListSchema.parse(JSON.parse(shelfPage(list, facetCounts(list.all()), shelfQuerySchema.parse(q)))) // prettier-ignore
const facetsOf = (list: ByTitle) => ask(list).facets
const titles = (list: ByTitle, q: object = {}) => ask(list, q).tunes.map(t => t.title)

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
    expect(titles(list, { search: 'elanada' })).toEqual([])
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
  it('kept in step tune by tune is as it is made anew, and is searched as each tune would be', () => {
    const asked = [['a'], ['une 1'], ['jig', 'ba'], ['loud', 'ball', 'elan'], ['ü'], ['a', 'a'], ['tune', 'zz']]
    const tune = fc.record({ title: fc.constantFrom('A', 'a', 'Élan', 'Tune 2', 'Tune 10', ''), kind: fc.constantFrom('', 'reel', 'jig'), tags: fc.uniqueArray(fc.constantFrom('loud', 'ball')) }) // prettier-ignore
    fc.assert(
      // Many enough to fill some blocks, and more added at one place than a block takes.
      fc.property(fc.array(tune, { maxLength: 300, size: 'max' }), fc.nat(300), fc.array(fc.nat(), { maxLength: 200, size: 'max' }), (tunes, first, leaving) => {
        const there = tunes.map((t, i) => listedTune(item(t.title, { ...t, id: `t${i}` })))
        const shelf = new ByTitle(there.slice(0, first))
        const counts = new FacetCounts()
        for (const t of there) counts.count(t.item, 1)
        for (const t of there.slice(first)) shelf.put(t)
        for (const n of leaving) {
          const [gone] = there.splice(n % Math.max(1, there.length), 1)
          if (!gone) continue
          shelf.take(gone)
          shelf.take(gone)
          counts.count(gone.item, -1)
          if (n % 7 === 0) shelf.having(['tune'])
        }
        const anew = new ByTitle(there).all()
        expect(shelf.all()).toEqual(anew)
        expect(shelf.size).toBe(there.length)
        for (const words of asked) expect(shelf.having(words)).toEqual(anew.filter(t => words.every(w => t.text.includes(w))))
        expect(counts.facets).toEqual(facetCounts(there))
      }),
      { numRuns: 40 },
    )
  }) // prettier-ignore
})

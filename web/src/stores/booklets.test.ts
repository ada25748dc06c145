import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { newStudio } from '#core/instruments/studio'
import { useBooklets } from './booklets'

/** A shelf of made-up tunes, and a sheet that draws as many pages as a tune's title has words. */
const world = vi.hoisted(() => ({
  studio: null as unknown,
  tunes: {} as Record<string, string>,
  drawn: [] as string[],
  feet: [] as string[],
  /** Waited for before a sheet is drawn. */
  before: () => Promise.resolve(),
  fault: '',
}))
vi.mock('../api/client', () => {
  class ApiError extends Error {
    constructor(readonly code: string) {
      super(code)
    }
  }
  return {
    ApiError,
    api: {
      studio: () => Promise.resolve({ versions: {}, studio: world.studio }),
      saveStudio: () => Promise.resolve({ version: 2 }),
      tune: (id: string) =>
        world.tunes[id] === undefined
          ? Promise.reject(new ApiError(id === 'broken' ? 'internal' : 'notFound'))
          : Promise.resolve({
              id,
              version: 1,
              tune: {
                title: world.tunes[id],
                composer: 'Q. W.',
                rights: id === 'owned' ? 'protected' : 'own',
              },
              arrangements: [
                { id: 'v', arrangement: newArrangement('violin', 'full', 'plain') },
                { id: 'c', arrangement: newArrangement('cello', 'full', 'low') },
              ],
            }),
    },
  }
})
interface Source {
  readonly tune: { readonly title: string }
  readonly recipe: Arrangement
}
vi.mock('../paper/draw', async importOriginal => ({
  ...(await importOriginal<object>()),
  sheetSource: async (s: Source) => {
    await world.before()
    if (world.fault) throw new Error(world.fault)
    return s
  },
}))
vi.mock('#drawing/sheet', () => ({
  drawSheet: ({ tune, recipe }: Source) => {
    world.drawn.push(`${tune.title} ${recipe.played.instrument} ${recipe.shown.sheet.paper}`)
    const page = () => ({ svg: { cloneNode: () => ({ copy: true }) } })
    return { pages: tune.title.split(' ').map(page) }
  },
}))
vi.mock('#drawing/pages', () => ({
  drawPlainPage: () => ({ svg: {}, plain: true }),
  setFoot: (_svg: unknown, _paper: string, lines: readonly { text: string }[]) =>
    void world.feet.push(lines.map(l => l.text).join('|')),
}))
vi.mock('#drawing/measurer', () => ({
  pageMeasurer: { text: (s: string, { size }: { size: number }) => s.length * size * 0.5, glyph: () => ({}) },
}))

beforeEach(() => {
  setActivePinia(createPinia())
  const tunes = { one: 'Hop', two: 'Long Air', three: 'Stomp' }
  Object.assign(world, {
    studio: newStudio(),
    tunes,
    drawn: [],
    feet: [],
    before: () => Promise.resolve(),
    fault: '',
  })
})
async function opened(...tunes: string[]) {
  const store = useBooklets()
  await store.open(await store.make(tunes))
  return store
}

describe('a booklet', () => {
  it('has its contents first, then the sheets in order, numbered through', async () => {
    const store = await opened('one', 'two', 'three')
    expect(store.pages).toHaveLength(5)
    expect(store.tunes.map(t => t.page)).toEqual([2, 3, 5])
    expect(world.feet.map(f => f.split('|').at(-1))).toEqual(['2', '3', '4', '5'])
    expect(store.progress).toBeNull()
  })
  it('without contents begins with the first tune; where spreads are wanted what has two pages begins on a left one', async () => {
    const store = await opened('one', 'two', 'three')
    await store.change({ contents: false, facing: true })
    await store.draw()
    expect(store.tunes.map(t => t.page)).toEqual([1, 2, 4])
    await store.replace(b => ({ ...b, tunes: [b.tunes[1]!, b.tunes[0]!] }))
    await store.draw()
    // An empty page stands before it.
    expect(store.tunes.map(t => t.page)).toEqual([2, 4])
    expect(store.pages).toHaveLength(4)
  })
  it('put in another order draws no sheet again, in another look all of them', async () => {
    const store = await opened('one', 'two')
    expect(world.drawn).toEqual(['Hop violin A4', 'Long Air violin A4'])
    await store.replace(b => ({ ...b, tunes: b.tunes.toReversed() }))
    await store.draw()
    expect(world.drawn).toHaveLength(2)
    expect(store.tunes.map(t => t.page)).toEqual([2, 4])
    await store.change({ paper: 'Letter' })
    await store.draw()
    expect(world.drawn.slice(2)).toEqual(['Long Air violin Letter', 'Hop violin Letter'])
  })
  it('takes the arrangement that is chosen, the first where none is or it is gone', async () => {
    const store = await opened('one', 'two', 'three')
    await store.replace(b => ({
      ...b,
      tunes: b.tunes.map((t, i) => ({ ...t, arrangement: ['c', 'gone', null][i]! })),
    }))
    await store.draw()
    expect(store.tunes.map(t => t.arrangement?.played.instrument)).toEqual(['cello', 'violin', 'violin'])
  })
  it('goes on without a tune that is not on the shelf any more, and keeps its place', async () => {
    const store = await opened('one', 'gone', 'three')
    expect(store.tunes.map(t => [t.documents === null, t.page])).toEqual([
      [false, 2],
      [true, null],
      [false, 3],
    ])
    expect(store.problem).toBe('')
    expect(store.pages).toHaveLength(3)
  })
  it('that can’t be read or drawn says why, and stays what it was', async () => {
    const store = await opened('one', 'broken')
    expect(store.problem).toMatch(/can’t be drawn: internal/)
    world.tunes.broken = 'Mended'
    await store.draw()
    expect([store.problem, store.pages.length]).toEqual(['', 3])
    world.fault = 'no face'
    await store.change({ paper: 'Letter' })
    await store.draw()
    expect([store.problem, store.pages.length, store.progress]).toEqual([
      'The booklet can’t be drawn: no face',
      3,
      null,
    ])
  })
  it('drawn anew while it is drawn is what was asked last', async () => {
    const store = await opened('one')
    let go = () => {}
    world.before = () => new Promise<void>(done => (go = done))
    await store.change({ paper: 'Letter' })
    const first = store.draw()
    await vi.waitFor(() => expect(world.drawn).toHaveLength(1))
    await store.change({ paper: 'A4', contents: false })
    const held = go
    world.before = () => Promise.resolve()
    const second = store.draw()
    held()
    await Promise.all([first, second])
    expect(store.pages).toHaveLength(1)
    expect(store.tunes.map(t => t.page)).toEqual([1])
    expect(store.progress).toBeNull()
  })
  it('with the same tune twice draws it once, and each has its own number', async () => {
    const store = await opened('one')
    await store.replace(b => ({ ...b, tunes: [...b.tunes, ...b.tunes] }))
    await store.draw()
    expect(world.drawn).toHaveLength(1)
    expect(store.tunes.map(t => t.page)).toEqual([2, 3])
    expect(store.pages[1]!.svg).not.toBe(store.pages[2]!.svg)
  })
  it('knows whether any of its tunes is protected', async () => {
    world.tunes.owned = 'Theirs'
    expect((await opened('one')).anyProtected).toBe(false)
    expect((await opened('one', 'owned')).anyProtected).toBe(true)
  })
})

describe('sheet by sheet', () => {
  it('is a file for each arrangement, in each style, named by what it is', async () => {
    const store = await opened('one', 'gone', 'two')
    expect(store.sheetsOf(false, [])).toHaveLength(2)
    const all = store.sheetsOf(true, [])
    expect(all.map(s => s.name)).toEqual(['hop-plain', 'hop-low', 'long-air-plain', 'long-air-low'])
    const look = (style: string) => ({
      sheet: { ...newArrangement('violin', 'full').shown.sheet, style },
      bowMarks: 'none' as const,
    })
    const styled = store.sheetsOf(false, [look('First year'), look('Stand')])
    expect(styled.map(s => s.name)).toEqual([
      'hop-plain-first-year',
      'hop-plain-stand',
      'long-air-plain-first-year',
      'long-air-plain-stand',
    ])
    expect(await all[1]!.pages()).toHaveLength(1)
    expect(world.drawn.at(-1)).toBe('Hop cello A4')
  })
})

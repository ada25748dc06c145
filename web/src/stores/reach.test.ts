import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { TuneListItem } from '#contract/documents'
import { newLearner } from '#core/instruments/learner'
import { newStudio } from '#core/instruments/studio'
import { useReach } from './reach'

const world = vi.hoisted(() => ({
  shelf: [] as { id: string; updatedAt: string }[],
  asked: [] as string[],
  during: (() => {}) as (tune: string) => void,
}))
vi.mock('../api/client', () => ({
  api: {
    tune: (id: string) => Promise.resolve({ tune: { title: id } }),
    shelf: ({ offset }: { offset: number }) =>
      Promise.resolve({ tunes: world.shelf.slice(offset, offset + 2), total: world.shelf.length }),
    studio: () => Promise.resolve({ version: 1, studio: newStudio() }),
  },
  ApiError: class extends Error {},
}))
const core = {
  reach: ({ title }: { title: string }) => {
    world.asked.push(title)
    world.during(title)
    return Promise.resolve({ within: title === 'b', level: 2, news: [] })
  },
}
vi.mock('../worker/client', async importOriginal => ({
  ...(await importOriginal<object>()),
  askDesk: (call: (c: typeof core) => Promise<unknown>) => call(core),
}))
const item = (id: string, updatedAt = '1') => ({ id, updatedAt }) as TuneListItem
const three = ['a', 'b', 'c'].map(id => item(id))
const learner = newLearner('l', 'M.', 'violin', 'full')

beforeEach(() => {
  setActivePinia(createPinia())
  Object.assign(world, { asked: [], during: () => {} })
})

it('fingers each tune for the learner once, tells how far it is, and what is within reach', async () => {
  const reach = useReach()
  const told: unknown[] = []
  world.during = () => told.push(reach.progress?.done)
  expect(await reach.scan(three, learner)).toBeNull()
  expect(told).toEqual([0, 1, 2])
  expect([...reach.found].map(([id, r]) => [id, r.within])).toEqual([
    ['a', false],
    ['b', true],
    ['c', false],
  ])
  expect(reach.progress).toBeNull()
  await reach.scan(three, learner)
  expect(world.asked).toEqual(['a', 'b', 'c'])
})
it('fingers a tune anew when it changed, and all of them for another learner or another that they are', async () => {
  const reach = useReach()
  await reach.scan(three, learner)
  await reach.scan([three[0]!, item('b', '2'), three[2]!], learner)
  expect(world.asked).toEqual(['a', 'b', 'c', 'b'])
  await reach.scan(three, { ...learner, span: 90 })
  expect(world.asked.slice(4)).toEqual(['a', 'b', 'c'])
})
it('stops at the first that is looked for', async () => {
  const reach = useReach()
  expect((await reach.scan(three, learner, r => r.within))?.id).toBe('b')
  expect(world.asked).toEqual(['a', 'b'])
})
it('is ended by a cancel and by a later call: the earlier one finds nothing more', async () => {
  const reach = useReach()
  world.during = t => t === 'b' && reach.cancel()
  expect(await reach.scan(three, learner)).toBeNull()
  expect([world.asked, [...reach.found.keys()], reach.progress]).toEqual([['a', 'b'], ['a'], null])
  world.during = () => {}
  const [first, second] = [
    reach.scan(three, { ...learner, span: 80 }),
    reach.scan([three[2]!], { ...learner, span: 81 }),
  ]
  expect([await first, await second]).toEqual([null, null])
  expect([...reach.found.keys()]).toEqual(['c'])
})

it('looks through the whole shelf, page after page, before it says that no tune teaches', async () => {
  const reach = useReach()
  world.shelf = ['a', 'c', 'd', 'e', 'b'].map(id => ({ id, updatedAt: '1' }))
  expect((await reach.firstOnShelf(learner, r => r.within))?.id).toBe('b')
  expect(await reach.firstOnShelf(learner, r => r.level > 7)).toBeNull()
  world.during = () => reach.cancel()
  expect(await reach.firstOnShelf({ ...learner, span: 70 }, r => r.within)).toBeUndefined()
})

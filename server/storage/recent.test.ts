import { expect, it } from 'vitest'
import { Recent } from './recent'

const reader = () => {
  const read: string[] = []
  return { read, of: (id: string) => () => Promise.resolve((read.push(id), `${id} ${read.length}`)) }
}

it('reads what it knows once, and again after a change', async () => {
  const [recent, r] = [new Recent<string>(3), reader()]
  expect(await recent.get('a', r.of('a'))).toBe('a 1')
  expect(await recent.get('a', r.of('a'))).toBe('a 1')
  recent.forget(['a'])
  expect(await recent.get('a', r.of('a'))).toBe('a 2')
})

it('lets go of the one unused for longest', async () => {
  const [recent, r] = [new Recent<string>(2), reader()]
  for (const id of ['a', 'b', 'a', 'c', 'a', 'b']) await recent.get(id, r.of(id))
  expect(r.read).toEqual(['a', 'b', 'c', 'b'])
})

it('does not keep what was read before a change that came in the meantime', async () => {
  const recent = new Recent<string>(2)
  let answer: (text: string) => void = () => {}
  const slow = recent.get('a', () => new Promise<string>(done => (answer = done)))
  recent.forget(['a'])
  answer('old')
  expect(await slow).toBe('old')
  expect(await recent.get('a', () => Promise.resolve('new'))).toBe('new')
})

it('does not keep that there is nothing', async () => {
  const recent = new Recent<string>(2)
  expect(await recent.get('a', () => Promise.resolve(null))).toBeNull()
  expect(await recent.get('a', () => Promise.resolve('there'))).toBe('there')
})

import { expect, it } from 'vitest'
import { Recent } from './recent'

/** Texts of three characters, which say how often was read. */
const reader = () => {
  const read: string[] = []
  return { read, of: (id: string) => () => Promise.resolve((read.push(id), `${id} ${read.length}`)) }
}

it('reads what it knows once, and again after a change', async () => {
  const [recent, r] = [new Recent(9), reader()]
  expect(await recent.get('a', r.of('a'))).toBe('a 1')
  expect(await recent.get('a', r.of('a'))).toBe('a 1')
  recent.forget(['a'])
  expect(await recent.get('a', r.of('a'))).toBe('a 2')
})

it('lets go of the one unused for longest', async () => {
  const [recent, r] = [new Recent(6), reader()]
  for (const id of ['a', 'b', 'a', 'c', 'a', 'b']) await recent.get(id, r.of(id))
  expect(r.read).toEqual(['a', 'b', 'c', 'b'])
})

it('gives the room of what changed to others, and keeps nothing that is too large', async () => {
  const [recent, r] = [new Recent(6), reader()]
  for (const id of ['a', 'b']) await recent.get(id, r.of(id))
  recent.forget(['a', 'a', 'unknown'])
  for (const id of ['c', 'b', 'c']) await recent.get(id, r.of(id))
  expect(r.read).toEqual(['a', 'b', 'c'])
  for (const id of ['far too large', 'far too large', 'b']) await recent.get(id, r.of(id))
  expect(r.read.slice(3)).toEqual(['far too large', 'far too large'])
})

it('says when it is full', async () => {
  const [recent, r] = [new Recent(9), reader()]
  const full: boolean[] = []
  for (const id of ['a', 'b', 'c']) {
    full.push(recent.full)
    await recent.get(id, r.of(id))
  }
  expect([...full, recent.full]).toEqual([false, false, false, true])
  recent.forget(['b'])
  expect(recent.full).toBe(false)
})

/** A reading that ends when it is told to. */
const slowly = () => {
  let answer: (text: string) => void = () => {}
  let count = 0
  const read = () => (count++, new Promise<string>(done => (answer = done)))
  return { read, answer: (text: string) => answer(text), times: () => count }
}

it('reads once for all who ask at the same time', async () => {
  const [recent, slow] = [new Recent(9), slowly()]
  const all = Promise.all(Array.from({ length: 30 }, () => recent.get('a', slow.read)))
  slow.answer('one')
  expect(new Set(await all)).toEqual(new Set(['one']))
  expect(slow.times()).toBe(1)
})

it('keeps nothing that was read before a change that came in the meantime, and gives it to nobody who asks after it', async () => {
  const [recent, slow] = [new Recent(9), slowly()]
  const before = recent.get('a', slow.read)
  recent.forget(['a'])
  const after = recent.get('a', () => Promise.resolve('new'))
  slow.answer('old')
  expect([await before, await after]).toEqual(['old', 'new'])
  expect(await recent.get('a', () => Promise.resolve('newer'))).toBe('new')
})

it('does not keep that there is nothing, nor that it failed', async () => {
  const recent = new Recent(9)
  expect(await recent.get('a', () => Promise.resolve(null))).toBeNull()
  await expect(recent.get('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await recent.get('a', () => Promise.resolve('there'))).toBe('there')
})

import { expect, it } from 'vitest'
import { Together } from './together'

/** Reads by hand: each question waits until it is answered. */
const byHand = (most: number) => {
  const questions: { ids: readonly string[]; answer: (error?: Error) => void }[] = []
  const together = new Together<string>(
    most,
    ids =>
      new Promise((done, fail) => {
        const found = new Map(ids.filter(id => id !== 'none').map(id => [id, `${id} ${questions.length}`]))
        questions.push({ ids, answer: error => (error ? fail(error) : done(found)) })
      }),
  )
  return { together, questions, asked: () => questions.map(q => q.ids.join(' ')) }
}
const soon = () => new Promise(done => setImmediate(done))

it('asks at once for who comes in the same breath, and next for all who came in the meantime', async () => {
  const { together, questions, asked } = byHand(9)
  const first = Promise.all(['a', 'b'].map(together.get))
  await soon()
  const next = Promise.all(['c', 'a', 'none'].map(together.get))
  await soon()
  expect(asked()).toEqual(['a b'])
  questions[0]!.answer()
  expect(await first).toEqual(['a 0', 'b 0'])
  await soon()
  expect(asked()).toEqual(['a b', 'c a none'])
  questions[1]!.answer()
  // Asked for again after a question had gone out, it is read again: it may have changed.
  expect(await next).toEqual(['c 1', 'a 1', null])
  await soon()
  const later = together.get('d')
  await soon()
  questions[2]!.answer()
  expect(await later).toBe('d 2')
})

it('asks for no more than so many in one question, and for all of them', async () => {
  const { together, questions, asked } = byHand(2)
  const all = Promise.all(['a', 'b', 'c'].map(together.get))
  await soon()
  questions[0]!.answer()
  await soon()
  questions[1]!.answer()
  expect(await all).toEqual(['a 0', 'b 0', 'c 1'])
  expect(asked()).toEqual(['a b', 'c'])
})

it('tells those who asked that it failed, and goes on', async () => {
  const { together, questions } = byHand(1)
  const [a, b] = [together.get('a'), together.get('b')]
  await soon()
  questions[0]!.answer(new Error('no'))
  await expect(a).rejects.toThrow('no')
  await soon()
  questions[1]!.answer()
  expect(await b).toBe('b 1')
})

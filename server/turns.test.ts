import { expect, it } from 'vitest'
import { Turns } from './turns'

/** Works that end when they are told to. */
function works(turns: Turns) {
  const said: string[] = []
  const ends = new Map<string, (fails?: boolean) => void>()
  const take = (name: string) =>
    turns.take(() => {
      said.push(name)
      return new Promise<string>((done, fail) =>
        ends.set(name, fails => (fails ? fail(new Error(name)) : done(name))),
      )
    })
  const soon = () => new Promise<void>(done => setImmediate(done))
  return { said, take, soon, end: (name: string, fails?: boolean) => ends.get(name)!(fails) }
}

it('are taken so many at a time, in order, and a failure keeps nobody from theirs', async () => {
  const { said, take, soon, end } = works(new Turns(2))
  const all = ['a', 'b', 'c', 'd'].map(take)
  await soon()
  expect(said).toEqual(['a', 'b'])
  end('b', true)
  await expect(all[1]).rejects.toThrow('b')
  await soon()
  expect(said).toEqual(['a', 'b', 'c'])
  end('a')
  expect(await all[0]).toBe('a')
  await soon()
  expect(said).toEqual(['a', 'b', 'c', 'd'])
  end('c')
  end('d')
  await Promise.all([all[2], all[3]])
  const late = take('e')
  await soon()
  expect(said.at(-1)).toBe('e')
  end('e')
  await late
})

it('let nobody in between when one comes just as another ends', async () => {
  const turns = new Turns(1)
  let [running, most] = [0, 0]
  const work = async () => {
    most = Math.max(most, ++running)
    await Promise.resolve()
    running--
  }
  const first = turns.take(work)
  const second = turns.take(work)
  void first.then(() => turns.take(work))
  await second
  await turns.take(work)
  expect(most).toBe(1)
})

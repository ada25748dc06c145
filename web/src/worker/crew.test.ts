import { describe, expect, it } from 'vitest'
import { Crew, crewSize, type Member } from './crew'

/** A crew whose workers are counted: how many were started, how many ended. */
function made(size: number, broken = new Promise<never>(() => {})) {
  let started = 0
  let ended = 0
  const crew = new Crew(size, (): Member => {
    started++
    return { line: {} as Member['line'], broken, end: () => void ended++ }
  })
  return { crew, count: () => [started, ended] }
}
const on = () => new AbortController().signal
const turn = () => new Promise<void>(done => setTimeout(done))
/** Each question is answered after a turn. */
const tenfold = async (_: unknown, q: number) => {
  await turn()
  return q * 10
}
const never = () => new Promise<number>(() => {})

describe('a crew of workers', () => {
  it('asks everything once, by as many as there are', async () => {
    const { crew, count } = made(3)
    const seen: number[] = []
    await crew.askAll([1, 2, 3, 4, 5, 6, 7], tenfold, a => seen.push(a), on())
    expect(seen.toSorted((a, b) => a - b)).toEqual([10, 20, 30, 40, 50, 60, 70])
    expect(count()).toEqual([3, 0])
  })
  it('starts no more than there are questions', async () => {
    const { crew, count } = made(4)
    await crew.askAll([1], tenfold, () => {}, on())
    expect(count()).toEqual([1, 0])
  })
  it('keeps its workers for the next search, and starts only who is missing', async () => {
    const { crew, count } = made(3)
    await crew.askAll([1, 2], tenfold, () => {}, on())
    await crew.askAll([1, 2, 3, 4], tenfold, () => {}, on())
    expect(count()).toEqual([3, 0])
  })
  it('is gathered ahead of the first question, once, and dismissed', async () => {
    const { crew, count } = made(2)
    crew.gather()
    crew.gather()
    expect(count()).toEqual([2, 0])
    await crew.askAll([1, 2, 3], tenfold, () => {}, on())
    expect(count()).toEqual([2, 0])
    crew.dismiss()
    crew.dismiss()
    expect(count()).toEqual([2, 2])
    await crew.askAll([1], tenfold, () => {}, on())
    expect(count()).toEqual([3, 2])
  })
  it('has each of those it gathers practise once, whatever comes of it', async () => {
    const { crew } = made(3)
    const practised: number[] = []
    const practise = async (_: unknown, nth: number) => {
      practised.push(nth)
      await Promise.reject(new Error('no tune'))
    }
    crew.gather(practise)
    crew.gather(practise)
    await crew.askAll([1, 2, 3], tenfold, () => {}, on())
    crew.gather(practise)
    expect(practised).toEqual([0, 1, 2])
  })
  it('gathers nobody beside those who are at work', async () => {
    const { crew, count } = made(2)
    const asking = crew.askAll([1, 2, 3], tenfold, () => {}, on())
    crew.gather()
    await asking
    expect(count()).toEqual([2, 0])
  })
  it('ends its workers at once when it is aborted, whatever they are at, and hands on nothing more', async () => {
    const { crew, count } = made(2)
    const abort = new AbortController()
    const seen: number[] = []
    const asking = crew.askAll(
      [1, 2, 3, 4, 5, 6],
      (_, q) => (q < 3 ? tenfold(_, q) : never()),
      a => seen.push(a),
      abort.signal,
    )
    await turn()
    await turn()
    abort.abort()
    await asking
    expect(seen).toEqual([10, 20])
    expect(count()).toEqual([2, 2])
    await crew.askAll([1, 2], tenfold, () => {}, on())
    expect(count()).toEqual([4, 2])
  })
  it('ends them all when it is aborted, also one that has nothing left to do: nobody is left behind by a dismissal before', async () => {
    const { crew, count } = made(2)
    const abort = new AbortController()
    const asking = crew.askAll(
      [1, 2],
      (_, q) => (q === 1 ? tenfold(_, q) : never()),
      () => {},
      abort.signal,
    )
    await turn()
    await turn()
    abort.abort()
    crew.dismiss()
    await asking
    expect(count()).toEqual([2, 2])
  })
  it('hands on no answer that comes after it was aborted', async () => {
    const { crew } = made(1)
    const abort = new AbortController()
    const seen: number[] = []
    const asking = crew.askAll([1, 2], tenfold, a => seen.push(a), abort.signal)
    abort.abort()
    await asking
    await turn()
    await turn()
    expect(seen).toEqual([])
  })
  it('asks nothing when it is aborted before it begins', async () => {
    const { crew, count } = made(2)
    const seen: number[] = []
    await crew.askAll([1, 2], tenfold, a => seen.push(a), AbortSignal.abort())
    expect(seen).toEqual([])
    expect(count()).toEqual([0, 0])
  })
  it('fails when a worker breaks, though it never answers, and keeps it not', async () => {
    const broken = Promise.reject<never>(new Error('could not start'))
    broken.catch(() => {})
    const { crew, count } = made(1, broken)
    await expect(crew.askAll([1], never, () => {}, on())).rejects.toThrow('could not start')
    expect(count()).toEqual([1, 1])
  })
  it('ends with the first failure', async () => {
    const { crew, count } = made(2)
    const seen: number[] = []
    const asked: number[] = []
    const ask = async (core: unknown, q: number) => {
      asked.push(q)
      if (q === 2) throw new Error('no fingers')
      return tenfold(core, q)
    }
    await expect(crew.askAll([1, 2, 3, 4, 5], ask, a => seen.push(a), on())).rejects.toThrow('no fingers')
    await turn()
    await turn()
    expect(asked).toEqual([1, 2])
    expect(seen).toEqual([])
    expect(count()).toEqual([2, 2])
  })
  it('leaves one processor to the page', () => {
    expect([undefined, 1, 2, 4, 16].map(crewSize)).toEqual([1, 1, 2, 3, 4])
  })
})

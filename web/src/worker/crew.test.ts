import { describe, expect, it } from 'vitest'
import { askAll, crewSize, type Crew } from './crew'

/** Workers that answer with what they are asked times ten, each after a turn. */
function made(size: number, broken = new Promise<never>(() => {})) {
  let started = 0
  let ended = 0
  const start = (): Crew => {
    started++
    return { core: {} as Crew['core'], broken, end: () => void ended++ }
  }
  return { size, start, count: () => [started, ended] }
}
const on = () => new AbortController().signal
const turn = () => new Promise<void>(done => setTimeout(done))
const tenfold = async (_: unknown, q: number) => {
  await turn()
  return q * 10
}

describe('a crew of workers', () => {
  it('asks everything once, by as many as there are, and ends them', async () => {
    const crew = made(3)
    const seen: number[] = []
    await askAll([1, 2, 3, 4, 5, 6, 7], tenfold, a => seen.push(a), on(), crew) // prettier-ignore
    expect(seen.toSorted((a, b) => a - b)).toEqual([10, 20, 30, 40, 50, 60, 70])
    expect(crew.count()).toEqual([3, 3])
  })
  it('starts no more than there are questions', async () => {
    const crew = made(4)
    await askAll([1], tenfold, () => {}, on(), crew) // prettier-ignore
    expect(crew.count()).toEqual([1, 1])
  })
  it('ends its workers at once when it is aborted, whatever they are at, and hands on nothing more', async () => {
    const crew = made(2)
    const abort = new AbortController()
    const seen: number[] = []
    const never = (_: unknown, q: number) => (q < 3 ? tenfold(_, q) : new Promise<number>(() => {}))
    const asking = askAll([1, 2, 3, 4, 5, 6], never, a => seen.push(a), abort.signal, crew)
    await turn()
    await turn()
    abort.abort()
    await asking
    expect(seen).toEqual([10, 20])
    expect(crew.count()).toEqual([2, 2])
  })
  it('asks nothing when it is aborted before it begins', async () => {
    const seen: number[] = []
    await askAll([1, 2], tenfold, a => seen.push(a), AbortSignal.abort(), made(2))
    expect(seen).toEqual([])
  })
  it('fails when a worker breaks, though it never answers', async () => {
    const broken = Promise.reject<never>(new Error('could not start'))
    broken.catch(() => {})
    const crew = made(1, broken)
    await expect(askAll([1], () => new Promise<number>(() => {}), () => {}, on(), crew)).rejects.toThrow('could not start') // prettier-ignore
    expect(crew.count()).toEqual([1, 1])
  })
  it('ends with the first failure', async () => {
    const crew = made(2)
    const seen: number[] = []
    const asked: number[] = []
    const ask = async (core: unknown, q: number) => {
      asked.push(q)
      if (q === 2) throw new Error('no fingers')
      return tenfold(core, q)
    }
    await expect(askAll([1, 2, 3, 4, 5], ask, a => seen.push(a), on(), crew)).rejects.toThrow('no fingers') // prettier-ignore
    await turn()
    await turn()
    expect(asked).toEqual([1, 2])
    expect(seen).toEqual([])
    expect(crew.count()).toEqual([2, 2])
  })
  it('leaves one processor to the page', () => {
    expect([undefined, 1, 2, 4, 16].map(crewSize)).toEqual([1, 1, 2, 3, 4])
  })
})

import { describe, expect, it } from 'vitest'
import { latestLane } from './client'

/** Answers are let go one by one. */
function slow() {
  const waiting: ((fail?: Error) => void)[] = []
  const answer = (q: number) =>
    new Promise<number>((ok, no) => waiting.push(fail => (fail ? no(fail) : ok(q * 10))))
  return {
    answer,
    release: async (fail?: Error) => {
      waiting.shift()!(fail)
      await new Promise(done => setTimeout(done))
    },
  }
}

describe('latestLane', () => {
  it('gives only the newest answer when questions pile up', async () => {
    const { answer, release } = slow()
    const seen: number[] = []
    const lane = latestLane(
      answer,
      v => seen.push(v),
      () => {},
    )
    lane.ask(1)
    lane.ask(2)
    lane.ask(3)
    await release()
    expect(seen).toEqual([])
    await release()
    expect(seen).toEqual([30])
  })

  it('drops the answer under way when it is cancelled, and goes on with the next question', async () => {
    const { answer, release } = slow()
    const seen: number[] = []
    const lane = latestLane(
      answer,
      v => seen.push(v),
      () => {},
    )
    lane.ask(1)
    lane.cancel()
    await release()
    expect(seen).toEqual([])
    lane.ask(4)
    await release()
    expect(seen).toEqual([40])
  })

  it('tells a failure and still answers the next question', async () => {
    const { answer, release } = slow()
    const [seen, failures]: [number[], string[]] = [[], []]
    const lane = latestLane(
      answer,
      v => seen.push(v),
      e => failures.push(e.message),
    )
    lane.ask(1)
    await release(new Error('broken'))
    lane.ask(2)
    await release()
    expect([failures, seen]).toEqual([['broken'], [20]])
  })
})

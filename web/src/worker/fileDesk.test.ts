import { expose } from 'comlink'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { FileDesk, readingTime } from './fileDesk'

/** A worker that reads what says its name, and never comes to an end of the rest. */
function madeUpWorkers({ loads = () => Promise.resolve() } = {}) {
  const ended: number[] = []
  const begun: string[] = []
  let count = 0
  const start = () => {
    const own = count++
    const { port1, port2 } = new MessageChannel()
    expose(
      {
        readersLoaded: loads,
        readFile: (name: string) => {
          begun.push(name)
          return name === 'hangs' ? new Promise(() => {}) : Promise.resolve(`${own}: ${name}`)
        },
        tunesOfBook: (which: readonly number[]) => Promise.resolve(`${own}: ${which.join()}`),
      },
      port2,
    )
    return Object.assign(port1, {
      terminate: () => {
        ended.push(own)
        port1.close()
        port2.close()
      },
    }) as unknown as Worker
  }
  return { start, ended, begun }
}

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }))
afterEach(() => void vi.useRealTimers())
const bytes = new Uint8Array(1000)
/** Messages take real time; the made-up clock stands still meanwhile. */
async function until(isSo: () => boolean) {
  while (!isSo()) await new Promise(setImmediate)
}

describe('a file', () => {
  it('that is read keeps its worker, for more of the same book', async () => {
    const { start, ended } = madeUpWorkers()
    const files = new FileDesk(start)
    expect(await files.readFile('a.abc', bytes)).toBe('0: a.abc')
    expect(await files.tunesOfBook([3, 4])).toBe('0: 3,4')
    expect(ended).toEqual([])
    files.close()
    expect(ended).toEqual([0])
  })

  it('nothing comes to an end of is given up with a sentence; the next one is read afresh', async () => {
    const { start, ended, begun } = madeUpWorkers()
    const files = new FileDesk(start)
    const read = files.readFile('hangs', bytes)
    const said = expect(read).rejects.toThrow('could not be read in the time')
    await until(() => begun.length > 0)
    await vi.advanceTimersByTimeAsync(readingTime(bytes.length) - 1)
    expect(ended).toEqual([])
    await vi.advanceTimersByTimeAsync(1)
    await said
    expect(ended).toEqual([0])
    expect(await files.readFile('b.abc', bytes)).toBe('1: b.abc')
    files.close()
  })

  it('that is chosen while another hangs does not wait for it, and is not ended with it', async () => {
    const { start, ended, begun } = madeUpWorkers()
    const files = new FileDesk(start)
    const first = expect(files.readFile('hangs', bytes)).rejects.toThrow('could not be read')
    await until(() => begun.length > 0)
    expect(await files.readFile('b.abc', bytes)).toBe('1: b.abc')
    await vi.advanceTimersByTimeAsync(60_000)
    await first
    expect(ended).toEqual([0])
    expect(await files.tunesOfBook([1])).toBe('1: 1')
    files.close()
  })

  it('is given its whole time after a start that takes longer than reading may', async () => {
    let loaded: (() => void) | undefined
    const { start, ended, begun } = madeUpWorkers({ loads: () => new Promise(done => (loaded = done)) })
    const files = new FileDesk(start)
    const dropped = expect(files.readFile('a.abc', bytes)).rejects.toThrow('Another text')
    const read = files.readFile('b.abc', bytes)
    await until(() => loaded !== undefined)
    await vi.advanceTimersByTimeAsync(20_000)
    expect(begun).toEqual([])
    loaded!()
    await dropped
    expect(await read).toBe('0: b.abc')
    expect(ended).toEqual([])
    files.close()
  })

  it('whose reader never starts is told so', async () => {
    const { start, ended } = madeUpWorkers({ loads: () => new Promise(() => {}) })
    const files = new FileDesk(start)
    const said = expect(files.readFile('a.abc', bytes)).rejects.toThrow('could not start')
    await vi.advanceTimersByTimeAsync(60_000)
    await said
    expect(ended).toEqual([0])
    files.close()
  })
})

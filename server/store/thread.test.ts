import { expect, it } from 'vitest'
import { askThread, NobodyWaits } from './thread'

const thread = (code: string) => new URL(`data:text/javascript,${encodeURIComponent(code)}`)
const posts = (what: string) =>
  thread(`import { parentPort, workerData } from 'node:worker_threads'; parentPort.postMessage(${what})`)

it('a thread answers what it was asked', async () => {
  expect(await askThread(posts('workerData * 2'), 21)).toBe(42)
})

it('what it fails with is told, and a thread that ends without a word too', async () => {
  await expect(askThread(thread('throw new Error("no such thing")'), null)).rejects.toThrow('no such thing')
  await expect(askThread(thread('1'), null)).rejects.toThrow('without an answer')
})

it('where nobody waits any more, the work ends, however long it would have taken', async () => {
  const gone = new AbortController()
  const asked = askThread(thread('for (;;);'), null, gone.signal)
  gone.abort()
  await expect(asked).rejects.toThrow(NobodyWaits)
  await expect(askThread(posts('1'), null, gone.signal)).rejects.toThrow(NobodyWaits)
})

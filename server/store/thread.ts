/**
 * One question to a thread of its own: heavy work beside the server, which goes on answering. The thread ends
 * with its answer, or when nobody waits for it any more.
 */
import { Worker } from 'node:worker_threads'

/** Nobody waits for the answer any more. */
export class NobodyWaits extends Error {}

/** Runs a thread that is written in TypeScript. */
const TRANSLATED = new URL('./throughTsx.mjs', import.meta.url)

/**
 * @param thread the file that works: it posts one message, its answer to `workerData`
 * @throws NobodyWaits once the signal is given; what the thread failed with
 */
export function askThread<Answer>(thread: URL, workerData: unknown, signal?: AbortSignal): Promise<Answer> {
  return new Promise((done, fail) => {
    if (signal?.aborted) return fail(new NobodyWaits())
    const source = thread.pathname.endsWith('.ts')
    const worker = new Worker(source ? TRANSLATED : thread, { workerData, argv: [thread.href], execArgv: [] })
    const gone = () => end(() => fail(new NobodyWaits()))
    const end = (then: () => void) => {
      signal?.removeEventListener('abort', gone)
      void worker.terminate()
      then()
    }
    signal?.addEventListener('abort', gone)
    worker.once('message', (answer: Answer) => end(() => done(answer)))
    worker.once('error', error => end(() => fail(error)))
    worker.once('exit', () => end(() => fail(new Error('A thread ended without an answer.'))))
  })
}

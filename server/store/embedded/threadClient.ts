/**
 * The embedded database as the object mapper speaks to it; it works on a thread of its own
 * (`databaseThread.mjs`).
 */
import { Worker } from 'node:worker_threads'
import type { QueryOptions, Results } from '@electric-sql/pglite'

/** What the thread answers. */
type Answer =
  | { readonly id: number; readonly done: unknown }
  | { readonly id: number; readonly failed: { readonly message: string; readonly code?: string } }

interface Waiting {
  readonly done: (answer: unknown) => void
  readonly fail: (error: Error) => void
}

/** A question the database refused, with its SQLSTATE or the system's code. */
export class DatabaseFault extends Error {
  constructor(
    message: string,
    readonly code?: string,
  ) {
    super(message)
  }
}

type Asked = (text: string, params?: unknown[], options?: QueryOptions) => Promise<Results>

export class ThreadClient {
  private readonly thread: Worker
  private readonly waiting = new Map<number, Waiting>()
  private asked = 0
  private ended: Error | null = null
  /** The transaction that is open. */
  private open: Promise<void> | null = null

  /** @param folder of the database; in memory without one */
  constructor(folder: string | null) {
    this.thread = new Worker(new URL('./databaseThread.mjs', import.meta.url), {
      workerData: { folder },
      execArgv: [],
    })
    this.thread.on('message', (answer: Answer) => {
      const who = this.waiting.get(answer.id)
      this.waiting.delete(answer.id)
      if ('done' in answer) who?.done(answer.done)
      else who?.fail(new DatabaseFault(answer.failed.message, answer.failed.code))
    })
    this.thread.on('error', error => this.over(error))
    this.thread.on('exit', () => this.over(new Error('The database was closed.')))
  }

  /** Nobody waits for ever. */
  private over(error: Error) {
    this.ended ??= error
    for (const { fail } of this.waiting.values()) fail(this.ended)
    this.waiting.clear()
  }

  private ask(question: object): Promise<unknown> {
    if (this.ended) return Promise.reject(this.ended)
    const id = ++this.asked
    return new Promise((done, fail) => {
      this.waiting.set(id, { done, fail })
      this.thread.postMessage({ id, ...question })
    })
  }

  private readonly now: Asked = (text, params = [], options) =>
    this.ask({ verb: 'query', text, params, rowMode: options?.rowMode ?? 'object' }) as Promise<Results>

  /** The thread takes them in the order they were asked, so that it need not wait for whoever asks. */
  query: Asked = async (...asked) => {
    // What is asked while a transaction is open would be part of it; nothing may come between this question
    // and the next line.
    while (this.open) await this.open
    return this.now(...asked)
  }

  /** Taken back whole where `work` fails. */
  async transaction<T>(work: (tx: { query: Asked }) => Promise<T>): Promise<T> {
    while (this.open) await this.open
    let over = () => {}
    this.open = new Promise(done => (over = done))
    let ended = false
    const query: Asked = (...asked) =>
      ended ? Promise.reject(new Error('This transaction is over.')) : this.now(...asked)
    try {
      const begun = this.now('begin')
      begun.catch(() => {})
      const result = await work({ query })
      ended = true
      await begun
      await this.now('commit')
      return result
    } catch (e) {
      ended = true
      await this.now('rollback').catch(() => {})
      throw e
    } finally {
      this.open = null
      over()
    }
  }

  /** When all that was asked is answered. */
  async close(): Promise<void> {
    while (this.open) await this.open
    await this.ask({ verb: 'close' })
    await this.thread.terminate()
  }
}

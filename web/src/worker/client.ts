/**
 * The page's side of the core worker: calls that can fail and time out, and a lane in which only the newest
 * question counts.
 */
import { wrap, type Remote } from 'comlink'
import type { CoreService } from './contract'
import { newWorker, takeWorker } from './early'

/** Milliseconds after which a call is given up and the worker started anew. */
const TIMEOUT = 30_000

let worker: Worker | null = null
let remote: Remote<CoreService> | null = null

function service(): Remote<CoreService> {
  if (!remote) {
    worker = takeWorker() ?? newWorker()
    remote = wrap<CoreService>(worker)
  }
  return remote
}

function restart() {
  worker?.terminate()
  worker = null
  remote = null
}

/**
 * Calls the worker; rejects after {@link TIMEOUT} or when the worker can't start, and then starts afresh next
 * time.
 */
export function callCore<T>(call: (core: Remote<CoreService>) => Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const core = service()
    const failed = (e: unknown) => {
      clearTimeout(timer)
      reject(e instanceof Error ? e : new Error(String(e)))
    }
    const timer = setTimeout(() => {
      restart()
      failed(new Error('The computation took too long and was stopped.'))
    }, TIMEOUT)
    worker!.onerror = e => {
      restart()
      failed(new Error(e.message || 'The computation could not start.'))
    }
    call(core).then(value => {
      clearTimeout(timer)
      resolve(value)
    }, failed)
  })
}

export interface Lane<Q> {
  /** Asks; a question still waiting is replaced, an answer overtaken by a newer question is dropped. */
  ask(question: Q): void
  /** Drops what is waiting and whatever is under way. */
  cancel(): void
}

/** One question under way, one waiting at most: the newest wins. */
export function latestLane<Q, A>(
  answer: (question: Q) => Promise<A>,
  use: (value: A, question: Q) => void,
  fail: (error: Error) => void,
): Lane<Q> {
  let current = 0
  let running = false
  let waiting: { question: Q } | null = null
  const next = async () => {
    if (running || !waiting) return
    const { question } = waiting
    const mine = ++current
    waiting = null
    running = true
    try {
      const value = await answer(question)
      // While it ran another question may have come: this answer is stale then, unless it is all we have so
      // far.
      if (mine === current && !waiting) use(value, question)
    } catch (e) {
      if (mine === current) fail(e instanceof Error ? e : new Error(String(e)))
    } finally {
      running = false
      void next()
    }
  }
  return {
    ask(question) {
      waiting = { question }
      void next()
    },
    cancel() {
      waiting = null
      current++
    },
  }
}

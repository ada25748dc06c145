/** Workers of their own for one long search, so that the one which answers the page stays free, and a cancelled search costs nothing more. */
import { wrap, type Remote } from 'comlink'
import type { CoreService } from './contract'
import { newWorker } from './early'

/** More than these do not help: each has to know the tune. */
const MOST = 4

export interface Crew {
  readonly core: Remote<CoreService>
  /** Rejects when the worker cannot start, or breaks. */
  readonly broken: Promise<never>
  end(): void
}

/** One for each processor but the one that draws the page. With two processors two all the same: the page has little to do meanwhile. */
export const crewSize = (processors = 1) => Math.min(MOST, Math.max(processors - 1, Math.min(processors, 2)))

function startCrew(): Crew {
  const worker = newWorker()
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = e => reject(new Error(e.message || 'The computation could not start.'))
  })
  // Where nothing waits for it any more it is not a fault of its own.
  broken.catch(() => {})
  return { core: wrap<CoreService>(worker), broken, end: () => worker.terminate() }
}

/**
 * Asks every question once and hands on the answers as they come; the first failure ends it. Once `signal` is aborted the workers are ended at once and nothing
 * more is handed on. `start` makes a worker.
 */
export async function askAll<Q, A>(
  questions: readonly Q[],
  ask: (core: Remote<CoreService>, question: Q) => Promise<A>,
  use: (answer: A) => void,
  signal: AbortSignal,
  { size = crewSize(globalThis.navigator?.hardwareConcurrency), start = startCrew } = {},
): Promise<void> {
  const crew = Array.from({ length: Math.min(size, questions.length) }, start)
  let next = 0
  let over = signal.aborted
  const aborted = new Promise<void>(done => signal.addEventListener('abort', () => done(), { once: true }))
  const work = async ({ core, broken }: Crew) => {
    while (next < questions.length && !over) {
      const answer = await Promise.race([ask(core, questions[next++]!), broken])
      if (!over) use(answer)
    }
  }
  try {
    await Promise.race([Promise.all(crew.map(work)), aborted])
  } finally {
    over = true
    for (const c of crew) c.end()
  }
}

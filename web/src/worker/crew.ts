/** Workers of their own for one long search, so that the one which answers the page stays free, and a cancelled search costs nothing more. */
import { wrap, type Remote } from 'comlink'
import type { CoreService } from './contract'
import { newWorker } from './early'

/** More than these do not help: each has to know the tune. */
const MOST = 4

export interface Crew {
  readonly core: Remote<CoreService>
  end(): void
}

/** One for each processor but the one that draws the page, at least one. */
export const crewSize = (processors: number | undefined) => Math.max(1, Math.min(MOST, (processors ?? 2) - 1))

function startCrew(): Crew {
  const worker = newWorker()
  return { core: wrap<CoreService>(worker), end: () => worker.terminate() }
}

/**
 * Asks every question once and hands on the answers as they come; the first failure ends it. `stop` is looked at before each; once it says so nothing more is
 * handed on. `start` makes a worker.
 */
export async function askAll<Q, A>(
  questions: readonly Q[],
  ask: (core: Remote<CoreService>, question: Q) => Promise<A>,
  use: (answer: A) => void,
  stop: () => boolean,
  { size = crewSize(globalThis.navigator?.hardwareConcurrency), start = startCrew } = {},
): Promise<void> {
  const crew = Array.from({ length: Math.min(size, questions.length) }, start)
  let next = 0
  let failed = false
  const work = async ({ core }: Crew) => {
    while (next < questions.length && !stop() && !failed) {
      const question = questions[next++]!
      try {
        const answer = await ask(core, question)
        if (!stop() && !failed) use(answer)
      } catch (e) {
        failed = true
        throw e
      }
    }
  }
  try {
    await Promise.all(crew.map(work))
  } finally {
    for (const c of crew) c.end()
  }
}

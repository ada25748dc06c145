/**
 * Workers of their own for long searches, so that the one which answers the page stays free, and a cancelled
 * search costs nothing more.
 */
import { wrap } from 'comlink'
import type { Desk } from '#core/desk/desk'
import { DeskLine } from './deskLine'
import { newWorker } from './early'

/** More than these do not help: each has to know the tune. */
const MOST = 4

export interface Member {
  readonly line: DeskLine
  /** Rejects when the worker cannot start, or breaks. */
  readonly broken: Promise<never>
  end(): void
}

/**
 * One for each processor but the one that draws the page. With two processors two all the same: the page has
 * little to do meanwhile.
 */
export const crewSize = (processors = 1) => Math.min(MOST, Math.max(processors - 1, Math.min(processors, 2)))

function startMember(): Member {
  const worker = newWorker()
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = e => reject(new Error(e.message || 'The computation could not start.'))
  })
  // Where nothing waits for it any more it is not a fault of its own.
  broken.catch(() => {})
  return { line: new DeskLine(wrap<Desk>(worker)), broken, end: () => worker.terminate() }
}

/**
 * Workers that stay from one search to the next, until they are dismissed: they know their way by then, and
 * need not be started.
 */
export class Crew {
  private idle: Member[] = []
  private working = 0

  constructor(
    private readonly size = crewSize(globalThis.navigator?.hardwareConcurrency),
    private readonly start = startMember,
  ) {}

  /**
   * Starts whoever is missing, ahead of the first question. Each new one is given a task of its kind, for
   * practice: what it comes to is told to nobody.
   */
  gather(practise?: (line: DeskLine, nth: number) => Promise<unknown>): void {
    while (this.idle.length + this.working < this.size) {
      const member = this.start()
      // What fails here is met by whoever asks in earnest.
      practise?.(member.line, this.idle.length).catch(() => {})
      this.idle.push(member)
    }
  }

  /** Ends whoever has nothing to do. */
  dismiss(): void {
    for (const m of this.idle.splice(0)) m.end()
  }

  /**
   * Asks every question once and hands on the answers as they come; the first failure ends it. Once `signal`
   * is aborted nothing more is handed on. Who was at a search that failed or was aborted is ended at once:
   * only what has answered everything stays.
   */
  async askAll<Q, A>(
    questions: readonly Q[],
    ask: (line: DeskLine, question: Q) => Promise<A>,
    use: (answer: A) => void,
    signal: AbortSignal,
  ): Promise<void> {
    if (signal.aborted) return
    const members = this.take(Math.min(this.size, questions.length))
    this.working += members.length
    let next = 0
    let over = false
    let answered = false
    const aborted = new Promise<void>(done => signal.addEventListener('abort', () => done(), { once: true }))
    const work = async (m: Member) => {
      while (next < questions.length && !over) {
        const answer = await Promise.race([ask(m.line, questions[next++]!), m.broken])
        if (!over) use(answer)
      }
    }
    try {
      const all = Promise.all(members.map(work)).then(() => (answered = true))
      await Promise.race([all, aborted])
    } finally {
      over = true
      this.working -= members.length
      if (answered) this.idle.push(...members)
      else for (const m of members) m.end()
    }
  }

  private take(count: number): Member[] {
    const own = this.idle.splice(0, count)
    while (own.length < count) own.push(this.start())
    return own
  }
}

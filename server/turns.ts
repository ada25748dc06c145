/**
 * One at a time, in the order they came, with the event loop in between. The embedded database works on the server's own thread and its answers come as
 * microtasks: many questions at once would keep the loop from turning until the last of them is answered, and nobody new would be let in.
 */
export class Turns {
  private last: Promise<unknown> = Promise.resolve()

  /** Runs when all that came before are done; whatever becomes of them. */
  take<T>(work: () => T | Promise<T>): Promise<T> {
    const mine = this.last.then(loopTurns, loopTurns).then(work)
    this.last = mine
    return mine
  }
}

/** When whoever waits has had a turn. */
export const loopTurns = () => new Promise<void>(done => setImmediate(done))

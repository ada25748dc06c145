/**
 * A few at a time, in the order they came: enough to keep the database's thread at work, and few enough that
 * each is through soon. All at once, each of them would wait for all the others at every one of its
 * questions.
 */
export class Turns {
  private running = 0
  private readonly waiting: (() => void)[] = []

  constructor(private readonly most: number) {}

  /** Runs when one of those before is done, whatever becomes of it. */
  async take<T>(work: () => T | Promise<T>): Promise<T> {
    if (this.running >= this.most) await new Promise<void>(turn => this.waiting.push(turn))
    else this.running++
    try {
      return await work()
    } finally {
      // The place goes on to the next one.
      const next = this.waiting.shift()
      if (next) next()
      else this.running--
    }
  }
}

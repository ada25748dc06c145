/**
 * What is asked for while something is being read is read together, next: many who ask at once cost few
 * questions, and never more than one at a time.
 */
export class Together<T> {
  private readonly asked: { id: string; done: (found: T | null) => void; fail: (reason: unknown) => void }[] =
    []
  private reading = false

  constructor(
    /** In one question. */
    private readonly most: number,
    private readonly read: (ids: readonly string[]) => Promise<ReadonlyMap<string, T>>,
  ) {}

  /** Null where it is not there. What it tells was asked for after this was called. */
  get = (id: string): Promise<T | null> =>
    new Promise((done, fail) => {
      this.asked.push({ id, done, fail })
      if (!this.reading) void this.readAll()
    })

  private async readAll() {
    this.reading = true
    // Whoever asks in the same breath comes along.
    await Promise.resolve()
    while (this.asked.length > 0) {
      const some = this.asked.splice(0, this.most)
      try {
        const found = await this.read(some.map(a => a.id))
        for (const { id, done } of some) done(found.get(id) ?? null)
      } catch (reason) {
        for (const { fail } of some) fail(reason)
      }
    }
    this.reading = false
  }
}

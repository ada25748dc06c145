/** What was used last, so that a class on one tune reads it once: at most so much of `length` in all, the one unused for longest goes first. */
export class Recent<T extends { readonly length: number }> {
  private readonly kept = new Map<string, T>()
  /** What is being read, for whoever asks meanwhile. A change takes it off: it may be what was there before. */
  private readonly asked = new Map<string, Promise<T | null>>()
  private size = 0

  constructor(private readonly most: number) {}

  /** What is kept, read where it is not kept. What comes back null is asked for again. */
  get(id: string, read: () => Promise<T | null>): Promise<T | null> {
    const known = this.kept.get(id)
    if (known !== undefined) {
      this.kept.delete(id)
      this.kept.set(id, known)
      return Promise.resolve(known)
    }
    const other = this.asked.get(id)
    if (other) return other
    const mine = this.read(id, read, () => this.asked.get(id) === mine)
    this.asked.set(id, mine)
    return mine
  }

  private async read(id: string, read: () => Promise<T | null>, fresh: () => boolean) {
    try {
      const found = await read()
      if (found !== null && fresh()) this.keep(id, found)
      return found
    } finally {
      if (fresh()) this.asked.delete(id)
    }
  }

  /** Whether another one would make room for itself. */
  get full() {
    return this.size > 0.9 * this.most
  }

  /** Something of these changed. */
  forget(ids: readonly string[]) {
    for (const id of ids) {
      this.asked.delete(id)
      this.drop(id)
    }
  }

  private keep(id: string, value: T) {
    if (value.length > this.most) return
    this.kept.set(id, value)
    this.size += value.length
    while (this.size > this.most) this.drop(this.kept.keys().next().value!)
  }

  private drop(id: string) {
    this.size -= this.kept.get(id)?.length ?? 0
    this.kept.delete(id)
  }
}

/** The records used last, so that a class on one tune reads it once: at most so many, the one unused for longest goes first. */
export class Recent<T> {
  private readonly kept = new Map<string, T>()
  /** Counts changes: what was asked for before one is not kept after it. */
  private changes = 0

  constructor(private readonly most: number) {}

  /** The record, read where it is not kept. What comes back null is asked for again. */
  async get(id: string, read: () => Promise<T | null>): Promise<T | null> {
    const known = this.kept.get(id)
    if (known !== undefined) {
      this.kept.delete(id)
      this.kept.set(id, known)
      return known
    }
    const asked = this.changes
    const found = await read()
    if (found !== null && asked === this.changes) this.keep(id, found)
    return found
  }

  /** Something of it changed, or may be about to. */
  forget(ids: readonly string[]) {
    this.changes++
    for (const id of ids) this.kept.delete(id)
  }

  private keep(id: string, record: T) {
    this.kept.set(id, record)
    if (this.kept.size > this.most) this.kept.delete(this.kept.keys().next().value!)
  }
}

/** So many different texts are held to compare with. */
const MOST_ALIKE = 12

/**
 * What was worked out before, stage by stage. A stage is kept by the inputs it names: objects by identity,
 * values by what they say. So an edit works out anew only what depends on it, and many recipes are held side
 * by side.
 */
export class Memory {
  private readonly alike = new Map<string, Map<string, object>>()
  private readonly stages = new Map<string, Map<string, unknown>>()
  private readonly numbers = new WeakMap<object, number>()
  private count = 0
  /** How often each stage was really worked out. */
  readonly worked: Record<string, number> = {}

  /** @param kept results of each stage that are kept, the ones not asked for longest given up first */
  constructor(private readonly kept = 48) {}

  /** The result of a stage for these inputs: as it was, or made now. */
  stage<T>(name: string, objects: readonly object[], values: unknown, make: () => T): T {
    const known = this.stages.get(name) ?? new Map<string, unknown>()
    this.stages.set(name, known)
    const key = `${objects.map(o => this.numberOf(o)).join()}|${JSON.stringify(values)}`
    if (known.has(key)) {
      const found = known.get(key) as T
      known.delete(key)
      known.set(key, found)
      return found
    }
    const made = make()
    this.worked[name] = (this.worked[name] ?? 0) + 1
    known.set(key, made)
    if (known.size > this.kept) known.delete(known.keys().next().value!)
    return made
  }

  /**
   * The object known before that says the same as what is made of this one: one identity for all that are
   * alike. Made and compared once for each object.
   */
  same<T extends object>(name: string, of: object, make: () => T): T {
    return this.stage(name, [of], null, () => {
      const made = make()
      const alike = this.alike.get(name) ?? new Map<string, object>()
      this.alike.set(name, alike)
      const text = JSON.stringify(made)
      const known = (alike.get(text) as T | undefined) ?? made
      alike.delete(text)
      alike.set(text, known)
      if (alike.size > MOST_ALIKE) alike.delete(alike.keys().next().value!)
      return known
    })
  }

  /** The newest result of a stage, for whatever inputs. */
  newest<T>(name: string): T | undefined {
    return [...(this.stages.get(name)?.values() ?? [])].at(-1) as T | undefined
  }

  private numberOf(o: object): number {
    const found = this.numbers.get(o)
    if (found !== undefined) return found
    this.numbers.set(o, ++this.count)
    return this.count
  }
}

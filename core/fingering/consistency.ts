/**
 * The same notes like the same fingers: within a phrase, and from a phrase to its kin. After a first pass the tables tell for every tone what each
 * place would cost the whole line (min-marginals); tones that belong together add these up and agree on the place that is best for all of
 * them. Going against it costs a little, so that a reason can still win, and is then told.
 */
import type { HandState } from './candidates'
import type { Tables } from './lattice'
import { WEIGHTS as W } from './weights'

/** Which tones belong together, by event id. */
export interface Together {
  /** First events of the phrases. */
  readonly phrases?: ReadonlySet<string>
  /** The event of an earlier phrase that an event repeats, where a phrase is kin to it note by note. */
  readonly repeats?: ReadonlyMap<string, string>
}

const nameOf = (s: HandState) => s.places.map(p => `${p.string}:${p.finger}`).join()

/** What each state of each tone costs for going against its group; undefined where nothing is agreed. */
export function consistencyCosts(
  ids: readonly string[],
  states: readonly (readonly HandState[])[],
  tables: Tables,
  together: Together,
): (Float64Array | undefined)[] {
  const out: (Float64Array | undefined)[] = new Array(ids.length)
  const agree = (group: readonly number[], weight: number) => {
    const names = states[group[0]!]!.map(nameOf)
    const place = agreed(group, names, tables)
    for (const i of group) {
      const costs = (out[i] ??= new Float64Array(names.length))
      names.forEach((n, k) => (costs[k]! += n === place ? 0 : weight))
    }
  }
  for (const group of groupsBy(ids, states, inPhrases(ids, together.phrases))) agree(group, W.otherInPhrase)
  if (together.repeats) {
    const first = (id: string) => together.repeats!.get(id) ?? id
    for (const group of groupsBy(ids, states, ids.map(first))) agree(group, W.otherInKin)
  }
  return out
}

/** For each tone the number of its phrase. */
function inPhrases(ids: readonly string[], starts?: ReadonlySet<string>): string[] {
  let phrase = 0
  return ids.map(id => {
    if (starts?.has(id)) phrase++
    return String(phrase)
  })
}

/** Tones of one place `where` with the very same states, two or more. */
function groupsBy(
  ids: readonly string[],
  states: readonly (readonly HandState[])[],
  where: readonly string[],
): number[][] {
  const groups = new Map<string, Map<readonly HandState[], number[]>>()
  ids.forEach((_, i) => {
    const at = groups.get(where[i]!) ?? new Map<readonly HandState[], number[]>()
    groups.set(where[i]!, at)
    at.set(states[i]!, [...(at.get(states[i]!) ?? []), i])
  })
  return [...groups.values()].flatMap(g => [...g.values()]).filter(g => g.length > 1)
}

/** The place that is cheapest when all tones of the group take it. */
function agreed(group: readonly number[], names: readonly string[], tables: Tables): string {
  const sums = new Map<string, number>()
  for (const i of group) {
    const best = new Map<string, number>()
    const [f, b] = [tables.forward[i]!, tables.backward[i]!]
    names.forEach((n, k) => best.set(n, Math.min(best.get(n) ?? Infinity, f[k]! + b[k]!)))
    for (const [n, c] of best) sums.set(n, (sums.get(n) ?? 0) + c)
  }
  return [...sums].reduce((a, b) => (b[1] < a[1] ? b : a))[0]
}

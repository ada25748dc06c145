/**
 * The same notes like the same fingers: within a phrase, and from a phrase to its kin. After a first pass the
 * tables tell for every tone what each place would cost the whole line (min-marginals); tones that belong
 * together add these up and agree on the place that is best for all of them. Going against it costs a little,
 * so that a reason can still win, and is then told.
 */
import type { HandState } from './candidates'
import { inPhrases } from './home'
import { argMin } from '#core/solver/lattice'
import { WEIGHTS as W } from './weights'
import type { Tables } from '#core/solver/tables'

/** Which tones belong together, by event id. */
export interface Together {
  /** First events of the phrases. */
  readonly phrases?: ReadonlySet<string>
  /** The event of an earlier phrase that an event repeats, where a phrase is kin to it note by note. */
  readonly repeats?: ReadonlyMap<string, string>
}

/** The places of some states, string and finger alike, numbered. */
interface Places {
  readonly of: Int32Array
  readonly count: number
}

/**
 * Groups of states are shared between equal notes: what is found out about them is kept as long as they are.
 */
const known = new WeakMap<readonly HandState[], Places>()

function placesOf(states: readonly HandState[]): Places {
  const found = known.get(states)
  if (found) return found
  const numbers = new Map<string, number>()
  const of = Int32Array.from(states, s => {
    const name = s.places.map(p => `${p.string}:${p.finger}`).join()
    const number = numbers.get(name) ?? numbers.size
    numbers.set(name, number)
    return number
  })
  const made = { of, count: numbers.size }
  known.set(states, made)
  return made
}

/** What each state of each tone costs for going against its group; undefined where nothing is agreed. */
export function consistencyCosts(
  ids: readonly string[],
  states: readonly (readonly HandState[])[],
  tables: Tables,
  together: Together,
): (Float64Array | undefined)[] {
  const out: (Float64Array | undefined)[] = new Array(ids.length)
  const agree = (group: readonly number[], weight: number) => {
    const places = placesOf(states[group[0]!]!)
    const place = agreed(group, places, tables)
    for (const i of group) {
      const costs = (out[i] ??= new Float64Array(places.of.length))
      for (let k = 0; k < costs.length; k++) if (places.of[k] !== place) costs[k]! += weight
    }
  }
  // Open or fourth is a habit of the phrase; another place often has its reason in the notes beside it.
  for (const group of groupsBy(ids, states, inPhrases(ids, together.phrases)))
    agree(group, states[group[0]!]!.some(isOpen) ? W.openInPhrase : W.otherInPhrase)
  if (together.repeats) {
    const first = (id: string) => together.repeats!.get(id) ?? id
    for (const group of groupsBy(ids, states, ids.map(first))) agree(group, W.otherInKin)
  }
  return out
}

const isOpen = (s: HandState) => s.lead.finger === 0

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
    const group = at.get(states[i]!)
    if (group) group.push(i)
    else at.set(states[i]!, [i])
  })
  return [...groups.values()].flatMap(g => [...g.values()]).filter(g => g.length > 1)
}

/** The place that is cheapest when all tones of the group take it. */
function agreed(group: readonly number[], { of, count }: Places, tables: Tables): number {
  const sums = new Float64Array(count)
  const best = new Float64Array(count)
  for (const i of group) {
    best.fill(Infinity)
    const [f, b] = [tables.forward[i]!, tables.backward[i]!]
    for (let k = 0; k < of.length; k++) {
      const cost = f[k]! + b[k]!
      if (cost < best[of[k]!]!) best[of[k]!] = cost
    }
    for (let n = 0; n < count; n++) sums[n]! += best[n]!
  }
  return argMin(sums)
}

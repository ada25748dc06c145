/**
 * The best different paths: through every state of a layer there is one best path, whose cost stands in the
 * two tables (min-marginals); grouped by what a state is called, the cheapest of each name are the k best
 * paths that really differ there.
 */
import type { Lattice, Tables } from './tables'

export interface Different {
  /** The state of the layer, how much more the whole path costs, and the path. */
  readonly state: number
  readonly extra: number
  readonly path: readonly number[]
}

/** The cheapest path for each other name a state of the layer has, best first, at most `count`. */
export function differentAt(
  lattice: Lattice,
  tables: Tables,
  layer: number,
  nameOf: (state: number) => string,
  count: number,
): Different[] {
  const [forward, backward] = [tables.forward[layer]!, tables.backward[layer]!]
  const best = new Map<string, { state: number; cost: number }>()
  forward.forEach((f, state) => {
    const [name, cost] = [nameOf(state), f + backward[state]!]
    if (Number.isFinite(cost) && cost < (best.get(name)?.cost ?? Infinity)) best.set(name, { state, cost })
  })
  best.delete(nameOf(tables.path[layer]!))
  return [...best.values()]
    .sort((a, b) => a.cost - b.cost)
    .slice(0, count)
    .map(({ state, cost }) => ({
      state,
      extra: cost - tables.total,
      path: pathThrough(lattice, tables, layer, state),
    }))
}

/**
 * The best path through a given state of a given layer, read off the tables: outwards from the state, each
 * step to the neighbour that is on a shortest way. Touches only the layers where it differs from
 * `tables.path`.
 */
export function pathThrough(
  { unary, edges }: Lattice,
  tables: Tables,
  layer: number,
  state: number,
): number[] {
  const path = [...tables.path]
  path[layer] = state
  for (let i = layer; i > 0; i--) {
    const [e, width, before] = [edges[i - 1]!, unary[i]!.length, tables.forward[i - 1]!]
    let best = 0
    for (let a = 1; a < before.length; a++) {
      if (before[a]! + e[a * width + path[i]!]! < before[best]! + e[best * width + path[i]!]!) best = a
    }
    if (path[i - 1] === best) break
    path[i - 1] = best
  }
  for (let i = layer; i + 1 < path.length; i++) {
    const [e, width, after] = [edges[i]!, unary[i + 1]!.length, tables.backward[i + 1]!]
    const cost = (b: number) => e[path[i]! * width + b]! + unary[i + 1]![b]! + after[b]!
    let best = -1
    // A state a filter forbids has no finite way into it.
    for (let b = 0; b < width; b++) {
      if (Number.isFinite(tables.forward[i + 1]![b]!) && (best < 0 || cost(b) < cost(best))) best = b
    }
    if (path[i + 1] === best) break
    path[i + 1] = best
  }
  return path
}

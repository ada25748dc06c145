/**
 * Shortest paths through a layered graph (Viterbi 1967; forward and backward tables as in Rabiner's tutorial of 1989, in the min-plus
 * semiring). Edge costs are computed once; a filter on the states, such as a pin, costs only two passes of additions.
 */
export interface Lattice {
  /** Cost of each state by itself, a list per layer; no layer is empty. */
  readonly unary: readonly Float64Array[]
  /** Edge costs from layer i to i + 1, row by row: `edges[i][a * next + b]`. */
  readonly edges: readonly Float64Array[]
}

export interface Tables {
  /** Best cost from the start up to and including a state. */
  readonly forward: readonly Float64Array[]
  /** Best cost after a state to the end, the state itself not included. */
  readonly backward: readonly Float64Array[]
  readonly path: readonly number[]
  readonly total: number
}

/** `allowed[i]`, where present, says which states of layer i may be used; at least one must be. */
export type Filter = readonly (Uint8Array | undefined)[]

export function solveLattice({ unary, edges }: Lattice, allowed: Filter = []): Tables {
  const n = unary.length
  const forward: Float64Array[] = []
  const from: Int32Array[] = []
  for (let i = 0; i < n; i++) {
    const own = unary[i]!
    const row = new Float64Array(own.length)
    const via = new Int32Array(own.length)
    const before = forward[i - 1]
    const mask = allowed[i]
    for (let b = 0; b < own.length; b++) {
      let [best, arg] = [before ? Infinity : 0, -1]
      if (mask && !mask[b]) best = Infinity
      else if (before) {
        const e = edges[i - 1]!
        for (let a = 0, k = b; a < before.length; a++, k += own.length) {
          const c = before[a]! + e[k]!
          if (c < best) [best, arg] = [c, a]
        }
      }
      row[b] = best + own[b]!
      via[b] = arg
    }
    forward.push(row)
    from.push(via)
  }
  const backward = backwardPass({ unary, edges }, allowed)
  const path: number[] = new Array(n)
  if (n > 0) path[n - 1] = argMin(forward[n - 1]!)
  for (let i = n - 1; i > 0; i--) path[i - 1] = from[i]![path[i]!]!
  return { forward, backward, path, total: n > 0 ? forward[n - 1]![path[n - 1]!]! : 0 }
}

function backwardPass({ unary, edges }: Lattice, allowed: Filter): Float64Array[] {
  const n = unary.length
  const backward: Float64Array[] = new Array(n)
  if (n > 0) backward[n - 1] = new Float64Array(unary[n - 1]!.length)
  for (let i = n - 2; i >= 0; i--) {
    const next = backward[i + 1]!
    const mask = allowed[i + 1]
    const tail = next.map((c, b) => (mask && !mask[b] ? Infinity : c + unary[i + 1]![b]!))
    const e = edges[i]!
    const row = new Float64Array(unary[i]!.length)
    for (let a = 0, k = 0; a < row.length; a++) {
      let best = Infinity
      for (let b = 0; b < tail.length; b++, k++) {
        const c = e[k]! + tail[b]!
        if (c < best) best = c
      }
      row[a] = best
    }
    backward[i] = row
  }
  return backward
}

export function argMin(row: Float64Array): number {
  let best = 0
  for (let i = 1; i < row.length; i++) if (row[i]! < row[best]!) best = i
  return best
}

/**
 * The best path through a given state of a given layer, read off the tables: outwards from the state, each step to the neighbour that is on
 * a shortest way. Touches only the layers where it differs from `tables.path`.
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

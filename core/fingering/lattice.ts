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
  /** The state of the layer before on the best way into each state. */
  readonly via: readonly Int32Array[]
  readonly path: readonly number[]
  readonly total: number
}

/** A solution to start from, of this lattice or of another: only what differs, and as far as that is felt, is computed again. */
export interface Solved {
  readonly tables: Tables
  readonly allowed: Filter
  /** The lattice it was found for, when it is another one. */
  readonly lattice?: Lattice
}

/** `allowed[i]`, where present, says which states of layer i may be used; at least one must be. */
export type Filter = readonly (Uint8Array | undefined)[]

export function solveLattice(lattice: Lattice, allowed: Filter = [], before?: Solved): Tables {
  const n = lattice.unary.length
  const changed = before ? changedLayers(lattice, allowed, before) : { first: 0, last: n - 1, shift: 0 }
  const { forward, via } = forwardPass(lattice, allowed, changed, before?.tables)
  const backward = backwardPass(lattice, allowed, changed, before?.tables)
  const path: number[] = new Array(n)
  if (n > 0) path[n - 1] = argMin(forward[n - 1]!)
  for (let i = n - 1; i > 0; i--) path[i - 1] = via[i]![path[i]!]!
  return { forward, backward, via, path, total: n > 0 ? forward[n - 1]![path[n - 1]!]! : 0 }
}

/** The layers that are not as before: up to `first` all is the same, and beyond `last`, where it stood `shift` layers earlier. */
interface Changed {
  readonly first: number
  readonly last: number
  readonly shift: number
}

function sameRow(
  a: Float64Array | Uint8Array | undefined,
  b: Float64Array | Uint8Array | undefined,
): boolean {
  if (a === b) return true
  if (!a || !b || a.length !== b.length) return false
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return false
  return true
}

function changedLayers({ unary, edges }: Lattice, allowed: Filter, before: Solved): Changed {
  const old = before.lattice ?? { unary, edges }
  const [n, m] = [unary.length, old.unary.length]
  const same = (i: number, k: number) =>
    sameRow(unary[i], old.unary[k]) && sameRow(allowed[i], before.allowed[k])
  const least = Math.min(n, m)
  let first = 0
  while (first < least && same(first, first) && (first === 0 || edges[first - 1] === old.edges[first - 1]))
    first++
  let tail = 0
  while (
    tail < least - first &&
    same(n - 1 - tail, m - 1 - tail) &&
    (tail === 0 || edges[n - 1 - tail] === old.edges[m - 1 - tail])
  )
    tail++
  return { first, last: n - 1 - tail, shift: n - m }
}

/**
 * By how much every state of a row grew, when they all grew alike: then every later row grows by the same and nothing more need be computed. Null
 * when they did not.
 */
function growth(row: Float64Array, old: Float64Array): number | null {
  const by = row[0]! - old[0]!
  if (!Number.isFinite(by)) return null
  for (let s = 1; s < row.length; s++) if (!(Math.abs(row[s]! - old[s]! - by) < 1e-10)) return null
  return by
}

const grown = (row: Float64Array, by: number) => (by === 0 ? row : row.map(c => c + by))

function forwardPass(
  { unary, edges }: Lattice,
  allowed: Filter,
  { first, last, shift }: Changed,
  old?: Tables,
) {
  const n = unary.length
  const forward = old ? old.forward.slice(0, first) : []
  const via = old ? old.via.slice(0, first) : []
  for (let i = forward.length; i < n; i++) {
    const arrows = new Int32Array(unary[i]!.length).fill(-1)
    const row =
      i === 0
        ? firstRow(unary[0]!, allowed[0])
        : nextRow(forward[i - 1]!, edges[i - 1]!, unary[i]!, allowed[i], arrows)
    forward.push(row)
    via.push(arrows)
    const by = old && i > last ? growth(row, old.forward[i - shift]!) : null
    if (by === null) continue
    for (let k = i + 1; k < n; k++) {
      forward.push(grown(old!.forward[k - shift]!, by))
      via.push(old!.via[k - shift]!)
    }
    break
  }
  return { forward, via }
}

const firstRow = (own: Float64Array, mask: Uint8Array | undefined) =>
  own.map((c, b) => (mask && !mask[b] ? Infinity : c))

function nextRow(
  before: Float64Array,
  e: Float64Array,
  own: Float64Array,
  mask: Uint8Array | undefined,
  via: Int32Array,
): Float64Array {
  const width = own.length
  const row = new Float64Array(width).fill(Infinity)
  for (let a = 0, k = 0; a < before.length; a++) {
    const base = before[a]!
    for (let b = 0; b < width; b++, k++) {
      const c = base + e[k]!
      if (c < row[b]!) {
        row[b] = c
        via[b] = a
      }
    }
  }
  for (let b = 0; b < width; b++) row[b] = mask && !mask[b] ? Infinity : row[b]! + own[b]!
  return row
}

function backwardPass(
  { unary, edges }: Lattice,
  allowed: Filter,
  { first, last, shift }: Changed,
  old?: Tables,
): Float64Array[] {
  const n = unary.length
  const backward: Float64Array[] = new Array(n)
  if (n > 0) backward[n - 1] = new Float64Array(unary[n - 1]!.length)
  // A row depends on what comes after it only.
  if (old) for (let i = last + 1; i < n; i++) backward[i] = old.backward[i - shift]!
  for (let i = Math.min(old ? last : n - 1, n - 2); i >= 0; i--) {
    backward[i] = rowBefore(backward[i + 1]!, unary[i + 1]!, edges[i]!, allowed[i + 1], unary[i]!.length)
    const by = old && i < first ? growth(backward[i]!, old.backward[i]!) : null
    if (by === null) continue
    for (let k = i - 1; k >= 0; k--) backward[k] = grown(old!.backward[k]!, by)
    break
  }
  return backward
}

function rowBefore(
  after: Float64Array,
  own: Float64Array,
  e: Float64Array,
  mask: Uint8Array | undefined,
  states: number,
): Float64Array {
  const width = own.length
  const tail = new Float64Array(width)
  for (let b = 0; b < width; b++) tail[b] = mask && !mask[b] ? Infinity : after[b]! + own[b]!
  const row = new Float64Array(states)
  for (let a = 0, k = 0; a < states; a++) {
    let best = Infinity
    for (let b = 0; b < width; b++, k++) {
      const c = e[k]! + tail[b]!
      if (c < best) best = c
    }
    row[a] = best
  }
  return row
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

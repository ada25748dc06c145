/**
 * Shortest paths through a layered graph (Viterbi 1967; forward and backward tables as in Rabiner's tutorial
 * of 1989, in the min-plus semiring). Edge costs are computed once; a filter on the states, such as a pin,
 * costs only two passes of additions.
 */
import { changedLayers, grown, growth, type Changed } from './continuation'
import type { Filter, Lattice, Solved, Tables } from './tables'

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

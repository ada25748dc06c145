/**
 * Going on from a solution found before: which layers are as they were, and when a row differs from the old
 * one by a constant only.
 */
import type { Lattice, Filter, Solved } from './tables'

/**
 * The layers that are not as before: up to `first` all is the same, and beyond `last`, where it stood `shift`
 * layers earlier.
 */
export interface Changed {
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

export function changedLayers({ unary, edges }: Lattice, allowed: Filter, before: Solved): Changed {
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
 * By how much every state of a row grew, when they all grew alike: then every later row grows by the same and
 * nothing more need be computed. Null when they did not.
 */
export function growth(row: Float64Array, old: Float64Array): number | null {
  const by = row[0]! - old[0]!
  if (!Number.isFinite(by)) return null
  for (let s = 1; s < row.length; s++) if (!(Math.abs(row[s]! - old[s]! - by) < 1e-10)) return null
  return by
}

export const grown = (row: Float64Array, by: number) => (by === 0 ? row : row.map(c => c + by))

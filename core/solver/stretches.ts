/**
 * Shortest paths through a line cut into stretches: each step goes from one boundary to a later one, at a cost that hangs on the whole stretch and on the
 * states at both ends (a semi-Markov chain; Viterbi over segments). What a stretch costs is the caller's; this keeps the tables, and after a change
 * finds anew only what hangs on it.
 */

/** For one boundary: the best cost of each state there, and the stretch that led into it. */
export interface Row {
  readonly cost: Float64Array
  /** A number by which the caller finds back where the stretch began. */
  readonly back: Int32Array
}

export interface StretchProblem<Entry> {
  /** Boundaries, the beginning and the end included. */
  readonly boundaries: number
  readonly states: number
  /** What may begin at boundary i after ending there in the row's states; null where nothing may. */
  readonly enter: (i: number, row: Row | null) => Entry | null
  /** The best stretches that end at boundary j; `entry(i)` may be asked for any i from `earliest(j)` on. */
  readonly into: (j: number, entry: (i: number) => Entry | null, row: Row) => void
  /** No stretch that ends at boundary j or later begins before this one. */
  readonly earliest: (j: number) => number
}

export interface StretchTables<Entry> {
  readonly rows: readonly (Row | null)[]
  readonly entries: readonly (Entry | null)[]
  /** What is to be added to each row's costs; rows kept from a solution before are off by a constant. */
  readonly bases: readonly number[]
}

/** What differs from the problem solved before, as boundaries' tones: the first and the last that changed. */
export interface ChangedStretch<Entry> {
  readonly first: number
  readonly last: number
  readonly tables: StretchTables<Entry>
}

/** So far two rows may differ and still be the same but for a constant. */
const EPSILON = 1e-9

export function solveStretches<Entry>(
  p: StretchProblem<Entry>,
  changed?: ChangedStretch<Entry>,
): StretchTables<Entry> {
  const keep = changed ? Math.max(0, changed.first) : 0
  const old = changed?.tables
  const rows: (Row | null)[] = old ? old.rows.slice(0, keep + 1) : [null]
  const entries: (Entry | null)[] = old ? old.entries.slice(0, keep) : []
  const bases: number[] = old ? old.bases.slice(0, keep + 1) : [0]
  const entry = (i: number) => entries[i] ?? null
  // Rows off by another constant can't be compared: that happens only where one change lies close before another.
  if (old && keep < p.boundaries - 1 && !sameBase(bases.slice(p.earliest(keep + 1)))) return solveStretches(p)
  const newRow = rowMaker(p.states)
  entries[keep] = p.enter(keep, rows[keep] ?? null)
  let settled = 0
  let difference = 0
  for (let j = keep + 1; j < p.boundaries; j++) {
    const row = newRow()
    p.into(j, entry, row)
    rows.push(row)
    bases.push(bases[keep] ?? 0)
    entries[j] = p.enter(j, row)
    if (!old || j <= changed!.last) continue
    const by = shift(row.cost, old.rows[j]!.cost)
    // Rows above theirs by another constant than the one before would be weighed against each other: all must be so by the same.
    const now = by === null ? 0 : by + bases[j]! - old.bases[j]!
    const alike = settled > 0 && Math.abs(now - difference) < EPSILON
    settled = by === null ? 0 : alike ? settled + 1 : 1
    difference = now
    // All stretches from here on begin at boundaries that are as they were.
    if (settled === 0 || p.earliest(j + 1) <= j - settled) continue
    for (let k = j + 1; k < p.boundaries; k++) {
      rows.push(old.rows[k]!)
      entries[k] = old.entries[k]!
      // Both rows at j stand on bases of their own, and so does the old one at k.
      bases.push(bases[j]! + by! + old.bases[k]! - old.bases[j]!)
    }
    break
  }
  return { rows, entries, bases }
}

const sameBase = (bases: readonly number[]) => bases.every(b => Math.abs(b - bases[0]!) < EPSILON)

/** Rows in one block. */
export const BLOCK = 64

/** Rows are parts of larger blocks, made as they are needed: many small ones would keep the collector busy. */
function rowMaker(states: number): () => Row {
  let cost = new Float64Array(0)
  let back = new Int32Array(0)
  let at = 0
  return () => {
    if (at === cost.length) {
      cost = new Float64Array(BLOCK * states).fill(Infinity)
      back = new Int32Array(BLOCK * states)
      at = 0
    }
    const [from, to] = [at, (at += states)]
    return { cost: cost.subarray(from, to), back: back.subarray(from, to) }
  }
}

/** The constant by which one row is above another, or null when there is none. */
function shift(a: Float64Array, b: Float64Array): number | null {
  let by: number | null = null
  for (let i = 0; i < a.length; i++) {
    if (a[i] === Infinity && b[i] === Infinity) continue
    const d = a[i]! - b[i]!
    if (!Number.isFinite(d) || (by !== null && Math.abs(d - by) > EPSILON)) return null
    by ??= d
  }
  return by ?? 0
}

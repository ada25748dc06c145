/**
 * Shortest paths through a line cut into stretches: each step goes from one boundary to a later one, at a
 * cost that hangs on the whole stretch and on the states at both ends (a semi-Markov chain; Viterbi over
 * segments, and the same from the end). What a stretch costs is the caller's; this keeps the tables. After a
 * change only the stretches that touch it are tried again: what comes before is known from the beginning,
 * what comes after from the end.
 */

/**
 * For one boundary: the best cost of each state there, up to it or on from it, and the choice that made it.
 */
export interface Row {
  readonly cost: Float64Array
  /** A number by which the caller finds the choice again. */
  readonly back: Int32Array
}

export interface Entered {
  readonly cost: Float64Array
}

export interface StretchProblem<Entry extends Entered> {
  /** Boundaries, the beginning and the end included. */
  readonly boundaries: number
  readonly states: number
  /** What may begin at boundary i after ending there in the row's states; null where nothing may. */
  readonly enter: (i: number, row: Row | null) => Entry | null
  /** The best stretches that end at boundary j; `entry(i)` may be asked for any i. */
  readonly into: (j: number, entry: (i: number) => Entry | null, row: Row) => void
  /** From the end: the best stretches that begin at boundary i; `leaving(j)` may be asked for any later j. */
  readonly outOf: (i: number, leaving: (j: number) => Row, row: Row) => void
  /**
   * From the end: the best ways on from having ended at boundary j, when `began` is what it costs to begin
   * there; the last boundary has none and ends.
   */
  readonly leave: (j: number, began: Row | null, row: Row) => void
  /** No stretch that begins at boundary i or earlier ends after this one. */
  readonly latest: (i: number) => number
}

export interface StretchTables<Entry extends Entered> {
  readonly problem: StretchProblem<Entry>
  /** By boundary, as far as they are known: the best up to it, and what may begin there after it. */
  readonly rows: (Row | null)[]
  readonly entries: (Entry | null)[]
  /** By boundary, from `known` on: the best on from beginning there, and on from having ended there. */
  readonly begun: Row[]
  readonly left: Row[]
  known: number
  readonly best: Seam
}

/**
 * Where the best path is put together: up to a boundary it is found in rows and entries, on from it in what
 * is known from the end.
 */
export interface Seam {
  readonly at: number
  readonly state: number
  readonly total: number
}

/**
 * What differs from the problem solved before: the first tone and the one after the last whose stretches, or
 * whose ways to begin, cost something else.
 */
export interface ChangedStretch<Entry extends Entered> {
  readonly first: number
  readonly last: number
  readonly tables: StretchTables<Entry>
}

export function solveStretches<Entry extends Entered>(
  problem: StretchProblem<Entry>,
  changed?: ChangedStretch<Entry>,
): StretchTables<Entry> {
  const end = problem.boundaries - 1
  if (!changed) {
    const t = { problem, rows: [null], entries: [], begun: [], left: [], known: end + 1 }
    goTo(t, end)
    return { ...t, best: atEnd(t) }
  }
  const { first, last, tables: old } = changed
  if (first >= last) return old
  goTo(old, first)
  comeFrom(old, last)
  const rows = old.rows.slice(0, first + 1)
  const entries = old.entries.slice(0, first)
  const t = { problem, rows, entries, begun: old.begun.slice(), left: old.left.slice(), known: last }
  // Every path begins a stretch between the last change and here, or ends before it.
  const seamed = problem.latest(last - 1)
  goTo(t, seamed)
  return { ...t, best: bestSeam(t, last, seamed) }
}

type Known<Entry extends Entered> = Omit<StretchTables<Entry>, 'best'>

/** Rows and entries up to a boundary, whatever of them is there already. */
function goTo<Entry extends Entered>({ problem: p, rows, entries }: Known<Entry>, to: number) {
  const newRow = rowMaker(p.states)
  const entry = (i: number) => entries[i] ?? null
  for (let j = Math.min(entries.length, to); j <= to; j++) {
    if (rows[j] === undefined) {
      const row = newRow()
      p.into(j, entry, row)
      rows[j] = row
    }
    if (j < p.boundaries - 1) entries[j] ??= p.enter(j, rows[j] ?? null)
  }
}

/** What is known from the end, back to a boundary. */
function comeFrom<Entry extends Entered>(t: Known<Entry>, to: number) {
  const { problem: p, begun, left } = t
  const newRow = rowMaker(p.states)
  const end = p.boundaries - 1
  const leaving = (j: number) => left[j]!
  for (let i = Math.min(end, t.known - 1); i >= to; i--) {
    let began: Row | null = null
    if (i < end) {
      began = begun[i] = newRow()
      p.outOf(i, leaving, began)
    }
    p.leave(i, began, (left[i] = newRow()))
    t.known = i
  }
}

/** The best state at the end. */
function atEnd<Entry extends Entered>({ problem: p, rows }: Known<Entry>): Seam {
  const end = p.boundaries - 1
  const row = rowMaker(p.states)()
  p.leave(end, null, row)
  const costs = rows[end]?.cost ?? row.cost
  return least(end, costs, row.cost)
}

function bestSeam<Entry extends Entered>(t: Known<Entry>, from: number, to: number): Seam {
  const end = t.problem.boundaries - 1
  let best: Seam = { at: end, state: 0, total: Infinity }
  for (let i = from; i <= to; i++) {
    const up = i === end ? t.rows[end] : t.entries[i]
    if (!up) continue
    const here = least(i, up.cost, i === end ? t.left[end]!.cost : t.begun[i]!.cost)
    if (here.total < best.total) best = here
  }
  return best
}

function least(at: number, up: Float64Array, on: Float64Array): Seam {
  let state = 0
  for (let s = 1; s < up.length; s++) if (up[s]! + on[s]! < up[state]! + on[state]!) state = s
  return { at, state, total: up[state]! + on[state]! }
}

/** Rows in one block. */
export const BLOCK = 64

/**
 * Rows are parts of larger blocks, made as they are needed: many small ones would keep the collector busy.
 */
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

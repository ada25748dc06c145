import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BLOCK, solveStretches, type Entered, type StretchProblem, type StretchTables } from './stretches'

/**
 * Stretches of one to three boundaries in two states, with costs out of a table; and what beginning at a
 * boundary costs more.
 */
interface Made {
  readonly boundaries: number
  readonly cost: readonly number[]
  readonly dearer?: Readonly<Record<number, number>>
}
const LONGEST = 3
const STATES = 2
const at = (m: Made, i: number, j: number, from: number, to: number) =>
  m.cost[(i * 31 + (j - i) * 7 + from * 3 + to) % m.cost.length]!
const begins = (m: Made, i: number) => m.dearer?.[i] ?? 0

function problem(m: Made): StretchProblem<Entered> {
  const end = m.boundaries - 1
  return {
    boundaries: m.boundaries,
    states: STATES,
    enter: (i, row) => ({ cost: Float64Array.from(row?.cost ?? [0, 0], c => c + begins(m, i)) }),
    into: (j, entry, row) => {
      for (let i = Math.max(0, j - LONGEST); i < j; i++)
        entry(i)?.cost.forEach((before, from) => {
          for (let to = 0; to < STATES; to++) {
            const cost = before + at(m, i, j, from, to)
            if (cost >= row.cost[to]!) continue
            row.cost[to] = cost
            row.back[to] = i
          }
        })
    },
    outOf: (i, leaving, row) => {
      for (let j = i + 1; j <= Math.min(end, i + LONGEST); j++)
        leaving(j).cost.forEach((after, to) => {
          for (let from = 0; from < STATES; from++) {
            const cost = after + at(m, i, j, from, to)
            if (cost >= row.cost[from]!) continue
            row.cost[from] = cost
            row.back[from] = j
          }
        })
    },
    leave: (j, began, row) =>
      row.cost.set(began ? Float64Array.from(began.cost, c => c + begins(m, j)) : [0, 0.5]),
    latest: i => Math.min(end, i + LONGEST),
  }
}

/** The cheapest way to a boundary, by trying every cut. */
function cheapest(m: Made, j: number, to: number): number {
  if (j === 0) return 0
  let best = Infinity
  for (let i = Math.max(0, j - LONGEST); i < j; i++)
    for (let from = 0; from < STATES; from++)
      best = Math.min(best, cheapest(m, i, from) + begins(m, i) + at(m, i, j, from, to))
  return best
}

const made = (most: number) =>
  fc.record({
    boundaries: fc.integer({ min: 2, max: most }),
    cost: fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 5, maxLength: 40 }),
  })

/**
 * What the cuts of a solution cost, found from its seam back to the beginning and on to the end, in one state
 * after the other.
 */
function cuts({ rows, begun, best }: StretchTables<Entered>, last: number): number[] {
  const out = [best.at]
  // States are the same before and after a cut here: the one at the seam is known, those further off are
  // looked up.
  for (let j = best.at; j > 0;) {
    const row = rows[j]!
    j = row.back[row.cost[0]! <= row.cost[1]! ? 0 : 1]!
    out.unshift(j)
  }
  for (let i = best.at; i < last;) {
    const row = begun[i]!
    i = row.back[row.cost[0]! <= row.cost[1]! ? 0 : 1]!
    out.push(i)
  }
  return out
}

describe('a line cut into stretches', () => {
  it('is cut the cheapest way there is', () => {
    fc.assert(
      fc.property(made(8), m => {
        const tables = solveStretches(problem(m))
        for (let j = 1; j < m.boundaries; j++)
          for (let s = 0; s < STATES; s++) expect(tables.rows[j]!.cost[s]).toBe(cheapest(m, j, s))
        const end = m.boundaries - 1
        expect(tables.best.total).toBe(Math.min(cheapest(m, end, 0), cheapest(m, end, 1) + 0.5))
      }),
      { numRuns: 60 },
    )
  })
  it('gone on with after changes, one after the other, comes to what a fresh one comes to', () => {
    const changes = made(60).chain(m =>
      fc.record({
        m: fc.constant(m),
        all: fc.array(fc.record({ first: fc.nat(m.boundaries - 2), more: fc.integer({ min: 0, max: 20 }) }), {
          minLength: 1,
          maxLength: 5,
        }),
      }),
    )
    fc.assert(
      fc.property(changes, ({ m, all }) => {
        let now: Made = m
        let tables = solveStretches(problem(now))
        for (const { first, more } of all) {
          now = { ...now, dearer: { ...now.dearer, [first]: more } }
          tables = solveStretches(problem(now), { first, last: first + 1, tables })
          expect(tables.best.total).toBe(solveStretches(problem(now)).best.total)
        }
      }),
    )
  })
  it('tries again only the stretches that touch the change, and those between it and one made before', () => {
    const m = { boundaries: 400, cost: [3, 1, 4, 1, 5, 9, 2, 6] }
    let asked = 0
    const counting = (made: Made): StretchProblem<Entered> => {
      const own = problem(made)
      return {
        ...own,
        into: (...a) => (asked++, own.into(...a)),
        outOf: (...a) => (asked++, own.outOf(...a)),
      }
    }
    const fresh = solveStretches(counting(m))
    expect(asked).toBe(399)
    const change = (first: number, tables: StretchTables<Entered>) => {
      asked = 0
      return solveStretches(counting({ ...m, dearer: { [first]: 7 } }), { first, last: first + 1, tables })
    }
    // The first time all behind it is worked out from the end, once.
    const once = change(200, fresh)
    expect(asked).toBeLessThan(199 + 10)
    change(300, fresh)
    expect(asked).toBeLessThan(10)
    change(205, once)
    expect(asked).toBeLessThan(20)
  })
  it('nothing changed is nothing to do', () => {
    const tables = solveStretches(problem({ boundaries: 5, cost: [1, 2, 3, 4, 5] }))
    expect(solveStretches(tables.problem, { first: 4, last: 0, tables })).toBe(tables)
  })
  it('is told by its seam: the cuts before it from the beginning, those after it from the end', () => {
    const m: Made = { boundaries: 9, cost: [5, 5, 5, 5, 5] }
    const tables = solveStretches(problem({ ...m, dearer: { 3: 100, 6: 100 } }), {
      first: 3,
      last: 4,
      tables: solveStretches(problem({ ...m, dearer: { 6: 100 } })),
    })
    const found = cuts(tables, 8)
    expect([found[0], found.at(-1)]).toEqual([0, 8])
    expect(found.filter(c => c === 3 || c === 6)).toEqual([])
    expect(tables.best.total).toBe(5 * (found.length - 1))
  })
  it('keeps its rows apart beyond one block of them', () => {
    const m = { boundaries: 2 * BLOCK + 5, cost: [3, 1, 4, 1, 5, 9, 2, 6] }
    const { rows } = solveStretches(problem(m))
    const alone = solveStretches(problem({ ...m, boundaries: BLOCK + 2 }))
    expect([...rows[BLOCK + 1]!.cost]).toEqual([...alone.rows[BLOCK + 1]!.cost])
    expect(rows[BLOCK + 1]!.cost.buffer).not.toBe(rows[1]!.cost.buffer)
  })
  it('where nothing may begin nothing goes on', () => {
    const own = problem({ boundaries: 4, cost: [1, 2, 3, 4, 5] })
    const { rows, best } = solveStretches({
      ...own,
      enter: (i, row) => (i === 1 ? null : own.enter(i, row)),
      into: (j, entry, row) => own.into(j, i => (j - i === 1 ? entry(i) : null), row),
    })
    expect(rows[1]!.cost[0]).toBeLessThan(Infinity)
    expect([...rows[2]!.cost, ...rows[3]!.cost].every(c => c === Infinity)).toBe(true)
    expect(best.total).toBe(Infinity)
  })
})

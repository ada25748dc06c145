import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BLOCK, solveStretches, type StretchProblem } from './stretches'

/** Stretches of one to three boundaries in two states, with costs out of a table. */
interface Made {
  readonly boundaries: number
  readonly cost: readonly number[]
}
const LONGEST = 3
const STATES = 2
const at = (m: Made, i: number, j: number, from: number, to: number) => m.cost[(i * 31 + (j - i) * 7 + from * 3 + to) % m.cost.length]! // prettier-ignore

function problem(m: Made): StretchProblem<readonly number[]> {
  return {
    boundaries: m.boundaries,
    states: STATES,
    enter: (i, row) => (i === 0 ? [0, 0] : row && [...row.cost]),
    into: (j, entry, row) => {
      for (let i = Math.max(0, j - LONGEST); i < j; i++)
        entry(i)?.forEach((before, from) => {
          for (let to = 0; to < STATES; to++) {
            const cost = before + at(m, i, j, from, to)
            if (cost >= row.cost[to]!) continue
            row.cost[to] = cost
            row.back[to] = i
          }
        })
    },
    earliest: j => Math.max(0, j - LONGEST),
  }
}

/** The cheapest way to a boundary, by trying every cut. */
function cheapest(m: Made, j: number, to: number): number {
  if (j === 0) return 0
  let best = Infinity
  for (let i = Math.max(0, j - LONGEST); i < j; i++)
    for (let from = 0; from < STATES; from++)
      best = Math.min(best, cheapest(m, i, from) + at(m, i, j, from, to))
  return best
}

const made = (most: number) => fc.record({ boundaries: fc.integer({ min: 2, max: most }), cost: fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 5, maxLength: 40 }) }) // prettier-ignore
const costsOf = (t: ReturnType<typeof solveStretches>, j: number) =>
  [...t.rows[j]!.cost].map(c => c + t.bases[j]!)

describe('a line cut into stretches', () => {
  it('is cut the cheapest way there is', () => {
    fc.assert(fc.property(made(8), m => {
      const tables = solveStretches(problem(m))
      for (let j = 1; j < m.boundaries; j++) for (let s = 0; s < STATES; s++) expect(tables.rows[j]!.cost[s]).toBe(cheapest(m, j, s)) // prettier-ignore
    }), { numRuns: 60 }) // prettier-ignore
  })
  it('gone on with after a change comes to what a fresh one comes to', () => {
    const changed = made(60).chain(m => fc.record({ m: fc.constant(m), first: fc.nat(m.boundaries - 1), more: fc.integer({ min: 0, max: 20 }) })) // prettier-ignore
    fc.assert(fc.property(changed, ({ m, first, more }) => {
      // Everything that begins at one boundary costs more.
      const own = problem(m)
      const dearer: StretchProblem<readonly number[]> = { ...own, enter: (i, row) => own.enter(i, row)?.map(c => c + (i === first ? more : 0)) ?? null } // prettier-ignore
      const again = solveStretches(dearer, { first, last: first, tables: solveStretches(own) })
      const fresh = solveStretches(dearer)
      expect(again.rows.length).toBe(m.boundaries)
      for (let j = 1; j < m.boundaries; j++) costsOf(again, j).forEach((c, s) => expect(c).toBeCloseTo(costsOf(fresh, j)[s]!, 9)) // prettier-ignore
    })) // prettier-ignore
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
    const { rows } = solveStretches({ ...own, enter: (i, row) => (i === 0 ? [0, 0] : i === 1 ? null : own.enter(i, row)), into: (j, entry, row) => own.into(j, i => (j - i === 1 ? entry(i) : null), row) }) // prettier-ignore
    expect(rows[1]!.cost[0]).toBeLessThan(Infinity)
    expect([...rows[2]!.cost, ...rows[3]!.cost].every(c => c === Infinity)).toBe(true)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { differentAt, pathThrough } from './alternatives'
import { changedLayers, grown, growth } from './continuation'
import { argMin, solveLattice } from './lattice'
import type { Filter, Lattice } from './tables'

const costs = (n: number) =>
  fc.array(fc.integer({ min: 0, max: 20 }), { minLength: n, maxLength: n }).map(l => Float64Array.from(l))
const lattice = (layers = 5): fc.Arbitrary<Lattice> =>
  fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: layers }).chain(widths =>
    fc.record({
      unary: fc.tuple(...widths.map(costs)),
      edges: fc.tuple(...widths.slice(1).map((w, i) => costs(w * widths[i]!))),
    }),
  )
/** Which states may be used: at least one of each layer. */
const filterOf = (l: Lattice): fc.Arbitrary<Filter> =>
  fc.tuple(
    ...l.unary.map(u =>
      fc
        .option(fc.array(fc.boolean(), { minLength: u.length, maxLength: u.length }), { nil: undefined })
        .map(list => list && Uint8Array.from(list.some(Boolean) ? list : list.map(() => true), Number)),
    ),
  )

function* paths({ unary }: Lattice, allowed: Filter, at = 0): Generator<number[]> {
  if (at === unary.length) {
    yield []
    return
  }
  for (let s = 0; s < unary[at]!.length; s++) {
    if (allowed[at] && !allowed[at][s]) continue
    for (const rest of paths({ unary, edges: [] }, allowed, at + 1)) yield [s, ...rest]
  }
}
const costOf = ({ unary, edges }: Lattice, path: readonly number[]) =>
  path.reduce(
    (sum, s, i) => sum + unary[i]![s]! + (i > 0 ? edges[i - 1]![path[i - 1]! * unary[i]!.length + s]! : 0),
    0,
  )
const cheapest = (l: Lattice, allowed: Filter = [], only = (_: readonly number[]) => true) =>
  Math.min(...[...paths(l, allowed)].filter(only).map(p => costOf(l, p)))

describe('the shortest path', () => {
  it('is the cheapest of all paths, and costs what it says', () => {
    fc.assert(
      fc.property(
        lattice().chain(l => fc.tuple(fc.constant(l), filterOf(l))),
        ([l, allowed]) => {
          const found = solveLattice(l, allowed)
          expect(found.total).toBe(cheapest(l, allowed))
          expect(costOf(l, found.path)).toBe(found.total)
          found.path.forEach((s, i) => expect(allowed[i]?.[s] ?? 1).toBe(1))
        },
      ),
    )
  })
  it('through each state costs what its two tables say together', () => {
    fc.assert(
      fc.property(lattice(4), l => {
        const { forward, backward } = solveLattice(l)
        l.unary.forEach((row, i) =>
          row.forEach((_, s) =>
            expect(forward[i]![s]! + backward[i]![s]!).toBe(cheapest(l, [], p => p[i] === s)),
          ),
        )
      }),
    )
  })
  it('of nothing is nothing', () => {
    expect(solveLattice({ unary: [], edges: [] })).toMatchObject({ path: [], total: 0 })
  })
  it('takes the first of equals', () => expect(argMin(Float64Array.of(3, 1, 2, 1))).toBe(1))
})

describe('going on from a solution', () => {
  it('comes to what a fresh one comes to, with other states allowed', () => {
    fc.assert(
      fc.property(
        lattice().chain(l => fc.tuple(fc.constant(l), filterOf(l), filterOf(l))),
        ([l, before, now]) => {
          const tables = solveLattice(l, before)
          const again = solveLattice(l, now, { tables, allowed: before })
          expect(again.total).toBe(solveLattice(l, now).total)
          expect(costOf(l, again.path)).toBe(again.total)
        },
      ),
    )
  })
  it('and after layers went, came or changed', () => {
    const cut = lattice(6).chain(l =>
      fc.record({ l: fc.constant(l), from: fc.nat(l.unary.length), gone: fc.nat(3) }),
    )
    fc.assert(
      fc.property(cut, ({ l, from, gone }) => {
        const rest = { unary: l.unary.toSpliced(from, gone), edges: [] as Float64Array[] }
        rest.edges = rest.unary.slice(1).map((u, i) => {
          const [k, m] = [l.unary.indexOf(rest.unary[i]!), l.unary.indexOf(u)]
          return m === k + 1 ? l.edges[k]! : new Float64Array(u.length * rest.unary[i]!.length).fill(1)
        })
        for (const [a, b] of [
          [l, rest],
          [rest, l],
        ] as const) {
          if (a.unary.length === 0) continue
          const again = solveLattice(b, [], { tables: solveLattice(a), allowed: [], lattice: a })
          expect(again.total).toBe(solveLattice(b).total)
          if (b.unary.length > 0) expect(costOf(b, again.path)).toBe(again.total)
        }
      }),
    )
  })
  it('knows which layers are as they were', () => {
    const row = (n: number) => Float64Array.of(n, n)
    const [a, b, c, d] = [row(1), row(2), row(3), row(4)]
    const [ab, bc, cd, ad] = [row(1), row(2), row(3), row(4)]
    const all = { unary: [a, b, c, d], edges: [ab, bc, cd] }
    const tables = solveLattice({ unary: [], edges: [] })
    const from = { tables, allowed: [], lattice: all }
    expect(changedLayers(all, [], from)).toEqual({ first: 4, last: 3, shift: 0 })
    expect(changedLayers({ ...all, unary: [a, row(9), c, d] }, [], from)).toEqual({
      first: 1,
      last: 1,
      shift: 0,
    })
    expect(changedLayers({ unary: [a, d], edges: [ad] }, [], from)).toEqual({ first: 1, last: 0, shift: -2 })
    expect(changedLayers(all, [undefined, undefined, Uint8Array.of(1, 0)], from)).toEqual({
      first: 2,
      last: 2,
      shift: 0,
    })
  })
  it('sees a row that grew by a constant, and only that', () => {
    expect(growth(Float64Array.of(3, 5), Float64Array.of(1, 3))).toBe(2)
    expect(growth(Float64Array.of(3, 6), Float64Array.of(1, 3))).toBeNull()
    expect(growth(Float64Array.of(Infinity, 6), Float64Array.of(1, 3))).toBeNull()
    expect([...grown(Float64Array.of(1, 3), 2)]).toEqual([3, 5])
    const row = Float64Array.of(1, 3)
    expect(grown(row, 0)).toBe(row)
  })
})

describe('other ways', () => {
  const any = lattice(4).chain(l => fc.tuple(fc.constant(l), fc.nat(l.unary.length - 1)))
  it('through a state are the cheapest through it', () => {
    fc.assert(
      fc.property(any, ([l, layer]) => {
        const tables = solveLattice(l)
        l.unary[layer]!.forEach((_, s) => {
          const path = pathThrough(l, tables, layer, s)
          expect(path[layer]).toBe(s)
          expect(costOf(l, path)).toBe(cheapest(l, [], p => p[layer] === s))
        })
      }),
    )
  })
  it('are one of each other name, best first, with what they cost more', () => {
    fc.assert(
      fc.property(any, ([l, layer]) => {
        const tables = solveLattice(l)
        const name = (s: number) => (s % 2 === 0 ? 'even' : 'odd')
        const found = differentAt(l, tables, layer, name, 5)
        const own = name(tables.path[layer]!)
        const others = [...l.unary[layer]!.keys()].filter(s => name(s) !== own)
        expect(found.length).toBe(others.length > 0 ? 1 : 0)
        for (const f of found) {
          expect(name(f.state)).not.toBe(own)
          expect(tables.total + f.extra).toBe(cheapest(l, [], p => name(p[layer]!) !== own))
          expect(costOf(l, f.path)).toBe(tables.total + f.extra)
        }
      }),
    )
  })
  it('are no more than were asked for', () => {
    const l = { unary: [Float64Array.of(0, 3, 1, 2)], edges: [] }
    const found = differentAt(l, solveLattice(l), 0, String, 2)
    expect(found.map(f => [f.state, f.extra])).toEqual([
      [2, 1],
      [3, 2],
    ])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alikePairs } from './pairs'
import { ALIKE, likeness, type MelodyPrint } from './print'

const EVERY = Number.MAX_SAFE_INTEGER
const shelf = (prints: readonly MelodyPrint[]) => new Map(prints.map((p, i) => [`t${i}`, p]))
/** A print without order or repetition, of few marks, so that many are shared. */
const prints = fc.array(fc.uniqueArray(fc.nat(40), { maxLength: 9 }), { maxLength: 12 })

describe('pairs of alike melodies', () => {
  it('are the same as if every two were compared, where no mark is in many tunes', () => {
    fc.assert(
      fc.property(prints, list => {
        const all = [...shelf(list)]
        const wanted = all.flatMap(([a, x]) =>
          all.flatMap(([b, y]) => (a < b && likeness(x, y) >= ALIKE ? [`${a} ${b} ${likeness(x, y)}`] : [])),
        )
        const found = alikePairs(shelf(list), EVERY).map(p => `${p.a} ${p.b} ${p.likeness}`)
        expect(found.sort()).toEqual(wanted.sort())
      }),
    )
  })

  it('the likest first, as many as are asked for, the lesser id first in each', () => {
    const found = alikePairs(
      new Map([
        ['c', [1, 2, 3, 4]],
        ['a', [1, 2, 3, 4]],
        ['b', [1, 2, 9, 10]],
      ]),
      2,
    )
    expect(found).toEqual([
      { a: 'a', b: 'c', likeness: 1 },
      { a: 'a', b: 'b', likeness: 0.5 },
    ])
  })

  it('tell of everybody in a crowd, with work that grows as the crowd does', () => {
    const marks = Array.from({ length: 18 }, (_, i) => i * 31)
    const crowd = shelf(Array.from({ length: 3000 }, (_, i) => marks.filter((_, k) => (k + i) % 9 !== 0)))
    const found = alikePairs(crowd, EVERY)
    expect(new Set(found.flatMap(p => [p.a, p.b])).size).toBe(3000)
    expect(found.length).toBeLessThan(3000 * 18 * 12)
  })

  it('a short tune within a long one is found', () => {
    const long = Array.from({ length: 120 }, (_, i) => i)
    expect(alikePairs(shelf([long, [50, 51, 52, 53, 54]]), EVERY)).toEqual([
      { a: 't0', b: 't1', likeness: 1 },
    ])
  })
})

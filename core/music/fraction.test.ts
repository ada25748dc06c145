import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  add,
  compare,
  div,
  FINEST,
  equal,
  formatFraction,
  frac,
  fromFloat,
  isCountable,
  LONGEST,
  mod,
  mul,
  parseFraction,
  sub,
  sum,
  toNumber,
  ZERO,
} from './fraction'

const any = fc
  .tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: 1, max: 96 }))
  .map(([n, d]) => frac(n, d))

describe('fractions', () => {
  it('are reduced, with the sign above', () => {
    expect(frac(6, -4)).toEqual({ n: -3, d: 2 })
    expect(frac(0, 5)).toEqual({ n: 0, d: 1 })
  })

  it('refuse a zero denominator and parts of integers', () => {
    expect(() => frac(1, 0)).toThrow(RangeError)
    expect(() => frac(0.5)).toThrow(RangeError)
  })

  it('of countable lengths, however many, make countable sums', () => {
    const divisors = Array.from({ length: 600 }, (_, i) => i + 1).filter(d => FINEST % d === 0)
    const length = fc
      .tuple(fc.integer({ min: 1, max: 4096 }), fc.constantFrom(...divisors))
      .map(([n, d]) => frac(n, d))
    fc.assert(
      fc.property(fc.array(length, { maxLength: 12 }), lengths => {
        const total = sum(lengths)
        expect(isCountable(total)).toBe(true)
        expect(lengths.reduceRight((left, l) => sub(left, l), total)).toEqual(ZERO)
      }),
    )
  })

  it('are compared exactly, also where their products are larger than a double holds', () => {
    const a = frac(LONGEST * FINEST - 1, FINEST)
    expect(compare(a, frac(LONGEST))).toBeLessThan(0)
    expect(compare(frac(LONGEST), a)).toBeGreaterThan(0)
    expect(compare(a, a)).toBe(0)
  })

  it('add and multiply as a field does', () => {
    fc.assert(
      fc.property(any, any, any, (a, b, c) => {
        expect(sub(add(a, b), b)).toEqual(a)
        expect(mul(a, add(b, c))).toEqual(add(mul(a, b), mul(a, c)))
        if (b.n !== 0) expect(mul(div(a, b), b)).toEqual(a)
        expect(Math.sign(compare(a, b))).toBe(Math.sign(toNumber(a) - toNumber(b)))
      }),
    )
  })

  it('read what they write', () => {
    fc.assert(fc.property(any, a => equal(parseFraction(formatFraction(a))!, a)))
    expect(parseFraction('1/0')).toBeNull()
    expect(parseFraction('x')).toBeNull()
  })

  it('take floats back to the fraction they came from, thirds and fifths too', () => {
    for (const [n, d] of [
      [1, 3],
      [7, 16],
      [5, 24],
      [3, 1],
    ] as const)
      expect(fromFloat(n / d)).toEqual(frac(n, d))
    expect(fromFloat(Number.NaN)).toBeNull()
    expect(fromFloat(Math.PI)).toBeNull()
  })

  it('find the place in a measure from any side', () => {
    expect(mod(frac(9, 2), frac(4))).toEqual(frac(1, 2))
    expect(mod(frac(-1), frac(3))).toEqual(frac(2))
    expect(mod(ZERO, frac(3))).toEqual(ZERO)
  })
})

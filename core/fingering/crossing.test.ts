import { describe, expect, it } from 'vitest'
import type { Gap } from '#core/line/time'
import type { HandState } from './candidates'
import { crossingCost, hopCost, stringDistance } from './crossing'
import { WEIGHTS as W } from './weights'

/** A hand in first position with fingers on strings: "1 on 0" is the first on the highest. */
function stateOf(...fingers: [finger: 0 | 1 | 2 | 3 | 4, string: number][]): HandState {
  const places = fingers.map(([finger, string]) => ({ finger, string, offset: finger * 2, anchor: 0 }))
  return { anchor: 0, lead: places[0], places } as unknown as HandState
}
const straight = {
  turns: false,
  returns: false,
  back: false,
  slurred: false,
  rest: 0,
  interval: 2,
} as unknown as Gap
const cost = (from: HandState, to: HandState, gap: Partial<Gap> = {}) =>
  crossingCost(from, to, { ...straight, ...gap }, 0, false)

describe('from string to string', () => {
  it('nothing is crossed on one string, nor where two are held and one of them goes on', () => {
    expect(cost(stateOf([1, 1]), stateOf([2, 1]))).toBe(0)
    expect(stringDistance(stateOf([1, 0], [2, 1]), stateOf([3, 1]))).toBe(0)
  })
  it('a string that is passed over costs as much again as it weighs', () => {
    const near = cost(stateOf([1, 0]), stateOf([1, 1]))
    const far = cost(stateOf([1, 0]), stateOf([1, 2]))
    expect(far - near).toBeCloseTo(W.skip, 9)
    expect(cost(stateOf([1, 0]), stateOf([1, 3])) - far).toBeCloseTo(W.skip, 9)
  })
  it('a rest between gives the bow time', () => {
    const [from, to] = [stateOf([1, 0]), stateOf([2, 1])]
    expect(cost(from, to, { rest: 0.5 })).toBeLessThan(cost(from, to))
    expect(cost(from, to, { rest: 0.5 })).toBeGreaterThan(0)
  })
  it('a leap crosses by nature, a step does not', () => {
    const [from, to] = [stateOf([1, 0]), stateOf([2, 1])]
    expect(cost(from, to, { interval: -7 })).toBeLessThan(cost(from, to, { interval: -6 }))
  })
})

describe('one finger wanted on two strings', () => {
  it('is laid on both where they lie straight over each other, and hops where a string is between', () => {
    expect(hopCost(stateOf([2, 0]), stateOf([2, 1]), 0)).toBe(W.block)
    expect(hopCost(stateOf([2, 0]), stateOf([2, 2]), 0)).toBe(W.hop)
    expect(hopCost(stateOf([0, 0]), stateOf([0, 1]), 0)).toBe(0)
    expect(hopCost(stateOf([1, 0]), stateOf([2, 1]), 0)).toBe(0)
  })
})

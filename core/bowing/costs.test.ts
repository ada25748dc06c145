/**
 * What a player hears and feels where two tones are joined: each rule by the pair of tones that shows it, all
 * else alike.
 */
import { describe, expect, it } from 'vitest'
import { frac } from '#core/music/fraction'
import { hookCosts, liftCosts, slurCosts, type Costs } from './costs'
import type { BowTone } from './tones'
import { WEIGHTS as W } from './weights'

const tone = (t: Partial<BowTone>): BowTone => ({
  id: 'x',
  events: ['x'],
  seconds: 1,
  length: 1,
  restBefore: 0,
  lifted: false,
  loudness: 1,
  accent: false,
  strength: 0,
  pushed: false,
  beat: 0,
  at: frac(0),
  full: frac(4),
  measure: 1,
  measureIndex: 0,
  pass: 1,
  follows: true,
  slurred: false,
  hooked: false,
  midi: 62,
  marked: null,
  syllable: null,
  tuplet: null,
  pickup: false,
  ...t,
})
/**
 * Two tones of different beats and pitches, the second at the end of the measure: no rule of rhythm applies.
 */
const pair = (a: Partial<BowTone> = {}, b: Partial<BowTone> = {}, more: Partial<Costs> = {}): Costs => ({
  a: tone(a),
  b: tone({ midi: 64, beat: 1, at: frac(4), ...b }),
  strings: 0,
  phrase: false,
  leadsIn: false,
  ...more,
})

describe('a slur that is not written', () => {
  it.each<[string, Costs, number]>([
    ['by itself', pair(), W.slur],
    ['over the bar', pair({}, { strength: 3 }), W.slur + W.slurOverBar],
    ['over a secondary beat', pair({}, { strength: 2 }), W.slur + W.slurOverSecond],
    ['over a beat', pair({}, { strength: 1 }), W.slur + W.slurOverBeat],
    ['from the first beat', pair({ strength: 3 }), W.slur + W.slurFromFirst],
    ['from a secondary beat', pair({ strength: 2 }), W.slur + W.slurFromSecond],
    [
      'of a long and the short that fills its beats',
      pair({ length: 1.5 }, { length: 0.5 }),
      W.slur + W.slurLongShort,
    ],
    [
      'of a long and a short of one beat',
      pair({ length: 0.75 }, { length: 0.25, beat: 0, strength: 1 }),
      W.slur + W.slurOverBeat + W.slurLongShort,
    ],
    [
      'of a long and a short on the next beat',
      pair({ length: 1.5 }, { length: 0.5, strength: 1 }),
      W.slur + W.slurOverBeat,
    ],
    ['of two equal ones of one beat', pair({ length: 0.5 }, { length: 0.5, beat: 0 }), W.slur + W.slurEqual],
    ['of a short into a long', pair({ length: 0.5 }, { length: 1 }), W.slur + W.slurShortLong],
    ['into a pushed note', pair({}, { pushed: true }), W.slur + W.slurPushed],
    [
      'of one triplet, on the beat',
      pair({ tuplet: 't', strength: 1 }, { tuplet: 't' }),
      W.slur + W.slurTriplet,
    ],
    ['of one triplet, off the beat', pair({ tuplet: 't' }, { tuplet: 't' }), W.slur + W.slurTriplet / 2],
    ['of two triplets', pair({ tuplet: 't' }, { tuplet: 'u' }), W.slur],
    ['of one pitch', pair({}, { midi: 62 }), W.slur + W.slurSamePitch],
    ['of two long ones beside a shorter', pair({}, {}, { besideShorter: true }), W.slur + W.slurLonger],
    ['over an octave', pair({ midi: 60 }, { midi: 72 }), W.slur + W.slurOctave],
    ['over a phrase', pair({}, {}, { phrase: true }), W.slur + W.slurOverPhrase],
    ['at the beginning of the measure', pair({}, { at: frac(0) }), W.slur + W.slurEarly],
    ['in the middle of the measure', pair({}, { at: frac(2) }), W.slur + W.slurEarly / 2],
  ])('%s', (_, costs, expected) => expect(slurCosts(costs)).toBeCloseTo(expected))
  it('crosses, or skips, the dearer the faster', () => {
    const over = (strings: number, seconds: number) =>
      slurCosts(pair({ seconds }, {}, { strings })) - slurCosts(pair({ seconds }))
    expect(over(1, 9)).toBeCloseTo(W.slurCrossing / 2, 1)
    expect(over(1, 0.1)).toBeGreaterThan(over(1, 1))
    expect(over(2, 1) / over(1, 1)).toBeCloseTo(W.slurSkip / W.slurCrossing)
    expect(over(3, 1)).toBe(over(2, 1))
  })
})

describe('a hooked bow', () => {
  it.each<[string, Costs, number]>([
    ['by itself', pair(), W.hook],
    ['over the bar', pair({}, { strength: 3 }), W.hook + W.hookOverBar],
    ['over a secondary beat', pair({}, { strength: 2 }), W.hook + 2 * W.hookOverBeat],
    ['over a beat', pair({}, { strength: 1 }), W.hook + W.hookOverBeat],
    ['of a dotted pair', pair({ length: 1.5 }, { length: 0.5 }), W.hook + W.hookDotted + W.hookLongShort],
    ['of a long and a short less unequal', pair({ length: 1 }, { length: 0.5 }), W.hook + W.hookLongShort],
    ['of equal ones of one beat', pair({ length: 0.5 }, { length: 0.5, beat: 0 }), W.hook + W.hookEqual],
    ['of a short into a long', pair({ length: 0.5 }), W.hook + W.hookShortLong],
    ['of two notes of a pickup', pair({ pickup: true }, { pickup: true }), W.hook + W.hookPickup],
    ['out of a pickup', pair({ pickup: true }), W.hook],
    ['into a pushed note', pair({}, { pushed: true }), W.hook + W.slurPushed],
    ['where a phrase begins', pair({}, {}, { phrase: true }), W.hook + W.hookAtPhrase],
    ['early in the measure', pair({}, { at: frac(0) }), W.hook + W.slurEarly],
  ])('%s', (_, costs, expected) =>
    expect(hookCosts({ ...costs, a: { ...costs.a, seconds: 9 } })).toBeCloseTo(expected, 1),
  )
  it('is dearer the less time there is, and a rest gives time', () => {
    const hook = (seconds: number, restBefore = 0) => hookCosts(pair({ seconds }, { restBefore }))
    expect(hook(0.1)).toBeGreaterThan(hook(0.4))
    expect(hook(0.1, 0.3)).toBeCloseTo(hook(0.4))
  })
})

describe('the bow set anew', () => {
  const lift = (a: Partial<BowTone>, b: Partial<BowTone>, phrase = false) => liftCosts(pair(a, b, { phrase }))
  it.each<[string, number, number]>([
    ['in a rest', lift({}, { restBefore: 0.3 }), W.lift],
    ['in a long rest', lift({}, { restBefore: 3 }), W.lift],
    ['at a comma', lift({}, { lifted: true }), W.lift],
    ['in half the rest it takes', lift({}, { restBefore: 0.15 }), W.lift + W.liftNoRest / 2],
    ['without any', lift({}, {}), W.lift + W.liftNoRest],
    [
      'without any, after the long note of a phrase',
      lift({ seconds: 0.9 }, {}, true),
      W.lift + W.liftNoRest + W.liftAtPhrase,
    ],
    ['without any, after a shorter one', lift({ seconds: 0.8 }, {}, true), W.lift + W.liftNoRest],
    ['without any, after a long note within a phrase', lift({ seconds: 3 }, {}), W.lift + W.liftNoRest],
  ])('%s', (_, cost, expected) => expect(cost).toBeCloseTo(expected))
})

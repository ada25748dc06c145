import { describe, expect, it } from 'vitest'
import { fingered, placesOf } from '../testing'
import { ALL_PASSAGES, HELD_BACK } from './all'
import type { Passage } from './passages'

/** Share of the notes of some passages with the teacher's finger on the teacher's string. */
function agreement(list: readonly Passage[]): number {
  const pairs = list.flatMap(p => {
    const found = placesOf(fingered(p.abc, p.options))
    return placesOf(p.fingers).map((wanted, i) => wanted === found[i])
  })
  return pairs.filter(Boolean).length / pairs.length
}

describe('passages a teacher fingered', () => {
  it.each(['violin', 'viola', 'cello', 'bass'] as const)('agree above 0.95 on the %s', id => {
    const own = ALL_PASSAGES.filter(p => p.options.instrument === id)
    expect(own.length).toBeGreaterThan(2)
    expect(agreement(own)).toBeGreaterThan(0.95)
  })
  it('with a shift agree above 0.85', () =>
    expect(agreement(ALL_PASSAGES.filter(p => p.rule === 'shift'))).toBeGreaterThan(0.85))
  it('that no weight was tuned on agree above 0.9', () => expect(agreement(HELD_BACK)).toBeGreaterThan(0.9))
  it('are sixty or more, half of them for cello and bass, a third or more held back', () => {
    expect(ALL_PASSAGES.length).toBeGreaterThanOrEqual(60)
    const low = ALL_PASSAGES.filter(p => p.options.instrument === 'cello' || p.options.instrument === 'bass')
    expect(low.length).toBeGreaterThanOrEqual(ALL_PASSAGES.length / 2)
    expect(HELD_BACK.length).toBeGreaterThanOrEqual(ALL_PASSAGES.length / 3)
  })
})

import { describe, expect, it } from 'vitest'
import { fingered, placesOf } from '../testing'
import { CHOICES } from './choices'
import { HELD } from './held'
import { HELD_TUNES } from './heldTunes'
import { PASSAGES, type Passage } from './passages'
import { TUNES } from './tunes'

const NEVER_TUNED = [...HELD, ...HELD_TUNES]
const ALL = [...PASSAGES, ...CHOICES, ...TUNES, ...NEVER_TUNED]

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
    const own = ALL.filter(p => p.options.instrument === id)
    expect(own.length).toBeGreaterThan(2)
    expect(agreement(own)).toBeGreaterThan(0.95)
  })
  it('with a shift agree above 0.85', () =>
    expect(agreement(ALL.filter(p => p.rule === 'shift'))).toBeGreaterThan(0.85))
  it('that no weight was tuned on agree above 0.9', () => expect(agreement(NEVER_TUNED)).toBeGreaterThan(0.9))
  it('are sixty or more, half of them for cello and bass, a third or more held back', () => {
    expect(ALL.length).toBeGreaterThanOrEqual(60)
    const low = ALL.filter(p => p.options.instrument === 'cello' || p.options.instrument === 'bass')
    expect(low.length).toBeGreaterThanOrEqual(ALL.length / 2)
    expect(NEVER_TUNED.length).toBeGreaterThanOrEqual(ALL.length / 3)
  })
})

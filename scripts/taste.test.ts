/**
 * Learned on one half of a teacher's passages, tested on the other: nothing lost where there is no taste to
 * learn, much gained where there is one.
 */
import { describe, expect, it } from 'vitest'
import { INDEPENDENT, type Independent } from '#core/fingering/goldens/independent'
import { lettersOf } from '#core/instruments/instruments'
import { decisionOf } from '#core/taste/decision'
import { HAND } from '#core/taste/kinds'
import { learnedTaste } from '#core/taste/learn'
import type { HandTaste } from '#core/instruments/taste'
import { fingeringProblem } from '#core/fingering/fingering'
import { judge, prepareIndependent, type Prepared } from './fitHand'

/** The passages without the school they name, as one reader fingers them. */
const readBy = (which: 'first' | 'second', of: (p: Independent) => boolean): Prepared[] =>
  INDEPENDENT.filter(of).map(p => {
    const { places: _, ...options } = p.options
    return { ...prepareIndependent({ ...p, options }), want: p[which].map(w => [w]) }
  })
const shown = (p: Prepared) => {
  const { tones } = fingeringProblem(p.tune, p.options)
  const letters = lettersOf(p.instrument, p.options.tuning)
  let at = 0
  const pins = tones.flatMap(t => {
    const want = p.want[at]![0]!
    at += t.heads.length
    return t.heads.length > 1
      ? []
      : [
          [
            t.heads[0]!.id,
            {
              string: letters.indexOf(want[0]!),
              finger: want[1] === 'T' ? ('T' as const) : (Number(want[1]) as 0),
            },
          ] as const,
        ]
  })
  return decisionOf(p.tune, p.options, p.name, Object.fromEntries(pins)) ?? []
}
const agreement = (list: readonly Prepared[], taste: HandTaste) => {
  const judged = list.map(p => judge({ ...p, options: { ...p.options, taste } }))
  return (100 * judged.reduce((n, j) => n + j.right, 0)) / judged.reduce((n, j) => n + j.notes, 0)
}
const halves = (list: readonly Prepared[]) => [0, 1].map(k => list.filter((_, i) => i % 2 === k))
const both = (p: Independent) => !/, (at home|in position)$/.test(p.name)

describe('a taste learned on half of the passages', () => {
  it('of one who stays at home raises the agreement on the other half by more than two points, after twenty lines at most', () => {
    const [a, b] = halves(readBy('first', p => p.options.places === 'home')) as [Prepared[], Prepared[]]
    const taste = learnedTaste(HAND, { decisions: a.slice(0, 20).flatMap(shown), off: [] })
    expect(agreement(b, taste) - agreement(b, {})).toBeGreaterThan(2)
  })
  it.each(['first', 'second'] as const)(
    'of the %s reading, which has none of its own, loses nothing',
    which => {
      const [a, b] = halves(readBy(which, both)) as [Prepared[], Prepared[]]
      const taste = learnedTaste(HAND, { decisions: a.flatMap(shown), off: [] })
      expect(agreement(b, {}) - agreement(b, taste)).toBeLessThanOrEqual(0.3)
    },
  )
})

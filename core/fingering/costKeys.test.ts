/** What is kept of one tune never makes another's fingers wrong: every line is as with a cache of its own. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import type { Tune } from '#core/music/tune'
import type { InstrumentId } from '#core/music/tune'
import { newFingeringCache } from './cache'
import { fingeringProblem, solveFingering } from './fingering'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nQ:1/4=80\nK:D\n${music}\n`).tunes[0]!.tune
const plain = (i: InstrumentId) => newArrangement(i, sizeOf(i).name)
const wishing = (i: InstrumentId): Arrangement => {
  const r = plain(i)
  return withPlayed(r, { schools: { ...r.played.schools, harmonics: 'yes' } })
}
const optionsOf = (tune: Tune, r: Arrangement) =>
  derive(tune, r, ASSUMED_HANDS, new DeriveMemory()).fingering.problem

describe('a cache that two tunes share', () => {
  const shared = (tunes: readonly Tune[], r: Arrangement) => {
    const cache = newFingeringCache()
    for (const tune of tunes) {
      const { tune: _, ...problem } = { tune, ...optionsOf(tune, r) }
      const [own, fresh] = [
        fingeringProblem(tune, problem.options, cache),
        fingeringProblem(tune, problem.options),
      ]
      // Places of a hand may be listed in another order.
      const costs = (p: typeof own) => p.lattice.unary.map(u => [...u].sort((a, b) => a - b))
      expect(costs(own)).toEqual(costs(fresh))
      expect(solveFingering(own).total).toBeCloseTo(solveFingering(fresh).total, 9)
    }
  }
  it('tells a note that is written as a harmonic from the same one that is not, where harmonics are wished for', () => {
    shared([tuneOf('d A a A|'), tuneOf('d A !open!a A|'), tuneOf('d A !harmonic!a A|')], wishing('violin'))
    const marked = tuneOf('d A a A|')
    const withMark: Tune = {
      ...marked,
      measures: marked.measures.map(m => ({
        ...m,
        events: m.events.map((e, i) =>
          i === 2 && e.kind === 'note' ? { ...e, marks: ['harmonic' as const] } : e,
        ),
      })),
    }
    shared([marked, withMark], wishing('violin'))
    shared([withMark, marked], wishing('cello'))
  })
  it('tells a head that is held into the next note from one that is struck again', () => {
    shared(
      [tuneOf('[DA] [DB]|'), tuneOf('[D-A] [DB]|'), tuneOf('[DA-] [EA]|'), tuneOf('[DA] [EA]|')],
      plain('violin'),
    )
  })
  it('makes no line another than it is alone', () => {
    const note = fc.constantFrom(
      'D',
      'E',
      'F',
      'G',
      'A',
      'B',
      'c',
      'd',
      '(e',
      'f)',
      'a',
      'D-',
      '[DA]',
      'A2',
      'G/',
      '^G',
      'z',
    )
    const line = fc.array(note, { minLength: 3, maxLength: 12 }).map(n => tuneOf(`${n.join(' ')}|`))
    fc.assert(
      fc.property(fc.array(line, { minLength: 2, maxLength: 4 }), fc.boolean(), (tunes, wished) =>
        shared(tunes, wished ? wishing('violin') : plain('violin')),
      ),
      { numRuns: 25 },
    )
  })
})

import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { forLearner } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { newLearner, type Learner } from '#core/instruments/learner'
import { fitWords } from '#core/words/grading'
import { gradeOf } from './demands'
import { fitOf, isAbove, isWithinReach, stateOf, tableFor } from './fit'

const tuneFrom = (music: string, tempo = 60) =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nQ:1/4=${tempo}\nK:D\n${music}\n`).tunes[0]!.tune
const learner = (more: Partial<Learner> = {}): Learner => ({
  ...newLearner('l', 'M.', 'violin', sizeOf('violin').name),
  level: 2,
  ...more,
})
function fit(music: string, l: Learner, tempo?: number) {
  const tune = tuneFrom(music, tempo)
  const recipe = forLearner(newArrangement('violin', sizeOf('violin').name), l)
  // Fingered without the level's bounds, so that what is new is asked for.
  const free = { ...recipe, played: { ...recipe.played, level: null } }
  return fitOf(gradeOf(derive(tune, free, ASSUMED_HANDS), free).demands, l)
}
const ids = (list: readonly { asked: { kind: string } }[]) =>
  list.map(d => ('skill' in d.asked ? d.asked.skill : ''))

describe('what a learner knows', () => {
  it('follows from the level, but for what is said of single skills', () => {
    expect(stateOf(learner(), 'low2')).toBe('known')
    expect(stateOf(learner(), 'low1')).toBe('notYet')
    expect(stateOf(learner({ skills: { low2: 'learning', low1: 'known' } }), 'low2')).toBe('learning')
  })
  it('moves rungs of their own ladder: not yet known lies above, known or learned no higher than they are', () => {
    const l = learner({ skills: { low2: 'notYet', four: 'known', low1: 'learning' } })
    expect(tableFor(l, {})).toEqual({ low2: 3, four: 2, low1: 2 })
    // What the studio moved stays moved; what the instrument does not have is left out.
    expect(tableFor({ ...l, skills: { low2: 'notYet', thumb: 'known' } }, { low2: 5, one: 4 })).toEqual({
      low2: 5,
      one: 4,
    })
    expect(tableFor(learner({ level: 8, skills: { four: 'notYet' } }), {})).toEqual({ four: 8 })
  })
  it('is held against a tune: what is new, with its places', () => {
    const f = fit('D2E2F2G2|_E4D4|D2E2F2G2|', learner())
    expect(ids(f.news)).toContain('low1')
    expect(fitWords(f, 'M.')[0]).toMatch(/New for M\.: .*low 1 in measure 2, once/)
  })
  it('names what comes first', () => {
    const f = fit('[EA]4[EA]4|', learner({ level: 1 }))
    const words = fitWords(f, 'M.').join(' ')
    expect(f.notYet.length).toBeGreaterThan(0)
    expect(words).toMatch(/Not yet .*: first /)
    expect(isWithinReach(f)).toBe(false)
  })
  it('bears what is practised, and says when all is known', () => {
    expect(fitWords(fit('D2E2F2G2|', learner()), 'M.')).toEqual(['M. knows all it asks for.'])
    expect(fitWords(fit('D2E2F2G2|', learner({ skills: { one: 'learning' } })), 'M.')[0]).toMatch(
      /Practised here: the first finger/,
    )
  })
  it('ends where it goes faster than the learner’s ease', () => {
    const quick = 'DEFG ABcd|dcBA GFED|'
    expect(isWithinReach(fit(quick, learner({ fastest: 4 }), 80))).toBe(true)
    expect(fit(quick, learner({ fastest: 2 }), 80).beyond).toHaveLength(1)
  })
})

describe('an arrangement made for a learner', () => {
  it('takes what they play on, their reach and their level', () => {
    const l = learner({ instrument: 'cello', size: '1/2', span: 118 })
    const { played } = forLearner(newArrangement('violin', sizeOf('violin').name), l)
    expect(played).toMatchObject({ learner: 'l', instrument: 'cello', size: '1/2', span: 118, level: 2 })
  })
})

describe('more than a level bears', () => {
  const speed = (amount: number) =>
    ({ asked: { kind: 'limit', limit: 'fastest', amount }, level: 3, notes: [] }) as const
  it('is a skill of a higher one, or a limit passed', () => {
    expect(isAbove({ asked: { kind: 'skill', skill: 'low1' }, level: 4, notes: [] }, 3, null)).toBe(true)
    expect(isAbove({ asked: { kind: 'skill', skill: 'low1' }, level: 4, notes: [] }, 4, null)).toBe(false)
    expect([4, 4.1].map(n => isAbove(speed(n), 2, null))).toEqual([false, true])
  })
  it('but for the speed a learner was found to manage, slower or faster', () => {
    expect(isAbove(speed(4), 2, 3)).toBe(true)
    expect(isAbove(speed(6), 2, 6.5)).toBe(false)
  })
})

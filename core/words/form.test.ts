import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { analyseForm } from '#core/form/form'
import type { Kin } from '#core/form/kinship'
import type { PlanStep } from '#core/form/plan'
import { barSentence, figureName, kinSentence, phraseFigures, stepSentence } from './form'

const kin = (relation: Kin['relation'], more: Partial<Kin> = {}) =>
  kinSentence({ phrase: 'A1', relation, differences: [], ...more })
const moved = (steps: number, exact = true) => ({ steps, semitones: 2 * steps, exact })

describe('kinship in words', () => {
  it.each<[string, string]>([
    [kin('same'), 'The same as A1.'],
    [
      kin('same', { otherDynamics: true, otherBow: true }),
      'The same as A1, with other dynamics, but it begins on the other bow.',
    ],
    [kin('ending differs', { differences: ['a', 'b', 'c'] }), 'As A1 with another ending: 3 notes to learn.'],
    [kin('start differs', { differences: ['a'] }), 'Ends as A1 does; the start is another: 1 note to learn.'],
    [kin('notes differ', { differences: ['a', 'b'] }), 'As A1 but for 2 notes.'],
    [kin('transposed', { moved: moved(3) }), 'A1 moved up by a fourth, exactly.'],
    [
      kin('transposed', { moved: moved(-1, false), differences: ['a'] }),
      'A1 moved down by a second of the scale, but for 1 note.',
    ],
    [kin('transposed', { moved: moved(9) }), 'A1 moved up by 9 steps, exactly.'],
    [kin('octave', { moved: moved(7) }), 'A1 an octave higher.'],
    [kin('octave', { moved: moved(-14) }), 'A1 2 octaves lower.'],
    [kin('declared'), 'Related to A1: set by you.'],
    [kin('same fingers', { strings: 1 }), 'The fingers of A1, 1 string lower.'],
    [kin('same fingers', { strings: -2 }), 'The fingers of A1, 2 strings higher.'],
    [kin('same rhythm'), 'Claps like A1; the notes are others.'],
    [kin('same contour'), 'Goes up and down as A1 does, on other notes.'],
  ])('%s', (said, expected) => expect(said).toBe(expected))
})

describe('figures in words', () => {
  it.each<[Parameters<typeof figureName>[0], string]>([
    [{ kind: 'scale', direction: 'down', from: '', to: '', names: ['D5', 'D4'] }, 'scale down from D5 to D4'],
    [{ kind: 'arpeggio', direction: 'up', from: '', to: '', names: ['A'] }, 'rising broken chord on A'],
    [
      { kind: 'cell', from: '', to: '', names: [], cell: { tones: 3, times: 4, steps: 0 } },
      'a cell of 3 notes, 4 times',
    ],
    [
      { kind: 'sequence', from: '', to: '', names: [], cell: { tones: 4, times: 3, steps: -1 } },
      'a figure of 4 notes moved down by a second, 3 times',
    ],
  ])('%j', (figure, expected) => expect(figureName(figure)).toBe(expected))
  it('say of a bar how it follows from the one before', () => {
    expect([0, 1, -1, 2, -7].map(steps => barSentence({ measure: 3, steps }))).toEqual([
      'measure 3: the bar before again',
      'measure 3: the bar before, a step higher',
      'measure 3: the bar before, a step lower',
      'measure 3: the bar before, a third higher',
      'measure 3: the bar before, an octave lower',
    ])
  })
  it('say what a phrase is made of', () => {
    const { tune } = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:D\nDEFG ABcd|d2A2F2D2|dcBA GFED|D8|\n').tunes[0]!
    const said = analyseForm(tune).phrases.flatMap(phraseFigures)
    expect(said).toContain('scale up from D to D')
    expect(said.some(s => s.startsWith('falling broken chord on D'))).toBe(true)
  })
})

describe('the plan in words', () => {
  const step = (kind: PlanStep['kind'], more: Partial<PlanStep> = {}) =>
    stepSentence({ id: '', kind, phrases: ['A1'], measures: [], repeat: false, minutes: 2, ...more })
  it.each<[string, string]>([
    [step('count', { phrases: ['A1', 'A2'] }), 'Count A1 + A2 aloud.'],
    [step('clap'), 'Clap the rhythm of A1.'],
    [step('one string'), 'Play the rhythm of A1 on one open string.'],
    [step('measures', { measures: [3] }), 'Take measure 3 of A1 by itself, slowly.'],
    [step('measures', { measures: [3, 4] }), 'Take measures 3 and 4 of A1 by themselves, slowly.'],
    [step('phrase'), 'A1: teacher plays, learner answers, twice or more.'],
    [step('phrase', { measures: [7, 8] }), 'A1: only measures 7 and 8 new. Teacher plays, learner answers.'],
    [step('together', { phrases: ['A1', 'A2'] }), 'A1 + A2 joined.'],
    [step('part'), 'A1: the whole part.'],
    [step('part', { repeat: true }), 'A1: the whole part, with the repeat.'],
    [step('tune'), 'The whole tune, at the tempo of its hardest phrase.'],
  ])('%s', (said, expected) => expect(said).toBe(expected))
})

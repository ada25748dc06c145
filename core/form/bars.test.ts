import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { barSentence, stepSentence } from '#core/words/form'
import { barsAfter } from './bars'
import { analyseForm } from './form'
import { newNotes } from './plan'

const form = (music: string, head = 'M:4/4\nK:G') =>
  analyseForm(readAbc(`X:1\nT:Try\n${head}\nL:1/8\n${music}\n`).tunes[0]!.tune)

describe('what is new', () => {
  it('a phrase made of one’s beginning and another’s ending has nothing new', () => {
    const f = form(
      'G2BG d2BG|A2cA d4|B2dB g2dB|A8|e2ce a2ec|d2Bd g4|f2af d2AF|G8|G2BG d2BG|A2cA d4|f2af d2AF|G8|]',
    )
    const [a, b, c] = f.phrases
    expect(newNotes(c!, [a!, b!])).toEqual([])
    expect(newNotes(c!, [a!]).length).toBe(7)
    expect(newNotes(c!, []).length).toBe(c!.stretch.tones.length)
  })
})

describe('a bar and the bar before', () => {
  const told = (music: string) => form(music).phrases.flatMap(p => barsAfter(p.stretch).map(barSentence))
  it('the same again, as in a round', () =>
    expect(told('G2A2 B2G2|G2A2 B2G2|B2c2 d4|B2c2 d4|]')).toEqual([
      'measure 2: the bar before again',
      'measure 4: the bar before again',
    ]))
  it('a step lower, a third higher', () =>
    expect(told('d2e2 d2B2|c2d2 c2A2|e2f2 e2c2|G8|]')).toEqual([
      'measure 2: the bar before, a step lower',
      'measure 3: the bar before, a third higher',
    ]))
})

it('twelve measures, the second line a fourth up, are three lines of four', () => {
  const f = form(
    'D2F2 A2F2|G8|F2E2 D2E2|F2G2 A2F2|G2B2 d2B2|c8|B2A2 G2A2|B2c2 d2B2|D2F2 A2F2|G8|F2E2 F2A2|D8|]',
    'M:4/4\nK:D',
  )
  expect(f.phrases.map(p => p.events.length)).toEqual([13, 13, 10])
  expect(f.phrases[1]!.kin[0]).toMatchObject({ phrase: 'A1', relation: 'transposed', moved: { steps: 3 } })
  expect(f.phrases[2]!.kin[0]).toMatchObject({ phrase: 'A1', relation: 'ending differs' })
})

it('one measure is taken by itself, two by themselves', () => {
  const step = { id: 's', kind: 'measures', phrases: ['A1'], repeat: false, minutes: 1 } as const
  expect(stepSentence({ ...step, measures: [3] })).toBe('Take measure 3 of A1 by itself, slowly.')
  expect(stepSentence({ ...step, measures: [3, 4] })).toBe(
    'Take measures 3 and 4 of A1 by themselves, slowly.',
  )
})

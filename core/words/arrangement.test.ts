import { describe, expect, it } from 'vitest'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { parseTuning } from '#core/instruments/tunings'
import { parseKey } from '#core/music/key'
import {
  arrangementLine,
  instrumentChoices,
  keyChoices,
  levelChoices,
  octaveChoices,
  octavesText,
  sizeChoices,
  tuningChoices,
  type Choice,
} from './arrangement'

const A = parseKey('A')!
const violin = newArrangement('violin', 'full')
const half = { beat: { n: 2, d: 1 }, perMinute: 72 }
const said = (recipe = violin, octave: number | null = 0) =>
  arrangementLine({ recipe, key: A, octave, tempo: half })
const chosen = <T>(list: readonly Choice<T>[]) => list.filter(c => c.chosen).map(c => c.title)
const tuned = (text: string) => {
  const read = parseTuning('violin', text)
  if (!('tuning' in read)) throw new Error(text)
  return [...read.tuning]
}

describe('an arrangement in one line', () => {
  it('can be read aloud', () => {
    expect(said()).toBe(
      'violin, full size, in A major, at written pitch, standard tuning, no level limit, half = 72',
    )
  })
  it('says what was chosen instead', () => {
    const own = withPlayed(newArrangement('viola', '16"'), { key: parseKey('G')!, octave: -2, level: 3 })
    expect(said(own)).toBe('viola, 16" body, in G major, 2 octaves down, standard tuning, level 3, half = 72')
    expect(said(withPlayed(violin, { measured: 331 }))).toContain('string of 331 mm')
    expect(said(withPlayed(violin, { tuning: tuned('A3 E4 A4 E5') }))).toContain('tuned A E A E')
  })
  it('says the octave it was found to lie in', () => {
    expect(said(violin, -1)).toContain('an octave down')
    expect(said(violin, null)).toContain('at written pitch')
    expect([2, 1, 0, -1].map(octavesText)).toEqual([
      '2 octaves up',
      'an octave up',
      'at written pitch',
      'an octave down',
    ])
  })
  it('waits for a tempo that is not worked out yet', () => {
    expect(arrangementLine({ recipe: violin, key: A, octave: 0, tempo: null })).toMatch(/, …$/)
  })
})

describe('the choices behind its words', () => {
  it('have the one in use among them, once', () => {
    const own = withPlayed(violin, { key: parseKey('D')!, octave: 1, level: 2 })
    expect(chosen(instrumentChoices(own))).toEqual(['violin'])
    expect(chosen(sizeChoices(own))).toEqual(['full size'])
    expect(chosen(keyChoices(own, A))).toEqual(['D major'])
    expect(chosen(octaveChoices(own))).toEqual(['an octave up'])
    expect(chosen(levelChoices(own))).toEqual(['level 2'])
    expect(chosen(tuningChoices(own))).toEqual([expect.stringMatching(/^home: /)])
  })
  it('name the written key, and go no further than six signs', () => {
    const titles = keyChoices(violin, A).map(c => c.title)
    expect(titles).toContain('A major, as written')
    expect(titles).toHaveLength(13)
    expect(chosen(keyChoices(violin, A))).toEqual(['A major, as written'])
  })
  it('stay in the mode of the tune', () => {
    expect(keyChoices(violin, parseKey('Em')!).every(c => c.title.includes('minor'))).toBe(true)
  })
  it('have no size chosen where the string was measured', () => {
    expect(chosen(sizeChoices(withPlayed(violin, { measured: 300 })))).toEqual([])
  })
  it('know a listed tuning again, and keep one of the teacher’s own', () => {
    const listed = withPlayed(violin, { tuning: tuned('A3 E4 A4 E5') })
    expect(chosen(tuningChoices(listed))).toHaveLength(1)
    expect(tuningChoices(listed)).toHaveLength(tuningChoices(violin).length)
    const own = withPlayed(violin, { tuning: [75, 68, 61, 54] })
    expect(tuningChoices(own)).toHaveLength(tuningChoices(violin).length + 1)
    expect(chosen(tuningChoices(own))).toHaveLength(1)
  })
})

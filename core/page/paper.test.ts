import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { parseMetre } from '#core/music/metre'
import { frac } from '#core/music/fraction'
import { countAt } from '#core/music/counting'
import { headingLines } from './heading'
import { PLAIN_MEASURER } from './measurer'
import { notate } from './notation'
import { underLines } from './under'

const tuneFrom = (music: string, metre = '4/4') =>
  readAbc(`X:1\nT:t\nM:${metre}\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
const said = (music: string, metre: string, counting: 'numbers' | 'syllables') => {
  const lines = underLines(notate(tuneFrom(music, metre)), { names: 'none', counting })
  return [...lines.values()].map(l => l[0]).join(' ')
}

describe('counting', () => {
  it.each([
    ['quarters and eighths', 'D2 EF G2 A2|', '4/4', 'numbers', '1 2 and 3 4'],
    ['sixteenths in four words', 'D/E/F/G/ A2|', '2/4', 'syllables', '1 e and a 2'],
    ['a dotted pair with numbers alone', 'D3 E F4|', '4/4', 'numbers', '1 and 3'],
    ['a jig', 'DEF G2A|', '6/8', 'numbers', '1 and a 2 a'],
    ['a pickup by its place', 'A2|D4 E2|', '3/4', 'numbers', '3 1 3'],
    ['a rest in brackets', 'D2 z2 E4|', '4/4', 'numbers', '1 (2) 3'],
    ['nothing on the second of two tied', 'D4- D2 E2|', '4/4', 'numbers', '1  4'],
    ['a melody over a drone that is held', '[D-A]4 [DB]4|', '4/4', 'numbers', '1 3'],
    ['a triplet', '(3DEFG2A4|', '4/4', 'numbers', '1 trip let 2 3'],
  ] as const)('%s', (_what, music, metre, how, expected) => expect(said(music, metre, how)).toBe(expected))
  it('takes the studio’s own words', () => {
    expect(countAt(parseMetre('4/4')!, frac(1, 4), 'syllables', ['ka', 'di', 'mi'])).toBe('ka')
  })
})

describe('names of notes', () => {
  const names = (how: 'letters' | 'syllables') =>
    [...underLines(notate(tuneFrom('D2F2=F2[DA]2|')), { names: how, counting: 'none' }).values()].map(
      l => l[0],
    )
  it('are letters, or do for every C', () => {
    expect(names('letters')).toEqual(['D', 'F#', 'F', 'D A'])
    expect(names('syllables')).toEqual(['re', 'fa#', 'fa', 're la'])
  })
})

describe('a title', () => {
  const tempo = { beat: frac(1), perMinute: 90 }
  const words = { arrangement: 'Class', instrument: 'double bass', tuning: null }
  const wide = (l: { text: string; size: number }) =>
    PLAIN_MEASURER.text(l.text, { size: l.size, bold: true })
  const titled = (title: string) => {
    const [first, instrument] = headingLines({ ...tuneFrom('D8|'), title }, tempo, words, 182, PLAIN_MEASURER)
    expect(wide(first!) + wide(instrument!)).toBeLessThan(182)
    return first!
  }
  it('is as large as titles are, smaller where it is long, and cut where nobody could read it', () => {
    const [short, long, endless] = [titled('Goose Gate Jog'), titled('x'.repeat(60)), titled('x'.repeat(300))]
    expect(long.text).toBe('x'.repeat(60))
    expect(long.size).toBeLessThan(short.size)
    expect(endless.text).toMatch(/^x+…$/)
    expect(endless.size).toBeGreaterThan(3)
  })
})

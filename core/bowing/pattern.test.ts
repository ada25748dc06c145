import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { GROOVES, parsePattern, patternWords } from './pattern'
import { bowed, said } from './testing'

const groove = (pattern: readonly number[], offset = 0) => ({ pattern, unit: 0.5, offset })
const grooved = (music: string, pattern: readonly number[], metre = '4/4', offset = 0) =>
  said(bowed(music, { school: 'pattern', groove: groove(pattern, offset), metre }))

describe('what is a pattern', () => {
  it('spans 64 units at most, 16 to a bow', () => {
    expect(parsePattern(Array(64).fill(1).join(' '))).toHaveLength(64)
    expect(parsePattern(Array(65).fill(1).join(' '))).toBeNull()
    expect(parsePattern('16 16 16 16')).toEqual([16, 16, 16, 16])
    expect(parsePattern('16 16 16 16 1')).toBeNull()
    expect(parsePattern('17')).toBeNull()
  })
})

describe('a groove', () => {
  it.each([
    ['two and two', 'DEFG ABcd|', [2, 2], '4/4', 'D.u.D.u.'],
    ['a quarter stands for the slurred pair', 'D2FA dAFA|', [2, 1, 1], '4/4', 'DuDu.Du'],
    ['a quarter over two places keeps the number of bows', 'D2FA dAFA|', [1, 2, 1], '4/4', 'DuDuD.u'],
    ['a half note stands for a whole round', 'DEFG A4|', [1, 3], '4/4', 'Du..D'],
    ['a jig in threes', 'DEF GAB|', [3], '6/8', 'D..u..'],
    [
      'three over four goes on across the bar, from the phrase on',
      'DEFG ABcd|efga b4|',
      [3],
      '4/4',
      'D..u..D..u..D',
    ],
    ['an offset lets it begin later', 'DEFG ABcd|', [2, 2], '4/4', 'D.u.D.u.'],
  ] as const)('%s', (_name, music, pattern, metre, expected) =>
    expect(grooved(music, pattern, metre)).toBe(expected),
  )
  it('begins an eighth later with an offset', () =>
    expect(grooved('DEFG ABcd|', [2, 2], '4/4', 1)).toBe('Du.D.u.D'))
  it('never slurs over a rest or a repeat', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', 'z', 'F3', 'G/', '(3ABc'), { minLength: 1, maxLength: 24 }),
        fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 5 }),
        (notes, pattern) => {
          const b = bowed(`|:${notes.join(' ')}:|`, {
            school: 'pattern',
            groove: groove(pattern),
            metre: 'none',
          })
          const tones = new Map(b.problem.tones.map(t => [`${t.id}.${t.pass}`, t]))
          for (const s of b.strokes)
            for (const id of s.tones.slice(1)) {
              const t = tones.get(`${id}.${s.pass}`)!
              expect([t.restBefore, t.follows]).toEqual([0, true])
            }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a pattern as text', () => {
  it.each([
    ['2 1 1', [2, 1, 1]],
    ['1,3', [1, 3]],
    ['3 + 3 + 2', [3, 3, 2]],
    ['', null],
    ['0', null],
    ['2 0', null],
    ['-1', null],
    ['1.5', null],
    ['a', null],
    ['17', null],
    ['16 16 16 16 1', null],
  ] as const)('%s', (text, pattern) => expect(parsePattern(text)).toEqual(pattern))
  it('is said in words', () => {
    expect(patternWords([2, 1, 1])).toBe('two slurred, two separate')
    expect(patternWords([1, 3])).toBe('one separate, three slurred')
    expect(patternWords([2, 2])).toBe('two times two slurred')
  })
  it('of the catalogue are all patterns, each its own', () => {
    for (const g of GROOVES) expect(parsePattern(g.pattern.join(' '))).toEqual(g.pattern)
    expect(new Set(GROOVES.map(g => g.pattern.join())).size).toBe(GROOVES.length)
  })
})

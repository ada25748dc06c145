import { describe, expect, it } from 'vitest'
import { fingered } from './testing'

/**
 * The fingerings of instruments.md: what every teacher would write in first position when nothing else is
 * asked.
 */
describe('reference fingerings', () => {
  it.each([
    ['violin D major from open D', 'violin', 'K:D\nDEFG ABcd|', 'D 0 1 2 3 A 0 1 2 3'],
    ['violin D major, down again', 'violin', 'K:D\ndcBA GFED|', 'A 3 2 1 0 D 3 2 1 0'],
    [
      'violin G major, two octaves',
      'violin',
      'K:G\nG,A,B,C DEFG|ABcd efg2|',
      'G 0 1 2 3 D 0 1 2 3 A 0 1 ‹2 3 E 0 1 ‹2',
    ],
    ['violin B flat major', 'violin', 'K:Bb\nB,CDE FGAB|', 'G ‹2 3 D 0 ‹1 ‹2 3 A 0 ‹1'],
    ['violin F major', 'violin', 'K:F\nFGAB cdef|', 'D ‹2 3 A 0 ‹1 ‹2 3 E 0 ‹1'],
    ['viola C major from open C', 'viola', 'K:C clef=alto\nC,D,E,F, G,A,B,C|', 'C 0 1 2 3 G 0 1 2 3'],
    [
      'cello C major, two octaves',
      'cello',
      'K:C clef=bass\nC,,D,,E,,F,, G,,A,,B,,C,|D,E,F,G, A,B,C2|',
      'C 0 1 3 4 G 0 1 3 4 D 0 1 2 4 A 0 1 2',
    ],
    ['cello D major from open D', 'cello', 'K:D clef=bass\nD,E,F,G, A,B,CD|', 'D 0 1 3 4 A 0 1 3 4'],
    [
      'bass G major from the E string',
      'bass',
      'K:G clef=bass\nG,,A,,B,,C, D,E,F,G,|',
      'E 2 A 0 1 2 D 0 1 4 G 0',
    ],
  ] as const)('%s', (_name, instrument, abc, expected) => {
    for (const length of ['1/8', '1/4', '1/2'])
      expect(fingered(abc, { instrument, unit: length })).toBe(expected)
  })

  it('a chromatic line on the cello moves the whole hand once to the fifth, twice to the octave', () => {
    const slurred = (notes: string) => `K:C clef=bass\n(${notes})|`
    expect(fingered(slurred('D,^D,E,F, ^F,G,^G,A,'), { instrument: 'cello' })).toBe('D 0 1 2 3 1 2 3 4')
    expect(fingered(slurred('A,^A,B,C ^CD^DE'), { instrument: 'cello' })).toBe('A 0 1 2 3 1 2 3 4')
    expect(fingered(slurred('A,^A,B,C ^CD^DE F^FG^G A'), { instrument: 'cello' })).toBe(
      'A 0 1 2 3 4 1 2 3 4 1 2 3 4',
    )
    expect(fingered(slurred('C,,^C,,D,,^D,, E,,F,,^F,,G,,'), { instrument: 'cello' })).toBe(
      'C 0 1 2 3 1 2 3 4',
    )
  })

  it('a quick bass tune D E F sharp G with the fourth preferred shifts between 1 and 2', () => {
    const options = { instrument: 'bass', open: 'fourth', tempo: '1/4=120' } as const
    expect(fingered('K:D clef=bass\nD,E,F,G,|', options)).toBe('D 0 1 2 4')
    expect(fingered('K:D clef=bass\nD,E,F,G, F,E,D,2|', options)).toBe('D 0 1 2 4 2 1 0')
  })
})

describe('open string or fourth finger', () => {
  it('takes 4 where the open string would cross and come back', () => {
    expect(fingered('K:D\nGAGF|', { instrument: 'violin' })).toBe('D 3 4 3 2')
  })
  it('takes the open string where the next string is needed anyway', () => {
    expect(fingered('K:D\nFGAB cBAG|', { instrument: 'violin' })).toBe('D 2 3 A 0 1 2 1 0 D 3')
  })
  it('never asks for 4 of a learner who has it not', () => {
    expect(fingered('K:D\nGAGF|', { instrument: 'violin', level: 1 })).toBe('D 3 A 0 D 3 2')
  })
  it('school open first rings even for one note; school fourth stays on the string', () => {
    expect(fingered('K:D\nGAGF|', { instrument: 'violin', open: 'first' })).toBe('D 3 A 0 D 3 2')
    expect(fingered('K:D\nDEFG ABcd|', { instrument: 'violin', open: 'fourth' })).toBe('D 0 1 2 3 4 A 1 2 3')
  })
})

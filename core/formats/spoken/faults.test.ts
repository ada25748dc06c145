import { describe, expect, it } from 'vitest'
import { pitches, read } from './testing'

const faults = (text: string) =>
  read(text).findings.flatMap(f =>
    f.code.startsWith('spoken.') ? [[f.code, f.where.line, f.where.column]] : [],
  )

describe('a tuplet', () => {
  it('that is never closed is told where it begins', () => {
    expect(faults('metre: 2/4\nD 0 {1 2 3 0 |')).toEqual([['spoken.openTuplet', 2, 5]])
  })
  it('that begins within another one is told too', () => {
    expect(faults('D {0 1 2 {3 0 1} |')).toEqual([['spoken.openTuplet', 1, 3]])
  })
  it('that ends and never began is told', () => {
    expect(faults('D 0 1 2} 3 |')).toEqual([['spoken.unknown', 1, 8]])
  })
  it('that is closed is none, over a barline too', () => {
    expect(faults('D {0 1 2} {3:2 0 1 | 2} |')).toEqual([])
  })
})

describe('notes together', () => {
  it('on one string are told and left out', () => {
    const text = 'D 0 D1+D3 D0+A1 A1+0 |'
    expect(faults(text)).toEqual([
      ['spoken.oneString', 1, 5],
      ['spoken.oneString', 1, 17],
    ])
    expect(pitches(read(text).tune)).toBe('D4 D4+B4')
  })
})

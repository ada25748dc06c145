import { describe, expect, it } from 'vitest'
import { expandMacros } from './macros'
import { readAbc } from './readAbc'

const done = (...lines: string[]) => expandMacros(lines.join('\n')).text.split('\n')

describe('macros', () => {
  it('put one text for another, the longest that fits', () => {
    expect(done('m:~g2={a}g{f}g', 'm: ~g = {a}g', 'K:C', '~g2~g~g3')[3]).toBe('{a}g{f}g{a}g{a}g3')
  })

  it('do it at every pitch, over the octaves too', () => {
    expect(done('m:~n3=n{o}n{m}n', 'K:C', '~G3~c3~B3~b3~C3')[2]).toBe(
      'G{A}G{F}G' + 'c{d}c{B}c' + 'B{c}B{A}B' + "b{c'}b{a}b" + 'C{D}C{B,}C',
    )
  })

  it('put marks and words in as they are', () => {
    expect(done('m:~n2=!trill!n"roll"m', 'K:C', '~d2')[2]).toBe('!trill!d"roll"c')
  })

  it('reach into no words, marks, fields or remarks, nor into themselves', () => {
    const line = '"~g2"~g2[r:~g2]!~g2!% ~g2'
    expect(done('m:~g2=x~g2', 'K:C', line, 'w: ~g2').slice(2)).toEqual([
      '"~g2"x~g2[r:~g2]!~g2!% ~g2',
      'w: ~g2',
    ])
  })

  it('a text without any is left as it is', () => {
    const text = 'K:C\n~g2 m:x\n'
    expect(expandMacros(text).text).toBe(text)
  })

  it('a place behind one is told where it stands in the text as it was typed', () => {
    const typed = 'X:1\nm:~g2={a}g{f}g\nM:4/4\nL:1/8\nK:C\n~g2CD ~g2 !snap!A Bc|\n'
    const { back, text } = expandMacros(typed)
    expect(back(text.indexOf('CD'))).toBe(typed.indexOf('CD'))
    // Within what was put in: where it was called.
    expect(back(text.indexOf('{f}') + 1)).toBe(typed.indexOf('~g2CD'))
    expect(back(text.length)).toBe(typed.length)
    const unknown = readAbc(typed).tunes[0]!.findings.find(f => f.code === 'abc.decoration')
    expect(unknown?.where).toEqual({ line: 6, column: typed.split('\n')[5]!.indexOf('!snap!') + 1 })
  })

  it('that grow without end are left undone', () => {
    const many = `m:a=${'b'.repeat(200)}\nK:C\n${'a'.repeat(100_000)}\n`
    expect(expandMacros(many).text.length).toBeLessThan(4_200_000)
  })
})

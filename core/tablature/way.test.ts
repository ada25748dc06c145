import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { wayMarks } from './way'

const marks = (music: string) => {
  const { tune } = readAbc(`X:1\nM:4/4\nL:1/1\nK:D\n${music}\n`).tunes[0]!
  return tune.measures.map(m => wayMarks(m, tune))
}

describe('signs of the way through', () => {
  it('say where the jump ends', () => {
    expect(marks('D|E!fine!|F!D.C.!|')).toEqual([
      null,
      { opens: [], closes: ['Fine'], toCoda: false },
      { opens: [], closes: ['D.C. al Fine'], toCoda: false },
    ])
    expect(marks('D|F!D.C.!|')[1]!.closes).toEqual(['D.C.'])
  })
  it('stand at the segno, where the way leaves, and at the coda', () => {
    const [segno, leaves, jump, coda] = marks('!segno!D|E!dacoda!|F!D.S.!|!coda!G|')
    expect([segno!.opens, coda!.opens]).toEqual([['segno'], ['coda']])
    expect([leaves!.closes, leaves!.toCoda, jump!.closes]).toEqual([['to'], true, ['D.S. al Coda']])
  })
  it('count a repeat of more than two times, and no other', () => {
    expect(marks('|::D|E::|F|').map(m => m?.closes)).toEqual([undefined, ['3×'], undefined])
    expect(marks('|:D|E:|')).toEqual([null, null])
  })
})

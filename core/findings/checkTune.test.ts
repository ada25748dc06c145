import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { sentence } from '#core/words/findings'
import { checkTune } from './checkTune'

const told = (music: string, head = '') => {
  const { tune } = readAbc(`X:1\nT:t\n${head}M:2/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!
  return checkTune(tune).map(f => `${f.where.measure ?? '·'} ${sentence(f)}`)
}

describe('a tune looked over', () => {
  it('has nothing where all is in order', () => {
    expect(told('D|:DE|FG|1 AB:|2 AD||')).toEqual([])
    expect(told('DE|FG!coda!|AB|!D.C.!AA|!coda!DD|]')).toEqual([])
  })
  it('tells bars that are too long or too short', () => {
    expect(told('DE|FGA|B2|C|D2|')).toEqual([
      '2 This bar is too long: 3 quarters instead of 2.',
      '4 This bar is too short: 1 quarter instead of 2.',
    ])
  })
  it('tells measures no way leads to, stretch by stretch', () => {
    expect(told('DE!fine!|FG|!D.C.!AB|dd|ee|z2|')).toEqual([
      '4 Measures 4 to 6 are never played: no repeat, jump or order of parts leads there.',
    ])
    expect(told('DE|1 FG:|2 AB|3 dd|')).toEqual([
      '4 Measure 4 is never played: no repeat, jump or order of parts leads there.',
    ])
    expect(told('[P:A]DE|[P:B]FG|[P:C]AB|[P:D]dd|', 'P:AC\n')).toEqual([
      '2 Measure 2 is never played: no repeat, jump or order of parts leads there.',
      '4 Measure 4 is never played: no repeat, jump or order of parts leads there.',
    ])
  })
  it('tells repeats that do not pair, and ties that hold nothing', () => {
    expect(told('|:DE|FG||')).toEqual(['1 A repeat begins here and is never closed.'])
    expect(told('DE:|FG:|AB:|').at(0)).toBe(
      '2 A repeat closes here that was not opened; it goes back to the end of the one before.',
    )
    expect(told('DE-|FG|')).toEqual(['· A tie begins here but the next note is another one.'])
  })
})

import { describe, expect, it } from 'vitest'
import { fingersTogether } from './decorations'
import { readAbc } from './readAbc'
import { writeAbc } from './writeAbc'

describe('fingers at notes together', () => {
  it.each([
    ['[!0!A!1!e]', 0, ['1']],
    ['[!1!e!0!A]', 0, ['1']],
    ['[A!1!e]', undefined, ['1']],
    ['[!1!Ae]', 1, []],
    ['!1![Ae]', 1, []],
    ['!0!!1![Ae]', 0, ['1']],
    ['!1!!0![eA]', 0, ['1']],
    ['!2!!0!!1![DA]', 2, ['0', '1']],
    ['[!3!G,!1!^A,]', 3, ['1']],
    ["[!4!a!1!d'!2!d]", 2, ['1', '4']],
    ['"Am7"!trill![!0!A!1!e]', 0, ['1']],
    ['{!3!g}[!1!Ae]', 1, []],
    ['!0!A', 0, []],
    ['[Ae]', undefined, []],
  ] as const)('%s', (text, lowest, others) => {
    expect(fingersTogether(text)).toEqual({ ...(lowest !== undefined && { lowest }), others })
  })
  const read = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!
  it('stay with the lower note as they are read, and what is left out is told', () => {
    const { tune, findings } = read('[!0!A!1!e]2 [A!1!e] !3!d|')
    expect(tune.measures[0]!.events.map(e => (e.kind === 'note' ? e.finger : null))).toEqual([
      0,
      undefined,
      3,
    ])
    expect(findings.map(f => [f.code, f.values])).toEqual([['abc.decoration', { name: 'finger 1' }], ['abc.decoration', { name: 'finger 1' }]]) // prettier-ignore
  })
  it('come back as they were written', () => {
    const { tune } = read('!2![FA] !0![Ae]3|')
    const again = readAbc(writeAbc(tune).text).tunes[0]!
    expect(again.tune.measures[0]!.events.map(e => (e.kind === 'note' ? e.finger : null))).toEqual([2, 0])
    expect(again.findings).toEqual([])
  })
})

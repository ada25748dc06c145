import { describe, expect, it } from 'vitest'
import { decorated, fingersTogether, STANDS_FOR_HARMONIC } from './decorations'
import { readAbc } from './readAbc'
import { writeAbc } from './writeAbc'

describe('marks by the names they have', () => {
  it.each([
    ['staccato', 'staccato .'],
    ['tenuto', 'tenuto'],
    ['accent', 'accent emphasis > L'],
    ['fermata', 'fermata H'],
    ['trill', 'trill T'],
    ['turn', 'turn'],
    ['mordent', 'mordent lowermordent M'],
    ['upperMordent', 'uppermordent P pralltriller'],
    ['roll', 'roll irishroll ~'],
    ['slide', 'slide'],
    ['upbow', 'upbow u'],
    ['downbow', 'downbow v'],
    ['open', 'open'],
    ['harmonic', 'harmonic'],
    ['comma', 'breath mediumphrase'],
    ['lift', 'shortphrase'],
    ['cut', 'cut'],
    ['pizzicato', '+'],
  ])('%s: %s', (mark, names) => {
    for (const name of names.split(' '))
      expect([name, decorated([name], false)]).toEqual([name, { marks: [mark], unknown: [] }])
  })
  it('are each there once; dynamics and fingers stand by themselves, what is not known is told', () => {
    expect(decorated(['.', 'staccato', 'mf', '3', 'trill', 'f'], false)).toEqual({
      marks: ['staccato', 'trill'],
      dynamic: 'f',
      finger: 3,
      unknown: [],
    })
    expect(decorated(['0'], false)).toEqual({ marks: [], finger: 0, unknown: [] })
    expect(decorated(['6', 'wobble', 'crescendo(', 'crescendo)'], false)).toEqual({
      marks: [],
      unknown: ['6', 'wobble', 'crescendo'],
    })
    for (const d of ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'])
      expect(decorated([d], false).dynamic).toBe(d)
  })
  it('a sign that stands for a harmonic is one only where the text says so', () => {
    expect(decorated([STANDS_FOR_HARMONIC], true).marks).toEqual(['harmonic'])
    expect(decorated([STANDS_FOR_HARMONIC], false)).toEqual({ marks: [], unknown: [STANDS_FOR_HARMONIC] })
  })
})

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
    expect(findings.map(f => [f.code, f.values])).toEqual([
      ['abc.decoration', { name: 'finger 1' }],
      ['abc.decoration', { name: 'finger 1' }],
    ])
  })
  it('come back as they were written', () => {
    const { tune } = read('!2![FA] !0![Ae]3|')
    const again = readAbc(writeAbc(tune).text).tunes[0]!
    expect(again.tune.measures[0]!.events.map(e => (e.kind === 'note' ? e.finger : null))).toEqual([2, 0])
    expect(again.findings).toEqual([])
  })
})

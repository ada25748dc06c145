import { describe, expect, it } from 'vitest'
import { readAbc } from './readAbc'

const read = (music: string) => readAbc(`X:1\nT:t\nM:2/4\nL:1/4\nK:C\n${music}\n`).tunes[0]!
/** Under each note its syllables, verse by verse. */
const laid = (music: string) =>
  read(music).tune.measures.flatMap(m =>
    m.events.flatMap(e =>
      e.kind === 'note'
        ? [(e.syllables ?? []).map(s => (s ? s.text + (s.hyphen ? '-' : '') : '·')).join('/')]
        : [],
    ),
  )
const told = (music: string) =>
  read(music)
    .findings.filter(f => f.code === 'abc.wordsLeft')
    .map(f => [f.where.line, 'values' in f ? f.values.words : ''])

describe('words under a line', () => {
  it.each([
    ['a syllable a note', 'CD|EF|', 'w:one two three four', ['one', 'two', 'three', 'four']],
    [
      'rests, grace notes and chord names get none',
      '{D}Cz|"G"EF|',
      'w:one two three',
      ['one', 'two', 'three'],
    ],
    ['hyphens part syllables', 'CD|EF|', 'w:won-der-ful day', ['won-', 'der-', 'ful', 'day']],
    ['a hyphen by itself is sung on', 'CD|EF|', 'w:ah - men now', ['ah-', '', 'men', 'now']],
    ['so are two of them', 'CD|EF|', 'w:ah--men now', ['ah-', '', 'men', 'now']],
    ['a line holds the syllable', 'CD|EF|', 'w:oh__ my', ['oh', '', '', 'my']],
    ['a star passes a note over', 'CD|EF|', 'w:* two * four', ['', 'two', '', 'four']],
    [
      'a bar goes on to the next one',
      'CD|EF|GA|',
      'w:one | three | five six',
      ['one', '', 'three', '', 'five', 'six'],
    ],
    ['over an empty one too', 'CD|EF|GA|', 'w:one | | five', ['one', '', '', '', 'five', '']],
    ['a bar where one is changes nothing', 'CD|EF|', 'w:one two | three', ['one', 'two', 'three', '']],
    ['first of all it passes over the first', 'CD|EF|', 'w:| three', ['', '', 'three', '']],
    ['a tilde joins words', 'CD|EF|', 'w:of~the sea', ['of the', 'sea', '', '']],
    ['signs behind a backslash are letters', 'CD|EF|', 'w:well\\-known a\\_b', ['well-known', 'a_b', '', '']],
    ['a second line of music has its own', 'CD|\nw:one\nEF|', 'w:three', ['one', '', 'three', '']],
  ])('%s', (_, music, words, notes) => {
    expect(laid(`${music}\n${words}`)).toEqual(notes)
    expect(told(`${music}\n${words}`)).toEqual([])
  })
  it('verse by verse, each as long as it is: what a short one leaves stays empty', () => {
    expect(laid('CD|EF|\nw:one two\nw:eins zwei drei vier')).toEqual([
      'one/eins',
      'two/zwei',
      '·/drei',
      '·/vier',
    ])
    expect(laid('CD|EF|\nw:\nw:eins')).toEqual(['·/eins', '', '', ''])
  })
  it('for which no note is left are told, with their place', () => {
    expect(told('CD|EF|\nw:one two three four five six-ty')).toEqual([[7, 'five six ty']])
    expect(told('CD|EF|\nw:one\nw:a b c d\nw:a b c d e')).toEqual([[9, 'e']])
    expect(told(`w:${'la '.repeat(40)}\nCD|`)[0]![1]).toHaveLength(60)
  })
})

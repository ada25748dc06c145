import { describe, expect, it } from 'vitest'
import { isNote } from '#core/music/timeline'
import { readAbc } from './readAbc'

const read = (...lines: string[]) =>
  readAbc(['X:1', 'M:4/4', 'L:1/4', 'K:C', ...lines, ''].join('\n')).tunes[0]!
/** What stands on each note: chord, remarks, marks, loudness and finger. */
function on(...lines: string[]): string[] {
  const { tune } = read(...lines)
  return tune.measures.flatMap(m =>
    m.events.flatMap(e =>
      e.kind === 'note'
        ? [
            [
              e.chord && `“${e.chord}”`,
              ...(e.remarks ?? []).map(r => `(${r})`),
              ...(e.marks ?? []),
              e.dynamic,
              e.finger,
            ]
              .filter(x => x !== undefined)
              .join(' '),
          ]
        : [],
    ),
  )
}
const told = (...lines: string[]) =>
  read(...lines).findings.map(f => [f.code, f.where.line, Object.values(f.values).join()])

describe('symbols under a line', () => {
  it.each([
    ['stand one on each note', 'CDEF|', 's:!trill! u !mf! !2!', ['trill', 'upbow', 'mf', '2']],
    ['pass over a note by a star', 'CDEF|', 's:* "G7" * "C"', ['', '“G7”', '', '“C”']],
    ['pass over rests by themselves', 'CzEF|', 's:"C" "Am" *', ['“C”', '“Am”', '']],
    [
      'are chords, or remarks where a sign says where they stand',
      'CDEF|',
      's:"Am" "^above" "_below" "@there"',
      ['“Am”', '(above)', '(below)', '(there)'],
    ],
    ['are remarks to the left and right too', 'CD|', 's:"<left" ">right"', ['(left)', '(right)']],
    ['keep the accents of words', 'CD|', 's:"^caf\\\'e; quietly" *', ['(café; quietly)', '']],
    ['go on with the next bar', 'CDEF|GABc|', 's:"C" | "G" "A"', ['“C”', '', '', '', '“G”', '“A”', '', '']],
    [
      'go on with the next bar where this one is full',
      'CD|EF|',
      's:"C" "D" | "E" "F"',
      ['“C”', '“D”', '“E”', '“F”'],
    ],
    [
      'begin in the first bar whatever bar line stands before',
      'CD|EF|',
      's:| "C" "D" | "E"',
      ['“C”', '“D”', '“E”', ''],
    ],
    ['may end before the line does', 'CDEF|', 's:"C"', ['“C”', '', '', '']],
  ] as const)('%s', (_, music, symbols, notes) => {
    expect(on(music, symbols)).toEqual(notes)
    expect(told(music, symbols)).toEqual([])
  })
  it('add to what stands on the note already, once each', () => {
    expect(on('!trill!"Am"C"^one"D!p!E', 's:!trill! "^two" !mf!')).toEqual([
      '“Am” trill',
      '(one) (two)',
      'mf',
    ])
    expect(on('!accent!C', 's:!trill!')).toEqual(['accent trill'])
  })
  it('of two lines stand under the same music; those of the next line under the next', () => {
    expect(on('CD|', 's:"C" *', 's:* u', 'EF|', 's:"E"')).toEqual(['“C”', 'upbow', '“E”', ''])
    expect(on('CD|', 'EF|', 's:"E" "F"')).toEqual(['', '', '“E”', '“F”'])
  })
  it('that find no note are told at the first, with their line', () => {
    expect(told('CD|', 's:"C" "D" "E" "F"')).toEqual([['abc.symbol', 6, '"E"']])
    expect(told('CD|', `s:* * "${'x'.repeat(60)}"`)).toEqual([['abc.symbol', 6, `"${'x'.repeat(39)}`]])
    expect(on('CD|', 's:"C" "D" "E"', 'EF|')).toEqual(['“C”', '“D”', '', ''])
    expect(told('CD|', 's:* * * *')).toEqual([])
  })
  it('that are no mark we keep are told by name', () => {
    expect(told('CD|', 's:!fanfare! !trill!')).toEqual([['abc.decoration', 6, 'fanfare']])
    expect(on('CD|', 's:!fanfare! !trill!')).toEqual(['', 'trill'])
  })
  it('leave notes without any as they are', () => {
    const { tune } = read('CD|', 's:* *')
    for (const e of tune.measures[0]!.events)
      expect(isNote({ event: e } as never) && Object.keys(e).sort()).toEqual([
        'duration',
        'heads',
        'id',
        'kind',
      ])
  })
})

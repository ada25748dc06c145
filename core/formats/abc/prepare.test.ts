import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lastUpTo } from './places'
import { prepare } from './prepare'
import { readAbc } from './readAbc'
import { asTyped } from './text'

const at = (source: string, o: { fileHeader?: string; voice?: number } = {}) =>
  prepare(source, { fileHeader: '', voice: 0, ...o })
const head = 'X:1\nT:t\nK:D\n'
/** The text of the music, of a tune with nothing else in it. */
const music = (source: string, voice = 0) => {
  const { text } = at(head + source, { voice })
  expect(text).toHaveLength((head + source).length)
  expect(text.startsWith(head)).toBe(true)
  return text.slice(head.length)
}

describe('what is for a printed page and no music', () => {
  it.each(['ps', 'text', 'svg'])(
    '%s between its begin and its end is left out, the music after it is read',
    kind => {
      const text = music(`DEFG|\n%%begin${kind}\n/x { 1 } def\nK:G\n%%end${kind}\nABcd|\n`)
      expect(text.split('\n').map(l => l.trimEnd())).toEqual(['DEFG|', '%', '%', '%', '%', 'ABcd|', ''])
    },
  )
  it('a block that is never closed is its first line alone; of two each ends with its own', () => {
    expect(music('DEFG|\n%%beginps\nABcd|\n')).toMatch(/^DEFG\|\n% +\nABcd\|\n$/)
    const two = '%%begintext\none\n%%endtext\nABcd|\n%%begintext\ntwo\n%%endtext\nDEFG|\n'
    expect(music(two).match(/[A-Ga-g]{4}\|/g)).toEqual(['ABcd|', 'DEFG|'])
  })
  it('never makes the parser wait for an end', () => {
    const { tunes } = readAbc(`${head}DEFG|\n%%beginps\nABcd|\n`)
    expect(tunes[0]!.tune.measures).toHaveLength(2)
  })
})

describe('the header of the file', () => {
  const inserted = (fileHeader: string, source = `${head}DEFG|\n`) => {
    const { text } = at(source, { fileHeader })
    const first = source.indexOf('\n') + 1
    expect(text.startsWith(source.slice(0, first))).toBe(true)
    expect(text.endsWith(source.slice(first))).toBe(true)
    return text.slice(first, text.length - (source.length - first))
  }
  it('is put in after the first line', () => {
    expect(inserted('L:1/16\nM:6/8')).toBe('L:1/16\nM:6/8\n')
    expect(inserted('')).toBe('')
    expect(at('X:1', { fileHeader: 'L:1/16' }).text).toBe('X:1L:1/16\n')
  })
  it('says only what counts for every tune', () => {
    const every = 'ABCDFGHILMmNOQRSUZ'.split('').map(l => `${l}:x`)
    const rest = 'EJKPTVWXhkrstvwxyz'.split('').map(l => `${l}:x`)
    expect(inserted([...rest, ...every, '%%wide', '% a remark', 'some words', ' L:1/4'].join('\n'))).toBe(
      [...every, '%%wide', ''].join('\n'),
    )
  })
  it('gives way to what the tune says before its music, but for what may be said twice', () => {
    expect(inserted('L:1/16\nM:6/8', `X:1\nL:1/8\nK:D\nM:2/4\nDEFG|`)).toBe('M:6/8\n')
    expect(inserted('L:1/16', 'X:1\nT:L:1/8\nK:D\nL:1/4\nDEFG|')).toBe('L:1/16\n')
    expect(inserted('U:T=!trill!\nm:~n2=o/n\nI:x\n%%a', 'X:1\nU:x\nm:x\nI:x\n%%a\nK:D\nD|')).toBe(
      'U:T=!trill!\n%        \nI:x\n%%a\n',
    )
  })
  it('moves places by its length, and back leads to the tune as it was given', () => {
    const source = `${head}DEFG|\n`
    const { text, back } = at(source, { fileHeader: 'L:1/16\nM:6/8' })
    const added = text.length - source.length
    expect(added).toBe('L:1/16\nM:6/8\n'.length)
    for (let o = 0; o <= text.length; o++) {
      const given = o <= 4 ? o : o <= 4 + added ? 4 : o - added
      expect(back(o)).toBe(given)
    }
    expect([0, 7, 19].map(at(source).back)).toEqual([0, 7, 19])
  })
})

describe('a line that goes on', () => {
  it('after a field is one with it', () => {
    expect(at(`${head}DEFG|\nw:one two\n+:three\n`).words.map(w => w.text)).toEqual(['one two   three'])
    expect(at('X:1\nT:one\n+:two\nK:D\nD|').text).toBe('X:1\nT:one   two\nK:D\nD|')
  })
  it('after music is a remark', () => {
    expect(music('DEFG|\n+:three\nDEFG|')).toBe('DEFG|\n% three\nDEFG|')
  })
  it('of music ends where words or a remark stand under it', () => {
    expect(music('DEFG|\\\nw:one\nDEFG|')).toBe('DEFG| \n%    \nDEFG|')
    expect(music('DEFG|\\ \t\n% one\nDEFG|')).toBe('DEFG|  \t\n% one\nDEFG|')
    expect(music('DEFG|\\\nDEFG|')).toBe('DEFG|\\\nDEFG|')
    expect(music('DEFG|\\\n[M:3/4]DEFG|')).toBe('DEFG|\\\n[M:3/4]DEFG|')
  })
})

describe('what an accidental counts for', () => {
  it.each([
    ['%%propagate-accidentals octave', 'octave'],
    ['%%propagate-accidentals   pitch and more', 'pitch'],
    ['I:propagate-accidentals not', 'not'],
    ['I:  propagate-accidentals not', 'not'],
    ['%%propagate-accidentals sometimes', null],
    ['%%propagate-accidentals notes', null],
    [' %%propagate-accidentals not', null],
    ['N:propagate-accidentals not', null],
  ])('%s', (line, how) => {
    const { text, propagation } = at(`X:1\n${line}\nK:D\nD|`)
    expect(propagation).toBe(how)
    expect(text).toBe(`X:1\n${how ? `%${' '.repeat(line.length - 1)}` : line}\nK:D\nD|`)
  })
})

describe('several voices', () => {
  const told = (source: string) => at(head + source).voices
  it('are none where there is one', () => {
    expect(told('DEFG|')).toEqual([])
    expect(told('V:1\nDEFG|')).toEqual([])
    expect(told('V:1\nV:2\nDEFG|')).toEqual([])
    expect(music('V:1 name="Fiddle"\nDEFG|')).toBe('V:1 name="Fiddle"\nDEFG|')
  })
  it('are told by name with their notes', () => {
    expect(told('V:low\nDE|\nV:high name="Top"\nFGA|\nV:low\nD|')).toEqual([
      { id: 'low', label: 'voice low', notes: 3 },
      { id: 'high', label: 'Top', notes: 3 },
    ])
  })
  it.each([
    ['V:1 nm="Fiddle"', 'Fiddle'],
    ['V:1 name = "Fiddle"', 'Fiddle'],
    ['V:1 clef=bass name="  Fiddle  "', 'Fiddle'],
    ['V:1 name="Caf\\\'e"', 'Café'],
    [`V:1 name="${'x'.repeat(70)}"`, 'x'.repeat(60)],
    ['V:1 name=""', 'voice 1'],
    ['V:1 clef=bass', 'voice 1'],
  ])('%s is named', (line, label) => {
    expect(told(`${line}\nDE|\nV:2\nF|`)[0]!.label).toBe(label)
  })
  it('a name said later counts, the first of two stays', () => {
    expect(told('V:1\nDE|\nV:2\nF|\nV:1 name="A"\nD|\nV:1 name="B"\nD|')[0]).toEqual({
      id: '1',
      label: 'A',
      notes: 4,
    })
  })
  it('may be named before the music, and before the key say nothing of whose the music is', () => {
    const { voices, text } = at('X:1\nV:a name="One"\nV:b name="Two"\nK:D\nDE|\nV:b\nFGA|')
    expect(voices.map(v => [v.label, v.notes])).toEqual([
      ['One', 2],
      ['Two', 3],
    ])
    expect(text.split('\n').slice(3)).toEqual(['K:D', 'DE|', '%  ', '%   '])
  })
  it('music before any is the first one’s', () => {
    expect(told('DE|\nV:2\nF|').map(v => [v.id, v.notes])).toEqual([
      ['1', 2],
      ['2', 1],
    ])
  })
  it('change within a line', () => {
    expect(music('[V:1]DE|[V:2]FG|\n[V:1]A|', 0)).toBe('[V:1]DE|        \n[V:1]A|')
    expect(music('[V:1]DE|[V:2]FG|\n[V:1]A|', 1)).toBe('        [V:2]FG|\n%      ')
    expect(told('[V:1]DE|[V:2]FG|\n[V:1]A|').map(v => v.notes)).toEqual([3, 2])
  })
  it('the one asked for is left, the first where there is no such one', () => {
    const source = 'V:1\nDE|\nw:a b\nV:2\nFG|\nw:c d\n'
    expect(music(source, 0)).toBe('V:1\nDE|\n%    \n%  \n%  \n%    \n')
    expect(music(source, 1)).toBe('%  \n%  \n%    \nV:2\nFG|\n%    \n')
    expect(music(source, 2)).toBe(music(source, 0))
  })
  it('what is everybody’s stays: remarks, empty lines, words after the tune', () => {
    const source = 'V:1\nDE|\nV:2\n% a remark\nFG|\nW:after\n  % another\n'
    expect(music(source, 0)).toBe('V:1\nDE|\n%  \n% a remark\n%  \nW:after\n  % another\n')
  })
  it('the order of staves is nobody’s', () => {
    const { text } = at('X:1\n%%score 1 2\nK:D\nV:1\nDE|\nV:2\nFG|\n%%staves 1\n%%scores\n')
    expect(text).toBe('X:1\n%          \nK:D\nV:1\nDE|\n%  \n%  \n%         \n%%scores\n')
  })
  it.each([
    ['DE FG|', 4],
    ['[DFA]2 [ce]|', 2],
    ['{ab}D{/c}E|', 2],
    ['"Am"D "^some words"E|', 2],
    ['!trill!D !fade!E|', 2],
    ['D[K:A]E[M:3/4]F|', 3],
    ['DE % FGA', 2],
    ['z4|', 0],
    ['^C_d=e,|', 3],
  ])('%s has %i notes', (line, notes) => {
    const [own] = told(`V:1\n${line}\nD|\nV:2\nDE|`)
    expect(own!.notes).toBe(notes + 1)
  })
})

describe('a signature that is spelled out', () => {
  it('keeps its tonic, and is read as changes to C', () => {
    const source = 'X:1\nK:D exp _e ^f\nDEFG|\nK:Bb  Minor exp ^c\nD|[K:F# exp]D|\nK:G\nD|'
    const { text, tonicAt } = at(source)
    const blank = (n: number) => ' '.repeat(n)
    expect(text).toBe(`X:1\nK:C${blank(5)}_e ^f\nDEFG|\nK:C${blank(13)}^c\nD|[K:C${blank(5)}]D|\nK:G\nD|`)
    expect(text).toHaveLength(source.length)
    const place = (of: string) => tonicAt(source.indexOf(of))
    expect(tonicAt(0)).toBeNull()
    expect(place('K:D')).toEqual({ step: 'D', alter: 0 })
    expect(place('DEFG')).toEqual({ step: 'D', alter: 0 })
    expect(place('D|[K')).toEqual({ step: 'B', alter: -1 })
    expect(place(']D|')).toEqual({ step: 'F', alter: 1 })
    expect(place('K:G')).toBeNull()
  })
  it.each(['K:D', 'K:D mix', 'K:D ^c', 'K:D expo', 'K:Hp exp'])('%s is left as it is', line => {
    const source = `X:1\n${line}\nD|`
    expect(at(source).text).toBe(source)
    expect(at(source).tonicAt(source.length)).toBeNull()
  })
})

describe('lines of words', () => {
  const found = (music: string) =>
    at(`${head}${music}\n`).words.map(w => [w.text, w.verse, w.from - head.length, w.to - head.length])
  it('stand under the line of music before them, verse by verse', () => {
    expect(found('DE|\nw:a b\nw:c d\nFG|\nw:e f')).toEqual([
      ['a b', 0, 0, 3],
      ['c d', 1, 0, 3],
      ['e f', 0, 16, 19],
    ])
  })
  it('stand under the whole of a line that goes on', () => {
    expect(found('DE|\\\nFG|\nw:a b c d')).toEqual([['a b c d', 0, 0, 8]])
  })
  it('end where a remark begins', () => {
    expect(found('DE|\nw:a b % say it')).toEqual([['a b ', 0, 0, 3]])
    expect(found('DE|\nw:9\\% b').map(w => asTyped(w[0] as string))).toEqual(['9% b'])
  })
})

describe('symbol lines', () => {
  it('are taken out, with the music they stand under', () => {
    const source = `${head}DE FG|\ns:"^a b" !trill! * |~u\n% between\nw:o\nAB|\ns:*v\n`
    const { symbols, words, text } = at(source)
    expect(words).toEqual([
      {
        text: 'o',
        verse: 0,
        from: source.indexOf('DE FG|'),
        to: source.indexOf('DE FG|') + 6,
        at: source.indexOf('w:o'),
      },
    ])
    const [first, second] = [source.indexOf('DE FG|'), source.indexOf('AB|')]
    expect(symbols).toEqual([
      {
        symbols: ['"^a b"', '!trill!', '*', '|', '~', 'u'],
        from: first,
        to: first + 6,
        at: source.indexOf('s:"'),
      },
      { symbols: ['*', 'v'], from: second, to: second + 3, at: source.indexOf('s:*') },
    ])
    expect(
      text
        .split('\n')
        .filter(l => l.startsWith('% ') && l.trim() === '%')
        .map(l => l.length),
    ).toEqual([22, 3, 4])
    expect(text.replace(/^% +$/gm, '')).toContain('DE FG|\n\n% between\n\nAB|\n\n')
  })
  it('over no music stand under nothing; an empty one says nothing', () => {
    const { symbols } = at('X:1\ns:\nK:D\nDE|')
    expect(symbols).toEqual([{ symbols: [], from: 0, to: 0, at: 4 }])
    expect(at(`${head}DE|`).symbols).toEqual([])
  })
})

describe('repeats of more than two', () => {
  it.each([
    ['|::DE|', '|: DE|', 0, 3],
    ['|:::DE|', '|:  DE|', 0, 4],
    ['DE::|', 'DE :|', 3, 3],
    ['DE:::|', 'DE  :|', 4, 4],
  ])('%s', (given, read, place, times) => {
    const { text, timesAt } = at(head + given)
    expect(text.slice(head.length)).toBe(read)
    const o = head.length + place
    expect(timesAt(o, o + 1)).toBe(times)
    expect(timesAt(head.length, o + 1)).toBe(times)
    expect([timesAt(o + 1, o + 5), timesAt(0, o), timesAt(o, o)]).toEqual([undefined, undefined, undefined])
  })
  it.each(['|:DE:|', 'DE::FG', '|:DE::FG:|', 'DE|::|FG', 'DE|:::|FG', 'DE::|:FG', 'DE:::|:FG'])(
    '%s is left as it is',
    given => {
      const { text, timesAt } = at(head + given)
      expect(text).toBe(head + given)
      expect(timesAt(0, text.length)).toBeUndefined()
    },
  )
})

describe('jumps the parser has no sign for', () => {
  it.each([
    ['!dacoda!', '!coda!  ', true],
    ['!tocoda!', '!coda!  ', true],
    ['!dacapo!', '!D.C.!  ', false],
    ['!coda!', '!coda!', false],
    ['!segno!', '!segno!', false],
  ])('%s', (given, read, toCoda) => {
    const { text, toCodaAt } = at(`${head}D${given}E|`)
    expect(text).toBe(`${head}D${read}E|`)
    const o = head.length + 1
    expect([toCodaAt(o, o + 2), toCodaAt(0, text.length)]).toEqual([toCoda, toCoda])
    expect([toCodaAt(0, o), toCodaAt(o + 1, text.length)]).toEqual([false, false])
  })
})

describe('accents', () => {
  it('are read in words and quotes, and in no note', () => {
    const { text, words } = at(`${head}"caf\\'e"D E\\'e|\nw:caf\\'e &eacute;\nN:caf\\'e\n`)
    expect(text).toHaveLength(`${head}"caf\\'e"D E\\'e|\nw:caf\\'e &eacute;\nN:caf\\'e\n`.length)
    expect(asTyped(text)).toBe(`${head}"café"D E\\'e|\n%${' '.repeat(16)}\nN:caf\\'e\n`)
    expect(words.map(w => asTyped(w.text))).toEqual(['café é'])
  })
})

it('whatever is read keeps its length, line for line', () => {
  const line = fc.constantFrom(
    'DE|',
    '[V:2]FG|',
    'V:1 name="a"',
    'V:2',
    "w:caf\\'e",
    's:* "a"',
    'K:D exp ^f',
    '|::D::|',
    '!dacapo!D',
    '%%score 1',
    '+:more',
    '%',
    'I:propagate-accidentals not',
    'DE|\\',
    '',
  )
  fc.assert(
    fc.property(fc.array(line, { maxLength: 12 }), fc.nat({ max: 3 }), (lines, voice) => {
      const source = head + lines.join('\n')
      const { text } = at(source, { voice })
      expect(text).toHaveLength(source.length)
      // A field that goes on takes the end of its line; nothing else joins two.
      expect(text.split('\n').length).toBeLessThanOrEqual(source.split('\n').length)
    }),
  )
})

it('the last place not beyond one is found among sorted ones', () => {
  const places = fc.uniqueArray(fc.nat({ max: 50 })).map(l => l.toSorted((a, b) => a - b))
  fc.assert(
    fc.property(places, fc.integer({ min: -1, max: 51 }), (list, o) => {
      expect(
        lastUpTo(
          list.map(at => ({ at })),
          o,
        ),
      ).toBe(list.findLastIndex(p => p <= o))
    }),
  )
})

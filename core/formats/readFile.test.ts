/** What kind a file is, and what comes of each: its tunes, its choices, its pins, and what is said of it. */
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { newStudio } from '#core/instruments/studio'
import { formatPitch } from '#core/music/pitch'
import { type Tune } from '#core/music/tune'
import { readAbc } from './abc/readAbc'
import { writeBackup, type StoredTune } from './backup/backup'
import { kindOf, openFile, readFile, tuneOfBook } from './readFile'
import { writeFile } from './writeFile'

const bytes = (text: string) => new TextEncoder().encode(text)
const notes = (t: Tune) =>
  t.measures
    .flatMap(m => m.events)
    .flatMap(e => (e.kind === 'note' ? [formatPitch(e.heads[0]!.pitch)] : []))
    .join(' ')
const told = (r: { findings: readonly { code: string; severity: string }[] }) =>
  r.findings.map(f => `${f.severity} ${f.code}`)
const tune = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nDEFG|A4|\n').tunes[0]!.tune

describe('the kind of a file', () => {
  it.each([
    // By what it begins with, whatever it is called.
    ['x', 'MThd', 'midi'],
    ['x', 'has MThd', null],
    ['x', 'PK', 'mxl'],
    ['x', 'Pk', null],
    ['x', 'KK', null],
    ['x', ' \n<a/>', 'musicxml'],
    ['x', 'a<', null],
    ['x', '{"a":1}', 'backup'],
    ['x', 'a{', null],
    ['x', '\ufeffX:1', 'abc'],
    ['x', 'said:\nT:a', 'abc'],
    ['x', 'M:4/4', 'abc'],
    ['x', 'K:D', 'abc'],
    ['x', '%abc', 'abc'],
    ['x', 'see X:1', null],
    ['x', 'key: D', 'spoken'],
    ['x', 'a\nInstrument: viola', 'spoken'],
    ['x', 'the key: D', null],
    ['x', '|: IV 0 1', 'spoken'],
    ['x', 'III  <2', 'spoken'],
    ['x', 'II 3', 'spoken'],
    ['x', 'D 4', 'spoken'],
    ['x', 'H 4', null],
    ['x', 'so D 4', null],
    ['x', 'D 5', null],
    ['x', 'D x4', null],
    // Else by the ending of its name.
    ['a.abc', 'D', 'abc'],
    ['a.MUSICXML', 'D', 'musicxml'],
    ['a.xml', 'D', 'musicxml'],
    ['a.mxl', 'D', 'mxl'],
    ['a.mid', 'D', 'midi'],
    ['a.midi', 'D', 'midi'],
    ['a.txt', 'D', 'spoken'],
    ['a.json', 'D', 'backup'],
    ['a.abc.doc', 'D', null],
    ['abc', 'D', null],
    ['', '', null],
  ])('%s: %j is %s', (name, text, kind) => expect(kindOf(name, bytes(text))).toBe(kind))
  it('nothing fits: said by its name, or the end of a long one', () => {
    const of = (name: string) => readFile(name, bytes('hello'))
    expect(of('x.pdf')).toEqual({
      kind: null,
      tunes: [],
      choices: [],
      taken: 0,
      findings: [
        expect.objectContaining({ code: 'file.kind', severity: 'error', values: { name: 'x.pdf' } }),
      ],
    })
    expect(of('').findings[0]).toMatchObject({ values: { name: 'pasted text' } })
    expect(of(`${'x'.repeat(80)}.pdf`).findings[0]).toMatchObject({
      values: { name: `${'x'.repeat(56)}.pdf` },
    })
  })
})

describe('a file in another writing than UTF-8', () => {
  const latin = Uint8Array.from([...'X:1\nT:Caf\u00e9\nM:4/4\nL:1/4\nK:D\nDEFG|\n'].map(c => c.charCodeAt(0)))
  it('is read, and what was taken is told', () => {
    const r = readFile('a.abc', latin)
    expect(r.tunes[0]!.tune.title).toBe('Café')
    expect(r.findings).toEqual([
      expect.objectContaining({
        code: 'file.encoding',
        severity: 'note',
        values: { taken: expect.any(String) },
      }),
    ])
    expect(readFile('a.abc', bytes('X:1\nT:Café\nK:D\nD|\n')).findings).toEqual([])
  })
})

describe('a book of many tunes', () => {
  const book = (n: number) =>
    bytes(
      Array.from({ length: n }, (_, i) => `X:${i + 1}\nT:Tune ${i + 1}\nM:4/4\nL:1/4\nK:D\nDEFG|\n`).join(
        '\n',
      ),
    )
  it('is listed first, from two hundred on; every other file is read at once', () => {
    expect(openFile('a.abc', book(199))).toBeNull()
    const open = openFile('a.abc', book(200))!
    expect([open.entries.length, open.entries[199]!.title, open.findings]).toEqual([200, 'Tune 200', []])
    expect(tuneOfBook(open.book, 199).tune.title).toBe('Tune 200')
    expect(tuneOfBook(open.book, 199).source).toContain('T:Tune 200')
    expect(openFile('a.txt', bytes('title: a\nA 0 1'))).toBeNull()
    expect(openFile('a.abc', bytes('no tune at all'))).toBeNull()
  })
})

describe('what is chosen from', () => {
  it('tracks of a MIDI file', () => {
    const { content } = writeFile('mid', tune, newArrangement('violin', 'full'), ASSUMED_HANDS)
    const r = readFile('a.mid', content as Uint8Array)
    expect([r.kind, r.taken, r.findings, notes(r.tunes[0]!.tune)]).toEqual(['midi', 0, [], 'D4 E4 F#4 G4 A4'])
    expect(r.choices).toEqual([{ label: expect.any(String), notes: 5 }])
    expect(told(readFile('a.mid', bytes('MThd and nothing')))).toEqual([expect.stringMatching(/^error midi/)])
  })
  const note = (step: string, voice: string) =>
    `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>1</duration><voice>${voice}</voice></note>`
  const score =
    '<score-partwise><part-list><score-part id="a"><part-name>Two</part-name></score-part><score-part id="b"><part-name>One</part-name></score-part></part-list>' +
    `<part id="a"><measure>${note('A', '1')}${note('B', '1')}<backup><duration>2</duration></backup>${note('C', '2')}</measure></part><part id="b"><measure>${note('D', '1')}</measure></part></score-partwise>`
  it.each([
    [undefined, 'A4 B4', 0],
    [0, 'A4 B4', 0],
    [1, 'C4', 1],
    [2, 'D4', 2],
    [9, 'A4 B4', 0],
  ])('part and voice of a score: %s', (choice, heard, taken) => {
    const r = readFile('a.xml', bytes(score), choice === undefined ? {} : { choice })
    expect(r.choices).toEqual([
      { label: 'Two, voice 1', notes: 2 },
      { label: 'Two, voice 2', notes: 1 },
      { label: 'One', notes: 1 },
    ])
    expect([notes(r.tunes[0]!.tune), r.taken]).toEqual([heard, taken])
  })
  it('a score that is none is told', () => {
    const r = readFile('a.xml', bytes('<score>'))
    expect([r.kind, r.tunes.length, r.taken]).toEqual(['musicxml', 0, 0])
    expect(told(r)[0]).toMatch(/^error /)
  })
  const two = 'X:1\nT:two\nM:4/4\nL:1/4\nK:D\nV:1\nDEFG|\nV:2\nA4|\n'
  it.each([
    [undefined, 0, 'D4 E4 F#4 G4'],
    [1, 1, 'A4'],
    [7, 0, 'D4 E4 F#4 G4'],
  ])('voices of a tune in ABC: %s', (choice, taken, heard) => {
    const r = readFile('a.abc', bytes(two), choice === undefined ? {} : { choice })
    expect([r.choices.length, r.taken, notes(r.tunes[0]!.tune), r.tunes[0]!.source]).toEqual([
      2,
      taken,
      heard,
      null,
    ])
  })
  it('nothing, where there is but one voice, or more than one tune', () => {
    const one = readFile('a.abc', bytes('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nDEFG|\n'), { choice: 3 })
    expect([one.choices, one.taken, one.tunes[0]!.source?.startsWith('X:1')]).toEqual([[], 0, true])
    expect(readFile('a.abc', bytes(`${two}\nX:2\nT:b\nK:D\nD|\n`)).choices).toEqual([])
  })
})

describe('strings and fingers in the notes are pins', () => {
  it('a finger up to four, a string, both; nothing of a rest or of a note without', () => {
    const { tune: t } = readAbc('X:1\nT:a\nM:none\nL:1/4\nK:D\n!0!D!4!E!5!FzG|\n').tunes[0]!
    const strung: Tune = {
      ...t,
      measures: [
        {
          ...t.measures[0]!,
          events: t.measures[0]!.events.map((e, i) =>
            e.kind === 'note' && i > 0 ? { ...e, string: i % 4 } : e,
          ),
        },
      ],
    }
    const file = readFile(
      'a.xml',
      bytes(writeFile('musicxml', strung, null, ASSUMED_HANDS).content as string),
    ).tunes[0]!
    expect(Object.values(file.pins)).toEqual([
      { finger: 0 },
      { finger: 4, string: 1 },
      { string: 2 },
      { string: 0 },
    ])
    const plain = readFile('a.abc', bytes('X:1\nT:a\nM:none\nL:1/4\nK:D\n!0!D!4!E!5!FzG|\n')).tunes[0]!
    expect(Object.values(plain.pins)).toEqual([{ finger: 0 }, { finger: 4 }])
    expect([plain.tuning, plain.arrangements]).toEqual([null, []])
  })
})

describe('a file of tunes', () => {
  const stored: StoredTune = {
    id: 't1',
    source: 'X:1',
    tune,
    arrangements: [{ id: 'a', arrangement: newArrangement('cello', 'full') }],
  }
  const version = { name: 'old', createdAt: '2030-04-01T10:00:00.000Z', source: null, tune, arrangements: [] }
  const read = (tunes: readonly StoredTune[], studio = false) =>
    readFile('a.json', bytes(writeBackup(tunes, studio ? newStudio() : undefined)))
  it('brings its text and arrangements; what stays behind is told', () => {
    expect(read([stored])).toMatchObject({
      kind: 'backup',
      findings: [],
      choices: [],
      taken: 0,
      tunes: [{ tune, source: 'X:1', findings: [], arrangements: stored.arrangements }],
    })
    const more = read(
      [stored, { ...stored, id: 't2', away: true }, { ...stored, id: 't3', versions: [version, version] }],
      true,
    )
    expect(more.tunes).toHaveLength(2)
    expect(more.findings.map(f => [f.code, f.severity, f.values])).toEqual([
      ['backup.away', 'note', { count: 1 }],
      ['backup.versions', 'note', { count: 2 }],
      ['backup.studio', 'note', {}],
    ])
  })
  it('of none that is there, or that is broken, says so', () => {
    expect(told(read([{ ...stored, away: true }]))).toEqual(['error file.noNotes'])
    const broken = readFile('a.json', bytes('{"format":"nokta","version":2,"tunes":[{}]}'))
    expect(broken).toMatchObject({
      kind: 'backup',
      tunes: [],
      findings: [
        { code: 'file.badValue', severity: 'error', values: { where: expect.stringMatching(/^tunes\.0/) } },
      ],
    })
    expect(readFile('a.json', bytes('{')).findings[0]).toMatchObject({ values: { where: 'the file' } })
  })
})

describe('string-and-finger text', () => {
  it('is for the instrument it says, else for the one asked for; what it holds not is told', () => {
    const heard = (text: string, o = {}) => notes(readFile('a.txt', bytes(text), o).tunes[0]!.tune)
    expect([
      heard('A 0 1'),
      heard('A 0 1', { instrument: 'cello' }),
      heard('instrument: viola\nA 0 1', { instrument: 'cello' }),
    ]).toEqual(['A4 B4', 'A3 B3', 'A4 B4'])
    expect(Object.keys(readFile('a.txt', bytes('A 0 1')).tunes[0]!.pins)).toHaveLength(2)
    expect(told(readFile('a.txt', bytes('title: a')))[0]).toBe('error file.noNotes')
  })
})

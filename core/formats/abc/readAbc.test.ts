import abcjs from 'abcjs'
import { describe, expect, it } from 'vitest'
import { placeText, sentence } from '#core/words/findings'
import { formatFraction, toNumber } from '#core/music/fraction'
import { keyName } from '#core/music/key'
import { formatPitch, midi } from '#core/music/pitch'
import { playOrder } from '#core/music/playOrder'
import { isNote, placeEvents } from '#core/music/timeline'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { MAX_ABC_LENGTH } from './book'
import { readAbc } from './readAbc'

const read = (music: string, head = 'M:4/4\nL:1/8\nK:D') => {
  const r = readAbc(`X:1\nT:Try\n${head}\n${music}\n`)
  return r.tunes[0]!
}
const pitches = (music: string, head?: string) =>
  read(music, head)
    .tune.measures.flatMap(m => m.events)
    .map(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'z'))
    .join(' ')
const lengths = (music: string) =>
  read(music)
    .tune.measures.flatMap(m => m.events)
    .map(e => formatFraction(e.duration))
    .join(' ')
const told = (text: string) => {
  const r = readAbc(text)
  return [...r.findings, ...r.tunes.flatMap(t => t.findings)].map(f => `${placeText(f)}: ${sentence(f)}`)
}

it.each(['A#', 'G#', 'E#m', 'Fb', 'D#mix'])(
  'a key of more than seven signs, %s, is told and not taken for another',
  k => {
    const { tune, findings } = readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:${k}\nABcd|\n`).tunes[0]!
    expect(findings.map(f => f.code)).toContain('abc.badKey')
    expect(tune.measures).toHaveLength(1)
  },
)

describe('pitches', () => {
  it('take the key, then the bar, and forget the bar at the next', () => {
    expect(pitches('F C =F F | F')).toBe('F#4 C#4 F4 F4 F#4')
  })
  it('keep an accidental to its own octave', () => expect(pitches('=F f F')).toBe('F4 F#5 F4'))
  it('carry an accidental over the bar line along a tie', () =>
    expect(pitches('^G8-|G4 G4')).toBe('G#4 G#4 G4'))
  it('follow a change of key in the middle', () => expect(pitches('F2 [K:F] F2 B2')).toBe('F#4 F4 Bb4'))
  it('read double stops from the lowest up', () => expect(pitches('[AD]4')).toBe('D4+A4'))
  it('obey extra accidentals in the key field, and say so', () => {
    expect(pitches('B c', 'L:1/8\nK:D exp _b ^c')).toBe('Bb4 C#5')
  })
})

it('harmonics are read where they stand', () => {
  const first = read('!harmonic!d4 !trill!A4').tune.measures[0]!.events
  expect(first.map(e => e.kind === 'note' && e.marks)).toEqual([['harmonic'], ['trill']])
  expect(told('X:1\nT:Try\nM:4/4\nL:1/8\nK:D\n!harmonic!d4 !trill!A4|\n')).toEqual([])
})

it('the clef is the one that is named', () => {
  const clefs = ['treble', 'alto', 'tenor', 'bass'] as const
  expect(clefs.map(c => read('D4', `L:1/8\nK:D clef=${c}`).tune.clef)).toEqual(clefs)
})

describe('lengths', () => {
  it('scale tuplets, dots and broken rhythms exactly', () => {
    expect(lengths('(3ABc A>B A<<B')).toBe('1/3 1/3 1/3 3/4 1/4 1/8 7/8')
    expect(lengths('(5:4:5ABcde (3:2:2A2B')).toBe('2/5 2/5 2/5 2/5 2/5 2/3 1/3')
  })
  it('take a whole rest for a whole measure, whatever its length', () => {
    expect(read('z8|A6|', 'M:3/4\nL:1/8\nK:D').tune.measures[0]!.events[0]!.duration).toEqual({ n: 3, d: 1 })
  })
  it('count whole-measure rests', () => expect(lengths('Z2|A8')).toBe('4 4 4'))
})

describe('what stands on notes', () => {
  const note = (music: string) => {
    const e = read(music).tune.measures[0]!.events[0]!
    return e.kind === 'note' ? e : null
  }
  it('is kept', () => {
    expect(note('"F#m""^lightly"!f!!upbow!!3!{ga}A2')).toMatchObject({
      chord: 'F#m',
      remarks: ['lightly'],
      dynamic: 'f',
      marks: ['upbow'],
      finger: 3,
      grace: [{ step: 'G' }, { step: 'A' }],
    })
  })
  it('keeps words with their hyphens, verse by verse', () => {
    const { tune } = read('A2 B2 c4|\nw: o-ver hill\nw: un-der dale')
    expect(tune.measures[0]!.events.map(e => (e.kind === 'note' ? e.syllables : null))).toEqual([
      [
        { text: 'o', hyphen: true },
        { text: 'un', hyphen: true },
      ],
      [{ text: 'ver' }, { text: 'der' }],
      [{ text: 'hill' }, { text: 'dale' }],
    ])
  })
  it('keeps slurs, nested ones too', () => {
    const { tune } = read('((AB)c) d')
    const at = tune.measures[0]!.events.map(e => e.id)
    expect(tune.slurs).toEqual(
      expect.arrayContaining([
        { from: at[0], to: at[1] },
        { from: at[0], to: at[2] },
      ]),
    )
  })
})

describe('the parser as a witness', () => {
  // The parser's own player resolves pitches, tuplets and repeats by rules of its own: ours must sound the
  // same.
  it.each(DEMO_TUNES.map(t => t.file))('%s sounds as the parser plays it', file => {
    const source = demoSource(file)
    const { tune } = readAbc(source).tunes[0]!
    const heard: { midi: number; length: number }[] = []
    const byMeasure = placeEvents(tune)
    let tied = false
    for (const { index } of playOrder(tune)) {
      for (const p of byMeasure.filter(x => x.measure.index === index && isNote(x))) {
        if (p.event.kind !== 'note') continue
        const last = heard.at(-1)
        const length = toNumber(p.event.duration)
        heard.push(...(p.event.grace ?? []).map(g => ({ midi: midi(g), length: 0 })))
        if (tied && last) last.length += length
        else heard.push(...p.event.heads.map(h => ({ midi: midi(h.pitch), length })))
        tied = p.event.heads[0]!.tied === true
      }
    }
    const parsed = abcjs.parseOnly(source)[0] as unknown as {
      setUpAudio(o: object): { tracks: { cmd: string; pitch: number; start: number; duration: number }[][] }
    }
    const track = parsed.setUpAudio({ chordsOff: true }).tracks.find(t => t.some(e => e.cmd === 'note'))!
    const theirs = track.filter(e => e.cmd === 'note').map(e => e.pitch)
    expect(heard.map(h => h.midi)).toEqual(theirs)
  })
})

describe('bad input', () => {
  it.each([
    ['nothing', '', 'There is nothing here yet'],
    ['blanks', ' \n\n', 'There is nothing here yet'],
    ['bytes that are no text', 'X:1\nK:D\nAB\u0000\u0001', 'line 3, column 3: This is not text'],
    ['prose', 'The quick brown fox jumps over the lazy dog, twice.', 'reads as words'],
    ['a header alone', 'X:1\nT:None\nK:D\n', 'No notes were found'],
    ['5 MB of text', 'A'.repeat(5_000_000), `the limit is ${MAX_ABC_LENGTH}`],
  ])('%s is refused with a sentence', (_name, text, words) => {
    expect(readAbc(text).tunes).toEqual([])
    expect(told(text).join('\n')).toContain(words)
  })

  it.each([
    [
      'a key nobody knows',
      'X:1\nT:t\nM:4/4\nL:1/8\nK:Qzz\nA8|',
      'line 5, column 1: The key “Qzz” is not understood',
    ],
    ['no key', 'X:1\nT:t\nM:4/4\nL:1/8\nA8|B8|', 'There is no K: field'],
    [
      'a bar too long',
      'X:1\nM:4/4\nL:1/8\nK:D\nA8|A8B|A8|',
      'line 5, column 4: This bar is too long: 9/2 quarters instead of 4',
    ],
    [
      'a bar too short',
      'X:1\nM:4/4\nL:1/8\nK:D\nA8|A6|A8|',
      'This bar is too short: 3 quarters instead of 4',
    ],
    [
      'a repeat never closed',
      'X:1\nM:4/4\nL:1/8\nK:D\n|:A8|B8|:c8|d8:|',
      'A repeat begins here and is never closed',
    ],
    ['a slur never closed', 'X:1\nM:4/4\nL:1/8\nK:D\n(A4 B4|c8|]', 'A slur begins here and never ends'],
    [
      'a tie into another note',
      'X:1\nM:4/4\nL:1/8\nK:D\nA4-B4|',
      'A tie begins here but the next note is another one',
    ],
    ['a truncated file', 'X:1\nT:t\nM:4/4\nL:1/8\nK:D\nA2B2 c2d2|e2f2 (g', 'This bar is too short'],
    ['a stranger in the music', 'X:1\nM:4/4\nL:1/8\nK:D\nA8|B4 @c4|', 'line 5, column 7: Unknown character'],
    ['two voices', 'X:1\nM:4/4\nL:1/8\nV:1\nV:2\nK:D\n[V:1]A8|\n[V:2]D8|', 'more than one voice'],
  ])('%s is read as far as it goes, with the place of the fault', (_name, text, words) => {
    expect(readAbc(text).tunes).toHaveLength(1)
    expect(told(text).join('\n')).toContain(words)
  })

  it('finds nothing wrong with pickups, their complements, and bars that a repeat sign divides', () => {
    for (const music of [
      'A2|d8|e6:|',
      '|:A2|d8|e6:|',
      'd8|e4:|e4|f8|]',
      '|:d8|e4:|:e4|f8:|',
      'A2|d8|1 e8:|2 e6|]',
    ]) {
      expect(read(music).findings.map(sentence)).toEqual([])
    }
  })

  it('reads a book tune by tune, each with its own places', () => {
    const book = 'X:1\nT:One\nM:4/4\nL:1/8\nK:D\nA8|\n\nX:2\nT:Two\nM:4/4\nL:1/8\nK:Em\nA7|\n'
    const { tunes } = readAbc(book)
    expect(tunes.map(t => [t.tune.title, keyName(t.tune.key)])).toEqual([
      ['One', 'D major'],
      ['Two', 'E minor'],
    ])
    const { from } = tunes[1]!.spans.get(tunes[1]!.tune.measures[0]!.events[0]!.id)!
    expect(book.slice(from, from + 2)).toBe('A7')
  })
})

it('reads long runs of blanks as one, in fields, words and music alike', () => {
  const blanks = ' '.repeat(50_000)
  const text = (b: string) => `X:1\nT:A${b}tune\nM:4/4\nL:1/8\nK:D${b}\nDE${b}FG|\nw:a${b}b c d\n`
  const [long, short] = [readAbc(text(blanks)), readAbc(text(' '))]
  // What the parser is given does not grow with them.
  expect(long.tunes[0]!.source).toBe(short.tunes[0]!.source)
  expect(long.tunes[0]!.tune).toEqual(short.tunes[0]!.tune)
})

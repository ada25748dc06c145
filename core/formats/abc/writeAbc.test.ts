import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bare, tunes } from '#core/music/testing'
import { emptyTune, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { readAbc } from './readAbc'
import { writeAbc } from './writeAbc'

const reread = (t: Tune) => readAbc(writeAbc(t).text).tunes[0]!.tune

describe('reading what was written', () => {
  it.each(DEMO_TUNES.map(t => t.file))('gives %s back', file => {
    const { tune } = readAbc(demoSource(file)).tunes[0]!
    expect(bare(reread(tune))).toEqual(bare(tune))
  })

  it('gives any tune back', () => {
    fc.assert(
      fc.property(tunes(), t => {
        expect(bare(reread(t))).toEqual(bare(t))
      }),
      { numRuns: 300 },
    )
  })
})

it('a sharp after another note of its line that is tied to nothing is written out: a tie would carry that one over', () => {
  const { tune } = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:A\n=c4-|^c4|=c4-|c4|\n').tunes[0]!
  expect(writeAbc(tune).text).toContain('=c8- | ^c8 |')
  expect(bare(reread(tune))).toEqual(bare(tune))
})

/** Texts that say what the syntax would take for its own. */
const TEXTS = [
  '50 % of it',
  '%',
  'A \\ B',
  '\\',
  'Rock & Roll',
  '&eacute; as typed',
  "\\'e as typed",
  '\\u00e9',
  'Café',
  'a"b',
  '^up',
  '_',
  '<l',
  '*',
  'a*b',
  'a_b',
  'a|b',
  'a~b',
  'a-b',
  '-',
  'a]b',
  '[V:2]',
  'a;b',
  '!p!',
  '{g}',
  'a b',
]

describe('a text is read as it was written, whatever stands in it', () => {
  const t = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nDEFG|ABcd|\n').tunes[0]!.tune
  const first = (given: object): Tune => ({
    ...t,
    measures: t.measures.map((m, i) =>
      i > 0 ? m : { ...m, events: m.events.map((e, j) => (j > 0 ? e : { ...e, ...given })) },
    ),
  })
  it.each(TEXTS)('%s', text => {
    const places: [string, Tune][] = [
      ['title', { ...t, title: text, otherTitles: [text, 'b'] }],
      ['others', { ...t, composer: text, learnedFrom: text, notes: `one\n${text}` }],
      ['chord', first({ chord: text })],
      ['remarks', first({ remarks: [text, 'two'] })],
      ['syllable', first({ syllables: [{ text }] })],
      ['part', { ...t, measures: [{ ...t.measures[0]!, label: text }, t.measures[1]!] }],
    ]
    for (const [where, tune] of places) expect([where, bare(reread(tune))]).toEqual([where, bare(tune)])
  })
  it('in one line, and a syllable that says nothing moves none of the others', () => {
    expect(reread(first({ chord: 'A\nB', remarks: ['c\nd'] })).measures[0]!.events[0]).toMatchObject({
      chord: 'A B',
      remarks: ['c d'],
    })
    const [a, b] = t.measures[0]!.events
    const sung = {
      ...t,
      measures: [
        {
          ...t.measures[0]!,
          events: [
            { ...a!, syllables: [{ text: ' ' }] },
            { ...b!, syllables: [{ text: 'tide' }] },
            ...t.measures[0]!.events.slice(2),
          ],
        },
        t.measures[1]!,
      ],
    } as Tune
    expect(reread(sung).measures[0]!.events.map(e => e.kind === 'note' && e.syllables)).toEqual([
      undefined,
      [{ text: 'tide' }],
      undefined,
      undefined,
    ])
  })
})

/** The music as it is written, of a tune read from other text. */
const written = (music: string, head = 'M:4/4\nL:1/8\nK:D') => {
  const lines = writeAbc(readAbc(`X:1\nT:a\n${head}\n${music}\n`).tunes[0]!.tune).text.split('\n')
  return lines.slice(lines.findIndex(l => l.startsWith('K:')) + 1, -1).join('\n')
}

describe('how it is written', () => {
  it.each([
    // Lengths.
    ['D4 E2 F G/G/|A8|', 'D4 E2 FG/2G/2 | A8 |'],
    ['D3 E D//E//F//G//A3|', 'D3E D/4E/4F/4G/4A3 |'],
    ['D>E F<G A4|', 'D3/2E/2 F/2G3/2 A4 |'],
    // Octaves and accidentals: only where neither key nor bar gives them.
    ["D, D d d' c F ^F F|", "D,D dd' cF FF |"],
    ['=FF _B=B ^G=G __B^^A|', '=FF _B=B ^G=G __B^^A |'],
    ['=F f F2 z4|F8|', '=Ff F2 z4 | F8 |'],
    // Notes together, tied or not, with graces.
    ['[DA]4 [DA]4-|[DA]8|', '[DA]4 [D-A-]4 | [DA]8 |'],
    ['D4-D4|', 'D4- D4 |'],
    ['{ef}D8|', '{ef}D8 |'],
    ['{e}[DA]8|', '{e}[DA]8 |'],
    // Rests stand apart, shown and not.
    ['DzEx F4|', 'D z E x F4 |'],
    ['zDxE F4|', 'zD xE F4 |'],
    // Tuplets by all three numbers.
    ['(3DEF (3:2:2G2A B4|', '(3:2:3DEF (3:2:2G2A B4 |'],
    ['(3DEF(3GAB c4|', '(3:2:3DEF (3:2:3GAB c4 |'],
    // What stands over a note: chord, remark, dynamic, mark, finger; slurs around all of it.
    ['"D""^soft"!p!.!3!D2 (E2 F2) ((G2) A2)|', null],
    ['!p!"^soft""D"!3!.D8|', '"D""^soft"!p!.!3!D8 |'],
    ['(DE) (F(G A)B) c2|', '(DE) (F(G A)B) c2 |'],
    ['((DE) F)G A4|', '((DE) F)G A4 |'],
    [
      '!tenuto!D!accent!E!fermata!F!trill!G !turn!A!mordent!B!uppermordent!c!roll!d|',
      '!tenuto!D!accent!E !fermata!F!trill!G !turn!A!mordent!B !uppermordent!c!roll!d |',
    ],
    [
      '!slide!D!upbow!E!downbow!F!open!A !breath!A!shortphrase!B!+!c!harmonic!d|',
      '!slide!D!upbow!E !downbow!F!open!A !breath!A!shortphrase!B !+!c!harmonic!d |',
    ],
    // Bars, repeats, endings.
    ['D8||E8|F8|]', 'D8 || E8 | F8 |]'],
    ['|:D8:|E8|', '|: D8 :| E8 |'],
    ['|::D8::|', '|: D8 ::|'],
    ['|:D8::E8:|', '|: D8 :| |: E8 :|'],
    ['|:D8|1E8:|2F8||G8|', '|: D8 |1 E8 :|2 F8 || G8 |'],
    ['|:D8|1E8|F8:|2G8|A8|]', '|: D8 |1 E8 | F8 :|2 G8 |\nA8 |]'],
    ['|:D8|1,3E8:|2F8||', '|: D8 |1,3 E8 :|2 F8 ||'],
    ['|:D8|1E8:|2F8|:G8:|', '|: D8 |1 E8 :|2 F8 | |: G8 :|'],
    // The way through.
    ['!segno!D8|!coda!E8|F8!fine!|G8!D.S.!|', '!segno!D8 | !coda!E8 | F8 !fine!| G8 !D.S.!|'],
    ['D8!dacoda!|E8!D.C.!|!coda!F8|', 'D8 !dacoda!| E8 !D.C.!| !coda!F8 |'],
    // Keys, metres and parts on their way.
    [
      '[P:A]D8|[K:G]E8|[M:3/4]F6|[P:B][K:Am][M:2/2]A8|',
      '[P:A] D8 | [K:G] E8 | [M:3/4] F6 | [P:B] [K:Am] [M:2/2] A8 |',
    ],
    // Four measures a line, words under each line.
    ['D8|E8|F8|G8|A8|', 'D8 | E8 | F8 | G8 |\nA8 |'],
    [
      'D2E2F2G2|A8|\nw:one two-three *|four_\nw:eins zwei',
      'D2 E2 F2 G2 | A8 |\nw: one two-three * four\nw: eins zwei * * *',
    ],
  ])('%s', (music, is) => {
    if (is === null) expect(written(written(music))).toBe(written(music))
    else expect(written(music)).toBe(is)
  })

  it('beams follow the beats that are felt', () => {
    expect(written('DEF GAB|', 'M:6/8\nL:1/8\nK:D')).toBe('DEF GAB |')
    expect(written('DEFGABc|', 'M:2+2+3/8\nL:1/8\nK:D')).toBe('DE FG ABc |')
  })

  it('the head says what there is to say and no more', () => {
    const head = (t: Tune, n?: number) =>
      writeAbc(t, n)
        .text.split('\n')
        .filter(l => /^\w:/.test(l))
    expect(head(emptyTune('Low Tide'))).toEqual(['X:1', 'T:Low Tide', 'M:4/4', 'L:1/8', 'K:D'])
    const full = readAbc(
      'X:1\nT:Low Tide\nT:The Ebb\nC:Odile Farrant\nR:air\nS:Ines Vell\nN:slowly\nN:then not\nM:6/8\nL:1/8\nP:ABA\nQ:3/8=60\nK:Gm clef=alto\n[P:A]B6|[P:B]c6|\n',
    ).tunes[0]!.tune
    expect(head(full, 12)).toEqual([
      'X:12',
      'T:Low Tide',
      'T:The Ebb',
      'C:Odile Farrant',
      'R:air',
      'S:Ines Vell',
      'N:slowly',
      'N:then not',
      'M:6/8',
      'L:1/8',
      'P:ABA',
      'Q:3/8=60',
      'K:Gm clef=alto',
    ])
    expect(writeAbc(full).text.endsWith('|\n')).toBe(true)
  })

  it.each([
    [{}, ['Ab', 'Ba'], null, 'the order of its parts'],
    [{}, ['Ab', 'Ac'], 'its parts begin alike', 'the order of its parts'],
    [{}, ['1st', '2nd'], 'no letters', 'the order of its parts'],
  ])('%o parts %o', (_x, labels, lost, what) => {
    const t = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\n[P:A]DEFG|[P:B]ABcd|\n').tunes[0]!.tune
    const parts: Tune = {
      ...t,
      measures: t.measures.map((m, i) => ({ ...m, label: labels[i]! })),
      play: { ...t.play, parts: [labels[0]!, labels[1]!, labels[0]!] },
    }
    const { text, findings } = writeAbc(parts)
    expect(/^P:(.*)$/m.exec(text)?.[1] ?? null).toBe(lost ? null : 'ABA')
    expect(findings.some(f => f.code === 'file.notCarried' && f.values.what === what)).toBe(lost !== null)
  })
})

describe('what the text cannot carry is told', () => {
  const t = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nDEFG|ABcd|\n').tunes[0]!.tune
  const [d, e, f, g] = t.measures[0]!.events
  const first = (given: object): Tune => ({
    ...t,
    measures: [
      { ...t.measures[0]!, events: [{ ...d!, ...given }, ...t.measures[0]!.events.slice(1)] },
      t.measures[1]!,
    ],
  })
  const told = (x: Tune) =>
    writeAbc(x).findings.map(f => (f.code === 'file.notCarried' ? f.values.what : f.code))
  it.each<[string, Tune]>([
    ['tags', { ...t, tags: ['a'] }],
    ['rights', { ...t, rights: 'protected' }],
    ['optional notes', first({ optional: true })],
    ['cuts', first({ marks: ['cut'] })],
    ['strings', first({ string: 0 })],
    ['what it is not to be confused with', { ...t, notToBeConfusedWith: ['b'] }],
    ['how often it is played', { ...t, play: { struck: [], times: 2 } }],
    ['how often it is played', { ...t, play: { struck: ['m1'], times: 1 } }],
    ['its instrument', { ...t, instrument: 'cello' }],
    ['which tunes are settings of it', { ...t, settings: 's' }],
    [
      'slurs that cross each other',
      {
        ...t,
        slurs: [
          { from: d!.id, to: f!.id },
          { from: e!.id, to: g!.id },
        ],
      },
    ],
  ])('%s', (what, tune) => expect(told(tune)).toEqual([what]))
  it('and nothing where nothing is lost', () => expect(told(t)).toEqual([]))
})

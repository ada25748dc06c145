import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { handOptions } from '#core/arrangement/handOptions'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { sizeOf } from '#core/instruments/instruments'
import { homeTuning, parseTuning } from '#core/instruments/tunings'
import { midi } from '#core/music/pitch'
import { bare } from '#core/music/testing'
import { type Tune, type TuneEvent } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { readSpoken } from './readSpoken'
import { lostOf, pitches, read, told } from './testing'
import { writeSpoken } from './writeSpoken'
import { noteId } from '#core/music/ids'

const music = (t: Tune) =>
  writeAbc(t)
    .text.split(/\nK:.*\n/)[1]!
    .trim()
/** One note under a name and a chord, written and read again. */
const namedAgain = (label: string, chord: string) => {
  const { tune } = readAbc('X:1\nM:4/4\nL:1/8\nK:D\n"G"D8|[P:B]E8|').tunes[0]!
  const [first, second] = tune.measures
  const named = {
    ...tune,
    measures: [{ ...first!, label, events: [{ ...first!.events[0]!, chord }] }, second!],
  }
  const d = derive(named, newArrangement('violin', '4/4'), ASSUMED_HANDS)
  const { text } = writeSpoken(named, new Map(d.fingering.notes.map(n => [n.id, n])), {
    instrument: 'violin',
    tuning: homeTuning('violin'),
  })
  const { measures } = read(text).tune
  return [measures.length, measures[0]!.label, measures[0]!.events[0]!.chord, measures[1]!.label]
}

describe('names of parts and chords', () => {
  it.each([
    ['Second strain', 'D7', 'Second strain', 'D7'],
    ['A', 'N.C.', 'A', 'N.C.'],
    ['12', 'A%', '12', 'A%'],
    ['a_b', '^up', 'a_b', '^up'],
    ['-', '(x)', '-', '(x)'],
    // Signs that would end them are others.
    ['a]b', 'a"b', 'a)b', "a'b"],
    ['[x', 'a\nb', '(x', 'a b'],
    ['a|b', ']', 'a/b', ']'],
    [' a  b ', '|', 'a b', '|'],
  ])('%s, %s', (label, chord, ...is) => expect(namedAgain(label, chord)).toEqual([2, ...is, 'B']))
})

describe('a tune written as it is spelled', () => {
  const lost = lostOf
  it('says all that it leaves out, and nothing where it leaves nothing out', () => {
    expect(lost('K:D\n|:DEFG A4:|')).toEqual([])
    expect(lost('C:Anna Vole\nQ:1/4=90\nK:D\n!p!DEFG !accent!A4|w:la')).toEqual([
      'the tempo',
      'who made it, its kind and whom it was learned from',
      'dynamics',
      'marks',
    ])
    expect(lost('K:D\nDEFG !fine!A4|B8!D.C.!|\nw:one')).toEqual(['words', 'jumps and their signs'])
    expect(lost('P:BA\nK:D\nP:A\nD8|\nP:B\nE8|')).toEqual(['the order of its parts'])
    expect(lost('K:D\nDEFG "^lightly"A4|B8|')).toEqual(['remarks'])
    expect(lost('K:D\nD8|!segno!D8|!coda!E8|')).toEqual(['jumps and their signs'])
    expect(lost('R:reel\nK:D\nD8|')).toEqual(['who made it, its kind and whom it was learned from'])
    expect(lost('K:D clef=alto\nD4x4|')).toEqual(['its clef', 'rests that are not shown'])
    expect(lost('T:The Ebb\nN:slowly\nK:D\nD8|')).toEqual([
      'its other titles',
      'notes about it, tags and rights',
    ])
    for (const more of [{ tags: ['ball'] }, { rights: 'own' as const }])
      expect(lost('K:D\nD8|', more)).toEqual(['notes about it, tags and rights'])
    for (const more of [{ settings: 's' }, { notToBeConfusedWith: ['b'] }])
      expect(lost('K:D\nD8|', more)).toEqual(['which tunes it goes with, and which it is not'])
    const { measures } = readAbc('X:1\nM:4/4\nL:1/8\nK:D\nD4E4|').tunes[0]!.tune
    const changed = (i: number, more: object) => ({
      measures: measures.map(m => ({
        ...m,
        events: m.events.map((e, k) => (k === i ? { ...e, ...more } : e)),
      })),
    })
    expect(lost('K:D\nD4E4|', changed(1, { optional: true }))).toEqual(['notes that may be left out'])
    expect(
      lost('K:D\nD4E4|', { measures: measures.map(m => ({ ...m, repeatEnd: true, repeatTimes: 3 })) }),
    ).toEqual(['repeats of more than twice'])
    expect(lost('K:D\nD8:|', { play: { struck: [measures[0]!.id], times: 1 } })).toEqual([
      'how often it is played',
    ])
  })
  it('a note nobody can finger is a rest, one of two together is left out; both are told', () => {
    const tune = readAbc('X:1\nM:4/4\nL:1/4\nK:D\nD [EA] F2|').tunes[0]!.tune
    const d = derive(tune, newArrangement('violin', '4/4'), ASSUMED_HANDS)
    const [first, two] = tune.measures[0]!.events
    const fingers = new Map(
      d.fingering.notes
        .filter(n => n.id !== noteId(first!.id, 0) && n.id !== noteId(two!.id, 1))
        .map(n => [n.id, n]),
    )
    const { text, findings } = writeSpoken(tune, fingers, {
      instrument: 'violin',
      tuning: homeTuning('violin'),
    })
    expect(text.split('\n\n')[1]).toMatch(/^r D 1 2 - \|/)
    expect(findings.map(f => [f.code, f.severity, f.where.note])).toEqual([
      ['spoken.unfingered', 'warning', first!.id],
      ['spoken.unfingered', 'warning', two!.id],
    ])
    expect(lost('K:D\nD8:|', { play: { struck: [], times: 2 } })).toEqual(['how often it is played'])
  })
})

describe('what a teacher says', () => {
  it('does not read a remark, wherever it begins', () => {
    const r = read('# A 3 3\n  # once more: A 3\nA 0 1')
    expect([pitches(r.tune), told(r)]).toEqual(['A4 B4', []])
  })
  it('a string holds until the next; low and high fingers; held notes', () => {
    const r = read('A 0 1 <2 3 | E 0 A 3 - D 3')
    expect(pitches(r.tune)).toBe('A4 B4 C5 D5 E5 D5 G4')
    expect(music(r.tune).replace(/\s+/g, ' ')).toBe('AB =cd | ed2G |')
    expect(Object.values(r.pins).at(0)).toEqual({ string: 1, finger: 0 })
  })

  it.each([
    ['violin', 'D 0 1 2 3 A 0 1 2 3', 'D4 E4 F#4 G4 A4 B4 C#5 D5'],
    ['violin', 'A 3> 4< 4', 'Eb5 Eb5 E5'],
    ['violin', '@3 A 1 2 3 4 @half 1 2', 'D5 E5 F5 G5 Bb4 C5'],
    ['viola', 'C 0 1 2 3 G 0', 'C3 D3 E3 F3 G3'],
    ['cello', 'C 0 1 3 4 G 0 1 3 4 D 0 1 2 4 A 0 1 2', 'C2 D2 E2 F2 G2 A2 B2 C3 D3 E3 F3 G3 A3 B3 C4'],
    ['cello', 'D 1 2> 3> 4> 1<', 'E3 F#3 G3 G#3 Eb3'],
    ['bass', 'E 2 A 0 1 2 D 0 1 4 G 0', 'G2 A2 B2 C3 D3 E3 F#3 G3'],
    ['violin', 'II 0 I 1', 'A4 F#5'],
    ['violin', 'D0+A0 A1+E0', 'D4+A4 B4+E5'],
  ] as const)('%s: %s', (instrument, text, wanted) => {
    expect(pitches(read(`key: C\n${text}`, instrument).tune)).toBe(wanted)
  })

  it('lengths, rests, triplets, slurs, ties, graces, chords, repeats, endings, changes', () => {
    const r = read(`title: All of it
metre: 3/4
key: G
unit: 1/4
|: [A] "G" (G 0 1) 2 | g1 2:3/2 1:1/2 0~ |[1 0:3 :|[2 {3 2 1} r:1 :| metre=2/4 key=D D 0 - || (0 1) |]`)
    expect(music(r.tune).replace(/\s+/g, ' ')).toBe(
      '|: [P:A] ("G"G,2 A,2) B,2 | {A,}B,3A, G,2- |1 G,6 :|2 (3:2:3C2B,2A,2 z2 :| [K:D] [M:2/4] D4 || (D2 E2) |]',
    )
    expect(r.tune.title).toBe('All of it')
  })

  it('a dash after a barline ties the note over', () => {
    expect(music(read('unit: 1/4\nD 0 1 2 3 | - - 2 1').tune)).toBe('D2 E2 F2 G2- | G4 F2 E2 |')
  })

  it('knows a cross-tuning and the instrument said in the text', () => {
    expect(pitches(read('tuning: A3 E4 A4 E5\nkey: A\nG 0 1 D 0 1').tune)).toBe('A3 B3 E4 F#4')
    expect(read('instrument: cello\nC 0').tune.clef).toBe('bass')
  })
})

describe('places in the text', () => {
  it('each note knows the signs that say it, on every line', () => {
    const text = 'title: t\n# a remark\nA 0 1:2\n\n  D0+A0 g1 2 | r >3'
    const r = read(text)
    const said = r.tune.measures.flatMap(m => m.events).map(e => r.spans.get(e.id)!)
    expect(said.map(s => text.slice(s.from, s.to))).toEqual(['0', '1:2', 'D0+A0', '2', 'r', '>3'])
  })
  it('a finding stands where its sign does, with how much it matters', () => {
    const of = (text: string) =>
      read(text).findings.map(f => [f.code, f.severity, f.where.line, f.where.column])
    expect(of('A 0 1\nA 0 9 2')).toContainEqual(['spoken.unknown', 'error', 2, 5])
    expect(of('key: H\nA 0')).toContainEqual(['spoken.badField', 'error', 1, 1])
    expect(of('A 0\n (1 2').map(f => f.slice(0, 2))).toContainEqual(['spoken.openSlur', 'warning'])
    expect(of('A 0\n  r | - 0')).toContainEqual(['spoken.nothingToHold', 'error', 2, 7])
    expect(of('0')).toContainEqual(['spoken.whichString', 'error', 1, 1])
  })
  it('so does one that is only known of the whole tune', () => {
    const r = read('metre: 2/4\nunit: 1/4\nA 0 1 | 0 1 2 3 0 | 0 1\n')
    const long = r.findings.filter(f => f.where.note !== undefined)
    for (const f of long) {
      const at = r.spans.get(f.where.note!)!
      expect([f.where.line, f.where.column]).toEqual([3, at.from - 'metre: 2/4\nunit: 1/4\n'.length + 1])
    }
    expect(long.map(f => f.code)).toEqual(['tune.barLong'])
  })
  it('says what is not understood, no more of it than one can read, and not without end', () => {
    const why = (text: string) => read(text).findings.map(f => [f.code, (f.values as { text: string }).text])
    expect(why('A <<<1 0')).toEqual([['spoken.unknown', '<<<1']])
    expect(why('A >0 0')).toEqual([['spoken.unknown', '>0']])
    expect(why('A key=3/4 metre=D 0')).toEqual([
      ['spoken.unknown', 'key=3/4'],
      ['spoken.unknown', 'metre=D'],
    ])
    expect(why(`A ${'x'.repeat(60)} 0`)).toEqual([['spoken.unknown', 'x'.repeat(40)]])
    expect(why(`A ${'>'.repeat(60)}0 0`)).toEqual([['spoken.unknown', '>'.repeat(40)]])
    expect(why(`A 0 ${'x '.repeat(300)}`).length).toBe(200)
  })
  it.each([
    ['unit: 0/4', 'unit'],
    ['unit: 1/128', 'unit'],
    ['unit: 5/4', 'unit'],
    ['metre: 3/5', 'metre'],
    ['instrument: lute', 'instrument'],
    ['tuning: A3 E4', 'tuning'],
  ])('%s is told, with what was said', (line, field) => {
    const [f] = read(`${line}\nA 0`).findings
    expect([f!.code, f!.values]).toEqual(['spoken.badField', { field, value: line.split(': ')[1] }])
  })
})

describe('endings and signs', () => {
  const measures = (text: string) => read(`metre: 1/4\nunit: 1/4\nA ${text}`)
  it('go from their number to the next barline that closes', () => {
    const { tune } = measures('|: 0 | [1,3 1 | 2 :| [20 3 | 0 || 1 |]')
    expect(tune.measures.map(m => m.endings)).toEqual([undefined, [1, 3], [1, 3], [20], [20], undefined])
    expect(tune.measures.map(m => [m.repeatStart ?? false, m.repeatEnd ?? false, m.barline])).toEqual([
      [true, false, undefined],
      [false, false, undefined],
      [false, true, undefined],
      [false, false, undefined],
      [false, false, 'double'],
      [false, false, 'final'],
    ])
  })
  it.each(['[21', '[0', '[1,21'])('an ending numbered %s is told, not lost', text => {
    const r = measures(`0 | ${text} 1 |`)
    expect(r.findings.map(f => f.code)).toContain('spoken.unknown')
    expect(r.tune.measures.map(m => m.endings)).toEqual([undefined, undefined])
  })
  it('a name of several letters stands at its measure; a barline alone makes none', () => {
    const { tune } = measures('[Turn] 0 | | [B2] 1 :|: 2 |')
    expect(tune.measures.map(m => [m.label, m.repeatEnd, m.repeatStart])).toEqual([
      ['Turn', undefined, undefined],
      ['B2', true, undefined],
      [undefined, undefined, true],
    ])
  })
  it('changes of key and metre that are none are told', () => {
    expect(told(measures('key=H 0 metre=x 1')).join(' ')).toMatch(/“key=H”.*“metre=x”/)
  })
  it('groups have their ratio, or three in the time of two', () => {
    const { tune } = measures('{ 0 1 2 } | {5:4 0 1 2 3 0 }')
    expect(tune.measures.map(m => m.events[0]!.tuplet)).toMatchObject([
      { actual: 3, normal: 2 },
      { actual: 5, normal: 4 },
    ])
    for (const bad of ['{1:1', '{65:2', '{3:0', '{3:65'])
      expect(told(measures(`${bad} 0 }`)).join(), bad).toContain(`“${bad}”`)
  })
})

describe('what is not understood', () => {
  it('is named by line and column, and the rest stands', () => {
    const r = read('metre: 2/4\nA 0 1 9 2 | 0 X 3 <0 | @77 1')
    expect(told(r).slice(0, 4)).toEqual([
      'line 2, column 7: “9” is not understood here. Say a string (A), then fingers 0 to 4; < and > lower and raise them.',
      expect.stringContaining('line 2, column 15: “X”'),
      expect.stringContaining('line 2, column 19: “<0”'),
      expect.stringContaining('line 2, column 24: There is no position “77”'),
    ])
    expect(pitches(r.tune)).toBe('A4 B4 C#5 A4 D5 B4')
  })

  it.each([
    ['0 1 2', /Which string/],
    ['C 0', /“C” is not understood|no string “C”/],
    ['C0', /no string “C” on this violin/],
    ['- A 0', /no note here to hold/],
    ['(A 0 1', /no partner/],
    ['A 0)', /no partner/],
    ['key: H\nA 0', /“H” is not understood as key/],
    ['tuning: A3\nA 0', /not understood as tuning/],
  ])('%s', (text, why) => {
    expect(told(read(text)).join(' ')).toMatch(why)
  })

  it('a finger an instrument does not use', () => {
    expect(told(read('D 3', 'bass')).join(' ')).toMatch(/Finger 3 is not used/)
  })
  it('too long a text', () => {
    expect(readSpoken('A 0 '.repeat(60_000), { instrument: 'violin' })).toHaveProperty(
      'finding.code',
      'file.tooLong',
    )
  })
})

/**
 * The tune as this text can hold it: sounds without their spelling; no words, dynamics, marks, remarks; facts
 * of its own.
 */
function sayable(t: Tune): unknown {
  const plain = bare(t)
  const heard = (e: TuneEvent) =>
    e.kind === 'note' ? { heads: e.heads.map(h => [midi(h.pitch), h.tied]), grace: e.grace?.map(midi) } : {}
  const measures = plain.measures.map(m => ({
    ...m,
    events: m.events.map(e => ({
      ...e,
      ...heard(e as TuneEvent),
      syllables: undefined,
      dynamic: undefined,
      marks: undefined,
      remarks: undefined,
      finger: undefined,
      hidden: undefined,
    })),
  }))
  return JSON.parse(JSON.stringify({ measures, slurs: plain.slurs, key: plain.key, metre: plain.metre }))
}

describe('ties of notes together', () => {
  it.each([
    [
      'D0+A0~ D2+A0 r r',
      [
        [false, true],
        [false, false],
      ],
    ],
    ['D0+A0~ A 0 r r', [[false, true], [false]]],
    [
      'D0+A0~ D0+A0 r r',
      [
        [true, true],
        [false, false],
      ],
    ],
    // Over the barline too; where nothing sounds on, both are left for the check to tell.
    [
      'r r r D0+A0~ | D2+A0 r r r',
      [
        [false, true],
        [false, false],
      ],
    ],
    ['D0+A0~ D2 r r', [[true, true], [false]]],
  ])('%s', (text, ties) => {
    const { tune } = read(text, 'violin')
    const notes = tune.measures.flatMap(m => m.events).filter(e => e.kind === 'note')
    expect(notes.map(e => e.heads.map(h => h.tied === true))).toEqual(ties)
  })
  it('come back as they were: a drone held under a melody', () => {
    const tune = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:D\n[DA-]2[FA]2|[FA-]2A2|A-[DA]2F|').tunes[0]!.tune
    const d = derive(tune, newArrangement('violin', 'full'), ASSUMED_HANDS)
    const { text } = writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), {
      instrument: 'violin',
      tuning: homeTuning('violin'),
      hand: handOptions(newArrangement('violin', 'full').played),
    })
    expect(text.trim().split('\n').at(-1)).toBe('D0+A0~ - D2+A0 - | D2+A0~ - 0 - | 0~ D0+A0 - D 2 |')
    expect(sayable(read(text, 'violin').tune)).toEqual(sayable(tune))
  })
})

describe('any tune can be said', () => {
  const cases = DEMO_TUNES.flatMap(t => t.arrangements.map(a => [t.file, a.played.instrument, a] as const))
  it.each(cases)('%s for %s comes back with its fingers', (file, _instrument, recipe) => {
    const d = derive(readAbc(demoSource(file)).tunes[0]!.tune, recipe, ASSUMED_HANDS)
    const fingers = new Map(d.fingering.notes.map(n => [n.id, n]))
    const tuning = recipe.played.tuning ?? homeTuning(recipe.played.instrument)
    const { text } = writeSpoken(d.tune, fingers, {
      instrument: recipe.played.instrument,
      tuning,
      hand: handOptions(recipe.played),
    })
    const back = read(text, recipe.played.instrument, handOptions(recipe.played))
    expect(told(back).filter(t => /not understood|no position|not used/.test(t))).toEqual([])
    expect(sayable(back.tune)).toEqual(sayable(d.tune))
    const order = (t: Tune) =>
      t.measures.flatMap(m =>
        m.events.flatMap(e => (e.kind === 'note' ? e.heads.map((_, i) => noteId(e.id, i)) : [])),
      )
    const before = order(d.tune).map(id => [fingers.get(id)!.string, fingers.get(id)!.finger])
    expect(order(back.tune).map(id => [back.pins[id]!.string, back.pins[id]!.finger])).toEqual(before)
  })

  it('says its high positions too', () => {
    const scale = 'X:1\nM:4/4\nL:1/8\nK:D clef=bass\nD,E,F,G, A,B,CD|EFGA Bcde|]\n'
    const recipe = newArrangement('cello', sizeOf('cello').name)
    const d = derive(readAbc(scale).tunes[0]!.tune, recipe, ASSUMED_HANDS)
    const { text } = writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), {
      instrument: 'cello',
      tuning: homeTuning('cello'),
    })
    expect(text).toMatch(/@/)
    expect(pitches(read(text, 'cello').tune)).toBe(pitches(d.tune))
  })

  it('says a cross-tuning', () => {
    const parsed = parseTuning('violin', 'A3 E4 A4 E5')
    const tuning = 'tuning' in parsed ? parsed.tuning : []
    const d = derive(
      readAbc('X:1\nM:2/4\nL:1/8\nK:A\nA,B,CD|EFGA|]').tunes[0]!.tune,
      withPlayed(newArrangement('violin', 'full'), { tuning }),
      ASSUMED_HANDS,
    )
    const { text } = writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), {
      instrument: 'violin',
      tuning,
    })
    expect(text).toMatch(/tuning: A3 E4 A4 E5/)
    expect(pitches(read(text).tune)).toBe(pitches(d.tune))
  })
})

/** Scores as other programs write them: each element by itself, and what of it a tune holds. */
import { metreName } from '#core/music/metre'
import { describe, expect, it } from 'vitest'
import { frac } from '#core/music/fraction'
import type { Tune } from '#core/music/tune'
import { readMusicXml } from './readMusicXml'
import {
  ok,
  part,
  note,
  measure,
  before,
  first,
  codes,
  notKept,
  attributes,
  direction,
  words,
} from './testing'

describe('attributes', () => {
  it.each([
    ['G', 2, 'treble'],
    ['F', 4, 'bass'],
    ['F', '', 'bass'],
    ['C', 3, 'alto'],
    ['C', 4, 'tenor'],
    ['G', 1, 'treble'],
    ['percussion', '', 'treble'],
  ])('clef %s on line %s is %s', (sign, line, clef) => {
    const at = attributes(`<clef><sign>${sign}</sign>${line === '' ? '' : `<line>${line}</line>`}</clef>`)
    expect(before(at).tune.clef).toBe(clef)
  })
  it('the clef is the one the part begins with', () => {
    const changed = measure(attributes('<clef><sign>C</sign><line>4</line></clef>'), note())
    expect(ok(readMusicXml(part(measure(note()) + changed))).tune.clef).toBe('treble')
  })
  it.each([
    [3, 'dorian', 'B', 0, 'dorian'],
    [-4, '', 'A', -1, 'major'],
    [-7, 'lydian', 'F', -1, 'lydian'],
    [7, 'major', 'C', 1, 'major'],
  ])('%i fifths, %s', (fifths, mode, step, alter, known) => {
    const r = before(attributes(`<key><fifths>${fifths}</fifths><mode>${mode}</mode></key>`))
    expect(r.tune.key).toEqual({ step, alter, mode: known })
    expect(codes(r)).not.toContain('file.badKey')
  })
  it.each(['8', '-8', '1.5', 'two', ''])('a key of “%s” fifths is told and left', fifths => {
    const r = before(attributes(`<key><fifths>${fifths}</fifths></key>`))
    expect([r.tune.key.step, codes(r)]).toEqual(['C', expect.arrayContaining(['file.badKey'])])
  })
  it.each([
    ['3', '4', '3/4'],
    ['3+2', '8', '3+2/8'],
    ['3+3', '8', '6/8'],
    ['64', '16', '64/16'],
    // Numbers with a unit each, counted in the shortest.
    ['3</beats><beat-type>8</beat-type><beats>2', '4', '3+4/8'],
    ['1</beats><beat-type>2</beat-type><beats>1', '4', '2+1/4'],
  ])('%s/%s', (beats, unit, name) => {
    const r = before(attributes(`<time><beats>${beats}</beats><beat-type>${unit}</beat-type></time>`))
    expect([metreName(r.tune.metre), codes(r)]).toEqual([name, expect.not.arrayContaining(['file.badMetre'])])
  })
  it.each([
    ['0', '4'],
    ['65', '4'],
    ['3', '3'],
    ['x', '4'],
    ['1.5', '4'],
  ])('a metre of %s/%s is told and left', (beats, unit) => {
    const r = before(attributes(`<time><beats>${beats}</beats><beat-type>${unit}</beat-type></time>`))
    expect([r.tune.metre, codes(r)]).toEqual([
      { beats: 4, unit: 4 },
      expect.arrayContaining(['file.badMetre']),
    ])
  })
  it('a change of key or metre stands at its measure; said again it is none', () => {
    const said = (fifths: number, mode: string, beats: number, unit: number) =>
      attributes(
        `<key><fifths>${fifths}</fifths><mode>${mode}</mode></key><time><beats>${beats}</beats><beat-type>${unit}</beat-type></time>`,
      )
    const list = [
      [1, 'major', 3, 4],
      [1, 'major', 3, 4],
      [0, 'major', 3, 4],
      [0, 'minor', 3, 4],
      [0, 'minor', 6, 4],
      [0, 'minor', 6, 8],
    ] as const
    const { tune } = ok(
      readMusicXml(part(list.map(([f, mode, n, d]) => measure(said(f, mode, n, d), note())).join(''))),
    )
    expect(
      tune.measures.map(m => [
        m.key && m.key.step + m.key.mode,
        m.metre && `${m.metre.beats}/${m.metre.unit}`,
      ]),
    ).toEqual([
      [undefined, undefined],
      [undefined, undefined],
      ['Cmajor', undefined],
      ['Aminor', undefined],
      [undefined, '6/4'],
      [undefined, '6/8'],
    ])
  })
  it('lengths are counted in divisions; one that is none is told', () => {
    const r = before(attributes('<divisions>6</divisions>'))
    expect(first(r).duration).toEqual(frac(1, 6))
    expect(first(before(attributes('<divisions>0</divisions>'))).duration).toEqual(frac(1))
    const bad = ok(
      readMusicXml(
        part(measure(note(), '<note><rest/></note>', '<note><rest/><duration>-1</duration></note>')),
      ),
    )
    expect([bad.tune.measures[0]!.events.length, codes(bad)]).toEqual([
      1,
      expect.arrayContaining(['file.badLength']),
    ])
  })
  it.each([
    [
      ['G3', 'D4', 'A4', 'E5'],
      [76, 69, 62, 55],
    ],
    [['G3', 'D4', 'A4'], null],
    [['G3', 'D4', 'A4', 'H5'], null],
    [
      ['C2', 'G2', 'D3', 'A3', 'E4'],
      [64, 57, 50, 43, 36],
    ],
  ])('strings tuned %s', (strings, tuning) => {
    const lines = strings.map(
      (s, i) =>
        `<staff-tuning line="${i + 1}"><tuning-step>${s[0]}</tuning-step><tuning-octave>${s[1]}</tuning-octave></staff-tuning>`,
    )
    expect(before(attributes(`<staff-details>${lines.join('')}</staff-details>`)).tuning).toEqual(tuning)
  })
  it('a string may be tuned to a half step', () => {
    const string = (step: string, octave: number, alter = 0) =>
      `<staff-tuning><tuning-step>${step}</tuning-step><tuning-alter>${alter}</tuning-alter><tuning-octave>${octave}</tuning-octave></staff-tuning>`
    const at = attributes(
      `<staff-details>${string('A', 3, -1)}${string('D', 4)}${string('A', 4)}${string('C', 5, 1)}</staff-details>`,
    )
    expect(before(at).tuning).toEqual([73, 69, 62, 56])
    expect(before().tuning).toBeNull()
  })
})

describe('tempo', () => {
  const metronome = (unit: string, perMinute: string, dot = '') =>
    direction(
      `<metronome><beat-unit>${unit}</beat-unit>${dot}<per-minute>${perMinute}</per-minute></metronome>`,
    )
  it.each([
    [metronome('quarter', '96'), frac(1), 96],
    [metronome('quarter', '50', '<beat-unit-dot/>'), frac(3, 2), 50],
    [metronome('half', 'c. 72.5'), frac(2), 72.5],
    [metronome('16th', '240'), frac(1, 4), 240],
    ['<sound tempo="88"/>', frac(1), 88],
    [words('Gently', '<sound tempo="60"/>'), frac(1), 60],
    [metronome('half', '40') + '<sound tempo="80"/>', frac(2), 40],
    ['<sound tempo="80"/>' + metronome('half', '41'), frac(1), 80],
    [metronome('quarter', '999'), frac(1), 999],
  ])('%s', (xml, beat, perMinute) => {
    expect(before(xml).tune.tempo).toEqual({ beat, perMinute })
  })
  it.each([
    metronome('quarter', '0.5'),
    metronome('quarter', '1000'),
    metronome('ages', '60'),
    metronome('quarter', 'fast'),
    '<sound tempo="0"/>',
    '<sound tempo="1000"/>',
    '<sound/>',
  ])('none: %s', xml => expect(before(xml).tune.tempo).toBeUndefined())
})

describe('directions', () => {
  it.each<[string, string, Partial<Tune['measures'][number]>]>([
    ['a rehearsal mark', direction('<rehearsal>B</rehearsal>'), { label: 'B' }],
    ['D.C.', words('D.C.'), { jump: 'dc' }],
    ['D. C. al Fine', words('D. C. al Fine'), { jump: 'dc' }],
    ['Da Capo', words('da capo al coda'), { jump: 'dc' }],
    ['D.S.', words('D.S. al Coda'), { jump: 'ds' }],
    ['Dal segno', words('Dal Segno'), { jump: 'ds' }],
    ['Fine', words('Fine'), { fine: true }],
    ['a sign', direction('<segno/>'), { segno: true }],
    ['To coda', words('To Coda'), { toCoda: true }],
    ['heard', '<sound dacapo="yes"/>', { jump: 'dc' }],
    ['heard', '<sound dalsegno="1"/>', { jump: 'ds' }],
    ['heard', '<sound fine="yes"/>', { fine: true }],
    ['heard', '<sound segno="1"/>', { segno: true }],
    ['said in other words and heard', words('From the top', '<sound dacapo="yes"/>'), { jump: 'dc' }],
  ])('%s: %s', (_, xml, way) => {
    const r = before(xml)
    expect(r.tune.measures[0]).toMatchObject(way)
    expect(first(r).remarks).toBeUndefined()
  })
  it('a sound that says no, and words among others, jump nowhere', () => {
    const m = before('<sound dacapo="no" fine="no"/>', words('as at D.C.')).tune.measures[0]!
    expect([m.jump, m.fine]).toEqual([undefined, undefined])
  })
  it('a coda sign that comes twice is where one leaves, and where one comes in', () => {
    const coda = direction('<coda/>')
    const { tune } = ok(
      readMusicXml(
        part(
          measure(note()) +
            measure(note(), coda) +
            measure(note(), words('D.C. al Coda')) +
            measure(coda, note()),
        ),
      ),
    )
    expect(tune.measures.map(m => [m.toCoda ?? false, m.coda ?? false])).toEqual([
      [false, false],
      [true, false],
      [false, false],
      [false, true],
    ])
  })
  it('what is plucked is so until the bow is taken again, as words or as sound say', () => {
    const plucked = (on: string, off: string) => {
      const { tune } = ok(
        readMusicXml(part(measure(note(), on, note(), note()) + measure(note(), off, note()))),
      )
      return tune.measures.flatMap(m =>
        m.events.map(e => e.kind === 'note' && (e.marks?.join() ?? (e.remarks ? 'remark' : ''))),
      )
    }
    const once = ['', 'pizzicato', 'pizzicato', 'pizzicato', '']
    expect(plucked(words('pizz.'), words('arco'))).toEqual(once)
    expect(plucked(words('Pizzicato', '<sound pizzicato="yes"/>'), words('Arco.'))).toEqual(once)
    expect(plucked('<sound pizzicato="yes"/>', '<sound pizzicato="no"/>')).toEqual(once)
  })
  it('words are a remark on the note that follows; pizz. is how it is played', () => {
    expect(first(before(words('lightly'), words(' '), words('at the tip'))).remarks).toEqual([
      'lightly',
      'at the tip',
    ])
    const plucked = first(before(words('pizz.')))
    expect([plucked.marks, plucked.remarks]).toEqual([['pizzicato'], undefined])
  })
  it('dynamics stand at the note that follows, also over a rest; one we have no word for is told', () => {
    expect(first(before(direction('<dynamics><mf/></dynamics>'))).dynamic).toBe('mf')
    expect(
      first(before(direction('<dynamics><pp/></dynamics>'), '<note><rest/><duration>1</duration></note>'))
        .dynamic,
    ).toBe('pp')
    const r = before(direction('<dynamics><sfz/></dynamics>'))
    expect([first(r).dynamic, notKept(r)]).toEqual([undefined, ['sfz']])
    expect(notKept(before(direction('<dynamics/>')))).toEqual([])
  })
  it.each(['wedge', 'octave-shift', 'pedal', 'dashes', 'bracket'])('%s is told', name => {
    expect(notKept(before(direction(`<${name}/>`)))).toEqual([name])
  })
})

describe('barlines', () => {
  const bar = (inner: string, location = 'right') => `<barline location="${location}">${inner}</barline>`
  const repeat = (direction: string, times = '') =>
    `<repeat direction="${direction}"${times && ` times="${times}"`}/>`
  it.each<[string, Partial<Tune['measures'][number]>]>([
    [bar(repeat('forward'), 'left'), { repeatStart: true }],
    [bar(repeat('backward')), { repeatEnd: true }],
    [bar(repeat('backward', '3')), { repeatEnd: true, repeatTimes: 3 }],
    [bar(repeat('backward', '12')), { repeatEnd: true, repeatTimes: 9 }],
    [bar('<bar-style>light-light</bar-style>'), { barline: 'double' }],
    [bar('<bar-style>light-heavy</bar-style>'), { barline: 'final' }],
    [bar('<ending number="1, 3" type="start"/>', 'left'), { endings: [1, 3] }],
    [bar('<ending number="2 2" type="start"/>', 'left'), { endings: [2] }],
  ])('%s', (xml, what) => {
    expect(before(xml).tune.measures[0]).toMatchObject(what)
  })
  it.each([
    bar(repeat('backward', '2')),
    bar(repeat('backward', '2.5')),
    bar(repeat('forward', '3'), 'left'),
  ])('%s is played no more often than twice', xml =>
    expect(before(xml).tune.measures[0]!.repeatTimes).toBeUndefined(),
  )
  it.each([
    bar('<bar-style>light-light</bar-style>', 'left'),
    bar(`<bar-style>light-heavy</bar-style>${repeat('backward')}`),
    bar('<bar-style>regular</bar-style>'),
  ])('%s is no line of its own', xml => expect(before(xml).tune.measures[0]!.barline).toBeUndefined())
  it('an ending goes on until it is closed', () => {
    const start = (n: string) => bar(`<ending number="${n}" type="start"/>`, 'left')
    const stop = (type = 'stop') => bar(`<ending number="1" type="${type}"/>`)
    const list = [
      measure(note()),
      measure(start('1'), note()),
      measure(note(), stop()),
      measure(start('2'), note(), stop('discontinue')),
      measure(note()),
    ]
    const { tune } = ok(readMusicXml(part(list.join(''))))
    expect(tune.measures.map(m => m.endings)).toEqual([undefined, [1], [1], [2], undefined])
  })
  it.each(['', '0', '21', 'first'])('an ending numbered “%s” is told', n => {
    const r = before(bar(`<ending number="${n}" type="start"/>`, 'left'))
    expect([r.tune.measures[0]!.endings, codes(r)]).toEqual([
      undefined,
      expect.arrayContaining(['file.badEnding']),
    ])
  })
})

describe('notes', () => {
  const one = (inner: string) => first(ok(readMusicXml(part(measure(note(inner))))))
  const pitched = (inner: string) => `<note><pitch>${inner}</pitch><duration>1</duration></note>`
  it.each([
    ['C', '-1', '0', 0],
    ['B', '9', '-2', -2],
    ['F', '4', '', 0],
  ])('%s%s by %s', (step, octave, alter, by) => {
    const r = ok(
      readMusicXml(
        part(measure(pitched(`<step>${step}</step><alter>${alter}</alter><octave>${octave}</octave>`))),
      ),
    )
    expect(first(r).heads[0]!.pitch).toEqual({ step, octave: Number(octave), alter: by })
    expect(notKept(r)).toEqual([])
  })
  it.each([
    '<step>C</step><octave>10</octave>',
    '<step>C</step><octave>-2</octave>',
    '<step>C</step>',
    '<octave>4</octave>',
    '<step>C</step><octave>4</octave><alter>x</alter>',
  ])('no pitch: %s', inner => expect(notKept(before(pitched(inner)))).toEqual(['a note without a pitch']))
  it.each([
    ['0.4', 0],
    ['1.6', 2],
    ['3', 2],
    ['-3', -2],
  ])('a pitch bent by %s is told, and put where it lies nearest', (alter, by) => {
    const r = ok(
      readMusicXml(part(measure(pitched(`<step>C</step><alter>${alter}</alter><octave>4</octave>`)))),
    )
    expect([first(r).heads[0]!.pitch.alter, notKept(r)]).toEqual([by, ['microtones']])
  })
  it('cues are not ours to play, and told; so is what has no pitch', () => {
    const r = before(
      `<note><cue/><pitch><step>C</step><octave>4</octave></pitch><duration>1</duration></note>`,
      '<note><unpitched/><duration>1</duration></note>',
    )
    expect(r.tune.measures[0]!.events.filter(e => e.kind === 'note')).toHaveLength(1)
    expect(notKept(r)).toEqual(['cue notes', 'unpitched notes'])
  })
  it('grace notes go to the note that follows, over a rest too', () => {
    const grace = '<note><grace/><pitch><step>G</step><octave>4</octave></pitch></note>'
    expect(first(before(grace, grace)).grace).toHaveLength(2)
    expect(first(before(grace, '<note><rest/><duration>1</duration></note>')).grace).toHaveLength(1)
  })
  it('two strings may sound in unison, three may not', () => {
    const same = note('<chord/>')
    const r = ok(readMusicXml(part(measure(note(), same, same, note('<chord/><tie type="start"/>', 'D4')))))
    const { heads } = first(r)
    expect(heads.map(h => h.pitch.step)).toEqual(['D', 'A', 'A'])
    expect(heads.map(h => h.tied ?? false)).toEqual([true, false, false])
    expect(r.tune.measures[0]!.events).toHaveLength(1)
  })
  it('of two notes of one voice at one time the second is told', () => {
    const r = ok(
      readMusicXml(part(measure(note(), '<backup><duration>1</duration></backup>', note('', 'D4')))),
    )
    expect([first(r).heads[0]!.pitch.step, codes(r)]).toEqual(['A', expect.arrayContaining(['file.overlap'])])
    expect(r.tune.measures[0]!.events).toHaveLength(1)
  })
  it.each([
    ['<notehead parentheses="yes">normal</notehead>', { optional: true }],
    ['<tie type="start"/>', { heads: [{ tied: true }] }],
    [
      '<notations><technical><fingering>0</fingering><string>1</string></technical></notations>',
      { finger: 0, string: 0 },
    ],
    [
      '<notations><technical><fingering>4</fingering></technical><technical><string>5</string></technical></notations>',
      { finger: 4, string: 4 },
    ],
    ['<notations><dynamics><f/></dynamics></notations>', { dynamic: 'f' }],
    ['<notations><articulations><strong-accent/></articulations></notations>', { marks: ['accent'] }],
    [
      '<notations><articulations><accent/><strong-accent/><staccato/></articulations><fermata/></notations>',
      { marks: ['staccato', 'accent', 'fermata'] },
    ],
    [
      '<notations><ornaments><trill-mark/><other-ornament>roll</other-ornament></ornaments></notations>',
      { marks: ['trill', 'roll'] },
    ],
    ['<notations><articulations><scoop/></articulations></notations>', { marks: ['slide'] }],
    [
      '<lyric number="2"><syllabic>begin</syllabic><text>mor</text></lyric>',
      { syllables: [null, { text: 'mor', hyphen: true }] },
    ],
    [
      '<lyric><text>no</text><elision/><text>a</text></lyric><lyric><syllabic>end</syllabic><text>ning</text></lyric>',
      { syllables: [{ text: 'no a' }, { text: 'ning' }] },
    ],
  ])('%s', (inner, what) => {
    expect(one(inner)).toMatchObject(what)
  })
  it.each([
    '<fingering>6</fingering>',
    '<fingering>T</fingering>',
    '<string>0</string>',
    '<string>6</string>',
    '',
  ])('no finger, no string: %s', inner => {
    const n = one(`<notations><technical>${inner}</technical></notations>`)
    expect([n.finger, n.string]).toEqual([undefined, undefined])
  })
  it('a mark nobody here has a word for, and a line without text, leave nothing', () => {
    const n = one(
      '<notations><ornaments><other-ornament>wobble</other-ornament></ornaments></notations><lyric><text></text></lyric>',
    )
    expect([n.marks, n.syllables]).toEqual([undefined, undefined])
    expect(notKept(before(note('<notations><arpeggiate/></notations>')))).toEqual(['arpeggiate'])
  })
  it('a rest that is not printed is hidden', () => {
    const r = before(
      '<note print-object="no"><rest/><duration>1</duration></note>',
      '<note><rest/><duration>1</duration></note>',
    )
    expect(r.tune.measures[0]!.events.map(e => e.kind === 'rest' && (e.hidden ?? 'shown'))).toEqual([
      true,
      'shown',
      false,
    ])
  })
})

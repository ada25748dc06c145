import { strFromU8, unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { noteId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import { parseXml, type XmlNode } from './xml'
import { writeMusicXml, writeMxl, type Markings } from './writeMusicXml'

const tune = (music: string, head = 'M:4/4\nL:1/4\nK:D'): Tune =>
  readAbc(`X:1\nT:Try\n${head}\n${music}\n`).tunes[0]!.tune
const rooted = (text: string): XmlNode => {
  const parsed = parseXml(text)
  if (!('root' in parsed)) throw new Error('not well formed')
  return parsed.root
}
const written = (t: Tune, markings: Markings = {}) => rooted(writeMusicXml(t, markings).text)
/** An element without the space between, as one reads it. */
const xml = (n: XmlNode): string => {
  const open = [n.name, ...Object.entries(n.attributes).map(([k, v]) => `${k}=${v}`)].join(' ')
  const inner = n.children.map(xml).join('') + n.text
  return inner === '' ? `<${open}/>` : `<${open}>${inner}</${n.name}>`
}
const all = (n: XmlNode, name: string): XmlNode[] => [
  ...(n.name === name ? [n] : []),
  ...n.children.flatMap(c => all(c, name)),
]
const every = (t: Tune, name: string, markings: Markings = {}) => all(written(t, markings), name).map(xml)

describe('the score around the notes', () => {
  it('says what it is, whose it is and nothing that is not known', () => {
    const root = written(tune('DEFG|'))
    expect([root.name, root.attributes]).toEqual(['score-partwise', { version: '4.0' }])
    expect(xml(root.children[0]!)).toBe('<work><work-title>Try</work-title></work>')
    expect(xml(root.children[1]!)).toBe(
      '<identification><encoding><software>Nokta</software></encoding></identification>',
    )
    expect(every(tune('DEFG|', 'C:Odile Farrant\nM:4/4\nL:1/4\nK:D'), 'creator')).toEqual([
      '<creator type=composer>Odile Farrant</creator>',
    ])
  })
  it.each([
    ['the name it is given', { instrument: 'cello' as const }, { partName: 'Second cello' }, 'Second cello'],
    ['its instrument', { instrument: 'cello' as const }, {}, 'cello'],
    ['a melody', {}, {}, 'Melody'],
  ])('a part is called by %s', (_, more, markings, name) =>
    expect(every({ ...tune('DEFG|'), ...more }, 'score-part', markings)).toEqual([
      `<score-part id=P1><part-name>${name}</part-name></score-part>`,
    ]),
  )
  it('tells of repeats that are struck out, and of nothing else', () => {
    const t = tune('|:DEFG:|')
    expect(writeMusicXml(t).findings).toEqual([])
    const [lost] = writeMusicXml({ ...t, play: { struck: [t.measures[0]!.id], times: 1 } }).findings
    expect([lost!.code, lost!.severity, lost!.values]).toEqual([
      'file.notCarried',
      'note',
      { format: 'MusicXML', what: 'struck-out repeats' },
    ])
  })
  it('packed: the container names the score beside it', () => {
    const files = unzipSync(writeMxl(tune('DEFG|')).bytes)
    expect(Object.keys(files)).toEqual(['META-INF/container.xml', 'score.musicxml'])
    expect(xml(rooted(strFromU8(files['META-INF/container.xml']!)))).toBe(
      '<container><rootfiles><rootfile full-path=score.musicxml media-type=application/vnd.recordare.musicxml+xml/></rootfiles></container>',
    )
    expect(rooted(strFromU8(files['score.musicxml']!)).name).toBe('score-partwise')
  })
})

describe('measures', () => {
  const numbers = (t: Tune) =>
    all(written(t), 'measure').map(m => [m.attributes.number, m.attributes.implicit])
  it('have the numbers that are printed: a pickup is not counted', () => {
    expect(numbers(tune('A|DEFG|D4|'))).toEqual([
      ['0', 'yes'],
      ['1', undefined],
      ['2', undefined],
    ])
    expect(numbers(tune('DEFG|D4|'))).toEqual([
      ['1', undefined],
      ['2', undefined],
    ])
  })
  it('nor is one that completes the measure before a repeat', () => {
    expect(numbers(tune('A|DEFG|D3:|\n|:A|d4|d3:|'))).toEqual([
      ['0', 'yes'],
      ['1', undefined],
      ['2', undefined],
      ['X2', 'yes'],
      ['3', undefined],
      ['4', undefined],
    ])
  })
  it('key, metre and clef stand where they change', () => {
    const found = every(tune('DEFG|[K:Em][M:2/4]EF|GA|', 'M:4/4\nL:1/4\nK:D clef=alto'), 'attributes')
    expect(found).toEqual([
      '<attributes><divisions>1</divisions><key><fifths>2</fifths><mode>major</mode></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>C</sign><line>3</line></clef></attributes>',
      '<attributes><key><fifths>1</fifths><mode>minor</mode></key><time><beats>2</beats><beat-type>4</beat-type></time></attributes>',
    ])
  })
  it('a part written an octave above its sound says so', () => {
    expect(every(tune('DEFG|'), 'transpose', { transpose: -12 })).toEqual([
      '<transpose><diatonic>0</diatonic><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>',
    ])
    expect(every(tune('DEFG|'), 'transpose', { transpose: 0 })).toEqual([])
  })
  it('a cross-tuning is told from the lowest line up', () => {
    expect(every(tune('DEFG|'), 'staff-tuning', { tuning: [76, 69, 64, 57] })).toEqual([
      '<staff-tuning line=1><tuning-step>A</tuning-step><tuning-octave>3</tuning-octave></staff-tuning>',
      '<staff-tuning line=2><tuning-step>E</tuning-step><tuning-octave>4</tuning-octave></staff-tuning>',
      '<staff-tuning line=3><tuning-step>A</tuning-step><tuning-octave>4</tuning-octave></staff-tuning>',
      '<staff-tuning line=4><tuning-step>E</tuning-step><tuning-octave>5</tuning-octave></staff-tuning>',
    ])
  })
  it.each([
    [
      '|:DEFG:|',
      [
        '<barline location=left><bar-style>heavy-light</bar-style><repeat direction=forward/></barline>',
        '<barline location=right><bar-style>light-heavy</bar-style><repeat direction=backward/></barline>',
      ],
    ],
    [
      'DEFG||D4|]',
      [
        '<barline location=right><bar-style>light-light</bar-style></barline>',
        '<barline location=right><bar-style>light-heavy</bar-style></barline>',
      ],
    ],
    [
      'D4|1E4|F4:|2G4|]',
      [
        '<barline location=left><ending number=1 type=start/></barline>',
        '<barline location=right><bar-style>light-heavy</bar-style><ending number=1 type=stop/><repeat direction=backward/></barline>',
        '<barline location=left><ending number=2 type=start/></barline>',
        '<barline location=right><bar-style>light-heavy</bar-style><ending number=2 type=stop/></barline>',
      ],
    ],
  ])('%s has these barlines', (music, barlines) => expect(every(tune(music), 'barline')).toEqual(barlines))
})

describe('notes', () => {
  const note = (music: string, markings: Markings = {}, i = 0) => every(tune(music), 'note', markings)[i]
  it('have what the format wants, in its order', () => {
    expect(note('D3/2E/ ^F_B|')).toBe(
      '<note><pitch><step>D</step><octave>4</octave></pitch><duration>3</duration><voice>1</voice><type>quarter</type><dot/></note>',
    )
    expect(note('D3/2E/ ^F_B|', {}, 3)).toBe(
      '<note><pitch><step>B</step><alter>-1</alter><octave>4</octave></pitch><duration>2</duration><voice>1</voice><type>quarter</type></note>',
    )
    expect(note('zEFG|')).toBe(
      '<note><rest/><duration>1</duration><voice>1</voice><type>quarter</type></note>',
    )
    expect(note('xEFG|')).toBe(
      '<note print-object=no><rest/><duration>1</duration><voice>1</voice><type>quarter</type></note>',
    )
    expect(note('{B}AEFG|')).toBe(
      '<note><grace/><pitch><step>B</step><octave>4</octave></pitch><voice>1</voice><type>eighth</type></note>',
    )
  })
  it('three in the time of two', () => {
    const [first, , last] = every(tune('(3DEF G2|'), 'note')
    expect(first).toContain(
      '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>',
    )
    expect(first).toContain('<notations><tuplet type=start number=1/></notations>')
    expect(last).toContain('<notations><tuplet type=stop number=1/></notations>')
  })
  it('ties and slurs begin and end; slurs open together have numbers of their own', () => {
    const t = tune('(D(EF)G-|G4)|')
    const notations = all(written(t), 'note').map(n =>
      all(n, 'notations')
        .flatMap(x => x.children.map(xml))
        .join(''),
    )
    expect(notations).toEqual([
      '<slur type=start number=1/>',
      '<slur type=start number=2/>',
      '<slur type=stop number=2/>',
      '<tied type=start/>',
      '<tied type=stop/><slur type=stop number=1/>',
    ])
    expect(every(tune('(DE)(FG)|'), 'slur').map(s => /number=(\d)/.exec(s)![1])).toEqual(['1', '1', '1', '1'])
  })
  it('of notes together the first has marks, bow, words and chord; each has its finger', () => {
    const t = tune('!accent![DA]2 "A7"[EA]2|\nw:la lo')
    const [two] = t.measures[0]!.events
    const fingers = new Map([
      [noteId(two!.id, 0), { finger: 0 as const, string: 2 }],
      [noteId(two!.id, 1), { finger: 1 as const, string: 1 }],
    ])
    const [first, second] = every(t, 'note', { fingers, bows: new Map([[two!.id, 'up' as const]]) })
    expect(first).toContain(
      '<notations><articulations><accent/></articulations><technical><up-bow/><fingering>0</fingering><string>3</string></technical></notations><lyric number=1><syllabic>single</syllabic><text>la</text></lyric>',
    )
    expect(second).toContain('<chord/>')
    expect(second).toContain(
      '<notations><technical><fingering>1</fingering><string>2</string></technical></notations></note>',
    )
    expect(all(written(t), 'harmony')).toHaveLength(1)
  })
  it('a bow that is written already is not written twice, and none where there is none', () => {
    const t = tune('uDEFG|')
    const [first] = t.measures[0]!.events
    expect(every(t, 'technical', { bows: new Map([[first!.id, 'up' as const]]) })).toEqual([
      '<technical><up-bow/></technical>',
    ])
    expect(every(tune('DEFG|'), 'technical', { bows: new Map() })).toEqual([])
  })
  it('an open string says so once: by its sign where it has one, else by its finger', () => {
    const t = tune('!open!DEFG|')
    const [open, plain] = t.measures[0]!.events
    const hand = { finger: 0 as const, string: 2 }
    const fingers = new Map([
      [open!.id, hand],
      [plain!.id, hand],
    ])
    expect(every(t, 'technical', { fingers })).toEqual([
      '<technical><open-string/><string>3</string></technical>',
      '<technical><fingering>0</fingering><string>3</string></technical>',
    ])
  })
  it('notes under a beam say what they have of it, the first of notes together for all', () => {
    const beams = (abc: string) => all(written(tune(abc)), 'note').map(n => all(n, 'beam').map(xml).join(''))
    const beam = (part: string, number = 1) => `<beam number=${number}>${part}</beam>`
    expect(beams('D/>E/[FA]3|')).toEqual([beam('begin'), beam('end') + beam('backward hook', 2), '', ''])
    expect(beams('[DA]/E/ G A2|').slice(0, 3)).toEqual([beam('begin'), '', beam('end')])
  })
  it('the thumb is no number', () => {
    const t = tune('DEFG|')
    const [first] = t.measures[0]!.events
    expect(
      every(t, 'technical', { fingers: new Map([[first!.id, { finger: 'T' as const, string: 0 }]]) }),
    ).toEqual(['<technical><thumb-position/><string>1</string></technical>'])
  })
  it.each([
    ['lift', '<articulations><other-articulation>lift</other-articulation></articulations>'],
    ['slide', '<articulations><scoop/></articulations>'],
    ['roll', '<ornaments><other-ornament>roll</other-ornament></ornaments>'],
    ['harmonic', '<technical><harmonic/></technical>'],
    ['fermata', '<fermata/>'],
  ] as const)('%s has its place', (mark, wanted) => {
    const t = tune('DEFG|')
    const [m] = t.measures
    const events = m!.events.map((e, i) => (i === 0 && e.kind === 'note' ? { ...e, marks: [mark] } : e))
    expect(every({ ...t, measures: [{ ...m!, events }] }, 'notations')).toEqual([
      `<notations>${wanted}</notations>`,
    ])
  })
  it('syllables say where they stand in their word, each verse by itself', () => {
    const t = tune('DEFG|DEFG|\nw:a riv-u-let flows on then ends\nw:one two-fold three four')
    const said = (verse: number) =>
      all(written(t), 'lyric')
        .filter(l => l.attributes.number === String(verse))
        .map(l => `${l.children[1]!.text} ${l.children[0]!.text}`)
    expect(said(1).slice(0, 5)).toEqual(['a single', 'riv begin', 'u middle', 'let end', 'flows single'])
    expect(said(2)).toEqual(['one single', 'two begin', 'fold end', 'three single', 'four single'])
  })
  it.each([
    [
      'Am7/G',
      '<harmony><root><root-step>A</root-step></root><kind text=m7>minor-seventh</kind><bass><bass-step>G</bass-step></bass></harmony>',
    ],
    [
      'F#dim/Bb',
      '<harmony><root><root-step>F</root-step><root-alter>1</root-alter></root><kind text=dim>diminished</kind><bass><bass-step>B</bass-step><bass-alter>-1</bass-alter></bass></harmony>',
    ],
    ['ring', '<harmony><function>ring</function><kind text=ring>other</kind></harmony>'],
  ])('the chord %s', (chord, wanted) => expect(every(tune(`"${chord}"D4|`), 'harmony')).toEqual([wanted]))
  it.each([
    ['1/4=90', '<metronome><beat-unit>quarter</beat-unit><per-minute>90</per-minute></metronome>', '90'],
    [
      '3/8=60',
      '<metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>60</per-minute></metronome>',
      '90',
    ],
    ['5/8=40', '<words>100 quarters a minute</words>', '100'],
  ])('the tempo %s', (tempo, wanted, quarters) => {
    const [direction] = every(tune('DEFG|', `M:4/4\nL:1/4\nQ:${tempo}\nK:D`), 'direction')
    expect(direction).toBe(
      `<direction placement=above><direction-type>${wanted}</direction-type><sound tempo=${quarters}/></direction>`,
    )
  })
})

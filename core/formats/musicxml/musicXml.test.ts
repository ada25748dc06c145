import { strToU8, zipSync } from 'fflate'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { frac } from '#core/music/fraction'
import { bare, tunes } from '#core/music/testing'
import { type NoteEvent, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { readMusicXml, readMxl, type ReadXml, type XmlResult } from './readMusicXml'
import { writeMusicXml, writeMxl } from './writeMusicXml'

const ok = (r: XmlResult): ReadXml => {
  if ('finding' in r) throw new Error(sentence(r.finding))
  return r
}
const refusal = (r: XmlResult) => ('finding' in r ? sentence(r.finding) : 'read')
const reread = (t: Tune) => ok(readMusicXml(writeMusicXml(t).text)).tune
const score = (measures: string, list = '<score-part id="P1"><part-name>Melody</part-name></score-part>') =>
  `<?xml version="1.0"?><score-partwise><part-list>${list}</part-list><part id="P1">${measures}</part></score-partwise>`
const note = (step: string, octave: number, inner = '', duration = 1) =>
  `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>${duration}</duration>${inner}</note>`
const events = (t: Tune) => t.measures.flatMap(m => m.events)

describe('reading what was written', () => {
  it.each(DEMO_TUNES.map(t => t.file))('gives %s back', file => {
    const { tune } = readAbc(demoSource(file)).tunes[0]!
    expect(bare(reread(tune))).toEqual(bare(tune))
  })

  it('gives any tune back, plain and packed', () => {
    fc.assert(
      fc.property(tunes(), t => {
        fc.pre(events(t).some(e => e.kind === 'note'))
        expect(bare(reread(t))).toEqual(bare(t))
        expect(bare(ok(readMxl(writeMxl(t).bytes)).tune)).toEqual(bare(t))
      }),
      { numRuns: 150 },
    )
  })

  it('gives every fact and every mark back', () => {
    const { tune } = readAbc(
      'X:1\nT:All\nM:3/4\nL:1/4\nK:Bm\nw:\n!trill!B ~c !cut!d|!slide!e Te .f|Hf Lg !roll!a|',
    ).tunes[0]!
    const all = [
      'cut',
      'lift',
      'roll',
      'slide',
      'pizzicato',
      'turn',
      'mordent',
      'upperMordent',
      'comma',
      'open',
      'tenuto',
    ] as const
    const first = tune.measures[0]!.events[0] as NoteEvent
    const marked: NoteEvent = {
      ...first,
      marks: all,
      finger: 3,
      string: 1,
      optional: true,
      dynamic: 'mp',
      syllables: [null, { text: 'ah', hyphen: true }],
      remarks: ['slowly', 'ease the bow'],
    }
    const t: Tune = {
      ...tune,
      composer: 'Odile Farrant',
      otherTitles: ['Everything & more', '<b>'],
      notToBeConfusedWith: ['Nothing'],
      learnedFrom: 'a neighbour',
      kind: 'study',
      rights: 'protected',
      notes: 'two\nlines',
      tags: ['x', 'y'],
      instrument: 'viola',
      tempo: { beat: frac(3, 2), perMinute: 61 },
      play: { struck: [], times: 2 },
      measures: [
        { ...tune.measures[0]!, label: 'A', events: [marked, ...tune.measures[0]!.events.slice(1)] },
        ...tune.measures.slice(1),
      ],
    }
    expect(bare(reread(t))).toEqual(bare(t))
  })

  it('writes the fingers, strings, bows and tuning of an arrangement', () => {
    const { tune } = readAbc('X:1\nM:4/4\nL:1/4\nK:D\nD E F G|').tunes[0]!
    const [a, b] = events(tune)
    const { text } = writeMusicXml(tune, {
      fingers: new Map([
        [a!.id, { finger: 0, string: 2 }],
        [b!.id, { finger: 1, string: 2 }],
      ]),
      bows: new Map([[a!.id, 'down' as const]]),
      tuning: [76, 69, 64, 57],
    })
    const back = ok(readMusicXml(text))
    expect(back.tuning).toEqual([76, 69, 64, 57])
    expect(events(back.tune).slice(0, 2)).toMatchObject([
      { finger: 0, string: 2, marks: ['downbow'] },
      { finger: 1, string: 2 },
    ])
  })
})

describe('other people’s scores', () => {
  it('takes the first part with notes and names the others; another can be chosen', () => {
    const list =
      '<score-part id="P1"><part-name>Fiddle</part-name></score-part><score-part id="P2"><part-name>Cello</part-name></score-part>'
    const text = score(
      `<measure>${note('A', 4)}</measure></part><part id="P2"><measure>${note('C', 3)}</measure>`,
      list,
    )
    const first = ok(readMusicXml(text))
    expect(first.findings.map(sentence)).toContain('Only Fiddle was taken. Also in the file: Cello.')
    expect(first.tune.instrument).toBe('violin')
    const other = ok(readMusicXml(text, { part: 1 }))
    expect([other.tune.instrument, events(other.tune)[0]]).toMatchObject([
      'cello',
      { heads: [{ pitch: { step: 'C', octave: 3 } }] },
    ])
    expect(refusal(readMusicXml(text, { part: 7 }))).toMatch(/no part 8/)
  })

  it('takes one voice of two; the gaps of a voice become hidden rests', () => {
    const v = (n: number) => `<voice>${n}</voice>`
    const text =
      score(`<measure>${note('A', 4, v(1))}${note('B', 4, v(1))}<backup><duration>2</duration></backup>
      <forward><duration>1</duration></forward>${note('D', 4, v(2))}</measure>`)
    expect(events(ok(readMusicXml(text)).tune)).toHaveLength(2)
    expect(events(ok(readMusicXml(text, { voice: '2' })).tune)).toMatchObject([
      { kind: 'rest', hidden: true },
      { kind: 'note' },
    ])
  })

  it('turns a timewise score round', () => {
    const text = `<score-timewise><part-list/><measure><part id="P1">${note('A', 4)}</part></measure><measure><part id="P1">${note('B', 4)}</part></measure></score-timewise>`
    expect(ok(readMusicXml(text)).tune.measures).toHaveLength(2)
  })

  it('reads double stops, pizzicato and notes what it leaves', () => {
    const text =
      score(`<measure><attributes><divisions>2</divisions><key><fifths>-2</fifths><mode>minor</mode></key><time><beats>3</beats><beat-type>8</beat-type></time>
      <clef><sign>F</sign><line>4</line></clef></attributes><direction><direction-type><words>pizz.</words><wedge/></direction-type></direction>
      ${note('D', 3, '', 1)}<note><chord/><pitch><step>A</step><octave>3</octave></pitch><duration>1</duration></note>
      <note><unpitched/><duration>1</duration></note></measure>`)
    const r = ok(readMusicXml(text))
    expect(r.tune).toMatchObject({
      key: { step: 'G', mode: 'minor' },
      metre: { beats: 3, unit: 8 },
      clef: 'bass',
    })
    expect(events(r.tune)[0]).toMatchObject({ duration: frac(1, 2), marks: ['pizzicato'] })
    expect((events(r.tune)[0] as NoteEvent).heads).toHaveLength(2)
    expect(r.findings.map(sentence).join(' ')).toMatch(/wedge.*unpitched/)
  })
})

describe('bad input', () => {
  it.each([
    ['', /not well-formed|no element/],
    ['<a><b></a>', /not well-formed/],
    ['<html></html>', /first element is “html”/],
    ['<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><score-partwise/>', /entities of its own/],
    [`${'<a>'.repeat(200)}${'</a>'.repeat(200)}`, /levels deep/],
    [score(''), /no notes/],
    [score('<measure><note><rest/><duration>4</duration></note></measure>'), /no notes/],
    [score(`<measure>${note('A', 4)}`).slice(0, -60), /not well-formed/],
  ])('refuses %#', (text, why) => {
    expect(refusal(readMusicXml(text))).toMatch(why)
  })

  it('leaves out what has no sense and says so', () => {
    const r = ok(
      readMusicXml(
        score(`<measure>${note('H', 4)}${note('A', 99)}${note('A', 4)}${note('B', 4, '', -3)}</measure>`),
      ),
    )
    expect(events(r.tune)).toMatchObject([{ kind: 'rest', hidden: true }, { kind: 'note' }])
    expect(r.findings.map(sentence).join(' ')).toMatch(/without a pitch.*no usable length/)
  })

  it('does not unpack a bomb, nor take a zip with no score', () => {
    const bomb = zipSync({ 'score.xml': new Uint8Array(30_000_000) })
    expect(refusal(readMxl(bomb))).toMatch(/larger than/)
    expect(refusal(readMxl(zipSync({ 'a.txt': strToU8('x') })))).toMatch(/no score/)
    expect(refusal(readMxl(strToU8('PK nothing')))).toMatch(/can’t be opened/)
  })
})

import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { withBow, withTaught } from '#core/arrangement/edits'
import { MAY_ALL } from '#core/bowing/schools'
import { newArrangement } from '#core/arrangement/recipe'
import { sentence } from '#core/words/findings'
import { frac } from '#core/music/fraction'
import { formatPitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { kindOf, readFile } from './readFile'
import { formatOf, writeFile } from './writeFile'
import { WRITABLE } from './fileKinds'
import { readAbc } from './abc/readAbc'

const bytes = (text: string) => new TextEncoder().encode(text)
const tune = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune
const notes = (t: Tune) =>
  t.measures.flatMap(m => m.events).flatMap(e => (e.kind === 'note' ? [formatPitch(e.heads[0]!.pitch)] : []))
const cello = newArrangement('cello', 'full')

describe('any file', () => {
  it.each([
    ['a.abc', 'X:1\nK:D\nA|', 'abc'],
    ['pasted', '%abc-2.1\nX:1\nK:D\nA|', 'abc'],
    ['tune', '<?xml version="1.0"?><a/>', 'musicxml'],
    ['x.mid', 'MThd', 'midi'],
    ['x.bin', 'PK\u0003\u0004', 'mxl'],
    ['x.txt', 'title: a\nA 0 1', 'spoken'],
    ['x.txt', 'A 0 1', 'spoken'],
    ['pasted.abc', 'A 0 1 <2 3', 'spoken'],
    ['pasted.abc', 'A2 BA|', 'abc'],
    ['x.json', '{"format":"nokta"}', 'backup'],
    ['x.pdf', 'hello', null],
  ] as const)('%s is told by its content or its name (%#)', (name, text, kind) => {
    expect(kindOf(name, bytes(text))).toBe(kind)
  })

  it.each(WRITABLE.filter(f => f !== 'mid'))('.%s written is read again with the same notes', format => {
    const { content } = writeFile(
      format,
      tune,
      format === 'txt' ? newArrangement('violin', 'full') : null,
      ASSUMED_HANDS,
    )
    const r = readFile(`a.${format}`, typeof content === 'string' ? bytes(content) : content)
    expect(r.findings).toEqual([])
    expect(notes(r.tunes[0]!.tune)).toEqual(notes(tune))
  })

  it('an arrangement goes out with its key, fingers and bows, and they come back as pins', () => {
    const { content, findings } = writeFile('musicxml', tune, cello, ASSUMED_HANDS)
    const back = readFile('a.musicxml', bytes(content as string)).tunes[0]!
    expect(back.tune.instrument).toBe('cello')
    expect(Object.keys(back.pins).length).toBeGreaterThan(20)
    expect(Object.values(back.pins)[0]).toMatchObject({
      string: expect.any(Number),
      finger: expect.any(Number),
    })
    expect(content).toContain('<down-bow/>')
    expect(findings).toEqual([])
  })

  it('says what a format leaves behind, and warns when the tune is protected', () => {
    const told = writeFile('abc', { ...tune, rights: 'protected' }, cello, ASSUMED_HANDS)
      .findings.map(sentence)
      .join(' ')
    expect(told).toMatch(/protected.*rights.*the fingers of the arrangement/)
    expect(writeFile('mid', tune, cello, ASSUMED_HANDS).findings.map(sentence).join(' ')).toMatch(
      /only what is heard/,
    )
  })

  it.each(WRITABLE)('.%s: what is said of phrases is told where it stays behind', format => {
    const first = tune.measures[0]!.events[0]!.id
    const remarked = withTaught(newArrangement('violin', 'full'), {
      remarks: { [first]: 'lightly' },
      names: { [first]: 'the gate' },
    })
    const told = writeFile(format, tune, remarked, ASSUMED_HANDS).findings.map(sentence).join(' ')
    if (format === 'nokta.json') expect(told).toBe('')
    else if (format === 'mid') expect(told).toMatch(/only what is heard/)
    else
      expect(told).toMatch(
        /does not carry the names of its phrases.*does not carry the remarks on phrases and measures/,
      )
    expect(told).not.toContain('lines to sing')
  })

  it('a part is chosen by its number', () => {
    const two =
      '<score-partwise><part-list><score-part id="a"><part-name>Viola</part-name></score-part><score-part id="b"><part-name>Cello</part-name></score-part></part-list>' +
      ['A', 'C']
        .map(
          (step, i) =>
            `<part id="${'ab'[i]}"><measure><note><pitch><step>${step}</step><octave>3</octave></pitch><duration>1</duration></note></measure></part>`,
        )
        .join('') +
      '</score-partwise>'
    const first = readFile('x.xml', bytes(two))
    expect(first.choices).toEqual([
      { label: 'Viola', notes: 1 },
      { label: 'Cello', notes: 1 },
    ])
    expect(notes(readFile('x.xml', bytes(two), { choice: 1 }).tunes[0]!.tune)).toEqual(['C3'])
  })

  it('a voice of a tune in ABC is chosen by its number', () => {
    const two =
      'X:1\nT:two\nM:4/4\nL:1/4\nK:D\nV:1 name="Fiddle"\nV:2 name="Bass" clef=bass\n[V:1] D E F G|A4|\n[V:2] D,4|A,,4|\n'
    const first = readFile('x.abc', bytes(two))
    expect(first.choices.map(c => `${c.label} ${c.notes}`)).toEqual(['Fiddle 5', 'Bass 2'])
    expect(first.tunes[0]!.findings.map(sentence).join(' ')).toMatch(/voice 1 is taken. Also here: Bass/)
    const bass = readFile('x.abc', bytes(two), { choice: 1 })
    expect([notes(bass.tunes[0]!.tune), bass.tunes[0]!.tune.clef, bass.taken, bass.tunes[0]!.source]).toEqual(
      [['D3', 'A2'], 'bass', 1, null],
    )
  })

  it('what can’t be read says why', () => {
    const why = (name: string, text: string) => readFile(name, bytes(text)).findings.map(sentence).join(' ')
    expect(why('x.pdf', 'x')).toMatch(/can’t tell what kind of file “x.pdf”/)
    expect(why('x.json', '{"format":"other"}')).toMatch(/format/)
    expect(why('x.txt', 'title: nothing')).toMatch(/no notes/)
    expect(why('x.json', '{"format":"nokta","version":1,"tunes":[]}')).toMatch(/no notes/)
  })

  it('lengths nobody can count are told with their place, in every format', () => {
    const spoken = 'instrument: violin\n| A0 A0:997/991 E0:983/977 A0 |'
    const said = readFile('a.txt', bytes(spoken)).tunes[0]!
    expect(said.tune.measures[0]!.events).toHaveLength(2)
    expect(said.findings.map(f => f.code)).toContain('spoken.unknown')

    const abc = readFile('a.abc', bytes('X:1\nT:Odd\nL:1/4\nK:D\nA A997/991 A|\n')).tunes[0]!
    expect(abc.tune.measures[0]!.events).toHaveLength(2)
    expect(abc.findings.find(f => f.code === 'abc.badLength')?.where.line).toBe(5)
  })

  it.each([8167, 8171, 8179, 8191])(
    'a score in %i parts of a quarter is read to the nearest written value',
    n => {
      const note = (duration: number) =>
        `<note><pitch><step>A</step><octave>4</octave></pitch><duration>${duration}</duration></note>`
      const xml = `<score-partwise><part-list><score-part id="P1"><part-name>P</part-name></score-part></part-list><part id="P1"><measure><attributes><divisions>${n}</divisions></attributes>${note((n - 1) / 2)}${note((n + 1) / 2)}${note(n)}${note(2 * n)}</measure></part></score-partwise>`
      const { tune, findings } = readFile('a.musicxml', bytes(xml)).tunes[0]!
      expect(tune.measures[0]!.events.map(e => e.duration)).toEqual([
        frac(1, 2),
        frac(1, 2),
        frac(1),
        frac(2),
      ])
      expect(findings.map(f => f.code)).toContain('file.rounded')
    },
  )

  it('knows formats by the ending of a name', () => {
    expect([formatOf('A.XML'), formatOf('b.nokta.json'), formatOf('c.midi'), formatOf('d.doc')]).toEqual([
      'musicxml',
      'nokta.json',
      'mid',
      null,
    ])
  })
})

describe('bow marks', () => {
  const music = 'X:1\nT:t\nM:2/4\nL:1/8\nQ:1/4=100\nK:D\nA2|d2ef|g2f2 |e2z2|d>e f2|d4|]\n'
  const recipe = withBow(newArrangement('violin', 'full'), { may: MAY_ALL })
  it.each(['abc', 'musicxml'] as const)(
    'go out as %s and come back as written: up, down, slur, hook and lift',
    format => {
      const tune = readFile('t.abc', new TextEncoder().encode(music)).tunes[0]!.tune
      const first = derive(tune, recipe, ASSUMED_HANDS).bowing.written
      expect(new Set(first.flatMap(s => s.added.map(a => a.way))).size).toBeGreaterThanOrEqual(2)
      const { content } = writeFile(format, tune, recipe, ASSUMED_HANDS)
      const back = readFile(`t.${format}`, new TextEncoder().encode(content as string)).tunes[0]!.tune
      const again = derive(back, newArrangement('violin', 'full'), ASSUMED_HANDS).bowing.written
      const said = (strokes: typeof first) =>
        strokes.map(s => `${s.direction}${s.hook ? '~' : ''} ${s.tones.length}`)
      expect(said(again)).toEqual(said(first))
      expect(again.flatMap(s => s.added)).toEqual([])
    },
  )
})

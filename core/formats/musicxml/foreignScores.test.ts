/** Scores as other programs write them: groups, chords, the whole of a score, and packed. */
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { readMusicXml, readMxl, type ReadXml } from './readMusicXml'
import { ok, part, note, measure, before, first, codes } from './testing'

describe('groups', () => {
  const third = (mark = '', actual = '3', normal = '2') =>
    note(
      `<time-modification><actual-notes>${actual}</actual-notes><normal-notes>${normal}</normal-notes></time-modification>${mark && `<notations><tuplet type="${mark}"/></notations>`}`,
    )
  const groups = (...notes: string[]) =>
    ok(readMusicXml(part(measure(...notes)))).tune.measures[0]!.events.map(e => e.tuplet?.group)
  it('are as their brackets say', () => {
    const [a, b, c, d, e, f, g] = groups(
      third('start'),
      third(),
      third('stop'),
      third('start'),
      third(),
      third('stop'),
      note(),
    )
    expect([a === b, b === c, c === d, d === e && e === f, g]).toEqual([true, true, false, true, undefined])
  })
  it('begin anew after a note that is in none, though no bracket says so', () => {
    const [a, b, none, c] = groups(third(), third(), note(), third())
    expect([a === b, none, a === c]).toEqual([true, undefined, false])
  })
  it.each([
    ['1', '1'],
    ['3', '0'],
    ['65', '2'],
    ['3', '65'],
    ['2.5', '2'],
    ['x', 'y'],
  ])('%s in the time of %s are none', (actual, normal) =>
    expect(groups(third('start', actual, normal))).toEqual([undefined]),
  )

  const slur = (...types: string[]) =>
    note(
      `<notations>${types.map(t => `<slur type="${t[0] === 's' ? 'start' : 'stop'}" number="${t.slice(1)}"/>`).join('')}</notations>`,
    )
  const slurs = (...notes: string[]) => {
    const r = ok(readMusicXml(part(measure(...notes))))
    const at = (id: string) => r.tune.measures[0]!.events.findIndex(e => e.id === id)
    return [r.tune.slurs.map(s => `${at(s.from)}-${at(s.to)}`).join(' '), codes(r).includes('file.openSlur')]
  }
  it.each<[string, string[], string, boolean]>([
    ['one after another', [slur('s1'), slur('e1', 's1'), slur('e1')], '0-1 1-2', false],
    ['numbered', [slur('s1'), slur('s2'), slur('e2'), slur('e1')], '1-2 0-3', false],
    ['never begun', [note(), slur('e1')], '', true],
    ['never closed', [slur('s1'), note()], '', true],
  ])('slurs %s', (_, notes, found, told) => expect(slurs(...notes)).toEqual([found, told]))
})

describe('chords', () => {
  const harmony = (inner: string) => before(`<harmony>${inner}</harmony>`).tune.measures[0]!.events[0]!.chord
  const root = (step: string, alter = '') =>
    `<root><root-step>${step}</root-step>${alter && `<root-alter>${alter}</root-alter>`}</root>`
  it.each([
    [
      `${root('C', '1')}<kind>minor-seventh</kind><bass><bass-step>G</bass-step><bass-alter>1</bass-alter></bass>`,
      'C#m7/G#',
    ],
    [`${root('B', '-1')}<kind>major</kind>`, 'Bb'],
    [`${root('D')}<kind text="7sus4">suspended-fourth</kind>`, 'D7sus4'],
    [
      `${root('E', '0')}<kind>diminished</kind><bass><bass-step>B</bass-step><bass-alter>-1</bass-alter></bass>`,
      'Edim/Bb',
    ],
    [`${root('A')}<kind>unheard-of</kind>`, 'A'],
    ['<function>V</function><kind>major</kind>', 'V'],
    ['<kind text="N.C.">none</kind>', 'N.C.'],
  ])('%s', (inner, chord) => expect(harmony(inner)).toBe(chord))
})

describe('the score', () => {
  it.each([
    ['Kontrabass', 'bass'],
    ['Double Bass 1', 'bass'],
    ['Violoncello', 'cello'],
    ['Bratsche', 'viola'],
    ['Viola', 'viola'],
    ['Geige', 'violin'],
    ['Flute', undefined],
  ])('%s is played on a %s', (name, instrument) => {
    expect(ok(readMusicXml(part(measure(note()), name))).tune.instrument).toBe(instrument)
  })
  it('has its title from the work or the movement, its composer from who is named as one', () => {
    const id = (inner: string) => `<identification>${inner}</identification>`
    const head =
      '<movement-title>Second</movement-title>' +
      id('<creator type="lyricist">L</creator><creator>C</creator>')
    expect(ok(readMusicXml(part(measure(note()), 'x', head))).tune).toMatchObject({
      title: 'Second',
      composer: 'C',
    })
    const work = '<work><work-title>First</work-title></work>' + head
    expect(ok(readMusicXml(part(measure(note()), 'x', work))).tune.title).toBe('First')
    const none = id('<creator type="arranger">L</creator>')
    expect(ok(readMusicXml(part(measure(note()), 'x', none))).tune.composer).toBe('')
  })
  it('names a part without a name by its number, and takes the fuller voice', () => {
    const voice = (n: number) => note(`<voice>${n}</voice>`)
    const r = ok(
      readMusicXml(
        part(measure(voice(1), '<backup><duration>1</duration></backup>', voice(2), voice(2)), ''),
      ),
    )
    expect([r.parts, r.taken]).toEqual([
      [
        {
          name: 'part 1',
          voices: [
            { name: '1', notes: 1 },
            { name: '2', notes: 2 },
          ],
        },
      ],
      { part: 0, voice: '2' },
    ])
    expect(r.findings.find(f => f.code === 'file.others')!.values).toEqual({
      taken: 'voice 2',
      others: 'voice 1',
    })
    expect(readMusicXml(part(measure(note())), { voice: '9' })).toMatchObject({
      finding: { code: 'file.noNotes' },
    })
  })
  it('counts of its facts only those that have sense', () => {
    const fact = (name: string, text: string) =>
      `<miscellaneous-field name="${name}">${text}</miscellaneous-field>`
    const facts = (...list: string[]) =>
      ok(
        readMusicXml(
          part(
            measure(note()),
            'x',
            `<identification><miscellaneous>${list.join('')}</miscellaneous></identification>`,
          ),
        ),
      ).tune
    expect([0, 1, 9, 10, 2.5].map(n => facts(fact('times through', String(n))).play.times)).toEqual([
      1, 1, 9, 1, 1,
    ])
    expect(
      facts(fact('rights', 'stolen'), fact('instrument', 'cello'), fact('tag', 'a'), fact('tag', 'b')),
    ).toMatchObject({ rights: 'unknown', instrument: 'cello', tags: ['a', 'b'] })
  })
  it('written measure by measure keeps each part to itself', () => {
    const two = (a: string, b: string) =>
      `<measure><part id="P1">${note('', a)}</part><part id="P2">${note('', b)}</part></measure>`
    const text = `<score-timewise><part-list/>${two('A4', 'D3')}${two('B4', 'E3')}</score-timewise>`
    const steps = (r: ReadXml) =>
      r.tune.measures.flatMap(m => m.events.flatMap(e => (e.kind === 'note' ? [e.heads[0]!.pitch.step] : [])))
    expect(steps(ok(readMusicXml(text)))).toEqual(['A', 'B'])
    expect(steps(ok(readMusicXml(text, { part: 1 })))).toEqual(['D', 'E'])
  })
})

describe('packed', () => {
  const score = (pitch: string) => strToU8(part(measure(note('', pitch))))
  const step = (files: Record<string, Uint8Array>) => first(ok(readMxl(zipSync(files)))).heads[0]!.pitch.step
  const container = (path: string) =>
    strToU8(`<container><rootfiles><rootfile full-path="${path}"/></rootfiles></container>`)
  it('is the score its container names, else the first beside it', () => {
    const files = { 'a.xml': score('A4'), 'in/b.xml': score('B4') }
    expect(step({ 'META-INF/container.xml': container('in/b.xml'), ...files })).toBe('B')
    expect(step(files)).toBe('A')
    expect(step({ 'in/b.xml': score('B4'), 'c.musicxml': score('C4') })).toBe('C')
    expect(readMxl(zipSync({ 'in/b.xml': score('B4') }))).toMatchObject({ finding: { code: 'zip.noScore' } })
  })
})

/**
 * What other programs call things: ways through, dynamics, chords, instruments, and what is told because it
 * is not kept.
 */
import { describe, expect, it } from 'vitest'
import { MOST } from '#core/music/tune'
import { readMusicXml } from './readMusicXml'
import { before, codes, direction, first, measure, note, notKept, ok, part, words } from './testing'

describe('the way through, by words', () => {
  const way = (text: string) => {
    const {
      id: _i,
      events: _e,
      ...m
    } = ok(readMusicXml(part(measure(note(), words(text)) + measure(note())))).tune.measures[0]!
    return m
  }
  it.each([
    'D.C.',
    'D. C.',
    'd.c.',
    'D.C',
    'D. C',
    'D.C. al Fine',
    'D.C. al Coda',
    'D.C. al fine.',
    'Da Capo',
    'da capo al fine',
    'Da Capo al Coda',
  ])('“%s” goes back to the beginning', text => expect(way(text)).toEqual({ jump: 'dc' }))
  it.each([
    'D.S.',
    'D. S.',
    'd.s.',
    'D.S',
    'D.S. al Fine',
    'D.S. al Coda.',
    'Dal Segno',
    'dal segno al fine',
    'Dal segno al coda',
  ])('“%s” goes back to the sign', text => expect(way(text)).toEqual({ jump: 'ds' }))
  it.each(['Fine', 'fine.', 'FINE'])('“%s” is where it ends', text =>
    expect(way(text)).toEqual({ fine: true }),
  )
  it.each(['To Coda', 'to coda', 'al Coda'])('“%s” leaves for the coda', text =>
    expect(way(text)).toEqual({ toCoda: true }),
  )
  it.each([
    'play D.C.',
    'D.C. and on',
    'Da Capo al nowhere',
    'see D.S.',
    'D.S. twice',
    'Dal segno later',
    'a fine tune',
    'Fine tune',
    'to Coda now',
    'go to coda',
    'DXC',
    'DC al',
  ])('“%s” is a remark', text => {
    const r = before(words(text))
    const { segno, coda, fine, toCoda, jump } = r.tune.measures[0]!
    expect([segno, coda, fine, toCoda, jump, first(r).remarks]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
      undefined,
      [text],
    ])
  })
})

describe('the way through, by sound', () => {
  it.each([
    ['segno', { segno: true }],
    ['coda', { coda: true }],
    ['tocoda', { toCoda: true }],
    ['fine', { fine: true }],
    ['dacapo', { jump: 'dc' }],
    ['dalsegno', { jump: 'ds' }],
  ])('%s', (name, expected) => {
    const sound = (says: string) =>
      ok(readMusicXml(part(measure(note(), direction('', `<sound ${name}="${says}"/>`))))).tune.measures[0]!
    expect(sound('yes')).toMatchObject(expected)
    for (const key of Object.keys(expected)) expect(sound('no')).not.toHaveProperty(key)
  })
})

describe('dynamics', () => {
  it.each(['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'])('%s', name => {
    expect(first(before(direction(`<dynamics><${name}/></dynamics>`))).dynamic).toBe(name)
    expect(first(before(note(`<notations><dynamics><${name}/></dynamics></notations>`))).dynamic).toBe(name)
  })
})

describe('chord names', () => {
  const chord = (inner: string) => first(before(`<harmony>${inner}</harmony>`)).chord
  const root = (step: string, alter = '') =>
    `<root><root-step>${step}</root-step>${alter && `<root-alter>${alter}</root-alter>`}</root>`
  it.each([
    [`${root('D')}<kind>major</kind>`, 'D'],
    [`${root('F', '1')}<kind> minor </kind>`, 'F#m'],
    [`${root('B', '-1')}<kind text="7">dominant</kind>`, 'Bb7'],
    [`${root('E', '0')}<kind>major</kind>`, 'E'],
    [
      `${root('A')}<kind>dominant</kind><bass><bass-step>C</bass-step><bass-alter>1</bass-alter></bass>`,
      'A7/C#',
    ],
    [`${root('G')}<bass><bass-step>B</bass-step></bass>`, 'G/B'],
    [`${root('C')}<kind>never heard of</kind>`, 'C'],
    ['<function>V</function><kind>major</kind>', 'V'],
    ['<kind text="n.c.">none</kind>', 'n.c.'],
    [`${root('D')}<kind text="${'x'.repeat(60)}">other</kind>`, `D${'x'.repeat(39)}`],
    [`<function>${'V'.repeat(60)}</function>`, 'V'.repeat(40)],
  ])('%s', (inner, name) => expect(chord(inner)).toBe(name))
  it('one that says nothing is none', () => expect(chord('') ?? '').toBe(''))
})

describe('an instrument by the name of its part', () => {
  it.each([
    ['Double Bass', 'bass'],
    ['Doublebass', 'bass'],
    ['Contrabass', 'bass'],
    ['Kontrabass', 'bass'],
    ['Violoncello', 'cello'],
    ['Cello II', 'cello'],
    ['Viola', 'viola'],
    ['Bratsche', 'viola'],
    ['Violin', 'violin'],
    ['2nd Fiddle', 'violin'],
    ['Geige 1', 'violin'],
    ['Flute', undefined],
    ['Violas', undefined],
  ])('%s', (name, id) => expect(ok(readMusicXml(part(measure(note()), name))).tune.instrument).toBe(id))
})

describe('what is told', () => {
  const beside = (inner: string) => notKept(before(note(`<notations>${inner}</notations>`)))
  it.each([
    '<tied type="start"/>',
    '<tuplet/>',
    '<ornaments/>',
    '<technical/>',
    '<articulations/>',
    '<fermata/>',
    '<dynamics/>',
    '<slide/>',
    '<glissando/>',
    '<accidental-mark>sharp</accidental-mark>',
  ])('%s says nothing that is not kept', inner => expect(beside(inner)).toEqual([]))
  it.each(['arpeggiate', 'non-arpeggiate', 'other-notation'])('%s is not kept', name =>
    expect(beside(`<${name}/>`)).toEqual([name]),
  )
  it('notes without a pitch, by their kind, as a warning', () => {
    const of = (inner: string) =>
      before(`<note>${inner}<duration>1</duration></note>`).findings.filter(f => f.code === 'file.notKept')
    expect(of('<unpitched/>').map(f => [f.severity, f.values])).toEqual([
      ['warning', { what: 'unpitched notes' }],
    ])
    expect(of('').map(f => [f.severity, f.values])).toEqual([['warning', { what: 'a note without a pitch' }]])
  })
  it('grace notes without a pitch are none; of many the first are kept', () => {
    const grace = (inner: string) => `<note><grace/>${inner}</note>`
    const d = '<pitch><step>D</step><octave>5</octave></pitch>'
    const r = before(grace('<unpitched/>'), ...Array.from({ length: MOST.grace + 5 }, () => grace(d)))
    expect(first(r).grace).toHaveLength(MOST.grace)
    expect(first(r).grace!.every(g => g.step === 'D')).toBe(true)
  })
  it('more measures than a tune holds', () => {
    const r = ok(readMusicXml(part(`<measure>${note()}</measure>`.repeat(10_001))))
    expect(r.tune.measures).toHaveLength(10_000)
    const told = r.findings.filter(f => f.code === 'file.tooManyMeasures')
    expect(told.map(f => [f.severity, f.values])).toEqual([['warning', { limit: 10_000 }]])
  })
})

describe('what is no score', () => {
  const refused = (text: string) => {
    const r = readMusicXml(text)
    return 'finding' in r
      ? [r.finding.code, r.finding.severity, r.finding.where.line, r.finding.values]
      : 'read'
  }
  it('is refused by the name of what it is', () => {
    expect(refused('<opus/>')).toEqual(['xml.notAScore', 'error', 1, { root: 'opus' }])
    expect(refused(`<${'o'.repeat(60)}/>`)).toEqual(['xml.notAScore', 'error', 1, { root: 'o'.repeat(40) }])
  })
  it('a mark of the encoding at its beginning is no part of it', () => {
    expect(codes(ok(readMusicXml('\ufeff' + part(measure(note())))))).toEqual(
      codes(ok(readMusicXml(part(measure(note()))))),
    )
  })
})

describe('ids and numbers', () => {
  it('events and measures have ids of their own, and places count from the first measure', () => {
    const r = ok(
      readMusicXml(
        part(measure(note()) + measure(note(), '<note><unpitched/><duration>1</duration></note>')),
      ),
    )
    const ids = r.tune.measures.flatMap(m => [m.id, ...m.events.map(e => e.id)])
    expect(new Set(ids).size).toBe(ids.length)
    expect(r.tune.measures.every(m => /^m\d+$/.test(m.id))).toBe(true)
    expect(r.findings.find(f => f.code === 'file.notKept')!.where.measure).toBe(2)
  })
})

/**
 * Scores as other programs write them: measures that hold nothing of ours, what is said once for a part,
 * ties.
 */
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { readMusicXml } from './readMusicXml'
import { attributes, before, first, measure, note, notKept, ok, part, codes } from './testing'

describe('measures in which our voice is silent', () => {
  const low = (inner = '') => note(`<voice>2</voice>${inner}`)
  const back = '<backup><duration>1</duration></backup>'
  const time = attributes('<time><beats>2</beats><beat-type>4</beat-type></time>')
  /** Lengths in quarters, measure by measure; rests in brackets, hidden ones in two. */
  const lengths = (...measures: string[]) =>
    ok(readMusicXml(part(measures.join('')), { voice: '1' })).tune.measures.map(m =>
      m.events
        .map(e => {
          const n = e.duration.n / e.duration.d
          return e.kind === 'note' ? `${n}` : e.hidden ? `[[${n}]]` : `[${n}]`
        })
        .join(' '),
    )
  it('are there all the same, as long as the others play', () => {
    expect(lengths(measure(time, note(), note()), measure(low(), low()), measure(note(), note()))).toEqual([
      '1 1',
      '[2]',
      '1 1',
    ])
    expect(lengths(measure(time, note(), note()), measure(low()))).toEqual(['1 1', '[1]'])
  })
  it('are filled up where it ends before the others', () => {
    expect(lengths(measure(time, note(), back, low(), low()))).toEqual(['1 [[1]]'])
    // Not beyond the measure, though another voice goes there.
    expect(
      lengths(measure(time, note(), note(), '<backup><duration>2</duration></backup>', low(), low(), low())),
    ).toEqual(['1 1'])
    expect(
      lengths(
        measure(
          time,
          low(),
          low(),
          '<backup><duration>2</duration></backup>',
          '<forward><duration>1</duration></forward>',
          note(),
        ),
      ),
    ).toEqual(['[[1]] 1'])
  })
  it('are a whole measure of rest where nobody plays, with their repeats and endings', () => {
    const barline = '<barline location="right"><repeat direction="backward"/></barline>'
    expect(lengths(measure(time, note(), note()), measure(barline), measure(note()))).toEqual([
      '1 1',
      '[2]',
      '1',
    ])
    const { measures } = ok(readMusicXml(part(measure(note()) + measure(barline)))).tune
    expect(measures.map(m => m.repeatEnd)).toEqual([undefined, true])
  })
  it('are nothing where they are not counted and nobody plays', () => {
    expect(
      lengths(measure(time, note(), note()), '<measure implicit="yes"></measure>', measure(note())),
    ).toEqual(['1 1', '1'])
  })
})

describe('what a file says once for a part', () => {
  it.each([
    [
      '<diatonic>-1</diatonic><chromatic>-2</chromatic>',
      ['The part sounds 2 half steps lower than it is written: the notes are taken as they are written.'],
    ],
    [
      '<chromatic>1</chromatic>',
      ['The part sounds 1 half step higher than it is written: the notes are taken as they are written.'],
    ],
    ['<chromatic>0</chromatic><octave-change>-1</octave-change>', []],
    ['<chromatic>-12</chromatic>', []],
    ['<chromatic>some</chromatic>', []],
  ])('a transposition: %s', (inner, said) => {
    const { findings } = before(attributes(`<transpose>${inner}</transpose>`))
    expect(findings.filter(f => f.code === 'file.transposed').map(sentence)).toEqual(said)
  })
  it.each([
    ['<measure-repeat type="start">1</measure-repeat>', ['measure-repeat']],
    ['<beat-repeat type="start"/>', ['beat-repeat']],
    ['<slash type="start"/>', ['slash']],
    ['<slash type="stop"/>', []],
    ['<multiple-rest>2</multiple-rest>', []],
  ])('signs for a whole measure: %s', (inner, what) => {
    expect(notKept(before(attributes(`<measure-style>${inner}</measure-style>`)))).toEqual(what)
  })
})

describe('a harmonic', () => {
  const harmonic = (inner: string) =>
    ok(
      readMusicXml(
        part(measure(note(`<notations><technical><harmonic>${inner}</harmonic></technical></notations>`))),
      ),
    )
  it.each([
    ['', []],
    ['<natural/>', []],
    ['<natural/><sounding-pitch/>', []],
    ['<natural/><touching-pitch/>', ['file.touched']],
    ['<artificial/><base-pitch/>', ['file.touched']],
  ])('%s', (inner, told) => {
    const r = harmonic(inner)
    expect(first(r).marks).toEqual(['harmonic'])
    expect(codes(r).filter(c => c === 'file.touched')).toEqual(told)
  })
  it('is told of each measure where the note is written elsewhere, of notes together too', () => {
    const touched =
      '<notations><technical><harmonic><artificial/><touching-pitch/></harmonic></technical></notations>'
    const { findings } = ok(
      readMusicXml(
        part(
          measure(
            note(),
            `<note><chord/><pitch><step>E</step><octave>5</octave></pitch><duration>1</duration>${touched}</note>`,
          ),
        ),
      ),
    )
    expect(
      findings.filter(f => f.code === 'file.touched').map(f => [f.where.measure, f.severity, sentence(f)]),
    ).toEqual([[1, 'warning', expect.stringMatching(/where the string is touched/)]])
  })
})

describe('fingers of notes together', () => {
  const hand = (finger?: number, string?: number) =>
    `<notations><technical>${finger === undefined ? '' : `<fingering>${finger}</fingering>`}${string === undefined ? '' : `<string>${string}</string>`}</technical></notations>`
  const chordal = (pitch: string, inner: string) => note(inner, pitch).replace('<note>', '<note><chord/>')
  const upper = 'fingers and strings of the upper of notes together'
  it.each<[why: string, xml: string, hand: object, told: string[]]>([
    ['the lower one first', note(hand(0, 2), 'A4') + chordal('E5', ''), { finger: 0, string: 1 }, []],
    ['the upper one first', note('', 'E5') + chordal('A4', hand(0, 2)), { finger: 0, string: 1 }, []],
    ['both, the lower one first', note(hand(0), 'A4') + chordal('E5', hand(1)), { finger: 0 }, [upper]],
    ['both, the upper one first', note(hand(1, 1), 'E5') + chordal('A4', hand(0)), { finger: 0 }, [upper]],
    ['the upper one alone', note(hand(1), 'E5') + chordal('A4', ''), {}, [upper]],
    ['a string alone', note('', 'A4') + chordal('E5', hand(undefined, 1)), {}, [upper]],
  ])('%s', (_, xml, kept, told) => {
    const r = ok(readMusicXml(part(measure(xml))))
    const { finger, string } = first(r)
    expect(JSON.parse(JSON.stringify({ finger, string }))).toEqual(kept)
    expect(first(r).heads).toHaveLength(2)
    expect(notKept(r)).toEqual(told)
  })
})

describe('a tie', () => {
  const tied = (inner: string) => first(ok(readMusicXml(part(measure(note(inner), note()))))).heads[0]!.tied
  it.each([
    ['<tie type="start"/>', true],
    ['<notations><tied type="start"/></notations>', true],
    ['<tie type="start"/><notations><tied type="stop"/></notations>', true],
    ['<tie type="stop"/><notations><tied type="start"/></notations>', undefined],
    ['<tie type="stop"/>', undefined],
    ['<notations><tied type="stop"/></notations>', undefined],
    ['', undefined],
  ])('%s', (inner, is) => {
    expect(tied(inner)).toBe(is)
  })
})

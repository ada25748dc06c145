/** Of scores by other programs: what is rare, read where we have a place for it and told where not. */
import { describe, expect, it } from 'vitest'
import { formatPitch } from '#core/music/pitch'
import { readMusicXml, type ReadXml } from './readMusicXml'
import { attributes, before, direction, first, measure, note, notKept, ok, part } from './testing'

const read = (...measures: string[]) => ok(readMusicXml(part(measures.join(''))))
const grace = (inner = '') => `<note><grace/>${inner}<pitch><step>B</step><octave>4</octave></pitch></note>`
const technical = (inner: string) => `<notations><technical>${inner}</technical></notations>`
const ornament = (inner: string) => `<notations><ornaments>${inner}</ornaments></notations>`
const metronome = (unit: string, dots: number, perMinute: number) =>
  direction(
    `<metronome><beat-unit>${unit}</beat-unit>${'<beat-unit-dot/>'.repeat(dots)}<per-minute>${perMinute}</per-minute></metronome>`,
  )
const bar = (location: string, repeat: string) =>
  `<barline location="${location}"><repeat ${repeat}/></barline>`
/** Notes by letter, with the signs of repeats. */
const music = (r: ReadXml) =>
  r.tune.measures
    .map(
      m =>
        `${m.repeatStart ? '|:' : '|'} ${m.events.map(e => (e.kind === 'note' ? formatPitch(e.heads[0]!.pitch) : 'z')).join(' ')}${m.repeatEnd ? ' :|' : ''}`,
    )
    .join(' ')

it('letters may stand by their number', () => {
  const head = '<work><work-title>Caf&#233; &#x266D; &amp; more</work-title></work>'
  const { tune, parts } = ok(readMusicXml(part(measure(note()), 'Fl&#252;te', head)))
  expect([tune.title, parts[0]!.name]).toEqual(['Café ♭ & more', 'Flüte'])
})

describe('notes that are not ours to keep are told', () => {
  it('cue notes, whose time is silent', () => {
    const r = read(measure(note(), note('<cue/>', 'B4')))
    expect([music(r), notKept(r)]).toEqual(['| A4 z', ['cue notes']])
  })
  it('grace notes after the last one', () => {
    expect(notKept(read(measure(note(), grace())))).toEqual(['grace notes after the last note'])
    expect(notKept(read(measure(grace(), note())))).toEqual([])
  })
  it('the upper of grace notes together', () => {
    const r = before(grace(), grace('<chord/>'))
    expect([first(r).grace!.length, notKept(r)]).toEqual([1, ['the upper of grace notes together']])
  })
  it('tremolos, and whatever else stands on a note and is nothing of ours', () => {
    const on = (inner: string) => notKept(before(note(inner)))
    expect(on(ornament('<tremolo type="single">3</tremolo>'))).toEqual(['tremolo'])
    expect(on(technical('<thumb-position/><hammer-on/><fingering>2</fingering>'))).toEqual([
      'thumb-position',
      'hammer-on',
    ])
    expect(on(ornament('<trill-mark/><wavy-line type="start"/>'))).toEqual([])
  })
  it('a second finger: the first is kept', () => {
    const r = before(note(technical('<fingering>1</fingering><fingering alternate="yes">3</fingering>')))
    expect([first(r).finger, notKept(r)]).toEqual([1, ['a second finger on a note']])
  })
})

describe('a tempo', () => {
  const told = (...measures: string[]) => {
    const r = read(...measures)
    const { n, d } = r.tune.tempo!.beat
    return [n / d, r.tune.tempo!.perMinute, notKept(r)]
  }
  it('may be of a dotted note, and of one with two dots', () => {
    expect(told(measure(metronome('quarter', 1, 60), note()))).toEqual([1.5, 60, []])
    expect(told(measure(metronome('half', 2, 40), note()))).toEqual([3.5, 40, []])
  })
  it('is the first; another one is told, the same in other words is not', () => {
    const sound = (tempo: number) => `<sound tempo="${tempo}"/>`
    expect(told(measure(metronome('half', 0, 40), sound(80), note()))).toEqual([2, 40, []])
    expect(
      told(measure(metronome('quarter', 0, 80), note()), measure(metronome('quarter', 0, 120), note())),
    ).toEqual([1, 80, ['a change of tempo']])
    expect(told(measure(sound(80), note()), measure(sound(96), note()))).toEqual([
      1,
      80,
      ['a change of tempo'],
    ])
  })
})

describe('a repeat', () => {
  const [A, B] = [note(), note('', 'B4')]
  const start = attributes('<divisions>1</divisions>')
  it('in the middle of a measure cuts it there', () => {
    const back = read(measure(start, A, A, bar('middle', 'direction="backward"'), B, B))
    expect([music(back), notKept(back)]).toEqual(['| A4 A4 :| | B4 B4', []])
    const on = read(
      measure(start, A, A, bar('middle', 'direction="forward"'), B, B, bar('right', 'direction="backward"')),
    )
    expect(music(on)).toBe('| A4 A4 |: B4 B4 :|')
    const both = read(
      measure(start, A, A, bar('middle', 'direction="backward"'), bar('middle', 'direction="forward"'), B, B),
    )
    expect(music(both)).toBe('| A4 A4 :| |: B4 B4')
  })
  it('at the beginning of a measure cuts nothing', () => {
    expect(music(read(measure(start, bar('middle', 'direction="forward"'), A, A, B, B)))).toBe(
      '|: A4 A4 B4 B4',
    )
  })
  it('that is played once is none, and told', () => {
    const r = read(measure(start, A, A, B, B, bar('right', 'direction="backward" times="1"')))
    expect([music(r), notKept(r)]).toEqual(['| A4 A4 B4 B4', ['a repeat that is played once']])
  })
})

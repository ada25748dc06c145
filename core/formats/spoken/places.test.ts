import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { homeTuning } from '#core/instruments/tunings'
import { INSTRUMENT_IDS, type Tune } from '#core/music/tune'
import { anchorOf, positionText } from './places'
import { lostOf, pitches, read, told } from './testing'
import { writeSpoken } from './writeSpoken'

describe('the place everything is counted in', () => {
  const unit = (music: string) => {
    const tune = readAbc(`X:1\nT:t\nM:none\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
    return /unit: (.*)/.exec(
      writeSpoken(tune, new Map(), { instrument: 'violin', tuning: homeTuning('violin') }).text,
    )![1]
  }
  it.each([
    ['D2D2D2D2 D4|', '1/4'],
    // One in five may fall between.
    ['D2D2D2D2 D2D2D2D2 DD|', '1/4'],
    ['D2D2D2D2 DD|', '1/8'],
    ['D3D3D2D2|', '1/8'],
    ['D/D/D/D/ D/D/D/D/ DD|', '1/16'],
  ])('%s is told in %s', (music, wanted) => expect(unit(music)).toBe(wanted))
})

describe('natural harmonics', () => {
  it.each([
    // Touched a fifth up the string sounds its twelfth, a fourth up two octaves, halfway the octave.
    ['violin', 'A 3o', 'A6'],
    ['violin', 'G 4o', 'D5'],
    ['violin', 'G 4°', 'D5'],
    ['cello', 'A 4o', 'A5'],
    ['cello', '@4 D 1o', 'A4'],
    ['cello', '@4 D 4>>o', 'D4'],
    ['bass', '@2.5 G 2o', 'G5'],
  ] as const)('%s: %s', (instrument, text, sounds) => {
    const r = read(`key: C\n${text}`, instrument)
    expect([pitches(r.tune), told(r)]).toEqual([sounds, []])
    expect(r.tune.measures[0]!.events[0]).toMatchObject({ marks: ['harmonic'] })
  })
  it('where no string sounds so, it is told', () => {
    const r = read('A 1o 0o 0')
    expect(told(r).map(t => t.replace(/:.*/, ''))).toEqual(['line 1, column 3', 'line 1, column 6'])
    expect(told(r)[0]).toMatch(/no natural harmonic/)
    expect(pitches(r.tune)).toBe('A4')
  })
  it('a wish for one that no hand grants is told', () => {
    expect(lostOf('K:D\n!harmonic!E4 E4|')).toEqual(['marks'])
    expect(lostOf('K:D\n!harmonic!d8|')).toEqual([])
  })
  it('come back as the notes they were', () => {
    const tune = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:D clef=bass\nD, A, D !harmonic!a|A B !harmonic!d A|')
      .tunes[0]!.tune
    const d = derive(tune, newArrangement('cello', 'full'), ASSUMED_HANDS)
    const { text } = writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), {
      instrument: 'cello',
      tuning: homeTuning('cello'),
    })
    expect(text).toMatch(/4o/)
    expect(pitches(read(text, 'cello').tune)).toBe(pitches(tune))
    const marked = (t: Tune) =>
      t.measures.flatMap(m => m.events).map(e => (e.kind === 'note' ? (e.marks ?? []).join() : ''))
    expect(marked(read(text, 'cello').tune)).toEqual(marked(tune))
  })
})

describe('positions', () => {
  it('go from text to the first finger’s place and back', () => {
    for (const id of INSTRUMENT_IDS)
      for (let anchor = 1; anchor <= 17; anchor++)
        expect(anchorOf(id, positionText(id, anchor)), `${id} ${anchor}`).toBe(anchor)
    expect([
      anchorOf('violin', '3'),
      anchorOf('violin', '<2'),
      anchorOf('cello', '4'),
      anchorOf('bass', '2.5'),
    ]).toEqual([5, 3, 7, 4])
    expect(anchorOf('violin', '99')).toBeNull()
  })
  it.each([
    ['half', 1],
    ['½', 1],
    ['<1', 1],
    ['>1', 3],
    ['1', 2],
    ['12', 21],
    ['<12', 20],
    // Nothing before or after it, and no further than the neck goes.
    ['ahalf', null],
    ['halfway', null],
    ['a3', null],
    ['3a', null],
    ['3.25', null],
    ['13', null],
    ['>12', null],
    ['<0.5', null],
    ['', null],
  ] as const)('“%s” is the place %s', (text, anchor) => expect(anchorOf('violin', text)).toBe(anchor))
  it('no position of another instrument', () => {
    expect([anchorOf('violin', '2.5'), anchorOf('bass', '2.5'), anchorOf('cello', '0.5')]).toEqual([
      null,
      4,
      1,
    ])
  })
})

/**
 * What is said of a bowing: each finding with its weight, its place (measure, and the tone by its number),
 * what it tells, and its ways out.
 */
import { describe, expect, it } from 'vitest'
import type { Mend } from '#core/findings/finding'
import type { StrokePin } from './pins'
import type { Bowing } from './stroke'
import { bowed, bowedTune, tuneFrom, type LineOfMusic } from './testing'

type Told = [code: string, severity: string, measure: number, tone: number, values: object, mends: object[]]
function told(b: Bowing): Told[] {
  const at = (id: string | undefined) => b.problem.tones.findIndex(t => t.id === id)
  const mend = (m: Mend) =>
    m.kind === 'bow'
      ? { bow: m.edits.map(e => [at(e.note), e.way]) }
      : { ...m, note: at('note' in m ? m.note : undefined) }
  return b.findings.map(f => [
    f.code,
    f.severity,
    f.where.measure!,
    at(f.where.note),
    'values' in f ? (f.values ?? {}) : {},
    (f.mends ?? []).map(mend),
  ])
}
/** The tune with pins, and slurs of the recipe, by the number of the event. */
function pinnedTune(
  music: string,
  pins: Record<number, StrokePin>,
  slurs: Record<number, boolean> = {},
  o: LineOfMusic = {},
) {
  const tune = tuneFrom(music)
  const ids = tune.measures.flatMap(m => m.events.map(e => e.id))
  const byId = <T>(list: Record<number, T>) =>
    Object.fromEntries(Object.entries(list).map(([i, x]) => [ids[Number(i)]!, x]))
  const joined = Object.keys(slurs)
    .filter(i => slurs[Number(i)])
    .map(i => ids[Number(i)]!)
  return bowedTune(tune, {
    pins: byId(pins),
    joins: byId(slurs),
    ...(joined.length > 0 && { joined: new Set(joined) }),
    ...o,
  })
}
const code = (c: string) => (t: Told) => t[0] === c

describe('said of a bowing', () => {
  it('a pattern longer than the tune is told by what the tune has once through, however often it is played', () => {
    const eight = {
      school: 'pattern' as const,
      groove: { pattern: [4, 4], unit: 0.5, offset: 0 },
      metre: '2/4',
    }
    const long = (music: string) =>
      told(bowed(music, eight))
        .filter(code('bow.patternLong'))
        .map(t => t[4])
    expect(long('|:DEFG:|')).toEqual([{ pattern: 8, tune: 4 }])
    expect(long('|:DEFG|ABcd:|')).toEqual([])
  })
  it.each<[why: string, music: string, LineOfMusic, Told[]]>([
    ['nothing where nothing is to say', 'D2E2F2G2|A8|', {}, []],
    ['nothing of silence', 'z8|', {}, []],
    [
      'a first beat that comes up',
      'D2F2A2|d6|D2F2A2|',
      { metre: '3/4' },
      [['bow.firstBeatUp', 'warning', 2, 3, { pass: 1 }, []]],
    ],
    [
      'each time through',
      '|:D2F2A2|d6:|',
      { metre: '3/4' },
      [
        ['bow.firstBeatUp', 'warning', 2, 3, { pass: 1 }, []],
        ['bow.firstBeatUp', 'warning', 2, 3, { pass: 2 }, []],
      ],
    ],
    ['under schools that mind it', 'D2F2A2|d6|D2F2A2|', { metre: '3/4', school: 'as-it-comes' }, []],
    [
      'a repeat that starts on the other bow, with its part',
      'D6|:D2F2A2:|B6|',
      { metre: '3/4', school: 'as-it-comes', partOf: i => 'ABC'[i] },
      [
        [
          'bow.otherBow',
          'warning',
          2,
          1,
          { part: 'B', first: 'up', second: 'down' },
          [{ kind: 'stroke', note: 1, direction: 'up' }],
        ],
      ],
    ],
    [
      'in a part without a name',
      'D6|:D2F2A2:|B6|',
      { metre: '3/4', school: 'as-it-comes' },
      [
        [
          'bow.otherBow',
          'warning',
          2,
          1,
          { part: null, first: 'up', second: 'down' },
          [{ kind: 'stroke', note: 1, direction: 'up' }],
        ],
      ],
    ],
    [
      'once for each repeat',
      '|:D6:|:E2F2G2|A6|B6:|',
      { metre: '3/4', school: 'as-it-comes', tempo: '1/4=200' },
      [
        [
          'bow.otherBow',
          'warning',
          1,
          0,
          { part: null, first: 'down', second: 'up' },
          [{ kind: 'stroke', note: 0, direction: 'down' }],
        ],
        [
          'bow.otherBow',
          'warning',
          2,
          2,
          { part: null, first: 'down', second: 'up' },
          [{ kind: 'stroke', note: 2, direction: 'down' }],
        ],
      ],
    ],
    [
      'in a repeat that begins where another ended',
      'D6:|E2F2G2|A2B4:|',
      { metre: '3/4', school: 'as-it-comes', tempo: '1/4=200' },
      [
        [
          'bow.otherBow',
          'warning',
          1,
          0,
          { part: null, first: 'down', second: 'up' },
          [{ kind: 'stroke', note: 0, direction: 'down' }],
        ],
        [
          'bow.otherBow',
          'warning',
          2,
          2,
          { part: null, first: 'down', second: 'up' },
          [{ kind: 'stroke', note: 2, direction: 'down' }],
        ],
      ],
    ],
    ['not where both start alike', '|:D6|E6:|', { metre: '3/4', school: 'as-it-comes' }, []],
    ['an end that comes up', 'D4E4|F4A4|d4c4|', {}, [['bow.endsUp', 'note', 3, 5, {}, []]]],
    ['not when it is no resting place', 'D4E4|F4A3B|', { tempo: '1/4=200' }, []],
    ['not under a school that leaves it open', 'D4E4|F4A4|d4c4|', { school: 'separate' }, []],
    [
      'drift, once, with how far and from where',
      'd2f e2c|'.repeat(8),
      { metre: '6/8', tempo: '3/8=88' },
      [['bow.drifts', 'note', 4, 14, { end: 'tip', cm: 75, from: 1 }, []]],
    ],
    [
      'half as far on a bow of half the length',
      'd2f e2c|'.repeat(8),
      { metre: '6/8', tempo: '3/8=88', hair: 325 },
      [['bow.drifts', 'note', 4, 14, { end: 'tip', cm: 37, from: 1 }, []]],
    ],
    [
      'a note no bow bears, with how many it takes',
      'D16|',
      { metre: 'none', tempo: '1/4=30' },
      [['bow.tooLong', 'warning', 1, 0, { seconds: 16, bows: 5 }, []]],
    ],
    ['a long one it does bear', 'D16|', { metre: 'none', tempo: '1/4=64' }, []],
    [
      'a slur over a string it does not touch',
      '(DF)A2 D4|',
      { stringOf: id => (id === 'n3' ? 3 : 0) },
      [['bow.slurSkips', 'warning', 1, 1, {}, [{ bow: [[1, 'part']] }]]],
    ],
    ['not over the next one', '(DF)A2 D4|', { stringOf: id => (id === 'n3' ? 1 : 0) }, []],
    [
      'too many notes in a bow, parted at the strong beat nearest the middle',
      '(DEFG ABcd|efga gfed|c2)B2A2F2|',
      { tempo: '1/4=200' },
      [['bow.crowded', 'warning', 1, 0, { notes: 17, seconds: 2.7 }, [{ bow: [[8, 'part']] }]]],
    ],
    [
      'not sixteen',
      '(DEFG ABcd|efga gfed)|c4B4|',
      { tempo: '1/4=200' },
      [['bow.firstBeatUp', 'warning', 3, 16, { pass: 1 }, []]],
    ],
    [
      'or too long together',
      '(D4E4|F4)G4|A8|',
      { tempo: '1/4=60' },
      [['bow.crowded', 'warning', 1, 0, { notes: 3, seconds: 6 }, [{ bow: [[2, 'part']] }]]],
    ],
    [
      'to and fro between two strings',
      'DADADADADADA|',
      { metre: 'none', tempo: '1/4=200', stringOf: id => Number(id.slice(1)) % 2 },
      [['bow.swings', 'note', 1, 0, { strokes: 12 }, []]],
    ],
    [
      'not slowly',
      'DADADADADADA|',
      { metre: 'none', tempo: '1/4=140', stringOf: id => Number(id.slice(1)) % 2 },
      [],
    ],
    [
      'a pattern nobody chose',
      'D2E2 F2G2|',
      { school: 'pattern' },
      [['bow.noPattern', 'warning', 1, 0, {}, []]],
    ],
    [
      'one longer than the tune, in its units',
      'D2E2 F2G2|',
      { school: 'pattern', groove: { pattern: [9, 9], unit: 0.5, offset: 0 } },
      [['bow.patternLong', 'warning', 1, 0, { pattern: 18, tune: 8 }, []]],
    ],
    [
      'one just as long',
      'D2E2 F2G2|',
      { school: 'pattern', groove: { pattern: [4, 4], unit: 0.5, offset: 0 } },
      [],
    ],
    ['nothing of an accent that comes down', '!accent!D2E2 F2G2|', { phrases: new Map() }, []],
  ])('%s (%s)', (_, music, o, expected) => expect(told(bowed(music, o))).toEqual(expected))

  it('a phrase on the other bow than the one it is like; not one that is like none', () => {
    const tune = tuneFrom('D2F2A2|d6|D2F2A2|d6|', '3/4')
    const id = (m: number) => tune.measures[m]!.events[0]!.id
    const like = (...list: (number | null)[]) => {
      const phrases = new Map(list.map((k, m) => [id(m), k === null ? null : id(k)]))
      return told(bowedTune(tune, { school: 'as-it-comes', phrases })).filter(code('bow.kinOtherBow'))
    }
    expect(like(null, 0, 0)).toEqual([
      ['bow.kinOtherBow', 'note', 2, 3, { like: 1, first: 'down', second: 'up' }, []],
    ])
    expect(like(null, null, null)).toEqual([])
    expect(like(null, null, 1)).toEqual([
      ['bow.kinOtherBow', 'note', 3, 4, { like: 2, first: 'up', second: 'down' }, []],
    ])
  })
})

describe('said of hair', () => {
  const hair = (pins: Record<number, StrokePin>, tempo: string) =>
    told(pinnedTune('D4E4|F4 G4|', pins, {}, { tempo })).filter(
      t => t[0] === 'bow.wrongEnd' || t[0] === 'bow.hairRunsOut',
    )
  it('a long note at the end where there is none is at the wrong end', () => {
    expect(hair({ 0: { direction: 'down', at: 0.9 } }, '1/4=60')).toEqual([
      ['bow.wrongEnd', 'warning', 1, 0, { end: 'tip', given: 5, wanted: 60 }, []],
    ])
    const up = hair({ 1: { direction: 'up', at: 0.1 } }, '1/4=60')
    expect(up).toContainEqual(['bow.wrongEnd', 'warning', 1, 1, { end: 'frog', given: 24, wanted: 60 }, []])
  })
  it('a short one has too little', () => {
    expect(hair({ 0: { direction: 'down', at: 0.95 } }, '1/4=240')).toEqual([
      ['bow.hairRunsOut', 'warning', 1, 0, { end: 'tip', given: 8, wanted: 18 }, []],
    ])
    expect(hair({ 0: { direction: 'down', at: 0.3 } }, '1/4=240')).toEqual([])
  })
  it('a short note that brings the bow back sticks out', () => {
    const b = pinnedTune('D7E|F7G|', { 1: { at: 0.9 }, 2: { at: 0.1 } }, {}, { tempo: '1/4=80' })
    const fast = told(b).filter(code('bow.fastReturn'))
    expect(fast.map(t => [t[1], t[2], t[3]])).toContainEqual(['note', 1, 1])
    expect((fast[0]![4] as { times: number }).times).toBeGreaterThanOrEqual(1.7)
  })
})

describe('said of pins', () => {
  const of = (...args: Parameters<typeof pinnedTune>) => told(pinnedTune(...args))
  const unpin = (note: number) => ({ kind: 'unpin', note, what: 'stroke' })
  it('a lift for which there is no time, with the pin that asks for it', () => {
    expect(of('D2E2 F2G2|', { 2: { way: 'lift' } })).toEqual([
      ['bow.liftNoTime', 'warning', 1, 2, {}, [unpin(2)]],
    ])
    expect(of('D2E2 F2G2|', { 2: { way: 'lift' } }, {}, { tempo: '1/4=60' })).toEqual([])
    expect(of('D2E2 z2G2|', { 3: { way: 'lift' } }, {}, { tempo: '1/4=160' })).toEqual([])
  })
  it('an accent that a pin sets at the tip, up', () => {
    const accent = of('D2!accent!E2 F2G2|', { 1: { at: 1 } })
    expect(accent.filter(code('bow.accentUpTip'))).toEqual([['bow.accentUpTip', 'note', 1, 1, {}, []]])
    expect(of('D2!accent!E2 F2G2|', { 1: { at: 0.5 } }).filter(code('bow.accentUpTip'))).toEqual([])
  })
  it('a direction inside a slur: the slur or the pin gives way', () => {
    const [f] = of('D2E2 F2G2|', { 1: { direction: 'up' } }, { 1: true })
    expect(f).toEqual([
      'bow.pinUnmet',
      'warning',
      1,
      1,
      { direction: 'up' },
      [{ kind: 'join', note: 1, slurred: false }, unpin(1)],
    ])
  })
  it('two that contradict each other', () => {
    expect(of('D2E2 F2G2|', { 0: { direction: 'down' }, 1: { direction: 'down', way: 'turn' } })).toEqual([
      ['bow.pinUnmet', 'warning', 1, 1, { direction: 'down' }, [unpin(1)]],
    ])
  })
  it('none of a way to begin on the first note of all, where nothing lies before', () => {
    expect(of('D2E2 F2G2|', { 0: { way: 'hook' } })).toEqual([])
  })
  it('none of a note that is not there', () => {
    expect(told(bowed('D2E2F2G2|', { pins: { n99: { direction: 'up' } }, joins: { n98: true } }))).toEqual([])
  })
  it('a slur over a rest; none that was taken back', () => {
    expect(of('D2 z2 F2G2|', {}, { 2: true })).toEqual([
      ['bow.slurOverRest', 'warning', 1, 1, {}, [{ kind: 'join', note: 1, slurred: false }]],
    ])
    expect(of('D2 z2 F2G2|', {}, { 2: false })).toEqual([])
  })
})

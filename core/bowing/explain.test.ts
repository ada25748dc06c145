import { describe, expect, it } from 'vitest'
import { bowTune } from './bowing'
import { MAY_ALL, MAY_NOTHING } from './schools'
import { bowed, type LineOfMusic } from './testing'
import { WEIGHTS as W } from './weights'

/** Stroke by stroke: its direction and how many tones it takes, and why. */
const whys = (music: string, o: LineOfMusic) =>
  bowed(music, o).written.map(s => `${s.direction[0]}${s.tones.length} ${Object.values(s.why).join(' ')}`)

describe('the reason of a stroke', () => {
  it.each<[string, LineOfMusic, string[]]>([
    ['D4E4|', {}, ['d1 start', 'u1 turn']],
    ['A2|d4 A4|', {}, ['u1 pickup', 'd1 turn', 'u1 turn']],
    // Two strokes before the first beat: neither answers for it alone.
    ['AB|d4 A4|', {}, ['d1 leadIn', 'u1 turn', 'd1 turn', 'u1 turn']],
    ['(DE)F2 G4|', {}, ['d2 written', 'u1 turn', 'd1 turn']],
    ['!upbow!D2E2 !upbow!F2G2|', {}, ['u1 marked', 'd1 turn', 'u1 marked', 'd1 turn']],
    [
      'D2F2A2z2|G2B2 d4|',
      { may: MAY_ALL },
      ['d1 start', 'u1 turn', 'd1 turn', 'd1 lift rest', 'u1 turn', 'd1 turn'],
    ],
    // What is added is said by its rhythm, with the measure whose first beat it brings down.
    [
      'D2FA|B2A2|d4|',
      { metre: '2/4', may: MAY_ALL },
      ['d1 start', 'u2 slur evens 2', 'd1 turn', 'u1 turn', 'd1 turn'],
    ],
    [
      'DF AG (3FGA GF|D8|',
      { may: MAY_ALL },
      [
        'd1 start',
        'u1 turn',
        'd1 turn',
        'u1 turn',
        'd2 slur triplet 2',
        'u1 turn',
        'd1 turn',
        'u1 turn',
        'd1 turn',
      ],
    ],
    [
      'D3E F2|A4F2|',
      { metre: '3/4', may: MAY_ALL },
      ['d1 start', 'd1 hook dotted 2', 'u1 turn', 'd1 turn', 'u1 turn'],
    ],
    [
      'd2f e2c|d2f e3|d6|',
      { metre: '6/8', tempo: '3/8=60', may: MAY_ALL },
      ['d1 start', 'u1 turn', 'd1 turn', 'u1 turn', 'd2 slur longShort 3', 'u1 turn', 'd1 turn'],
    ],
    ['D2E2F2|G6|', { metre: '3/4', may: MAY_ALL }, ['d1 start', 'u2 slur evens 2', 'd1 turn']],
    // A written slur is parted at its strongest beat.
    [
      '(D2F2A2)|d6|(D2F2A2)|d6|',
      { metre: '3/4', may: { ...MAY_NOTHING, part: true } },
      ['d1 start', 'u2 parted', 'd1 turn', 'u3 written', 'd1 turn'],
    ],
    // What belongs to the school.
    ['D2E2F2G2|A8|', { school: 'phrase' }, ['d4 phrase', 'u1 turn']],
    [
      'DEFG ABcd|',
      { school: 'pattern', groove: { pattern: [1, 3], unit: 0.5, offset: 0 } },
      ['d1 start', 'u3 pattern', 'd1 turn', 'u3 pattern'],
    ],
    ['DEFG A4|\nw:one_ two_ three', { school: 'syllable' }, ['d2 syllable', 'u2 syllable', 'd1 turn']],
    [
      'D3E F3G|A8|',
      { habits: { dotted: 'hooked', triplets: 'written' } },
      ['d1 start', 'd1 habit hook dotted', 'u1 turn', 'u1 habit hook dotted', 'd1 turn'],
    ],
    [
      'D3E F3G|A8|',
      { habits: { dotted: 'slurred', triplets: 'written' } },
      ['d2 habit slur dotted', 'u2 habit slur dotted', 'd1 turn'],
    ],
    [
      '(3DEF (3GAB d4|',
      { habits: { dotted: 'written', triplets: 'one' } },
      ['d3 habit slur triplets', 'u3 habit slur triplets', 'd1 turn'],
    ],
  ])('%s %o', (music, o, expected) => expect(whys(music, o)).toEqual(expected))

  it('is the teacher’s where it is pinned, by direction or by way; a place on the bow is no reason', () => {
    const { problem } = bowed('D2E2F2G2|')
    const { id } = problem.tones[1]!
    const why = (pin: object) =>
      bowTune(problem.tune, { ...problem.options, pins: { [id]: pin } }).strokes[1]!.why.is
    expect([why({ direction: 'down' }), why({ way: 'hook' }), why({ at: 0.5 })]).toEqual([
      'pinned',
      'pinned',
      'turn',
    ])
  })
})

describe('the cost of a stroke', () => {
  const costs = (music: string, o: LineOfMusic) => bowed(music, o).written.map(s => s.cost)
  it('is named: a first beat and a second one up, a slur and a hook added, a lift, a bow by the phrase', () => {
    const up = costs('D2F2A2|d6|', { metre: '3/4' })[3]!
    expect(up.direction).toBeCloseTo(W.upOnFirst)
    expect(costs('D4 E2F2|', {})[1]!.direction).toBeCloseTo(W.upOnSecond)
    const [first, slurred] = costs('D2FA|B2A2|d4|', { metre: '2/4', may: MAY_ALL })
    expect([first!.slur, first!.hook]).toEqual([undefined, undefined])
    expect(slurred!.slur).toBeGreaterThan(0)
    const hooked = costs('D3E F2|A4F2|', { metre: '3/4', may: MAY_ALL })[1]!
    expect([hooked.hook! > 0, hooked.slur]).toEqual([true, undefined])
    expect(costs('D2F2A2z2|G2B2 d4|', { may: MAY_ALL })[3]!.lift).toBeCloseTo(W.lift)
    expect(costs('D2E2F2G2|A8|', { school: 'phrase' })[0]!.time).toBeCloseTo(W.phraseStroke)
  })
  it('of a written slur is nothing, and of a stroke with the hair it wants next to nothing', () => {
    for (const c of costs('(DE)(FG) A4|', {})) {
      expect(c.slur).toBeUndefined()
      expect(c.length ?? 0).toBeLessThan(0.1)
    }
  })
  it('beyond what a bow bears grows with the time', () => {
    const over = (tempo: string) => costs('(D8|E8)|', { school: 'phrase', tempo })[0]!.time ?? 0
    expect(over('1/4=120')).toBeLessThan(over('1/4=60'))
    expect(over('1/4=60')).toBeLessThan(over('1/4=40'))
  })
})

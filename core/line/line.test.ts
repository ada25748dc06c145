import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { frac, toNumber } from '#core/music/fraction'
import { joinedEvents, slurredToPrevious, slursOf } from './joins'
import { gapsOf, hurry, QUICK, QUICKEST } from './time'
import { tonesOf } from './tones'

const tuneFrom = (music: string, head = 'M:4/4\nL:1/8\nQ:1/4=60\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const tempo = { beat: frac(1), perMinute: 60 }
const tones = (music: string, more: { writtenAbove?: number; joined?: ReadonlySet<string> } = {}) =>
  tonesOf(tuneFrom(music), { tempo, writtenAbove: 0, ...more })
const gaps = (music: string, open: (sounding: number) => boolean = () => false) => {
  const list = tones(music)
  return gapsOf(
    list,
    list.map(t => open(t.heads.at(-1)!.sounding)),
  )
}

describe('the tones of a line', () => {
  it('have their time in seconds, and the rest that follows', () => {
    expect(tones('D2z2E4|').map(t => [t.seconds, t.restAfter])).toEqual([
      [1, 1],
      [2, 0],
    ])
  })
  it('are one where a tie makes them one, over the barline too', () => {
    const [first, second, ...more] = tones('D4E4-|E2F6|')
    expect(more).toHaveLength(1)
    expect(second).toMatchObject({ seconds: 3, restAfter: 0 })
    expect([first!.tied.length, second!.tied.length]).toEqual([0, 1])
    expect(toNumber(second!.duration)).toBe(3)
  })
  it('with two strings: what goes on alone is the same tone, a melody over a held drone is one of its own in the same bow', () => {
    const parts = (music: string) =>
      tones(music).map(
        t => `${t.heads.length}:${t.seconds}${t.slurredOn ? '+' : ''}:${t.held.map(h => h.head).join('')}`,
      )
    // A held, the D taken away; then the other way round.
    expect(parts('[DA-]4A4|')).toEqual(['2:4:1'])
    expect(parts('[D-A]4D4|')).toEqual(['2:4:0'])
    expect(parts('[D-A-]4[DA]4|')).toEqual(['2:4:01'])
    // The drone is held, the melody moves over it.
    expect(parts('[DA-]4[FA]4|')).toEqual(['2:2+:', '2:2:'])
    expect(parts('A4-[DA]4|')).toEqual(['1:2+:', '2:2:'])
    // Tied to another note it is not tied at all; after a rest neither.
    expect(parts('D4-E4|')).toEqual(['1:2:', '1:2:'])
    expect(parts('[DA-]2z2[FA]4|')).toEqual(['2:1:', '2:2:'])
  })
  it('sound lower than they are written where the instrument does', () => {
    expect(tones('D8|', { writtenAbove: 12 })[0]!.heads[0]!.sounding).toBe(
      tones('D8|')[0]!.heads[0]!.sounding - 12,
    )
  })
  it('are slurred on where nothing comes between', () => {
    expect(tones('(DEF)G z4|').map(t => t.slurredOn)).toEqual([true, true, false, false])
    // A rest under a slur parts it for the bow.
    expect(tones('(D2z2E2)F2|').map(t => t.slurredOn)).toEqual([false, false, false])
  })
  it('go by the joins of an arrangement where it says more', () => {
    const { measures } = tuneFrom('(DE)FG z4|')
    const ids = measures[0]!.events.map(e => e.id)
    expect(tones('(DE)FG z4|', { joined: new Set([ids[3]!]) }).map(t => t.slurredOn)).toEqual([
      false,
      false,
      true,
      false,
    ])
  })
  it('belong to a chromatic run from five by half steps one way', () => {
    expect(tones('D^DE=F^F2A2|').map(t => t.run)).toEqual([true, true, true, true, true, false])
    expect(tones('D^DEF G2A2|').map(t => t.run)).toEqual([false, false, false, false, false, false])
    // Up and back down are two runs, and the top is in both.
    expect(tones('D^DE=F^F=FE^D=D2z2|').map(t => t.run)).toEqual(Array(9).fill(true))
  })
  it('say where in the measure they lie', () => {
    expect(tones('D2E2F2G2|A8|').map(t => [t.measure, t.beatStrength])).toMatchObject([
      [1, 3],
      [1, 1],
      [1, 2],
      [1, 1],
      [2, 3],
    ])
  })
})

describe('what is between two tones', () => {
  it('hurries below half a second, fully at an eighth of one', () => {
    expect([1, QUICK, (QUICK + QUICKEST) / 2, QUICKEST, 0.01].map(hurry)).toEqual([
      0,
      0,
      expect.closeTo(0.5),
      1,
      1,
    ])
  })
  it('has the time of the tone and the rest after it', () => {
    expect(gaps('D2z2E4|')[0]).toMatchObject({ seconds: 2, free: 2, rest: 1, interval: 2, strong: true })
  })
  it('is free for as long as open strings sound before it', () => {
    const D4 = 62
    expect(gaps('D2D2D2E2|', s => s === D4).map(g => g.free)).toEqual([1, 2, 3])
    expect(gaps('D2D2D2E2|').map(g => g.free)).toEqual([1, 1, 1])
  })
  it('turns, comes back, or stays', () => {
    const [up, down] = gaps('D2E2D2z2|')
    expect(up).toMatchObject({ turns: true, returns: true, back: false, sameNotes: false })
    expect(down).toMatchObject({ turns: false, returns: false, back: true, interval: -2 })
    expect(gaps('D2E2F2z2|')[0]).toMatchObject({ turns: false, returns: false })
    expect(gaps('D2D2E2z2|')[0]).toMatchObject({ sameNotes: true, interval: 0 })
  })
  it('looks past repeated notes for where the line goes', () => {
    expect(gaps('D2E2E2D2|')[0]).toMatchObject({ turns: true, returns: true })
    expect(gaps('D2E2E2D2|')[2]).toMatchObject({ back: true })
  })
  it('is a step of a run where both are in it', () => {
    expect(gaps('D^DE=F^F2A2|').map(g => g.run)).toEqual([true, true, true, true, false])
  })
})

describe('slurs', () => {
  it('join every note to the one before but the first', () => {
    const tune = tuneFrom('(DEF)G (AB)cd|')
    const ids = tune.measures[0]!.events.map(e => e.id)
    expect([...slurredToPrevious(tune)]).toEqual([ids[1], ids[2], ids[5]])
  })
  it('are parted and made by an arrangement', () => {
    const tune = tuneFrom('(DEF)G (AB)cd|')
    const ids = tune.measures[0]!.events.map(e => e.id)
    const joined = joinedEvents(tune, { [ids[2]!]: false, [ids[7]!]: true, nowhere: false })
    expect([...joined].sort()).toEqual([ids[1], ids[5], ids[7]].sort())
    expect(slursOf(tune, joined)).toEqual([
      { from: ids[0], to: ids[1] },
      { from: ids[4], to: ids[5] },
      { from: ids[6], to: ids[7] },
    ])
  })
  it('of any joins say the same joins again', () => {
    const tune = tuneFrom('DEFG ABcd|dcBA GFED|')
    const ids = tune.measures.flatMap(m => m.events.map(e => e.id))
    fc.assert(
      fc.property(fc.subarray(ids.slice(1)), list => {
        const joined = new Set(list)
        expect(slurredToPrevious({ ...tune, slurs: slursOf(tune, joined) })).toEqual(joined)
      }),
    )
  })
  it('that end nowhere join nothing', () => {
    const tune = tuneFrom('DEFG|')
    expect(
      slurredToPrevious({ ...tune, slurs: [{ from: 'nowhere', to: tune.measures[0]!.events[1]!.id }] }).size,
    ).toBe(0)
    // The first event of a tune has none before it.
    expect(slursOf(tune, new Set([tune.measures[0]!.events[0]!.id]))).toEqual([])
  })
})

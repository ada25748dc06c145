import { describe, expect, it } from 'vitest'
import { MAY_ALL } from './schools'
import { bowed, bowedTune, tuneFrom } from './testing'

describe('what a teacher does with slurs that are there', () => {
  const marks = (music: string, o: Parameters<typeof bowed>[1] = {}) =>
    bowed(music, { may: MAY_ALL, ...o })
      .written.map(s => `${s.direction === 'down' ? 'D' : 'U'}${s.tones.length > 1 ? s.tones.length : ''}`)
      .join(' ')
  it('the pairs of a minuet are not made fours, by first beats or by the phrase', () => {
    const minuet = '(dc)(BA)(GF)|(EF)(GA)(Bc)|(dc)(BA)G2|F2 E2 D2|'
    for (const school of ['down', 'phrase'] as const)
      expect(
        marks(minuet, { metre: '3/4', school })
          .split(' ')
          .filter(m => /[4-9]/.test(m)),
        school,
      ).toEqual([])
  })
  it('where one triplet lies in one bow, all of them do', () => {
    const b = bowed('((3ABA) G2 F2 (3EFG|A2 (3dcB A2 F2|E2 (3GFE D2 F2|D8|', { may: MAY_ALL })
    const inOne = b.written.filter(s => s.tones.length === 3).length
    const parts = b.written.filter(s => s.tones.length === 2).length
    expect(parts).toBe(0)
    expect(inOne).toBeGreaterThanOrEqual(3)
  })
  it('phrases alike begin alike, where the school leaves it open', () => {
    const tune = tuneFrom('D2 E2 F2 z2|A2 G2 F2 E2|D2 E2 F2 z2|A2 F2 D4|')
    const id = (m: number) => tune.measures[m]!.events[0]!.id
    const starts = (kin: string | null) => {
      const b = bowedTune(tune, {
        school: 'separate',
        tempo: '1/4=66',
        may: MAY_ALL,
        phrases: new Map([
          [id(0), null],
          [id(2), kin],
        ]),
      })
      return [0, 2].map(m => b.strokes.find(s => s.tones.includes(id(m)))!.direction)
    }
    expect(starts(null)).toEqual(['down', 'up'])
    const [first, kin] = starts(id(0))
    expect(kin).toBe(first)
  })
  it('the last note comes down, where parting one slur of its measure does it', () => {
    const b = bowed('D2 E2 F2 G2|A2 F2 (ED) D2|', { may: { ...MAY_ALL, slur: false, hook: false } })
    expect(b.strokes.at(-1)!.direction).toBe('down')
    expect(b.strokes.flatMap(s => s.added.map(e => e.way))).toEqual(['part'])
    const kept = bowed('D2 (EF) G2 A2|A2 F2 E2 D2|', { may: { ...MAY_ALL, slur: false, hook: false } })
    expect(kept.strokes.flatMap(s => s.added)).toEqual([])
  })
})

import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { withPlayed, withShown } from '#core/arrangement/edits'
import { newArrangement, NO_PINS, type Played, type Shown } from '#core/arrangement/recipe'
import { tuneOf } from '#core/fingering/testing'
import { sizeOf } from '#core/instruments/instruments'
import type { InstrumentId } from '#core/music/tune'
import { tabModel, type TabEvent } from './tabModel'

function page(abc: string, id: InstrumentId, shown: Partial<Shown> = {}, played: Partial<Played> = {}) {
  const recipe = withShown(withPlayed(newArrangement(id, sizeOf(id).name), played), shown)
  return tabModel(derive(tuneOf(abc), recipe, ASSUMED_HANDS), recipe)
}
const events = (abc: string, id: InstrumentId, shown: Partial<Shown> = {}): readonly TabEvent[] =>
  page(abc, id, shown).measures.flatMap(m => m.events)
const digits = (list: readonly TabEvent[]) => list.flatMap(e => e.digits.map(d => d.text)).join(' ')

describe('places of fingers', () => {
  const g = 'K:G\nDEFG ABcd|'
  it('are unmarked at home, low and high marked', () =>
    expect(digits(events(g, 'violin'))).toBe('0 1 2 3 0 1 ‹2 3'))
  it('or 2 is always called high or low', () =>
    expect(digits(events(g, 'violin', { places: 'both' }))).toBe('0 1 2› 3 0 1 ‹2 3'))
  it('or go by the key: only what the key does not give is marked', () => {
    expect(digits(events(g, 'violin', { places: 'key' }))).toBe('0 1 2 3 0 1 2 3')
    expect(digits(events('K:G\nG A B ^c|', 'violin', { places: 'key' }))).toBe('3 0 1 2›')
  })
  it('or are not marked at all', () =>
    expect(digits(events(g, 'violin', { places: 'none' }))).toBe('0 1 2 3 0 1 2 3'))
  it('above first position half steps are marked instead', () => {
    const high = events("K:C\ne2ab c'bab|a4|", 'violin')
    expect(digits(high)).not.toMatch(/[‹›]/)
    const touching = high.flatMap((e, i) =>
      e.hand?.touches ? [`${e.digits[0]!.text}-${high[i + 1]!.digits[0]!.text}`] : [],
    )
    expect(touching).toEqual(['2-3', '3-2'])
  })
  it('of a cello are marked where the hand opens, unless nothing is to be', () => {
    const a = 'K:A clef=bass\nE,F,G,A,|'
    expect(digits(events(a, 'cello', { places: 'key' }))).toBe('1 x2 x4 0')
    expect(digits(events(a, 'cello', { places: 'none' }))).toBe('1 2 4 0')
  })
})

describe('shifts', () => {
  it('stand at the note the hand arrives at: towards the bridge or the nut, and what it goes by', () => {
    const moved = events('K:D\nDEFG ABcd|efga b2a2|gfed cBAG|D8|', 'violin').filter(e => e.shift)
    expect(moved.map(e => e.shift!.to)).toEqual([])
    const up = events(
      'K:C clef=bass\nC,2D,2 E,2F,2|G,2A,2 B,2C2|D2E2 F2G2|A2G2 F2E2|D2C2 B,2A,2|G,8|',
      'cello',
    ).filter(e => e.shift)
    expect(up[0]!.shift!.to).toBe('bridge')
    expect(up.at(-1)!.shift!.to).toBe('nut')
    // From first position to the third the first finger goes where the third was.
    const third = events("K:D\ne2ab d'bab|a4|", 'violin').filter(e => e.shift)
    expect(third.map(e => [e.shift!.to, e.shift!.landmark])).toEqual([['bridge', '1 where 3 was']])
  })
})

describe('positions', () => {
  const named = (abc: string, id: InstrumentId, shown: Partial<Shown> = {}) =>
    events(abc, id, shown).flatMap(e => e.position ?? [])
  const bass = 'K:C clef=bass\nG,A,_B,=B, CB,A,2|'
  it('are named as is usual: with halves on the bass, by number on the violin', () => {
    expect(named('K:C clef=bass\nG,^G,A,_B, =B,C^C2|', 'bass')).toEqual([
      'half pos.',
      'second-and-a-half pos.',
    ])
    expect(named("K:D\ne2ab d'bab|a4|", 'violin')).toEqual(['third pos.'])
  })
  it('or on the bass by numbers with lower and upper', () =>
    expect(named(bass, 'bass', { positions: 'numbers' })).toEqual(['lower second pos.', 'first pos.']))
  it('or by the note of the first finger, spelled as the key is', () => {
    expect(named(bass, 'bass', { positions: 'note' })).toEqual(['1 on A#', '1 on A'])
    expect(named('K:F clef=bass\nCDEF EDC2|', 'cello', { positions: 'note' })).toEqual(['1 on E', '1 on B'])
  })
})

describe('tab lines', () => {
  const line = (m: ReturnType<typeof page>) => m.measures.flatMap(x => x.events)[0]!.digits[0]!.line
  it('have the highest string on top, or the lowest', () => {
    const down = page('K:D\ndcBA|', 'violin', { tabLines: 'lowest' })
    expect(page('K:D\ndcBA|', 'violin').lineLabels).toEqual(['E', 'A', 'D', 'G'])
    expect(down.lineLabels).toEqual(['G', 'D', 'A', 'E'])
    expect(line(page('K:D\ndcBA|', 'violin'))).toBe(1)
    expect(line(down)).toBe(2)
  })
})

describe('the hand beside its fingers', () => {
  const marks = (abc: string, id: InstrumentId = 'violin') => events(abc, id).map(e => e.hand)
  it('shows what stays down, up to the note it is wanted for', () => {
    const [first, , third] = events('K:D\nFAFA F4|', 'violin')
    expect(first!.hand).toMatchObject({ hold: third!.id })
  })
  it('shows one finger laid over two strings from its first note to its last', () => {
    const list = events('K:D\nFcFc d2d2|', 'violin')
    expect(list[0]!.hand).toMatchObject({ block: list[3]!.id })
    expect(list.slice(1, 4).every(e => e.hand?.block === undefined)).toBe(true)
  })
  it('prepares a finger on its own string while another one sounds open, and tells a hop and a slide', () => {
    expect(marks('K:D\nBAFG|')[1]).toMatchObject({ prepare: true })
    expect(marks('K:D\nDFDF|')[0]).toBeUndefined()
    const second = { n2: { string: 2, finger: 2 as const }, n3: { string: 1, finger: 2 as const } }
    const hop = page('K:D\nF=c|', 'violin', {}, { pins: { ...NO_PINS, fingers: second } })
    expect(hop.measures[0]!.events[1]!.hand).toMatchObject({ arrives: 'hop' })
    expect(marks('K:D\nd^c=cB|')[2]).toMatchObject({ arrives: 'slide' })
  })
  it('fingers grace notes', () => expect(marks('K:D\n{gf}e2 d2|')[0]).toMatchObject({ grace: ['‹2', '1'] }))
})

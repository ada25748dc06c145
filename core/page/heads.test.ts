import { describe, expect, it } from 'vitest'
import { tuneOf } from '#core/fingering/testing'
import { aheadOf, headOf, headsOf } from './heads'
import { GLYPHS, PLAIN_MEASURER } from './measurer'
import { notate } from './notation'

/** In staff spaces, so that widths are those of the glyphs. */
const one = {
  measurer: PLAIN_MEASURER,
  space: 1,
  rows: { fingers: true, bows: true, tab: true, chords: true },
}
const tab = { ...one, tabAlone: true }
const measures = (abc: string) => notate(tuneOf(abc)).measures
const CLEF = GLYPHS.clef + 0.6

describe('what stands before a measure', () => {
  it('is clef and key where a line begins, and the metre where it is new', () => {
    const [first, second] = measures('M:4/4\nK:A\nABcd efga|ABcd efga|')
    expect(headOf(first!, undefined, true, one)).toEqual({
      clef: true,
      key: true,
      cancels: null,
      metre: true,
      width: expect.closeTo(CLEF + 0.8 + 3 + GLYPHS.metre),
    })
    expect(headOf(second!, first, true, one)).toEqual({
      clef: true,
      key: true,
      cancels: null,
      metre: false,
      width: expect.closeTo(CLEF + 0.8 + 3),
    })
    expect(headOf(second!, first, false, one)).toEqual({
      clef: false,
      key: false,
      cancels: null,
      metre: false,
      width: 0,
    })
  })
  it('is within a line what changes there, with naturals for what no longer holds', () => {
    const [sharps, flats, fewer, same] = measures(
      'M:4/4\nK:A\nABcd efga|[K:F]ABcd efga|[K:C]ABcd efga|[K:Am]A8|',
    )
    expect(headOf(flats!, sharps, false, one)).toMatchObject({ key: true, width: 0.8 + 1 + 3 + 0.4 })
    expect(headOf(flats!, sharps, false, one).cancels).toEqual(sharps!.placed.key)
    expect(headOf(fewer!, flats, false, one)).toMatchObject({ key: true, width: 0.8 + 1 + 0.4 })
    // The same signature under another name is not new.
    expect(headOf(same!, fewer, false, one)).toMatchObject({ key: false, cancels: null, width: 0 })
    // At the beginning of a line the one before it has taken them back.
    expect(headOf(flats!, sharps, true, one)).toMatchObject({
      key: true,
      cancels: null,
      width: CLEF + 0.8 + 1,
    })
  })
  it('leaves room for each digit of a metre', () => {
    const width = (metre: string) => headOf(measures(`M:${metre}\nK:C\nD|`)[0]!, undefined, true, tab).width
    expect(width('12/8') - width('9/8')).toBeCloseTo(GLYPHS.metreDigit)
    expect(width('3/16') - width('3/8')).toBeCloseTo(GLYPHS.metreDigit)
    expect(width('2/4')).toBeCloseTo(0.6 + GLYPHS.metre)
  })
  it('has air before a repeat only where something stands before it', () => {
    const [first, plain, repeat] = measures('M:4/4\nK:C\nABcd efga|ABcd efga|:ABcd efga:|')
    expect(headOf(repeat!, plain, false, one).width).toBeCloseTo(GLYPHS.repeat)
    expect(headOf(repeat!, plain, true, one).width).toBeCloseTo(CLEF + 0.8 + GLYPHS.repeat + 1.1)
    const [again] = measures('M:4/4\nK:C\n|:ABcd efga:|')
    expect(headOf(again!, undefined, true, tab).width).toBeCloseTo(0.6 + GLYPHS.metre + GLYPHS.repeat + 1.1)
    expect(headOf(repeat!, first, true, tab).width).toBeCloseTo(0.6 + GLYPHS.repeat)
  })
  it('of tab alone is no clef and no signature', () => {
    const [sharps, flats] = measures('M:4/4\nK:A\nABcd efga|[K:F]ABcd efga|')
    expect(headOf(sharps!, undefined, true, tab)).toMatchObject({ clef: false, key: false, metre: true })
    expect(headOf(flats!, sharps, false, tab)).toEqual({
      clef: false,
      key: false,
      cancels: null,
      metre: false,
      width: 0,
    })
  })
  it('of a line goes from measure to measure, and from the line before', () => {
    const all = measures('M:4/4\nK:A\nABcd efga|[K:C]ABcd efga|[M:2/4]ABcd|')
    expect(headsOf(all, undefined, one).map(h => [h.clef, h.key, h.metre])).toEqual([
      [true, true, true],
      [false, true, false],
      [false, false, true],
    ])
    expect(headsOf(all.slice(1), all[0], one).map(h => [h.clef, h.key, h.metre])).toEqual([
      [true, true, false],
      [false, false, true],
    ])
  })
})

describe('what a line announces', () => {
  const [sharps, flats, metre, both] = measures(
    'M:4/4\nK:A\nABcd efga|[K:F]ABcd efga|[M:12/8]A12|[K:C][M:3/4]A6|',
  )
  it('is nothing where the next goes on as it is, where there is none, and in tab alone', () => {
    expect(aheadOf(sharps!, sharps, one)).toBeNull()
    expect(aheadOf(sharps!, undefined, one)).toBeNull()
    expect(aheadOf(sharps!, flats, tab)).toBeNull()
  })
  it('is the key, the metre, or both, with room for them', () => {
    expect(aheadOf(sharps!, flats, one)).toEqual({
      key: flats!.placed.key,
      cancels: sharps!.placed.key,
      metre: null,
      width: expect.closeTo(0.8 + 4 + 0.4 + 0.6),
    })
    expect(aheadOf(flats!, metre, one)).toEqual({
      key: null,
      cancels: null,
      metre: metre!.placed.metre,
      width: expect.closeTo(GLYPHS.metre + GLYPHS.metreDigit + 0.6),
    })
    expect(aheadOf(metre!, both, { ...one, space: 2 })!.width).toBeCloseTo(
      2 * (0.8 + 1 + 0.4 + GLYPHS.metre + 0.6),
    )
  })
})

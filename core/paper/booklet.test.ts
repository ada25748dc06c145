import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PLAIN_MEASURER } from '#core/page/measurer'
import { MARGIN, PAPERS } from '#core/page/paper'
import type { Page } from '#core/page/sheet'
import { again, bookletSchema, bookletSheet, moved, newBooklet, withTunes } from '#core/styles/booklet'
import { DEFAULT_SHEET, STYLES } from '#core/styles/sheetRecipe'
import { contentsPages, emptyPage, numbersOf, type BookletEntry } from './booklet'

const entry = (title: string, pages = 1): BookletEntry => ({ title, about: 'violin', pages })
const words = { title: 'Autumn term', about: 'Saturday group' }
const o = { paper: 'A4', measurer: PLAIN_MEASURER } as const
const textsOf = (p: Page) =>
  p.blocks.flatMap(b =>
    b.kind === 'text'
      ? b.lines.map(l => l.text)
      : b.kind === 'shapes'
        ? b.shapes.flatMap(s => (s.kind === 'text' ? [s.text] : []))
        : [],
  )

describe('page numbers', () => {
  it('go through, the contents counted with them', () => {
    expect(numbersOf([entry('a'), entry('b', 2), entry('c')], 1, false)).toEqual({
      starts: [2, 3, 5],
      blankBefore: [false, false, false],
      pages: 5,
    })
  })
  it('leave a page empty so that two pages of one tune face each other', () => {
    const { starts, blankBefore, pages } = numbersOf([entry('a'), entry('b', 2), entry('c')], 1, true)
    expect([starts, blankBefore, pages]).toEqual([[2, 4, 6], [false, true, false], 6])
  })
  it('never fall on each other, and what has several pages faces when it shall', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 4 })),
        fc.nat(3),
        fc.boolean(),
        (pages, before, facing) => {
          const list = pages.map(n => ({ pages: n }))
          const { starts, blankBefore, pages: all } = numbersOf(list, before, facing)
          let next = before + 1
          list.forEach((e, i) => {
            expect(starts[i]).toBe(next + (blankBefore[i] ? 1 : 0))
            if (facing && e.pages > 1) expect(starts[i]! % 2).toBe(0)
            next = starts[i]! + e.pages
          })
          expect(all).toBe(next - 1)
        },
      ),
    )
  })
})

describe('contents', () => {
  it('name title, tunes, who they are by and their pages', () => {
    const [page, ...more] = contentsPages(
      words,
      [entry('Goose Gate Jog'), entry('Little Bell Round')],
      [2, 3],
      o,
    )
    expect(more).toEqual([])
    expect(textsOf(page!)).toEqual([
      'Autumn term',
      'Saturday group',
      'Goose Gate Jog',
      'violin',
      '2',
      'Little Bell Round',
      'violin',
      '3',
      'Autumn term',
      '1',
    ])
  })
  it('of many tunes take several pages, as many with numbers as without, and nothing leaves the paper', () => {
    const many = Array.from({ length: 90 }, (_, i) =>
      entry(`A tune with a title that is rather long, number ${i}, and goes on until it has to be broken`),
    )
    const pages = contentsPages(
      words,
      many,
      many.map((_, i) => 100 + i),
      o,
    )
    expect(pages.length).toBeGreaterThan(2)
    expect(contentsPages(words, many, [], o)).toHaveLength(pages.length)
    const { width, height } = PAPERS.A4
    for (const b of pages.flatMap(p => p.blocks)) {
      expect(b.y + b.height).toBeLessThanOrEqual(height)
      if (b.kind === 'shapes') expect(b.y + b.height).toBeLessThanOrEqual(height - MARGIN + 1e-9)
      const right =
        b.kind === 'shapes'
          ? b.shapes.flatMap(s =>
              s.kind === 'text' && s.anchor === 'start' ? [b.x + s.x + PLAIN_MEASURER.text(s.text, s)] : [],
            )
          : []
      for (const r of right) expect(r).toBeLessThanOrEqual(width - MARGIN)
    }
  })
  it('without a title still say what they are; an empty booklet has a page', () => {
    const [page] = contentsPages({ title: '', about: '' }, [], [], o)
    expect(textsOf(page!)).toEqual(['Booklet', '1'])
    expect(textsOf(emptyPage('', 4, { paper: 'Letter', measurer: PLAIN_MEASURER }))).toEqual(['4'])
  })
})

describe('a booklet', () => {
  const b = newBooklet('b1', ['t1', 't2', 't3'])
  const order = (x: typeof b) => x.tunes.map(t => t.tune)
  it('takes tunes once, and they move within the list', () => {
    expect(order(withTunes(b, ['t3', 't4']))).toEqual(['t1', 't2', 't3', 't4'])
    expect(order(moved(b, 0, 1))).toEqual(['t2', 't1', 't3'])
    expect(order(moved(b, 0, -1))).toEqual(['t1', 't2', 't3'])
    expect(order(moved(b, 1, 9))).toEqual(['t1', 't3', 't2'])
    expect(order(moved(b, 7, 1))).toEqual(['t1', 't2', 't3'])
    expect(
      withTunes(
        b,
        Array.from({ length: 300 }, (_, i) => `n${i}`),
      ).tunes,
    ).toHaveLength(200)
    expect(bookletSchema.parse(b)).toEqual(b)
  })
  it('prints all in one style when it has one, breaks and the line below stay the tune’s own', () => {
    const own = { ...DEFAULT_SHEET, breaks: { m4: 'line' as const }, under: 'a2' }
    expect(bookletSheet(own, { style: null, paper: 'Letter' })).toEqual({ ...own, paper: 'Letter' })
    expect(bookletSheet(own, { style: STYLES[1]!, paper: 'A4' })).toMatchObject({
      style: 'Orchestra stand',
      breaks: { m4: 'line' },
      under: 'a2',
      paper: 'A4',
    })
  })
  it('takes a tune once more in an arrangement that is not in it yet', () => {
    const b = newBooklet('b', ['x', 'y'])
    const twice = again(b, 0, ['violin', 'cello', 'bass'])
    expect(twice.tunes).toEqual([
      { tune: 'x', arrangement: null },
      { tune: 'x', arrangement: 'cello' },
      { tune: 'y', arrangement: null },
    ])
    expect(again(twice, 1, ['violin', 'cello', 'bass']).tunes[2]).toEqual({ tune: 'x', arrangement: 'bass' })
    expect(again(b, 0, ['violin'])).toBe(b)
    expect(again(b, 7, ['violin', 'cello'])).toBe(b)
    const most = newBooklet(
      'b',
      Array.from({ length: 200 }, (_, i) => `t${i}`),
    )
    expect(again(most, 0, ['violin', 'cello'])).toBe(most)
  })
})

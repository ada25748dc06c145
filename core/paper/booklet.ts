/** A booklet's own pages and numbers: contents first, then the sheets of its tunes, numbered through. */
import type { Mm } from '#core/instruments/instruments'
import { paragraph, rowsOf, type Shape } from '#core/page/flow'
import { fitted, POINT, type TextLine } from '#core/page/heading'
import type { Measurer } from '#core/page/measurer'
import { MARGIN, PAPERS, type Paper } from '#core/page/paper'
import { FOOT, type Block, type Page } from '#core/page/sheet'

/** A line of the contents. */
export interface BookletEntry {
  readonly title: string
  /** Who it is by, for what instrument. */
  readonly about: string
  readonly pages: number
}
export interface BookletWords {
  readonly title: string
  readonly about: string
}

const TITLE = 24 * POINT
const ABOUT = 11 * POINT
const ENTRY = 12.5 * POINT
const SMALL = 9 * POINT
const NUMBER = 9 * POINT
/** Between two entries, between title and first entry, and between a text and its leader. */
const GAP: Mm = 2.6
const UNDER_TITLE: Mm = 9
const LEADER_GAP: Mm = 2
/** Room for the page number on the right. */
const NUMBER_ROOM: Mm = 14

/**
 * By entry the number of its first page, and whether the page before it stays empty; then how many pages
 * there are.
 */
export interface Numbers {
  readonly starts: readonly number[]
  readonly blankBefore: readonly boolean[]
  readonly pages: number
}

/**
 * Pages are counted from 1, the contents with them. Facing: what has several pages begins on an even one, so
 * that it opens as a spread.
 */
export function numbersOf(
  entries: readonly Pick<BookletEntry, 'pages'>[],
  contents: number,
  facing: boolean,
): Numbers {
  let next = contents + 1
  const starts: number[] = []
  const blankBefore = entries.map(({ pages }) => {
    const blank = facing && pages > 1 && next % 2 === 1
    if (blank) next++
    starts.push(next)
    next += pages
    return blank
  })
  return { starts, blankBefore, pages: next - 1 }
}

export interface ContentsOptions {
  readonly paper: Paper
  readonly measurer: Measurer
}

/**
 * The contents, on as many pages as they need, at least one. `starts` are the page numbers; how many pages
 * there are does not depend on them.
 */
export function contentsPages(
  words: BookletWords,
  entries: readonly BookletEntry[],
  starts: readonly number[],
  o: ContentsOptions,
): Page[] {
  const { width, height } = PAPERS[o.paper]
  const inner = width - 2 * MARGIN
  const head = headBlock(words, inner, o.measurer)
  const pages: Block[][] = [[head]]
  let y = MARGIN + head.height + UNDER_TITLE
  entries.forEach((entry, i) => {
    const block = entryBlock(entry, starts[i], inner, o.measurer)
    if (y + block.height > height - MARGIN && pages.at(-1)!.length > 0) {
      pages.push([])
      y = MARGIN
    }
    pages.at(-1)!.push(placedAt(block, y))
    y += block.height + GAP
  })
  return pages.map((blocks, i) => ({
    width,
    height,
    blocks: [...blocks, footBlock(words.title, i + 1, inner, height, o.measurer)],
  }))
}

type Shapes = Block & { readonly kind: 'shapes' }
const shapesBlock = (shapes: readonly Shape[], width: Mm, height: Mm): Shapes => ({
  kind: 'shapes',
  shapes,
  x: MARGIN,
  y: MARGIN,
  width,
  height,
})
const placedAt = (b: Shapes, y: Mm): Shapes => ({ ...b, y })
const textShape = (l: TextLine): Shape => ({ kind: 'text', ...l })

function headBlock({ title, about }: BookletWords, width: Mm, measurer: Measurer): Shapes {
  const main = rowsOf(paragraph(title || 'Booklet', TITLE, { bold: true, before: 6 }), width, measurer)
  const under = about ? rowsOf(paragraph(about, ABOUT, { before: 2 }), width, measurer) : null
  const lines = [...main.lines, ...(under?.lines ?? []).map(l => ({ ...l, y: l.y + main.height }))]
  return shapesBlock(lines.map(textShape), width, main.height + (under?.height ?? 0))
}

function entryBlock(
  { title, about }: BookletEntry,
  page: number | undefined,
  width: Mm,
  measurer: Measurer,
): Shapes {
  const room = width - NUMBER_ROOM
  const main = rowsOf(paragraph(title || 'Untitled', ENTRY, { bold: true }), room, measurer)
  const under = about ? rowsOf(paragraph(about, SMALL), room, measurer) : null
  const last = main.lines.at(-1)!
  const from = last.x + measurer.text(last.text, { size: ENTRY, bold: true }) + LEADER_GAP
  const number = page === undefined ? '' : String(page)
  const to = width - measurer.text(number, { size: ENTRY }) - LEADER_GAP
  const shapes: Shape[] = [
    ...main.lines.map(textShape),
    ...(under?.lines ?? []).map(l => textShape({ ...l, y: l.y + main.height, quiet: true })),
    ...(to > from
      ? [
          {
            kind: 'line' as const,
            x1: from,
            x2: to,
            y1: last.y - 0.4,
            y2: last.y - 0.4,
            width: 0.2,
            dashed: true as const,
          },
        ]
      : []),
    textShape({ x: width, y: last.y, text: number, size: ENTRY, anchor: 'end' }),
  ]
  return shapesBlock(shapes, width, main.height + (under?.height ?? 0))
}

/** The number at the outer edge, the title of the booklet in the middle. */
export function bookletFoot(title: string, page: number, width: Mm, measurer: Measurer): TextLine[] {
  const number: TextLine = {
    x: page % 2 === 1 ? width : 0,
    y: 0,
    text: String(page),
    size: NUMBER,
    anchor: page % 2 === 1 ? 'end' : 'start',
  }
  const name: TextLine = {
    x: width / 2,
    y: 0,
    ...fitted(title, { size: 7 * POINT }, width - 2 * NUMBER_ROOM, measurer),
    anchor: 'middle',
    quiet: true,
  }
  return title ? [name, number] : [number]
}

const footBlock = (title: string, page: number, width: Mm, height: Mm, measurer: Measurer): Block => ({
  kind: 'text',
  lines: bookletFoot(title, page, width, measurer),
  x: MARGIN,
  y: height - FOOT,
  width,
  height: FOOT,
})

/** A page left empty, but for its number. */
export function emptyPage(title: string, page: number, { paper, measurer }: ContentsOptions): Page {
  const { width, height } = PAPERS[paper]
  return { width, height, blocks: [footBlock(title, page, width - 2 * MARGIN, height, measurer)] }
}

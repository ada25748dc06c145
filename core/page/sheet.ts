/**
 * The sheet as data: pages of blocks in millimetres. How wide text and signs are, and how high a system comes
 * out, is told by whoever draws; screen, print and PDF draw these same blocks.
 */
import type { Mm } from '#core/instruments/instruments'
import type { Tempo } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import type { Scale } from './columns'
import { rowsOf, type Paragraph, type Picture, type Shape } from './flow'
import { estimatedHeight } from './heights'
import { headingLines, POINT, runningLines, type SheetWords, type TextLine } from './heading'
import type { Measurer } from './measurer'
import { HEADING, MARGIN, PAPERS, RUNNING_HEADING, type Paper } from './paper'
import { beginningOf, linesWithPhrases, systemsOf, type Breaks, type PagePart, type System } from './systems'

interface Placed {
  readonly x: Mm
  readonly y: Mm
  readonly width: Mm
  readonly height: Mm
}
export type Block = Placed &
  (
    | { readonly kind: 'text'; readonly lines: readonly TextLine[] }
    | { readonly kind: 'shapes'; readonly shapes: readonly Shape[] }
    /** Which music of the sheet, and which of its systems. */
    | { readonly kind: 'system'; readonly music: number; readonly system: number }
  )

/** Parts that stand under each other; or a stretch of them. */
export interface Music {
  readonly parts: readonly PagePart[]
  readonly range?: readonly [from: number, to: number]
  readonly breaks?: Breaks
}

/** What follows one another down the pages. */
export type Section = { readonly newPage?: boolean } & (
  | {
      readonly kind: 'music'
      readonly music: Music
      readonly title?: string
      readonly note?: string
      readonly framed?: boolean
      readonly under?: (width: Mm, measurer: Measurer) => Picture
    }
  | { readonly kind: 'text'; readonly paragraphs: readonly Paragraph[] }
  /** Drawn for the width there is. */
  | {
      readonly kind: 'picture'
      readonly draw: (width: Mm, measurer: Measurer) => Picture
      readonly title?: string
    }
)

export interface Page {
  readonly width: Mm
  readonly height: Mm
  readonly blocks: readonly Block[]
}

export interface Sheet {
  readonly paper: Paper
  /** Distance of two staff lines. */
  readonly space: Mm
  /** The systems of each music, in the order of the sections. */
  readonly systems: readonly (readonly System[])[]
  readonly pages: readonly Page[]
  /** By music: height of a system in staff spaces, on the average. */
  readonly heights: readonly number[]
}

export type SheetSize = 'fit' | 'stand' | 'large' | 'larger' | 'largest'

export interface SheetOptions extends Omit<Scale, 'space'> {
  readonly paper: Paper
  readonly words: SheetWords
  readonly tempo: Tempo
  readonly size: SheetSize
  readonly tabAlone?: boolean
  /** Room a drawing takes beside the staff, in staff spaces: letters of the strings. */
  readonly beside: number
  /** What stands at the foot of a page, counted from 1; "2 of 3" where there are several when not given. */
  readonly foot?: (page: number, of: number, width: Mm) => readonly TextLine[]
  /** Height of a system as it is drawn: the music, the system, its index. */
  readonly heightOf: (music: number, system: System, index: number, space: Mm) => Mm
}

/** Distance of two staff lines: on a stand a little closer than on screen, and large print. */
export const SHEET_SPACE: Mm = 1.96
const SPACES: Readonly<Record<Exclude<SheetSize, 'fit'>, Mm>> = {
  stand: SHEET_SPACE,
  large: 2.5,
  larger: 3.1,
  largest: 3.9,
}
/**
 * What fills a page is tried from the largest down; smaller than a pupil reads on a stand only where a page
 * is saved by it.
 */
const FITTING: readonly Mm[] = [2.6, 2.4, 2.2, 2.08, SHEET_SPACE, 1.84, 1.7]
/** Air under every system; and the most that is added where a page has room left. */
const GAP: Mm = 2.1
const MOST_EXTRA: Mm = 9
/** From the lower edge up to the line at the foot. */
export const FOOT: Mm = 7.7
const TITLE = 11 * POINT
const NOTE = 9 * POINT
/** Around what is framed: a card to be cut out. */
const FRAME: Mm = 3

/**
 * Lays sections out on paper. What is left of a page of music is shared out between its systems, up to a
 * little more than they need.
 */
export function sheetOf(sections: readonly Section[], o: SheetOptions): Sheet {
  if (o.size !== 'fit') return laidOut(sections, o, SPACES[o.size])
  let each: readonly number[] = estimates(sections, o)
  const tried = new Map<Mm, Sheet>()
  // Drawn at the size that seems right; heights as they came out may tell of another.
  for (;;) {
    const space = fitting(sections, o, each)
    const known = tried.get(space)
    if (known) return known
    const sheet = laidOut(sections, o, space)
    tried.set(space, sheet)
    each = sheet.heights
  }
}

/**
 * By music: the height of a system in staff spaces, as it is guessed where nothing was drawn yet; drawings
 * come out a little higher.
 */
const HIGHER = 1.08
const estimates = (sections: readonly Section[], o: SheetOptions): number[] =>
  sections.flatMap(s => {
    if (s.kind !== 'music') return []
    const list = systemsOf(s.music.parts, optionsAt(s.music, o, SHEET_SPACE))
    const sum = list.reduce((t, system) => t + estimatedHeight(s.music.parts, system, 1, o), 0)
    return [(HIGHER * sum) / Math.max(1, list.length)]
  })

/** The largest size at which no more pages are filled than must be, and no more phrases torn than usual. */
function fitting(sections: readonly Section[], o: SheetOptions, each: readonly number[]): Mm {
  const main = sections.find(s => s.kind === 'music')
  const [lead] = main?.kind === 'music' ? main.music.parts : []
  if (main?.kind !== 'music' || !lead || lead.notated.measures.length === 0) return SHEET_SPACE
  const guess = { ...o, heightOf: (music: number, _s: System, _i: number, space: Mm) => each[music]! * space }
  const pagesAt = (space: Mm) => laidOut(sections, guess, space).pages.length
  const pages = Math.min(pagesAt(SHEET_SPACE), pagesAt(FITTING.at(-1)!))
  const whole = (space: Mm) => {
    const list = systemsOf(main.music.parts, optionsAt(main.music, o, space))
    return linesWithPhrases(list, lead) / list.length
  }
  const least = whole(SHEET_SPACE)
  return (
    FITTING.find(
      space => (space === SHEET_SPACE || whole(space) >= least - 1e-9) && pagesAt(space) <= pages,
    ) ?? SHEET_SPACE
  )
}

/** By music: height of a system, in staff spaces, as they are on the average. */
function heightsPerSpace(pages: readonly Page[], systems: Sheet['systems'], space: Mm): number[] {
  const sums = systems.map(() => 0)
  for (const b of pages.flatMap(p => p.blocks)) if (b.kind === 'system') sums[b.music]! += b.height
  return sums.map((sum, i) => sum / Math.max(1, systems[i]!.length) / space)
}

const innerOf = (paper: Paper) => PAPERS[paper].width - 2 * MARGIN

const optionsAt = ({ range, breaks }: Music, o: SheetOptions, space: Mm, less = 0) => ({
  ...o,
  space,
  width: innerOf(o.paper) - o.beside * space - less,
  ...(range && { range }),
  ...(breaks && { breaks }),
})

/** Something of a certain height that is not parted over two pages. */
interface Item {
  readonly height: Mm
  readonly blocks: readonly Block[]
  /** Takes a share of the room that is left. */
  readonly grows: boolean
  readonly newPage: boolean
  /** Stays with the one after it: a title. */
  readonly leads?: true
  /** Other lines of the same music there are. */
  readonly among?: boolean
  /** How bad it is to turn the page before it, from 0 to 1. */
  readonly turn?: number
}

/** How bad it is to turn the page before a line, by what begins with it. */
const TURN = { part: 0, phrase: 0.3, none: 1 } as const
/** A page left empty; a line of music by itself on a page, though others belong to it. */
const EMPTY = 1.2
const ALONE = 0.8
/** A title at the foot of a page. */
const TITLE_ALONE = 10

function laidOut(sections: readonly Section[], o: SheetOptions, space: Mm): Sheet {
  const systems: (readonly System[])[] = []
  const items = sections.flatMap((s): Item[] => {
    const newPage = s.newPage ?? false
    if (s.kind === 'text') return textItems(s.paragraphs, o, newPage)
    if (s.kind === 'picture') return pictureItems(s, o, newPage)
    const music = systems.length
    const list = systemsOf(s.music.parts, optionsAt(s.music, o, space, s.framed ? 2 * FRAME : 0))
    systems.push(list)
    const begins = beginningOf(s.music.parts[0]!)
    const made = list.map((system, i) => {
      const first = s.music.parts[0]!.notated.measures[system.measures[0]!.index]!.placed.measure.id
      const item = systemItem(
        music,
        system,
        i,
        o.heightOf(music, system, i, space),
        (newPage && i === 0) || s.music.breaks?.[first] === 'page',
      )
      return { ...item, among: list.length > 1, turn: i === 0 ? 0 : TURN[begins(system) ?? 'none'] }
    })
    return s.framed
      ? [framed(made, s, o, newPage)]
      : [
          ...titleItem(s, o, newPage),
          ...made.map((m, i) => (i === 0 && s.title ? { ...m, newPage: false } : m)),
        ]
  })
  const main = sections.find(s => s.kind === 'music')
  const tune = main?.kind === 'music' ? main.music.parts[0]!.notated.tune : null
  const pages = paged(items, tune, o)
  return { paper: o.paper, space, systems, pages, heights: heightsPerSpace(pages, systems, space) }
}

const systemItem = (music: number, system: System, index: number, height: Mm, newPage: boolean): Item => ({
  height: height + GAP,
  blocks: [{ kind: 'system', music, system: index, x: 0, y: 0, width: system.width, height }],
  grows: true,
  newPage,
})

const textBlock = (lines: readonly TextLine[], width: Mm, height: Mm, y = 0): Block => ({
  kind: 'text',
  lines,
  x: 0,
  y,
  width,
  height,
})

function titleItem(
  { title, note }: { title?: string; note?: string },
  o: SheetOptions,
  newPage: boolean,
): Item[] {
  if (!title) return []
  const lines: TextLine[] = [
    { x: 0, y: TITLE + 2.5, text: title, size: TITLE, anchor: 'start', bold: true },
    ...(note ? [{ x: 0, y: TITLE + NOTE + 3.6, text: note, size: NOTE, anchor: 'start' as const }] : []),
  ]
  const height = TITLE + 4.5 + (note ? NOTE + 1 : 0)
  return [
    { height, blocks: [textBlock(lines, innerOf(o.paper), height)], grows: false, newPage, leads: true },
  ]
}

function textItems(paragraphs: readonly Paragraph[], o: SheetOptions, newPage: boolean): Item[] {
  const width = innerOf(o.paper)
  return paragraphs.map((p, i): Item => {
    const { lines, height } = rowsOf(p, width, o.measurer)
    return { height, blocks: [textBlock(lines, width, height)], grows: false, newPage: newPage && i === 0 }
  })
}

function pictureItems(s: Section & { kind: 'picture' }, o: SheetOptions, newPage: boolean): Item[] {
  const title = titleItem(s, o, newPage)
  return [...title, { ...pictureItem(s.draw, o), newPage: newPage && title.length === 0 }]
}

function pictureItem(draw: (width: Mm, measurer: Measurer) => Picture, o: SheetOptions, less = 0): Item {
  const width = innerOf(o.paper) - less
  const { shapes, height } = draw(width, o.measurer)
  return {
    height: height + 2,
    blocks: [{ kind: 'shapes', shapes, x: 0, y: 0, width, height }],
    grows: false,
    newPage: false,
  }
}

/** Title and systems in one frame with a dashed line to cut along. */
function framed(
  made: readonly Item[],
  s: Section & { kind: 'music' },
  o: SheetOptions,
  newPage: boolean,
): Item {
  const title = titleItem(s, o, false)
  const picture = s.under ? [pictureItem(s.under, o, 2 * FRAME)] : []
  let y = FRAME
  const blocks = [...title, ...made, ...picture].flatMap(item => {
    const placed = item.blocks.map(b => ({ ...b, x: b.x + FRAME, y: b.y + y }))
    y += item.height
    return placed
  })
  const [w, h] = [innerOf(o.paper), y + FRAME - GAP]
  const frame: Block = {
    kind: 'shapes',
    shapes: [{ kind: 'box', x: 0, y: 0, w, h, round: 2, filled: false, dashed: true }],
    x: 0,
    y: 0,
    width: w,
    height: h,
  }
  return { height: h + 4, blocks: [frame, ...blocks], grows: false, newPage }
}

/**
 * Items on as few pages as hold them; of the ways to do that the one with the least badness: pages turn where
 * a part or a phrase ends, no line stands alone, and no page is left emptier than it need be. What is too
 * high for a page has one of its own. Linear in the items: a page holds but few.
 */
function turned(items: readonly Item[], roomAt: (first: boolean) => Mm): Item[][] {
  const best: { pages: number; cost: number; from: number }[] = [{ pages: 0, cost: 0, from: 0 }]
  for (let to = 1; to <= items.length; to++) {
    let found = { pages: Infinity, cost: Infinity, from: to - 1 }
    let used = 0
    for (let from = to - 1; from >= 0; from--) {
      const first = items[from]!
      const room = roomAt(from === 0)
      used += first.height
      if (used > room + 1e-9 && to - from > (first.leads ? 2 : 1)) break
      const [pages, cost] = [
        best[from]!.pages + 1,
        best[from]!.cost + badness(items.slice(from, to), items[to], used / room),
      ]
      if (pages < found.pages || (pages === found.pages && cost < found.cost)) found = { pages, cost, from }
      if (first.newPage) break
    }
    best[to] = found
  }
  const out: Item[][] = []
  for (let to = items.length; to > 0; to = best[to]!.from) out.unshift(items.slice(best[to]!.from, to))
  return out.length > 0 ? out : [[]]
}

/** Of a page that is so full, and what begins the next one. */
function badness(page: readonly Item[], next: Item | undefined, full: number): number {
  const lines = page.filter(i => i.grows)
  const alone = lines.length === 1 && lines[0]!.among ? ALONE : 0
  const titled = next && page.at(-1)!.leads ? TITLE_ALONE : 0
  return alone + titled + (next ? (next.turn ?? 0) + EMPTY * Math.max(0, 1 - full) ** 2 : 0)
}

/** Items on pages, in order; every page holds at least one, and an empty sheet still has a page. */
function paged(items: readonly Item[], tune: Tune | null, o: SheetOptions): Page[] {
  const { width, height } = PAPERS[o.paper]
  const inner = innerOf(o.paper)
  const topOf = (page: number) => MARGIN + (page === 0 ? HEADING * 0.86 : RUNNING_HEADING / 2)
  const taken = turned(items, first => height - MARGIN - topOf(first ? 0 : 1))
  return taken.map((list, i): Page => {
    const top = topOf(i)
    const lines = tune
      ? i === 0
        ? headingLines(tune, o.tempo, o.words, inner, o.measurer)
        : runningLines(tune, inner, o.measurer)
      : []
    const used = list.reduce((t, item) => t + item.height, 0)
    const growing = list.filter(item => item.grows).length
    const extra = Math.max(0, Math.min(MOST_EXTRA, (height - MARGIN - top - used) / Math.max(1, growing)))
    let y = top
    const blocks = list.flatMap(item => {
      const placed = item.blocks.map(b => ({ ...b, x: b.x + MARGIN, y: b.y + y }))
      y += item.height + (item.grows ? extra : 0)
      return placed
    })
    const heading: Block = { kind: 'text', lines, x: MARGIN, y: MARGIN, width: inner, height: top - MARGIN }
    const foot: Block = {
      kind: 'text',
      lines: (o.foot ?? pageOf)(i + 1, taken.length, inner),
      x: MARGIN,
      y: height - FOOT,
      width: inner,
      height: FOOT,
    }
    return { width, height, blocks: [heading, ...blocks, ...(foot.lines.length > 0 ? [foot] : [])] }
  })
}

const pageOf = (page: number, of: number, width: Mm): TextLine[] =>
  of === 1
    ? []
    : [{ x: width / 2, y: 0, text: `${page} of ${of}`, size: 7 * POINT, anchor: 'middle', quiet: true }]

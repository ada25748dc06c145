/**
 * The sheet as SVG pages: the blocks of the page model, systems drawn as on the bench. One CSS pixel is 1/96
 * inch, on paper as on screen.
 */
import type { SheetRecipe } from '#core/styles/sheetRecipe'
import type { Mm } from '#core/instruments/instruments'
import type { EventId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import type { Shape } from '#core/page/flow'
import type { SheetWords, TextLine } from '#core/page/heading'
import type { MarkOptions } from '#core/page/marks'
import { MARGIN, PAPERS, type Paper } from '#core/page/paper'
import {
  FOOT,
  sheetOf,
  type Block,
  type Music,
  type Page,
  type Section,
  type Sheet,
  type SheetOptions,
} from '#core/page/sheet'
import type { SystemMeasure } from '#core/page/systems'
import { fingerGlyph } from './marks'
import { pageMeasurer, PX, UNITS } from './measurer'
import { el, line, text } from './svg'
import { LEAST_NEED } from '#core/tablature/fingerNeed'
import { drawSystem, OUTSIDE, rowsOf } from './system'
import { bracketOf, leftOf, type DrawnSystem } from './systemParts'

export interface PagesOptions {
  readonly sheet: SheetRecipe
  readonly words: SheetWords
  readonly tempo: Tempo
  /** What stands at the foot of each page instead of "1 of 2". */
  readonly foot?: SheetOptions['foot']
}

/** A note on a page: where it is clicked. */
export interface Spot {
  readonly event: EventId
  /** In CSS pixels of the page. */
  readonly x: number
  readonly top: number
  readonly bottom: number
}
/** A barline of the music: what measure begins there. In CSS pixels of the page. */
export interface Bar {
  readonly measure: string
  readonly index: number
  readonly x: number
  readonly top: number
  readonly bottom: number
}
/** The right end of a line: what begins the next one, and whether that one is on another page. */
export interface LineEnd {
  readonly x: number
  readonly top: number
  readonly bottom: number
  /** Index of the measure the line itself begins with: it can't end before it. */
  readonly from: number
  readonly next: Pick<Bar, 'measure' | 'index'>
  readonly how: 'line' | 'page'
}
export interface DrawnPage {
  readonly svg: SVGSVGElement
  readonly spots: readonly Spot[]
  readonly bars: readonly Bar[]
  readonly ends: readonly LineEnd[]
}

/** Which marks a recipe's sheet shows. */
export const marksOf = ({ fingers, show }: SheetRecipe): MarkOptions => ({
  fingers: LEAST_NEED[fingers] !== null,
  fingersFrom: LEAST_NEED[fingers] ?? 0,
  bows: true,
  positions: show.positions,
  phrases: show.phrases,
  chords: show.chords,
  signs: show.signs,
  hand: show.hand,
  numbers: show.numbers,
})

/** Between two parts of a system, in units of the drawing. */
const BETWEEN = 6

/** The pages, and the model they are drawn from. */
export interface DrawnSheet {
  readonly pages: readonly DrawnPage[]
  readonly sheet: Sheet
}

export function drawPages(sections: readonly Section[], o: PagesOptions): DrawnSheet {
  const music = sections.flatMap(s => (s.kind === 'music' ? [s.music] : []))
  const marks = marksOf(o.sheet)
  const [staff, tab] = [o.sheet.music !== 'tab', o.sheet.music !== 'staff']
  /** By size, music and system: its parts from the top down. */
  const drawn = new Map<string, readonly DrawnSystem[]>()
  const sheet = sheetOf(sections, {
    paper: o.sheet.paper,
    size: o.sheet.size,
    words: o.words,
    tempo: o.tempo,
    ...(o.foot && { foot: o.foot }),
    measurer: pageMeasurer,
    rows: rowsOf(tab, marks),
    beside: OUTSIDE / UNITS,
    tabAlone: !staff,
    heightOf(m, system, index, space) {
      const width = (system.indent + system.width) * (UNITS / space) + OUTSIDE
      const parts = music[m]!.parts.map(p => drawSystem(p, system, { width, space, tab, staff, marks }))
      drawn.set(`${space} ${m} ${index}`, parts)
      return (parts.reduce((t, p) => t + p.height + BETWEEN, -BETWEEN) * space) / UNITS
    },
  })
  const at = (b: SystemBlock) => drawn.get(`${sheet.space} ${b.music} ${b.system}`)!
  /** Where the bracket of parts with names stands; null where they have none. */
  const bracketAt = (b: SystemBlock) =>
    music[b.music]!.parts.some(p => p.label !== undefined)
      ? leftOf(sheet.systems[b.music]![b.system]!, sheet)
      : null
  const pages = sheet.pages.map(page => drawPage(page, sheet, at, o.sheet.contrast, bracketAt))
  return { pages: withBars(pages, sheet, music, at), sheet }
}

type SystemBlock = Block & { readonly kind: 'system' }
const px = (mm: Mm) => mm * PX

/** A page without music. */
export const drawPlainPage = (page: Page): DrawnPage => drawPage(page, { space: 1 }, () => [], false)

const FOOT_CLASS = 'page-foot'
/**
 * Other words at the foot of a page that is drawn already: x from the left margin, y from the line of the
 * foot.
 */
export function setFoot(svg: SVGSVGElement, paper: Paper, lines: readonly TextLine[]) {
  svg.querySelector(`.${FOOT_CLASS}`)?.remove()
  const at = { x: MARGIN, y: PAPERS[paper].height - FOOT }
  svg.append(
    el(
      'g',
      { class: FOOT_CLASS },
      lines.map(l => textAt(at, l)),
    ),
  )
}

function drawPage(
  { width, height, blocks }: Page,
  sheet: Pick<Sheet, 'space'>,
  partsOf: (b: SystemBlock) => readonly DrawnSystem[],
  contrast: boolean,
  bracketAt: (b: SystemBlock) => number | null = () => null,
): DrawnPage {
  const svg = el('svg', {
    width: px(width),
    height: px(height),
    viewBox: `0 0 ${px(width)} ${px(height)}`,
    class: 'page',
    // Widths as on paper, however small it is shown.
    'text-rendering': 'geometricPrecision',
    color: '#000',
  }) as SVGSVGElement
  svg.append(el('rect', { width: px(width), height: px(height), fill: '#ffffff' }))
  const spots: Spot[] = []
  for (const b of blocks) {
    if (b.kind === 'text') svg.append(...b.lines.map(l => textAt(b, l)))
    else if (b.kind === 'shapes') svg.append(...b.shapes.map(s => shapeAt(b, s)))
    else svg.append(...musicAt(b, partsOf(b), bracketAt(b), (sheet.space * PX) / UNITS, spots))
  }
  if (contrast) strengthen(svg)
  return { svg, spots, bars: [], ends: [] }
}

/** Where the lines of the music that takes breaks have their bars, and where each line ends. */
function withBars(
  pages: readonly DrawnPage[],
  sheet: Sheet,
  music: readonly Music[],
  partsOf: (b: SystemBlock) => readonly DrawnSystem[],
): DrawnPage[] {
  const main = music.findIndex(m => m.breaks !== undefined)
  if (main < 0) return [...pages]
  const { measures } = music[main]!.parts[0]!.notated
  const scale = (sheet.space * PX) / UNITS
  const lines = sheet.pages.flatMap((p, page) =>
    p.blocks.flatMap(b =>
      b.kind === 'system' && b.music === main ? [{ page, b, system: sheet.systems[main]![b.system]! }] : [],
    ),
  )
  const beginning = (m: SystemMeasure) => ({ measure: measures[m.index]!.placed.measure.id, index: m.index })
  return pages.map((drawn, page) => {
    const own = lines.map((l, i) => ({ ...l, next: lines[i + 1] })).filter(l => l.page === page)
    const at = own.map(({ b, system, next }) => {
      const [first] = partsOf(b)
      const place = { top: px(b.y) + first!.staffTop * scale, bottom: px(b.y) + first!.staffBottom * scale }
      const left = px(b.x) + leftOf(system, sheet) * scale
      const last = system.measures.at(-1)!
      return {
        bars: system.measures.map((m): Bar => ({ ...beginning(m), x: left + px(m.x), ...place })),
        end: next && {
          ...place,
          x: left + px(last.x + last.width),
          from: system.measures[0]!.index,
          next: beginning(next.system.measures[0]!),
          how: next.page === page ? ('line' as const) : ('page' as const),
        },
      }
    })
    return { ...drawn, bars: at.flatMap(l => l.bars), ends: at.flatMap(l => l.end ?? []) }
  })
}

const textAt = (b: { x: Mm; y: Mm }, l: TextLine) =>
  text(px(b.x + l.x), px(b.y + l.y), l.text, {
    size: px(l.size),
    anchor: l.anchor,
    ...(l.bold && { bold: true }),
    ...(l.italic && { italic: true }),
    ...(l.quiet && { fill: '#555555' }),
  })

function shapeAt(b: { x: Mm; y: Mm }, s: Shape): SVGElement {
  switch (s.kind) {
    case 'text':
      return textAt(b, s)
    case 'line':
      return line(px(b.x + s.x1), px(b.y + s.y1), px(b.x + s.x2), px(b.y + s.y2), {
        'stroke-width': px(s.width),
        ...(s.dashed && { 'stroke-dasharray': '3 3' }),
        ...(s.colour && { stroke: s.colour }),
      })
    case 'box':
      return el('rect', {
        x: px(b.x + s.x),
        y: px(b.y + s.y),
        width: px(s.w),
        height: px(s.h),
        rx: px(s.round),
        fill: s.filled ? '#000000' : 'none',
        stroke: '#000000',
        'stroke-width': s.filled ? 0 : 1,
        ...(s.dashed && { 'stroke-dasharray': '4 4', stroke: '#777777' }),
      })
    case 'digit': {
      const g = el('g', { color: s.light ? '#ffffff' : '#000000' }, [
        fingerGlyph(px(b.x + s.x), px(b.y + s.y), s.text, px(s.size), true),
      ])
      // What is exported knows no inherited colour.
      for (const e of g.querySelectorAll('*'))
        for (const a of ['fill', 'stroke'])
          if (e.getAttribute(a) === 'currentColor') e.setAttribute(a, s.light ? '#ffffff' : '#000000')
      return g
    }
  }
}

function musicAt(
  b: SystemBlock,
  parts: readonly DrawnSystem[],
  bracket: number | null,
  scale: number,
  spots: Spot[],
): SVGElement[] {
  let y = px(b.y)
  const last = parts.at(-1)!
  const lastTop = parts.slice(0, -1).reduce((t, p) => t + p.height + BETWEEN, 0)
  const held =
    bracket === null
      ? []
      : [
          el('g', { transform: `translate(${px(b.x)} ${y}) scale(${scale})` }, [
            bracketOf(bracket, parts[0]!.staffTop, lastTop + last.staffBottom),
          ]),
        ]
  const drawn = parts.map(({ svg, anchors, height, staffTop, staffBottom }) => {
    const [, cutAt] = svg.getAttribute('viewBox')!.split(' ').map(Number)
    const inside = el('g', { transform: `translate(0 ${-cutAt!})` })
    inside.append(...svg.childNodes)
    for (const [event, a] of anchors)
      spots.push({
        event,
        x: px(b.x) + a.x * scale,
        top: y + (staffTop - 40) * scale,
        bottom: y + (staffBottom + 70) * scale,
      })
    const g = el('g', { transform: `translate(${px(b.x)} ${y}) scale(${scale})` }, [inside])
    y += (height + BETWEEN) * scale
    return g
  })
  return [...drawn, ...held]
}

/** High contrast: lines half as thick again, all text bold, nothing grey. */
function strengthen(svg: SVGElement) {
  for (const e of svg.querySelectorAll('*')) {
    const width = e.getAttribute('stroke-width')
    if (width) e.setAttribute('stroke-width', String(parseFloat(width) * 1.5))
    if (e.tagName === 'text') {
      e.setAttribute('font-weight', 'bold')
      // No face of the sheet is both.
      e.removeAttribute('font-style')
    }
    for (const a of ['fill', 'stroke'])
      if (/^#(555555|777777)$/.test(e.getAttribute(a) ?? '')) e.setAttribute(a, '#000000')
    e.removeAttribute('opacity')
  }
}

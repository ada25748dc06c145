/** The sheet as SVG pages: the blocks of the page model, systems drawn as on the bench. One CSS pixel is 1/96 inch, on paper as on screen. */
import type { Mm } from '#core/instruments/instruments'
import type { Tempo } from '#core/music/metre'
import type { SheetWords, TextLine } from '#core/page/heading'
import type { Paper } from '#core/page/paper'
import { sheetOf, SHEET_SPACE, type Block, type Page } from '#core/page/sheet'
import type { PagePart } from '#core/page/systems'
import type { MarkOptions } from '../engraving/marks'
import { pageMeasurer, PX, UNITS } from '../engraving/measurer'
import { el, text } from '../engraving/svg'
import { drawSystem, OUTSIDE, rowsOf, type DrawnSystem } from '../engraving/system'

export interface SheetOptions {
  readonly paper: Paper
  readonly tab: boolean
  readonly marks: MarkOptions
  readonly words: SheetWords
}

/** From the units of a drawing to pixels on paper. */
const SCALE = (SHEET_SPACE * PX) / UNITS

export function drawPages(part: PagePart, tempo: Tempo, o: SheetOptions): SVGSVGElement[] {
  const drawn: DrawnSystem[] = []
  const sheet = sheetOf([part], {
    paper: o.paper,
    words: o.words,
    tempo,
    measurer: pageMeasurer,
    rows: rowsOf(o.tab, o.marks),
    beside: (OUTSIDE * SHEET_SPACE) / UNITS,
    heightOf(system) {
      const width = system.width * (UNITS / SHEET_SPACE) + OUTSIDE
      const made = drawSystem(part, system, { width, space: SHEET_SPACE, tab: o.tab, marks: o.marks })
      drawn.push(made)
      return (made.height * SCALE) / PX
    },
  })
  return sheet.pages.map(page => drawPage(page, drawn))
}

const px = (mm: Mm) => mm * PX

function drawPage({ width, height, blocks }: Page, systems: readonly DrawnSystem[]): SVGSVGElement {
  const svg = el('svg', {
    width: px(width),
    height: px(height),
    viewBox: `0 0 ${px(width)} ${px(height)}`,
    class: 'page',
    color: '#000',
  }) as SVGSVGElement
  svg.append(el('rect', { width: px(width), height: px(height), fill: '#ffffff' }))
  for (const b of blocks)
    svg.append(...(b.kind === 'text' ? b.lines.map(l => textAt(b, l)) : [musicAt(b, systems)]))
  return svg
}

const textAt = (b: Block, l: TextLine) =>
  text(px(b.x + l.x), px(b.y + l.y), l.text, {
    size: px(l.size),
    anchor: l.anchor,
    ...(l.bold && { bold: true }),
    ...(l.italic && { italic: true }),
    ...(l.quiet && { fill: '#555555' }),
  })

function musicAt(b: Block & { readonly kind: 'system' }, systems: readonly DrawnSystem[]): SVGElement {
  const { svg } = systems[b.system]!
  const [, cutAt] = svg.getAttribute('viewBox')!.split(' ').map(Number)
  const inside = el('g', { transform: `translate(0 ${-cutAt!})` })
  inside.append(...svg.childNodes)
  return el('g', { transform: `translate(${px(b.x)} ${px(b.y)}) scale(${SCALE})` }, [inside])
}

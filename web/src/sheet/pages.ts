/** The sheet as SVG pages: the same systems as on the bench, laid on paper. One CSS pixel is 1/96 inch, on paper as on screen. */
import { keyName } from '#core/music/key'
import { metreName, type Tempo } from '#core/music/metre'
import { formatFraction } from '#core/music/fraction'
import { HEADING, MARGIN, PAPERS, paginate, type Paper } from '#core/tablature/pages'
import { breakSystems, type TabModel } from '#core/tablature/tabModel'
import type { MarkOptions } from '../engraving/marks'
import { el, text } from '../engraving/svg'
import { drawSystem, placeTune } from '../engraving/system'
import type { BenchResult } from '../worker/contract'

export interface SheetOptions {
  readonly paper: Paper
  readonly tab: boolean
  readonly marks: MarkOptions
  readonly words: {
    readonly arrangement: string
    readonly instrument: string
    readonly tuning: string | null
  }
}

const PX = 96 / 25.4
/** Music is drawn a little smaller than on screen. */
const SCALE = 0.74
const GAP = 8
const MOST_EXTRA = 18

const BEATS: Readonly<Record<string, string>> = {
  '1': 'quarter',
  '2': 'half',
  '3/2': 'dotted quarter',
  '1/2': 'eighth',
  '4': 'whole',
}
export const tempoText = (t: Tempo) =>
  `${BEATS[formatFraction(t.beat)] ?? formatFraction(t.beat)} = ${t.perMinute}`

/** Draws every page. What is left of a full page is shared out between its lines, up to a little more than they need. */
export function drawPages(result: BenchResult, o: SheetOptions): SVGSVGElement[] {
  const paper = PAPERS[o.paper]
  const inner = (paper.width - 2 * MARGIN) * PX
  const placed = placeTune(result.tune)
  const model: TabModel = { ...result.tab, systems: breakSystems(result.tab.systems.flat()) }
  const systems = model.systems.map((_, i) =>
    drawSystem(placed, model, i, { width: inner / SCALE, tab: o.tab, marks: o.marks }),
  )
  const height = (s: (typeof systems)[number]) => s.height * SCALE + GAP
  const pages = paginate(systems, o.paper, s => height(s) / PX)
  return pages.map((page, i) => {
    const svg = el('svg', {
      width: paper.width * PX,
      height: paper.height * PX,
      viewBox: `0 0 ${paper.width * PX} ${paper.height * PX}`,
      class: 'page',
      color: '#000',
    }) as SVGSVGElement
    svg.append(el('rect', { width: paper.width * PX, height: paper.height * PX, fill: '#ffffff' }))
    const top = i === 0 ? heading(svg, result, o, paper.width * PX) : running(svg, result, paper.width * PX)
    const free = paper.height * PX - MARGIN * PX - top - page.reduce((t, s) => t + height(s), 0)
    const extra = Math.max(0, Math.min(MOST_EXTRA, free / Math.max(1, page.length)))
    let y = top
    page.forEach(s => {
      const g = el('g', { transform: `translate(${MARGIN * PX} ${y}) scale(${SCALE})` })
      y += height(s) + extra
      const [, cutAt] = s.svg.getAttribute('viewBox')!.split(' ').map(Number)
      const inside = el('g', { transform: `translate(0 ${-cutAt!})` })
      inside.append(...s.svg.childNodes)
      g.append(inside)
      svg.append(g)
    })
    const foot = paper.height * PX - MARGIN * PX * 0.55
    svg.append(
      text((paper.width * PX) / 2, foot, pages.length > 1 ? `${i + 1} of ${pages.length}` : '', {
        size: 9.5,
        fill: '#555555',
      }),
    )
    return svg
  })
}

function heading(svg: SVGElement, { tune, tempo }: BenchResult, o: SheetOptions, width: number): number {
  const [left, right, top] = [MARGIN * PX, width - MARGIN * PX, MARGIN * PX]
  svg.append(text(left, top + 20, tune.title || 'Untitled', { size: 24, bold: true, anchor: 'start' }))
  const facts = [tune.kind, keyName(tune.key), metreName(tune.metre), tempoText(tempo)]
    .filter(Boolean)
    .join(' · ')
  svg.append(text(left, top + 40, facts, { size: 12, anchor: 'start' }))
  svg.append(text(right, top + 20, o.words.instrument, { size: 12, bold: true, anchor: 'end' }))
  const under = [o.words.arrangement, o.words.tuning && `tuned ${o.words.tuning}`].filter(Boolean).join(' · ')
  svg.append(text(right, top + 40, under, { size: 12, anchor: 'end' }))
  const credit = [tune.composer, tune.learnedFrom && `learned from ${tune.learnedFrom}`]
    .filter(Boolean)
    .join('; ')
  if (credit) svg.append(text(left, top + 57, credit, { size: 10.5, italic: true, anchor: 'start' }))
  return top + HEADING * PX * 0.86
}

function running(svg: SVGElement, { tune }: BenchResult, width: number): number {
  svg.append(
    text(width - MARGIN * PX, MARGIN * PX + 6, tune.title, { size: 11, italic: true, anchor: 'end' }),
  )
  return MARGIN * PX + 18
}

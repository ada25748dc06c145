/**
 * The sheet as data: pages of blocks in millimetres. How wide text and signs are, and how high a system comes out, is told by whoever draws; screen, print and PDF
 * draw these same blocks.
 */
import type { Mm } from '#core/instruments/instruments'
import type { Tempo } from '#core/music/metre'
import type { Scale } from './columns'
import { headingLines, POINT, runningLines, type SheetWords, type TextLine } from './heading'
import { HEADING, MARGIN, PAPERS, paginate, RUNNING_HEADING, type Paper } from './paper'
import { systemsOf, type PagePart, type System } from './systems'

interface Placed {
  readonly x: Mm
  readonly y: Mm
  readonly width: Mm
  readonly height: Mm
}
export type Block = Placed &
  (
    | { readonly kind: 'text'; readonly lines: readonly TextLine[] }
    /** Index of the system among all of the sheet. */
    | { readonly kind: 'system'; readonly system: number }
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
  readonly systems: readonly System[]
  readonly pages: readonly Page[]
}

export interface SheetOptions extends Omit<Scale, 'space'> {
  readonly paper: Paper
  readonly words: SheetWords
  readonly tempo: Tempo
  /** Room a drawing takes beside the staff: letters of the strings. */
  readonly beside: Mm
  /** Height of a system as it is drawn. */
  readonly heightOf: (system: System, index: number) => Mm
}

/** Staff lines on paper are a little closer than on screen. */
export const SHEET_SPACE: Mm = 1.96
/** Air under every system; and the most that is added where a page has room left. */
const GAP: Mm = 2.1
const MOST_EXTRA: Mm = 4.8
const FOOT: Mm = 7.7

/** Lays the parts out on paper. What is left of a page is shared out between its systems, up to a little more than they need. */
export function sheetOf(parts: readonly PagePart[], o: SheetOptions): Sheet {
  const { width, height } = PAPERS[o.paper]
  const inner = width - 2 * MARGIN
  const systems = systemsOf(parts, { ...o, space: SHEET_SPACE, width: inner - o.beside })
  const heights = systems.map(o.heightOf)
  const tune = parts[0]!.notated.tune
  const numbered = systems.map((_, i) => i)
  const taken = paginate(numbered, o.paper, i => heights[i]! + GAP)
  const pages = taken.map((list, i): Page => {
    const lines = i === 0 ? headingLines(tune, o.tempo, o.words, inner) : runningLines(tune, inner)
    const top = MARGIN + (i === 0 ? HEADING * 0.86 : RUNNING_HEADING / 2)
    const used = list.reduce((t, k) => t + heights[k]! + GAP, 0)
    const extra = Math.max(0, Math.min(MOST_EXTRA, (height - MARGIN - top - used) / Math.max(1, list.length)))
    let y = top
    const music = list.map((system): Block => {
      const block = { kind: 'system' as const, system, x: MARGIN, y, width: systems[system]!.width, height: heights[system]! } // prettier-ignore
      y += heights[system]! + GAP + extra
      return block
    })
    const heading: Block = { kind: 'text', lines, x: MARGIN, y: MARGIN, width: inner, height: top - MARGIN }
    const foot = taken.length > 1 ? [footOf(i + 1, taken.length, inner, height)] : []
    return { width, height, blocks: [heading, ...music, ...foot] }
  })
  return { paper: o.paper, space: SHEET_SPACE, systems, pages }
}

function footOf(page: number, of: number, width: Mm, height: Mm): Block {
  const line: TextLine = { x: width / 2, y: 0, text: `${page} of ${of}`, size: 7 * POINT, anchor: 'middle', quiet: true } // prettier-ignore
  return { kind: 'text', lines: [line], x: MARGIN, y: height - FOOT, width, height: FOOT }
}

/**
 * Ornaments, dynamics, remarks, notes that may be left out: small drawn signs, so that they print the same
 * everywhere.
 */
import type { TabEvent, TabMeasure } from '#core/tablature/tabModel'
import type { WayMarks } from '#core/tablature/way'
import type { Mark } from '#core/music/tune'
import { stacked } from './stacked'
import type { Anchor, DrawnStaff } from './drawn'
import { el, text } from './svg'

const stroke = (d: string, width = 1.3) =>
  el('path', { d, fill: 'none', stroke: 'currentColor', 'stroke-width': width, 'stroke-linecap': 'round' })

/** One sign centred on x, standing on y. */
const SIGNS: Readonly<Partial<Record<Mark, (x: number, y: number) => SVGElement>>> = {
  trill: (x, y) => text(x, y, 'tr', { size: 13, italic: true, bold: true }),
  pizzicato: (x, y) => text(x, y, 'pizz.', { size: 11, italic: true }),
  turn: (x, y) => stroke(`M${x - 7} ${y - 1} q-1 -6 3.5 -6 q3 0 3.5 3.5 q.5 3.5 3.5 3.5 q4.5 0 3.5 -6`),
  mordent: (x, y) => stroke(`M${x - 8} ${y - 2} l4 -4 l4 4 l4 -4 l4 4 M${x} ${y} v-8`),
  upperMordent: (x, y) => stroke(`M${x - 8} ${y - 2} l4 -4 l4 4 l4 -4 l4 4`),
  roll: (x, y) => stroke(`M${x - 6} ${y} a6 6 0 0 1 12 0`, 1.6),
  cut: (x, y) => stroke(`M${x - 3.5} ${y} l7 -8`, 1.8),
}

export const hasOrnament = (e: TabEvent) => e.marks.some(m => SIGNS[m] !== undefined)

/** A slide leads into the lowest head from below, left of its accidental. */
export function slideSigns({ marks }: TabEvent, a: Anchor): SVGElement[] {
  if (!marks.includes('slide')) return []
  const x = a.x - 7 - (a.signTop === undefined ? 0 : 11)
  return [el('g', { class: 'slide-in' }, [stroke(`M${x - 10} ${a.headBottom + 8} q6 -1 10 -7`, 1.5)])]
}

export function ornamentSigns(e: TabEvent, x: number, y: number): SVGElement[] {
  const own = e.marks.filter(m => SIGNS[m] !== undefined)
  return own.map((m, i) => SIGNS[m]!(x + (i - (own.length - 1) / 2) * 16, y))
}

const REMARK_SIZE = 11
export const REMARK_ROW = 13

/** A remark takes this share of a line at most, and more where the line is short. */
const REMARK_SHARE = 0.6
const REMARK_LEAST = 240

/** Where the remarks of a line stand: long ones in several lines. */
export function remarksOf(measures: readonly TabMeasure[], { anchors, bars }: DrawnStaff) {
  const right = bars.at(-1)!
  const said = measures
    .flatMap(m => m.events)
    .flatMap(e => {
      const a = anchors.get(e.id)
      return a && e.remarks.length > 0 ? [{ id: e.id, said: e.remarks.join('; '), x: a.x - 5 }] : []
    })
  const wrap = Math.min(right, Math.max(REMARK_SHARE * right, REMARK_LEAST))
  return stacked(said, REMARK_SIZE, right, { most: Infinity, wrap })
}

/** All remarks of a line, the lowest row on y. */
export const remarkSigns = (measures: readonly TabMeasure[], drawn: DrawnStaff, y: number) =>
  [...remarksOf(measures, drawn).texts.values()].flatMap(t =>
    t.lines.map((line, i) =>
      text(t.x, y - (t.row + t.lines.length - 1 - i) * REMARK_ROW, line, {
        size: REMARK_SIZE,
        italic: true,
        anchor: 'start',
      }),
    ),
  )

export const dynamicSign = (e: TabEvent, x: number, y: number) =>
  text(x, y, e.dynamic!, { size: 14, italic: true, bold: true })

/** Round brackets about the heads of a note that may be left out. */
export function optionalSigns(a: Anchor): SVGElement[] {
  const [top, bottom] = [a.headTop - 6, a.headBottom + 6]
  const middle = (top + bottom) / 2
  return [-1, 1].map(side =>
    stroke(`M${a.x + side * 9} ${top} Q${a.x + side * 14} ${middle} ${a.x + side * 9} ${bottom}`, 1.2),
  )
}

/** Segno and coda, drawn about a middle. */
const WAY_SIGNS = {
  segno: (x: number, y: number) =>
    el('g', {}, [
      stroke(`M${x + 3.5} ${y - 4.5} q-3 -2.5 -5.5 -.5 q-2 2.5 2 5 q4 2.5 2 5 q-2.5 2 -5.5 -.5`, 1.7),
      stroke(`M${x + 5} ${y - 5.5} L${x - 5} ${y + 5.5}`, 1.2),
      el('circle', { cx: x - 4.5, cy: y - 0.5, r: 1.1, fill: 'currentColor' }),
      el('circle', { cx: x + 4.5, cy: y + 0.5, r: 1.1, fill: 'currentColor' }),
    ]),
  coda: (x: number, y: number) =>
    el('g', {}, [
      el('ellipse', {
        cx: x,
        cy: y,
        rx: 4.2,
        ry: 5,
        fill: 'none',
        stroke: 'currentColor',
        'stroke-width': 1.6,
      }),
      stroke(`M${x - 7.5} ${y} h15 M${x} ${y - 8} v16`, 1.2),
    ]),
}

/** The way through over a measure: signs at its left bar, words before its right one. */
export function waySigns(
  { opens, closes, toCoda }: WayMarks,
  left: number,
  right: number,
  y: number,
): SVGElement[] {
  const words = closes.join('  ')
  const end = right - (toCoda ? 20 : 3)
  return [
    ...opens.map((sign, i) => WAY_SIGNS[sign](left + 9 + i * 20, y - 6)),
    ...(words ? [text(end, y - 2, words, { size: 12, italic: true, bold: false, anchor: 'end' })] : []),
    ...(toCoda ? [WAY_SIGNS.coda(right - 10, y - 6)] : []),
  ]
}

/** The name of a section in a frame, at the left of its measure. */
export function sectionSign(label: string, x: number, y: number): SVGElement {
  const width = label.length * 7.5 + 10
  return el('g', { class: 'section' }, [
    el('rect', {
      x,
      y: y - 12,
      width,
      height: 16,
      fill: 'none',
      stroke: 'currentColor',
      'stroke-width': 1.1,
      rx: 2,
    }),
    text(x + width / 2, y, label, { size: 12.5, bold: true }),
  ])
}

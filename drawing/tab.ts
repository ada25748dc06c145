/**
 * Tab lines: digits on one line a string, bars, and under them a rhythm that can be read without the staff.
 */
import type { NotatedMeasure } from '#core/page/notation'
import type { TabMeasure } from '#core/tablature/tabModel'
import { bracketed, fingerGlyph } from './marks'
import { drawRhythm, RHYTHM_ROOM, TUPLET_ROOM } from './rhythm'
import type { DrawnStaff } from './drawn'
import { el, line, text } from './svg'

/** Between two lines under a staff, and where they stand alone. */
export const TAB_GAP = 11
export const TAB_GAP_ALONE = 14

export interface TabDrawing {
  readonly height: number
}

/** Tab lines: one line a string, digits on them, the rhythm below. */
export function drawTab(
  g: SVGElement,
  measures: readonly TabMeasure[],
  music: readonly Pick<NotatedMeasure, 'beams'>[],
  drawn: DrawnStaff,
  labels: readonly string[],
  y: number,
  gap = TAB_GAP,
): TabDrawing {
  const [left, right] = [drawn.bars[0]!, drawn.end]
  const bottom = y + (labels.length - 1) * gap
  labels.forEach((label, i) => {
    const at = y + i * gap
    g.append(
      line(left, at, right, at, { 'stroke-width': 0.8, opacity: 0.75 }),
      text(left - 9, at + 4, label, { size: 10.5 }),
    )
  })
  g.append(line(left, y, left, bottom))
  measures.forEach((m, i) => {
    g.append(...tabBar(m, drawn.bars[i]!, drawn.bars[i + 1]!, y, bottom))
    let before = 0
    for (const e of m.events) {
      const a = drawn.anchors.get(e.id)
      if (!a) continue
      for (const d of e.digits) g.append(...digit(a.x, y + d.line * gap, d.text, gap))
      const [lead] = e.digits
      const free = Math.max(drawn.bars[i]! + 3, before)
      if (e.shift && lead)
        g.append(...shiftArrow(free, a.x - sideOf(lead.text, '‹'), y + lead.line * gap, e.shift.to))
      before = a.x + Math.max(...e.digits.map(d => sideOf(d.text, '›')), REST)
      for (const d of e.ossia ?? []) {
        const taken = e.digits.some(x => x.line === d.line)
        g.append(
          taken
            ? bracketed(a.x + 7, y + d.line * gap - 4, d.text, 8.5)
            : bracketed(a.x, y + d.line * gap + 4, d.text, 10.5),
        )
      }
    }
    drawRhythm(g, m.events, music[i]!, drawn.anchors, bottom + gap * 0.55 + 4.5)
  })
  const tuplets = measures.some(m => m.events.some(e => e.tuplet))
  return { height: bottom - y + RHYTHM_ROOM + gap * 0.4 + (tuplets ? TUPLET_ROOM : 0) }
}

/** A digit on a knocked-out piece of its line. */
function digit(x: number, y: number, shown: string, gap: number): SVGElement[] {
  const size = gap * 0.9 + 2.6
  const w = (shown.length > 1 ? 16 : 9) + 2
  return [
    el('rect', {
      x: x - w / 2,
      y: y - 5.5,
      width: w,
      height: 11,
      fill: 'var(--page, #fff)',
      class: 'knock-out',
    }),
    fingerGlyph(x, y + size * 0.35, shown, size, true),
  ]
}

/** From the middle of a digit to its edge, on the side where a chevron may stand. */
const sideOf = (shown: string, chevron: string) => (shown.includes(chevron) ? 13 : shown.length > 1 ? 9 : 5.5)
const REST = 4
const ARROW = 6

/**
 * Between two digits: the hand moves, rising towards the bridge, falling towards the nut. Nothing where there
 * is no room: the position's name tells it.
 */
function shiftArrow(from: number, to: number, y: number, way: 'bridge' | 'nut'): SVGElement[] {
  if (to - from < ARROW) return []
  const x = Math.max((from + to) / 2, to - 7)
  const up = way === 'bridge' ? -1 : 1
  const half = ARROW / 2
  const d = `M${x - half} ${y - half * up} l${ARROW} ${ARROW * up} m-3.4 ${-0.4 * up} l3.4 ${0.4 * up} l-0.4 ${-3.4 * up}`
  return [el('path', { d, fill: 'none', stroke: 'currentColor', 'stroke-width': 1.2, class: 'shift-arrow' })]
}

function tabBar(m: TabMeasure, left: number, right: number, top: number, bottom: number): SVGElement[] {
  const dots = (x: number) =>
    [0.32, 0.68].map(f => el('circle', { cx: x, cy: top + (bottom - top) * f, r: 1.7, fill: 'currentColor' }))
  const out: SVGElement[] = []
  if (m.repeatStart)
    out.push(line(left + 1.5, top, left + 1.5, bottom, { 'stroke-width': 3 }), ...dots(left + 8))
  if (m.repeatEnd || m.barline === 'final')
    out.push(
      line(right - 1.5, top, right - 1.5, bottom, { 'stroke-width': 3 }),
      line(right - 5, top, right - 5, bottom),
    )
  else out.push(line(right, top, right, bottom))
  if (m.barline === 'double') out.push(line(right - 3, top, right - 3, bottom))
  if (m.repeatEnd) out.push(...dots(right - 9))
  return out
}

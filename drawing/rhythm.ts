/**
 * The rhythm under tab lines: small heads, stems, beams, dots and rests, so that it can be read by itself.
 */
import { writtenLength } from '#core/music/edit/lengths'
import { underOneBeam, type NotatedMeasure } from '#core/page/notation'
import { flagsOf, valuesOf, type NoteValue } from '#core/page/values'
import type { TabEvent } from '#core/tablature/tabModel'
import type { Anchor } from './drawn'
import { el, line, text } from './svg'

/** Height of the whole row. */
export const RHYTHM_ROOM = 30
/** What numbers of tuplets take below it. */
export const TUPLET_ROOM = 9
const STEM = 15
const BEAM_GAP = 3.6

interface Stemmed {
  readonly x: number
  readonly beams: number
  /** The notes under one beam with it. */
  readonly under: readonly string[] | undefined
}

/** Notes share a beam where they do on the staff. */
export function drawRhythm(
  g: SVGElement,
  events: readonly TabEvent[],
  { beams: shared }: Pick<NotatedMeasure, 'beams'>,
  anchors: ReadonlyMap<string, Pick<Anchor, 'x'>>,
  y: number,
) {
  let group: Stemmed[] = []
  let before: number | null = null
  const close = () => {
    drawBeams(g, group, y)
    group = []
  }
  for (const e of events) {
    const x = anchors.get(e.id)?.x
    const values = valuesOf(writtenLength(e))
    const beams = Math.min(4, flagsOf(values[0]!))
    const under = shared.find(b => b.includes(e.id))
    if (x === undefined) continue
    if (e.rest || beams === 0 || !under || group.some(n => n.under !== under)) close()
    values.forEach((v, i) => {
      const own = x + i * 15
      g.append(...(e.rest ? rest(own, y + 4, v) : note(own, y, v)), ...dots(own, y, v))
      if (i > 0) g.append(tie(own - 15, own, y))
    })
    // A tie over a bar comes from beyond it.
    if (e.tied) g.append(tie(before ?? x - 24, x, y))
    if (beams > 0 && !e.rest) group.push({ x, beams, under })
    before = x + (values.length - 1) * 15
  }
  close()
  g.append(...tuplets(events, anchors, y + STEM + 11, { beams: shared }))
}

/** A filled head with a stem, a hollow one for halves, a wide hollow one for whole notes. */
function note(x: number, y: number, v: NoteValue): SVGElement[] {
  const hollow = v.of >= 2
  const head = el('ellipse', {
    cx: x,
    cy: y,
    rx: v.of >= 4 ? 4 : 3.2,
    ry: 2.3,
    fill: hollow ? 'none' : 'currentColor',
    stroke: 'currentColor',
    'stroke-width': hollow ? 1.3 : 0.6,
  })
  const breve =
    v.of >= 8 ? [line(x - 5.5, y - 3.5, x - 5.5, y + 3.5), line(x + 5.5, y - 3.5, x + 5.5, y + 3.5)] : []
  return v.of >= 4 ? [head, ...breve] : [head, line(x - 3, y, x - 3, y + STEM, { 'stroke-width': 1.1 })]
}

/** Whole and half as bars at a line, the quarter as a bent stroke, shorter ones with a dot for each flag. */
function rest(x: number, y: number, v: NoteValue): SVGElement[] {
  if (v.of >= 2) {
    const hangs = v.of >= 4
    return [
      line(x - 6, y, x + 6, y, { 'stroke-width': 0.9 }),
      el('rect', { x: x - 3.5, y: hangs ? y : y - 3.4, width: 7, height: 3.4, fill: 'currentColor' }),
    ]
  }
  if (v.of >= 1) {
    const d = `M${x - 2} ${y - 6} l4 4.6 q-4 3 0.6 6.4 q-4.6 -1.4 -3.2 2.8`
    return [el('path', { d, fill: 'none', stroke: 'currentColor', 'stroke-width': 1.7 })]
  }
  const flags = Math.min(4, flagsOf(v))
  const hooks = Array.from({ length: flags }, (_, i) => i * 3.8).flatMap(dy => [
    el('circle', { cx: x - 2.6, cy: y - 4 + dy, r: 1.5, fill: 'currentColor' }),
    el('path', {
      d: `M${x - 2.6} ${y - 3 + dy} q3.4 1.4 5.4 -1.8`,
      fill: 'none',
      stroke: 'currentColor',
      'stroke-width': 1.1,
    }),
  ])
  return [...hooks, line(x + 2.8, y - 5, x - 0.4, y + 6 + (flags - 1) * 3.4, { 'stroke-width': 1.1 })]
}

const dots = (x: number, y: number, v: NoteValue) =>
  Array.from({ length: v.dots }, (_, k) =>
    el('circle', { cx: x + 6.2 + 3.4 * k, cy: y - 0.6, r: 1.3, fill: 'currentColor' }),
  )

const tie = (from: number, to: number, y: number) =>
  el('path', {
    d: `M${from + 3} ${y - 3.4} Q${(from + to) / 2} ${y - 7.5} ${to - 3} ${y - 3.4}`,
    fill: 'none',
    stroke: 'currentColor',
    'stroke-width': 1,
  })

/**
 * Numbers of tuplets, in the middle of their notes; with a bracket where no beam says which notes those are.
 */
function tuplets(
  events: readonly TabEvent[],
  anchors: ReadonlyMap<string, Pick<Anchor, 'x'>>,
  y: number,
  beamed: Pick<NotatedMeasure, 'beams'>,
): SVGElement[] {
  const groups = new Map<string, TabEvent[]>()
  for (const e of events) if (e.tuplet) groups.set(e.tuplet.group, [...(groups.get(e.tuplet.group) ?? []), e])
  return [...groups.values()].flatMap(list => {
    const xs = list.flatMap(e => anchors.get(e.id)?.x ?? [])
    if (xs.length === 0) return []
    const [from, to] = [Math.min(...xs) - 5, Math.max(...xs) + 1]
    const middle = (from + to) / 2 - 1
    const number = text(middle, y, String(list[0]!.tuplet!.actual), { size: 9, italic: true })
    if (
      underOneBeam(
        beamed,
        list.map(e => e.id),
      )
    )
      return [number]
    const side = (a: number, b: number) =>
      el('path', {
        d: `M${a} ${y - 6.5} V${y - 3} H${b}`,
        fill: 'none',
        stroke: 'currentColor',
        'stroke-width': 0.8,
      })
    return [side(from, middle - 5), number, side(to, middle + 5)]
  })
}

function drawBeams(g: SVGElement, group: readonly Stemmed[], y: number) {
  group.forEach((n, i) => {
    const next = group[i + 1]
    const before = group[i - 1]
    const x = n.x - 3
    for (let b = 0; b < n.beams; b++) {
      const at = y + STEM - b * BEAM_GAP
      const joins = next !== undefined && next.beams > b
      const joined = before !== undefined && before.beams > b
      if (joins) g.append(line(x - 0.5, at, next.x - 2.5, at, { 'stroke-width': 2.3 }))
      else if (!joined) g.append(line(x, at, x + (before && !next ? -6 : 6), at, { 'stroke-width': 2.3 }))
    }
  })
}

/** Our own marks: bow signs, fingers, positions, phrase letters, and the tab lines with their rhythm. */
import type { MarkOptions } from '#core/page/marks'
import type { TabEvent, TabMeasure } from '#core/tablature/tabModel'
import type { Anchor, DrawnStaff } from './drawn'
import {
  blockSign,
  fingerSigns,
  graceDigits,
  halfStepSign,
  hasBlock,
  hasHold,
  holdSign,
  POSITION_ROW,
  positionNames,
  positionSigns,
} from './handSigns'
import {
  hasOrnament,
  optionalSigns,
  ornamentSigns,
  REMARK_ROW,
  remarksOf,
  remarkSigns,
  sectionSign,
  slideSigns,
  waySigns,
} from './signs'
import { el, line, text } from './svg'

/** Down bow: an open-bottomed box; up bow: a wedge. Centred on x, standing on y. */
export function bowSign(x: number, y: number, direction: 'down' | 'up'): SVGElement {
  const d =
    direction === 'down' ? `M${x - 4.5} ${y} v-8 h9 v8` : `M${x - 4} ${y - 9} L${x} ${y} L${x + 4} ${y - 9}`
  const top = direction === 'down' ? [line(x - 4.5, y - 7, x + 4.5, y - 7, { 'stroke-width': 2.4 })] : []
  return el('g', { class: 'bow-mark' }, [
    el('path', { d, fill: 'none', stroke: 'currentColor', 'stroke-width': 1.3 }),
    ...top,
  ])
}

/** The same bow goes on: a dash from the mark before to where the note begins. */
const hookSign = (x: number, y: number, from: number) =>
  line(Math.max(from + 7, x - 30), y - 3.5, x - 7, y - 3.5, { 'stroke-width': 1.3 })

/** A slur nobody took yet: dashed, on the side of the heads, where no digit stands if the stems go up. */
function addedSlur(a: Anchor, b: Anchor): SVGElement {
  const stemsUp = [a, b].every(x => x.headTop - x.top > STEM)
  const [y1, y2] = stemsUp ? [a.headBottom + 4, b.headBottom + 4] : [a.top - 5, b.top - 5]
  const middle = stemsUp ? Math.max(y1, y2) + 9 : Math.min(y1, y2) - 9
  const d = `M${a.x} ${y1} Q${(a.x + b.x) / 2} ${middle} ${b.x} ${y2}`
  return el('path', {
    d,
    fill: 'none',
    stroke: 'currentColor',
    'stroke-width': 1.6,
    'stroke-dasharray': '4 2.5',
    class: 'bow-added',
  })
}
/** A note's top lies so far above its head only where its stem goes up. */
const STEM = 20

/** Two strokes through a written slur that is parted here. */
const partedSign = (a: Anchor) =>
  el(
    'g',
    { class: 'bow-added' },
    [-2, 2].map(dx => line(a.x - 10 + dx, a.top - 4, a.x - 7 + dx, a.top - 12, { 'stroke-width': 1.4 })),
  )

/** The small comma that says: lift and set the bow anew. */
export const liftSign = (x: number, y: number) =>
  el('path', { d: `M${x} ${y} q2.5 -3 0 -6`, fill: 'none', stroke: 'currentColor', 'stroke-width': 1.4 })

/** How far the comma of a breath, and what stands over it, keep above the lines. */
const COMMA = 10

/**
 * The comma of a breath between phrases: a head on y and its tail, drawn, since the box of the letter is
 * three times as high as the letter.
 */
const breathComma = (x: number, y: number) =>
  el('path', {
    d: `M${x - 2} ${y - 1} a2 2 0 1 1 3.8 0.8 q-0.4 3.6 -3.6 5.2 q1.9 -2.2 1.7 -4 a2 2 0 0 1 -1.9 -2 z`,
    fill: 'currentColor',
    class: 'breath-comma',
  })

/** y of the rows above a staff whose highest note or line lies at `top`. */
const ROW = { finger: 6, bow: 20, position: 33, chord: 45, phrase: 60 }

/** Marks over the staff. Rows keep their height through a system so that the eye finds them. */
export function staffMarks(measures: readonly TabMeasure[], drawn: DrawnStaff, o: MarkOptions): SVGElement {
  const g = el('g', { class: 'marks' })
  const level = rows(highestOf(measures, drawn), measures, drawn, o)
  if (o.positions) g.append(...positionSigns(measures, drawn, level.position, o.hand))
  if (o.signs) g.append(...remarkSigns(measures, drawn, level.remark))
  if (o.bows) g.append(...bowJoins(measures, drawn, level.bow))
  measures.forEach((m, i) => {
    if (m.endings)
      g.append(
        ...endingMark(
          m,
          [measures[i - 1], measures[i + 1]],
          drawn.bars[i]!,
          drawn.bars[i + 1]!,
          level.ending,
        ),
      )
    if (m.label !== undefined) g.append(sectionSign(m.label, drawn.bars[i]! + 1, level.section))
    if (m.way) g.append(...waySigns(m.way, drawn.bars[i]!, drawn.bars[i + 1]!, level.way))
    for (const e of m.events) {
      const a = drawn.anchors.get(e.id)
      if (a) g.append(...eventMarks(e, a, drawn, level, o))
    }
  })
  return g
}

/** The highest thing of a line that marks have to stand over. */
export const highestOf = (measures: readonly TabMeasure[], { top, anchors }: DrawnStaff): number =>
  Math.min(
    top,
    // A grace note, its small digit over it, reaches up to where the digits of the line end.
    ...[...anchors.values()].flatMap(a => [a.top, ...(a.graces ?? []).map(g => g.top + ROW.finger)]),
    ...measures.flatMap(m => m.events.map(e => clearOf(e, anchors.get(e.id)))),
  )

/** A chevron on the left of a digit stands over the note's accidental, not on it. */
const clearOf = (e: TabEvent, a: Anchor | undefined) =>
  a?.signTop !== undefined && e.digits[0]?.text.startsWith('‹') ? a.signTop + ROW.finger : Infinity

/** What joins or parts a stroke and the one before it: hooks, lifts, and slurs that Nokta added. */
function bowJoins(measures: readonly TabMeasure[], drawn: DrawnStaff, y: number): SVGElement[] {
  const out: SVGElement[] = []
  let before: Anchor | undefined
  for (const e of measures.flatMap(m => m.events)) {
    const a = drawn.anchors.get(e.id)
    if (!a || e.rest) continue
    const signs = [
      ...(e.hook ? [hookSign(a.x, y, before?.x ?? a.x - 30)] : []),
      ...(e.lift ? [liftSign(a.x - 9, y)] : []),
    ]
    if (signs.length > 0)
      out.push(el('g', e.added === 'hook' || e.added === 'lift' ? { class: 'bow-added' } : {}, signs))
    if (e.added === 'slur' && before) out.push(addedSlur(before, a))
    if (e.added === 'part') out.push(partedSign(a))
    before = a
  }
  return out
}

/** From one digit to the one above it. */
const STACKED = 11

interface Levels {
  readonly block: number
  readonly hold: number
  readonly bow: number
  readonly position: number
  readonly chord: number
  readonly phrase: number
  readonly ending: number
  readonly way: number
  readonly ornament: number
  readonly remark: number
  readonly section: number
  readonly top: number
}

function rows(top: number, measures: readonly TabMeasure[], drawn: DrawnStaff, o: MarkOptions): Levels {
  const events = measures.flatMap(m => m.events)
  // Double stops and the other line stand on each other.
  const stack = Math.max(1, ...events.map(e => e.digits.length + (e.ossia?.length ?? 0)))
  let y = top - (o.fingers ? ROW.finger + 12 + (stack - 1) * STACKED : 4)
  // A breath's comma stands on the lines: what comes over it keeps clear.
  if (events.some(e => e.comma)) y = Math.min(y, drawn.top - COMMA)
  const take = (wanted: boolean, height: number) => {
    const at = y
    if (wanted) y -= height
    return at
  }
  const block = take(o.hand && events.some(hasBlock), 11)
  const hold = take(o.hand && events.some(hasHold), 9)
  const ornament = take(o.signs && events.some(hasOrnament), 15)
  const bow = take(o.bows, 14)
  // Where the hand is away through a whole line, its bracket alone.
  const named = o.positions && events.some(e => e.position !== undefined || e.away)
  const position = take(named, named ? 2 + positionNames(measures, drawn, o.hand).rows * POSITION_ROW : 0)
  const chord = take(o.chords && events.some(e => e.chord !== undefined), 14)
  const remarked = o.signs && events.some(e => e.remarks.length > 0)
  const remark = take(remarked, remarked ? remarksOf(measures, drawn).rows * REMARK_ROW : 0)
  // Its number hangs below the line: clear of the chord or bow mark under it.
  const ending =
    take(
      measures.some(m => m.endings),
      16,
    ) - 3
  const way = take(
    measures.some(m => m.way),
    16,
  )
  const phrase = take(o.phrases && events.some(e => e.phrase !== undefined), 17)
  const section = take(
    measures.some(m => m.label !== undefined),
    20,
  )
  return { block, hold, bow, position, chord, phrase, ending, way, ornament, remark, section, top: y }
}

/** A finger digit standing on y. The open string is a plain oval: the text face strikes its zeros through. */
export function fingerGlyph(x: number, y: number, shown: string, size: number, bold = false): SVGElement {
  if (/[‹›]/.test(shown)) return chevroned(x, y, shown, size, bold)
  if (shown !== '0') return text(x, y, shown, { size, bold })
  const [rx, ry] = [size * 0.24, size * 0.36]
  return el('ellipse', {
    cx: x,
    cy: y - ry,
    rx,
    ry,
    fill: 'none',
    stroke: 'currentColor',
    'stroke-width': bold ? 1.7 : 1.2,
    class: 'open-string',
  })
}

/** A digit of the other line, in brackets. */
export function bracketed(x: number, y: number, shown: string, size: number): SVGElement {
  const half = size * (shown.length > 1 ? 0.8 : 0.5)
  return el('g', { class: 'ossia' }, [
    text(x - half, y, '(', { size }),
    fingerGlyph(x, y, shown, size),
    text(x + half, y, ')', { size }),
  ])
}

/**
 * Our chevron beside a digit, drawn so that it stays legible at any size: ‹ towards the nut, › towards the
 * bridge.
 */
function chevroned(x: number, y: number, shown: string, size: number, bold: boolean): SVGElement {
  const side = shown.startsWith('‹') ? -1 : 1
  const tip = x + side * size * 0.68
  const d = `M${tip - side * size * 0.24} ${y - size * 0.62} L${tip} ${y - size * 0.35} L${tip - side * size * 0.24} ${y - size * 0.08}`
  return el('g', { class: 'low-high' }, [
    text(x, y, shown.replace(/[‹›]/g, ''), { size, bold }),
    el('path', { d, fill: 'none', stroke: 'currentColor', 'stroke-width': bold ? 1.7 : 1.3 }),
  ])
}

/** Room the marks need above the highest note. */
export function marksHeight(measures: readonly TabMeasure[], drawn: DrawnStaff, o: MarkOptions): number {
  return -rows(0, measures, drawn, o).top + 3
}

function eventMarks(e: TabEvent, a: Anchor, drawn: DrawnStaff, level: Levels, o: MarkOptions): SVGElement[] {
  const out: SVGElement[] = []
  if (o.fingers && e.digits.length > 0 && (e.need ?? 0) >= (o.fingersFrom ?? 0)) {
    const y = Math.min(a.top, drawn.top, clearOf(e, a)) - ROW.finger
    const digits = e.digits.map(d => d.text)
    digits.forEach((d, k) => out.push(fingerGlyph(a.x, y - k * STACKED, d, 12)))
    e.ossia?.forEach((d, k) => out.push(bracketed(a.x, y - (digits.length + k) * STACKED, d.text, 10.5)))
    out.push(...halfStepSign(e, a, drawn, y))
    if (o.hand) out.push(...fingerSigns(e, a, y))
    out.push(...graceDigits(e, a, drawn.top, fingerGlyph))
  }
  if (o.hand) out.push(...blockSign(e, a, drawn, level.block), ...holdSign(e, a, drawn, level.hold))
  if (o.bows && e.bow) {
    out.push(bowSign(a.x, level.bow, e.bow))
  }
  if (e.comma) out.push(breathComma(a.x + 14, drawn.top - 3))
  if (o.chords && e.chord)
    out.push(text(a.x - 5, level.chord, e.chord, { size: 12.5, bold: true, anchor: 'start' }))
  if (e.optional) out.push(...optionalSigns(a))
  if (o.signs) out.push(...ornamentSigns(e, a.x, level.ornament), ...slideSigns(e, a))
  if (o.phrases && e.phrase)
    out.push(
      phraseMark(Math.min(a.x - 6, drawn.bars.at(-1)! - 16 - e.phrase.length * 7), level.phrase, e.phrase),
    )
  return out
}

/** Phrase letter beside the product's dot. */
const phraseMark = (x: number, y: number, label: string) =>
  el('g', { class: 'phrase-mark' }, [
    el('circle', { cx: x + 3, cy: y - 4, r: 3.2, fill: 'currentColor' }),
    text(x + 10, y, label, { size: 12.5, bold: true, anchor: 'start' }),
  ])

function endingMark(
  m: TabMeasure,
  [before, after]: readonly (TabMeasure | undefined)[],
  left: number,
  right: number,
  y: number,
): SVGElement[] {
  const same = (other: TabMeasure | undefined) => other?.endings?.join() === m.endings!.join()
  const starts = !same(before)
  // One line over all its measures.
  const out: SVGElement[] = [line(starts ? left + 2 : left, y - 8, same(after) ? right : right - 3, y - 8)]
  if (starts)
    out.push(
      line(left + 2, y - 8, left + 2, y + 4),
      text(left + 7, y + 3, `${m.endings!.join(', ')}.`, { size: 11, anchor: 'start' }),
    )
  return out
}

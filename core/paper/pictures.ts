/** Pictures of a sheet as simple shapes: the fingerboard to scale, the practice grid. */
import { fromNut } from '#core/instruments/geometry'
import type { Mm } from '#core/instruments/instruments'
import { tapes } from '#core/instruments/tapes'
import type { Picture, Shape } from '#core/page/flow'
import { fitted, POINT } from '#core/page/heading'
import type { Measurer } from '#core/page/measurer'
import type { Board, BoardPlace, Grid } from './content'

export interface BoardLook {
  /** Colours of the studio's own tapes, by semitones above the open string. */
  readonly colours: Readonly<Record<string, string>>
  /** Seen by a left-handed player: the nut on the right. */
  readonly leftHanded?: boolean
}

const STRING_GAP: Mm = 8.5
const DOT: Mm = 2.9
const TOUCHING: Mm = 2.4

/** Smaller than this share of its size a digit is no longer read. */
const SMALLEST = 0.45
/** Half the width of a dot with its digits. */
const halfOf = ({ digits }: BoardPlace): Mm =>
  digits.length > 1 ? 2 * DOT : digits[0]!.length > 1 ? DOT * 1.35 : DOT

/**
 * The nut on the left, the highest string on top; places stand as far from the nut as on the instrument, in
 * proportion.
 */
export function boardPicture(
  { length, instrument, strings, places, touching }: Board,
  width: Mm,
  { colours, leftHanded = false }: BoardLook,
): Picture {
  const nut: Mm = 16
  const top: Mm = 8
  const reach = fromNut(length, Math.max(7, ...places.map(p => p.offset)) + 1)
  const scale = Math.min((width - nut - 4) / reach, 0.95)
  const end = nut + reach * scale
  const flip = (x: Mm) => (leftHanded ? nut + end - x : x)
  const at = (offset: number) => flip(offset === 0 ? nut - 5.5 : nut + fromNut(length, offset) * scale)
  const bottom = top + (strings.length - 1) * STRING_GAP
  const shapes: Shape[] = []
  for (const t of tapes(instrument, length)) {
    const x = at(t.semitones)
    if (t.fromNut > reach) continue
    shapes.push({
      kind: 'line',
      x1: x,
      x2: x,
      y1: top - 3,
      y2: bottom + 3,
      width: 0.5,
      dashed: true,
      ...(colours[t.semitones] && { colour: colours[t.semitones] }),
    })
    shapes.push({
      kind: 'text',
      x,
      y: top - 4,
      text: `${Math.round(t.fromNut)} mm`,
      size: 6.5 * POINT,
      anchor: 'middle',
      quiet: true,
    })
  }
  shapes.push({ kind: 'line', x1: flip(nut), x2: flip(nut), y1: top - 3, y2: bottom + 3, width: 1.1 })
  strings.forEach((name, i) => {
    const y = top + i * STRING_GAP
    shapes.push({ kind: 'line', x1: flip(nut), x2: flip(end), y1: y, y2: y, width: 0.3 + i * 0.14 })
    shapes.push({
      kind: 'text',
      x: flip(2),
      y: y + 1.3,
      text: name,
      size: 10 * POINT,
      anchor: 'middle',
      bold: true,
    })
  })
  // Fingers that touch are joined.
  for (const t of touching) {
    const y = top + t.string * STRING_GAP
    shapes.push({ kind: 'line', x1: at(t.offset), x2: at(t.offset + 1), y1: y, y2: y, width: TOUCHING })
  }
  for (const p of places) {
    const [x, y] = [at(p.offset), top + p.string * STRING_GAP]
    // High up places lie closer than dots are wide: there they are drawn smaller.
    const near = places
      .filter(o => o !== p && o.string === p.string)
      .map(o => Math.abs(at(o.offset) - x) / (halfOf(p) + halfOf(o) + 0.4))
    const k = Math.max(SMALLEST, Math.min(1, ...near))
    const [half, dot] = [k * halfOf(p), k * DOT]
    if (p.fresh)
      shapes.push({
        kind: 'box',
        x: x - half - 0.9 * k,
        y: y - dot - 0.9 * k,
        w: 2 * half + 1.8 * k,
        h: 2 * dot + 1.8 * k,
        round: dot + 0.9 * k,
        filled: false,
      })
    shapes.push({ kind: 'box', x: x - half, y: y - dot, w: 2 * half, h: 2 * dot, round: dot, filled: true })
    p.digits.slice(0, 2).forEach((d, i) =>
      shapes.push({
        kind: 'digit',
        x: x + (p.digits.length > 1 ? (i - 0.5) * 2 * dot : 0),
        y: y + 1.45 * k,
        text: d,
        size: 4.1 * k,
        light: true,
      }),
    )
  }
  return { shapes, height: bottom + 5 }
}

const ROW: Mm = 8.5
const MOST_LABEL: Mm = 60

/** A row for each phrase, a column for each tempo, boxes to tick. */
export function gridPicture({ rows, steps }: Grid, width: Mm, measurer: Measurer): Picture {
  const label = Math.min(MOST_LABEL, width / 3)
  const column = (width - label) / steps.length
  const height = (rows.length + 1) * ROW
  const lines = Array.from({ length: rows.length + 2 }, (_, i): Shape => ({
    kind: 'line',
    x1: 0,
    x2: width,
    y1: i * ROW,
    y2: i * ROW,
    width: 0.25,
  }))
  const columns = Array.from({ length: steps.length + 1 }, (_, i): Shape => ({
    kind: 'line',
    x1: label + i * column,
    x2: label + i * column,
    y1: 0,
    y2: height,
    width: 0.25,
  }))
  const text = (x: Mm, row: number, said: string, bold: boolean, anchor: 'start' | 'middle'): Shape => {
    const room = anchor === 'start' ? label - 2 : column
    return {
      kind: 'text',
      x,
      y: (row + 1) * ROW - 2.9,
      ...fitted(said, { size: 9.5 * POINT, least: 7.5 * POINT, bold }, room, measurer),
      anchor,
      ...(bold && { bold: true as const }),
    }
  }
  const heads = steps.map((s, i) => text(label + (i + 0.5) * column, 0, s, true, 'middle'))
  return {
    shapes: [
      ...lines,
      ...columns,
      text(0, 0, 'reached at', false, 'start'),
      ...heads,
      ...rows.map((r, i) => text(0, i + 1, r, true, 'start')),
    ],
    height,
  }
}

/** What flows down a sheet beside the music: lines of text broken to the width, pictures of simple shapes. */
import type { Mm } from '#core/instruments/instruments'
import type { TextLine } from './heading'
import type { Measurer } from './measurer'

/** A piece of a line in one face. */
export interface Piece {
  readonly text: string
  readonly bold?: true
  readonly italic?: true
}
/** A paragraph: broken where it is wider than the page. */
export interface Paragraph {
  readonly pieces: readonly Piece[]
  readonly size: Mm
  readonly indent?: Mm
  /** Air over it. */
  readonly before?: Mm
}

export const paragraph = (
  text: string,
  size: Mm,
  more: Omit<Piece, 'text'> & Pick<Paragraph, 'indent' | 'before'> = {},
): Paragraph => {
  const { indent, before, ...face } = more
  return {
    pieces: [{ text, ...face }],
    size,
    ...(indent !== undefined && { indent }),
    ...(before !== undefined && { before }),
  }
}

/** Height of a line against the size of its type. */
const LEADING = 1.42

/**
 * Breaks a paragraph between words; a word wider than the page stands alone. Each row: its texts, and how far
 * down its foot lies.
 */
export function rowsOf(
  p: Paragraph,
  width: Mm,
  measurer: Measurer,
): { readonly lines: readonly TextLine[]; readonly height: Mm } {
  const indent = p.indent ?? 0
  const lines: TextLine[] = []
  let [x, y] = [indent, (p.before ?? 0) + p.size]
  for (const piece of p.pieces) {
    const { text, ...face } = piece
    const wide = (t: string) => measurer.text(t, { size: p.size, ...(face.bold && { bold: true }) })
    let row = ''
    const put = () => {
      if (row !== '') lines.push({ x, y, text: row, size: p.size, anchor: 'start', ...face })
      x += wide(row)
      row = ''
    }
    for (const word of text.split(/(?<= )/)) {
      if (x + wide((row + word).trimEnd()) > width && x + wide(row) > indent) {
        put()
        x = indent
        y += p.size * LEADING
      }
      row += word
    }
    put()
  }
  return { lines, height: y + p.size * (LEADING - 1) }
}

/** Simple shapes of a picture, in mm from its upper left corner. */
export type Shape =
  | {
      readonly kind: 'line'
      readonly x1: Mm
      readonly y1: Mm
      readonly x2: Mm
      readonly y2: Mm
      readonly width: Mm
      readonly dashed?: true
      readonly colour?: string
    }
  | {
      readonly kind: 'box'
      readonly x: Mm
      readonly y: Mm
      readonly w: Mm
      readonly h: Mm
      readonly round: Mm
      readonly filled: boolean
      readonly dashed?: true
    }
  | {
      readonly kind: 'digit'
      readonly x: Mm
      readonly y: Mm
      readonly text: string
      readonly size: Mm
      readonly light?: true
    }
  | ({ readonly kind: 'text' } & TextLine)

export interface Picture {
  readonly shapes: readonly Shape[]
  readonly height: Mm
}

/**
 * What only a drawing surface knows of widths, handed in: the page is laid out the same wherever it is drawn.
 */
import type { Mm } from '#core/instruments/instruments'

export interface TextFace {
  readonly size: Mm
  readonly bold?: boolean
}

export interface Measurer {
  /** Width of a text as it is drawn. */
  text(content: string, face: TextFace): Mm
  /** Width of a sign of music, in staff spaces (the distance of two staff lines). */
  glyph(name: GlyphName): number
}

export type GlyphName = keyof typeof GLYPHS

/** Widths of the signs of an ordinary music face, in staff spaces. */
export const GLYPHS = {
  head: 1.2,
  wholeHead: 1.7,
  rest: 1.3,
  flag: 0.9,
  dot: 0.65,
  doubleFlat: 1.7,
  flat: 0.95,
  natural: 0.8,
  sharp: 1.05,
  doubleSharp: 1.1,
  graceHead: 0.95,
  clef: 3.2,
  keySign: 1,
  metre: 3.7,
  /** Each further digit of a metre. */
  metreDigit: 1.8,
  repeat: 1.9,
} as const

/** Widths by the count of letters: for the shell and tests, where nothing is drawn. */
export const PLAIN_MEASURER: Measurer = {
  text: (content, { size, bold }) => [...content].length * size * (bold ? 0.6 : 0.55),
  glyph: name => GLYPHS[name],
}

/** Widths as the page's own face has them: the measurer of the bench and the sheet. */
import { GLYPHS, type Measurer } from '#core/page/measurer'
import { TEXT_FACE } from './svg'

/** CSS pixels in a millimetre, on paper as on screen. */
export const PX = 96 / 25.4
/** Drawings are made in units of which ten are a staff space. */
export const UNITS = 10

let canvas: CanvasRenderingContext2D | null = null
const contextOf = () => (canvas ??= document.createElement('canvas').getContext('2d'))
const known = new Map<string, number>()

function width(content: string, size: number, bold: boolean): number {
  const key = `${bold ? 'b' : ''}${size}|${content}`
  let found = known.get(key)
  if (found === undefined) {
    const context = contextOf()
    if (context) context.font = `${bold ? 'bold ' : ''}${size}px "${TEXT_FACE}"`
    found = context?.measureText(content).width ?? content.length * size * 0.55
    known.set(key, found)
  }
  return found
}

export const pageMeasurer: Measurer = {
  // Measured large, so that hinting rounds nothing away.
  text: (content, { size, bold = false }) => (width(content, 100, bold) * size) / 100,
  glyph: name => GLYPHS[name],
}

/** Widths taken with another face are forgotten. */
export const forgetWidths = () => known.clear()

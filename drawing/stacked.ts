/** Short texts over the notes of a line: each at its note, in a row over the others where there is no room beside them. */
import { pageMeasurer } from './measurer'

export interface Said {
  readonly id: string
  readonly said: string
  /** Where it would begin. */
  readonly x: number
}

export interface PlacedText extends Said {
  readonly end: number
  /** 0 the lowest. */
  readonly row: number
}

/** Rows of texts over each other at most. */
const MOST_ROWS = 3
/** From one text to the next. */
export const TEXT_GAP = 4

/** How wide a text of this size is, in units of the drawing. */
export const widthOf = (said: string, size: number) => pageMeasurer.text(said, { size })

/** Texts in order of their notes; none goes beyond `right` where it has room to the left. Linear. */
export function stacked(texts: readonly Said[], size: number, right: number): { readonly texts: ReadonlyMap<string, PlacedText>; readonly rows: number } {
  const free: number[] = new Array<number>(MOST_ROWS).fill(0)
  const out = new Map<string, PlacedText>()
  for (const t of texts) {
    const width = widthOf(t.said, size)
    const wanted = Math.max(0, Math.min(t.x, right - width))
    const fits = free.findIndex(f => f <= wanted)
    const row = fits >= 0 ? fits : free.indexOf(Math.min(...free))
    const x = Math.max(free[row]!, wanted)
    out.set(t.id, { ...t, x, end: x + width, row })
    free[row] = x + width + TEXT_GAP
  }
  return { texts: out, rows: Math.max(1, ...[...out.values()].map(t => t.row + 1)) }
} // prettier-ignore

/**
 * Short texts over the notes of a line: each at its note, in a row over the others where there is no room
 * beside them.
 */
import { pageMeasurer } from './measurer'

export interface Said {
  readonly id: string
  readonly said: string
  /** Where it would begin. */
  readonly x: number
}

export interface PlacedText extends Said {
  /** What is said, from top to bottom; one line where nothing is broken. */
  readonly lines: readonly string[]
  readonly end: number
  /** Of its last line; 0 the lowest. */
  readonly row: number
}

/** Rows of texts over each other at most. */
const MOST_ROWS = 3
/** From one text to the next. */
export const TEXT_GAP = 4

/**
 * How wide a text of this size is, in units of the drawing: bold, as in high contrast, so that it stands in
 * the same place there.
 */
export const widthOf = (said: string, size: number) => pageMeasurer.text(said, { size, bold: true })

/** A text in lines no wider than `most`, broken between words; a word wider than that within it. */
export function wrapped(said: string, size: number, most: number): string[] {
  if (widthOf(said, size) <= most) return [said]
  const out: string[] = []
  let line = ''
  for (const word of said.split(' ').flatMap(w => pieces(w, size, most))) {
    const longer = line === '' ? word : `${line} ${word}`
    if (line !== '' && widthOf(longer, size) > most) {
      out.push(line)
      line = word
    } else line = longer
  }
  return [...out, line]
}

function pieces(word: string, size: number, most: number): string[] {
  const width = widthOf(word, size)
  if (width <= most) return [word]
  const signs = [...word]
  const each = Math.max(1, Math.floor((signs.length * most) / width / 1.2))
  return Array.from({ length: Math.ceil(signs.length / each) }, (_, i) =>
    signs.slice(i * each, (i + 1) * each).join(''),
  )
}

/**
 * Texts in order of their notes, in as few rows as there is room, `most` of them; broken at `wrap`. None goes
 * beyond `right` where it has room to the left.
 */
export function stacked(
  texts: readonly Said[],
  size: number,
  right: number,
  { most = MOST_ROWS, wrap = Infinity } = {},
): { readonly texts: ReadonlyMap<string, PlacedText>; readonly rows: number } {
  const free: number[] = []
  const out = new Map<string, PlacedText>()
  for (const t of texts) {
    const lines = wrapped(t.said, size, wrap)
    const width = Math.max(...lines.map(l => widthOf(l, size)))
    const wanted = Math.max(0, Math.min(t.x, right - width))
    const row = rowFor(free, lines.length, wanted, most)
    const own = Array.from({ length: lines.length }, (_, i) => row + i)
    const x = Math.max(wanted, ...own.map(r => free[r] ?? 0))
    out.set(t.id, { ...t, lines, x, end: x + width, row })
    for (const r of own) free[r] = x + width + TEXT_GAP
  }
  return { texts: out, rows: Math.max(1, free.length) }
}

/**
 * The lowest row from which as many as are needed are free where a text begins; else those that are free the
 * soonest.
 */
function rowFor(free: readonly number[], count: number, from: number, most: number): number {
  const until = (row: number) => Math.max(...Array.from({ length: count }, (_, i) => free[row + i] ?? 0))
  const last = Math.max(0, Math.min(free.length, most - count))
  let best = 0
  for (let row = 0; row <= last; row++) {
    if (until(row) <= from) return row
    if (until(row) < until(best)) best = row
  }
  return best
}

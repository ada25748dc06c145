/** What is drawn beside the notes of a part. */
import type { Rows } from './columns'

export interface MarkOptions {
  readonly fingers: boolean
  /** Only fingers a reader needs at least so much. */
  readonly fingersFrom?: 0 | 1 | 2
  readonly bows: boolean
  readonly positions: boolean
  readonly phrases: boolean
  readonly chords: boolean
  /** Ornaments, dynamics and remarks. */
  readonly signs: boolean
  /** The number of the first measure of a line. */
  readonly numbers?: boolean
  /** Fingers that stay down, are laid over two strings, or are put ready. */
  readonly hand: boolean
}

export const ALL_MARKS: MarkOptions = {
  fingers: true,
  bows: true,
  positions: true,
  phrases: true,
  chords: true,
  signs: true,
  hand: false,
}

/** What one part shows otherwise than the others: marks, or lines of tablature. */
export type PartMarks = Partial<MarkOptions & Pick<Rows, 'tab'>>

export const marksIn = (marks: MarkOptions, own: PartMarks = {}): MarkOptions => {
  const { tab: _, ...said } = own
  return { ...marks, ...said }
}

/** The rows a part takes room for. */
export const rowsIn = (rows: Rows, own: PartMarks = {}): Rows => ({
  fingers: own.fingers ?? rows.fingers,
  bows: own.bows ?? rows.bows,
  tab: own.tab ?? rows.tab,
  chords: own.chords ?? rows.chords,
})

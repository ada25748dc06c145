/** Paper, and what a sheet of it holds. Millimetres. */
import type { Mm } from '#core/instruments/instruments'

export type Paper = 'A4' | 'Letter'
export const PAPERS: Readonly<Record<Paper, { width: Mm; height: Mm }>> = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
}
export const MARGIN: Mm = 14
/** Room for title and heading on the first page, for the running title on the others. */
export const HEADING: Mm = 22
export const RUNNING_HEADING: Mm = 9

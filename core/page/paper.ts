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

/** Splits systems into pages by their heights, in order; every page holds at least one, and an empty tune still has a page. */
export function paginate<T>(systems: readonly T[], paper: Paper, heightOf: (system: T) => Mm): T[][] {
  const body = PAPERS[paper].height - 2 * MARGIN
  const pages: T[][] = [[]]
  let room = body - HEADING
  for (const system of systems) {
    const height = heightOf(system)
    if (height > room && pages.at(-1)!.length > 0) {
      pages.push([])
      room = body - RUNNING_HEADING
    }
    pages.at(-1)!.push(system)
    room -= height
  }
  return pages
}

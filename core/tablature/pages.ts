/** Page breaks: how many systems a sheet of paper holds. Millimetres. */
import type { Mm } from '#core/instruments/instruments'

export type Paper = 'A4' | 'Letter'
export const PAPERS: Readonly<Record<Paper, { width: Mm; height: Mm }>> = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
}
export const MARGIN: Mm = 14
/** Room for title and heading on the first page, for the running title on the others. */
export const HEADING: Mm = 30
export const RUNNING_HEADING: Mm = 9

/** Splits systems of one height into pages; every page holds at least one. */
export function paginate<T>(systems: readonly T[], paper: Paper, systemHeight: Mm): T[][] {
  const body = PAPERS[paper].height - 2 * MARGIN
  const room = (heading: Mm) => Math.max(1, Math.floor((body - heading) / systemHeight))
  const pages: T[][] = []
  let rest = [...systems]
  while (rest.length > 0 || pages.length === 0) {
    const n = room(pages.length === 0 ? HEADING : RUNNING_HEADING)
    pages.push(rest.slice(0, n))
    rest = rest.slice(n)
  }
  return pages
}

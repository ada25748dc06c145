/** Places on the bench, and what a page is called. */

/** The stations that work, in the order of the work. */
export const STATIONS = ['tune', 'form', 'hand', 'bow', 'levels', 'sheet'] as const
export type Station = (typeof STATIONS)[number]

/** "Shelf · Nokta"; the bench names its tune and station itself. */
export const pageTitle = (...names: readonly string[]): string =>
  [...names, 'Nokta'].filter(n => n !== '').join(' · ')

/** What a tune can be enriched with, by name; the time through from which it is played. */
import type { Layer } from '#core/arrangement/change'

export const SPICES = [
  'ending',
  'octaves',
  'repeats',
  'turns',
  'broken',
  'rocking',
  'unisons',
  'drones',
  'stops',
  'rolls',
  'runs',
  'slides',
  'hammers',
  'cuts',
] as const
export type SpiceKind = (typeof SPICES)[number]

/** What makes a sung melody less dull when nobody sings. */
export const WITHOUT_WORDS: readonly SpiceKind[] = ['repeats', 'turns']
/** What a player adds to a dance or an air that stands by itself. */
export const FANCIER: readonly SpiceKind[] = SPICES.filter(s => !WITHOUT_WORDS.includes(s))

/** Kinds that compete for a measure: one of each sort is enough. */
export type Sort = 'together' | 'ornament' | 'line' | 'form'

interface Spice {
  /** Plain first; what is left out here is there from the first time on. */
  readonly layer?: Layer
  readonly sort: Sort
  /** So many of it a measure bears, and a phrase. */
  readonly most: number
  readonly perPhrase?: number
}

export const SPICE: Readonly<Record<SpiceKind, Spice>> = {
  ending: { layer: 3, sort: 'form', most: 1 },
  octaves: { layer: 3, sort: 'form', most: 1 },
  repeats: { sort: 'line', most: 3 },
  turns: { sort: 'line', most: 3 },
  runs: { layer: 3, sort: 'line', most: 1, perPhrase: 2 },
  broken: { layer: 3, sort: 'line', most: 1 },
  rocking: { layer: 3, sort: 'line', most: 1, perPhrase: 1 },
  unisons: { layer: 2, sort: 'together', most: 1 },
  drones: { layer: 2, sort: 'together', most: 1 },
  stops: { layer: 3, sort: 'together', most: 1 },
  rolls: { layer: 3, sort: 'ornament', most: 1 },
  slides: { layer: 2, sort: 'ornament', most: 1, perPhrase: 2 },
  hammers: { layer: 2, sort: 'ornament', most: 1, perPhrase: 2 },
  cuts: { layer: 2, sort: 'ornament', most: 1, perPhrase: 2 },
}

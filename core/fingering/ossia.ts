/** The other line, printed beside the fingers for learners who have not got what it takes. */
import { wholeAlternatives } from './alternatives'
import type { Fingering } from './fingering'
import type { HeadPlace } from './candidates'

/** The kinds of other line, and the way of playing each is. */
const WAYS = { noFourth: 'noFourth', noOpen: 'noOpen', first: 'firstPosition' } as const
export type Ossia = keyof typeof WAYS

/** By event id: how the notes that change are played in the other line. Empty when the line already is so. */
export function ossiaOf(f: Fingering, kind: Ossia): ReadonlyMap<string, readonly HeadPlace[]> {
  const other = wholeAlternatives(f, Infinity).find(a => a.way.id === WAYS[kind])
  if (!other) return new Map()
  return new Map(
    other.changed.map(i => [f.problem.tones[i]!.id, f.problem.states[i]![other.path[i]!]!.places] as const),
  )
}

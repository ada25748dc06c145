/** The other line, printed beside the fingers for learners who have not got what it takes. */
import { wholeAlternatives } from './alternatives'
import type { Fingering } from './fingering'
import type { HeadPlace } from './candidates'

export const OSSIAS = {
  noFourth: 'no fourth finger',
  noOpen: 'no open strings',
  first: 'all in first position',
} as const
export type Ossia = keyof typeof OSSIAS

/** By event id: how the notes that change are played in the other line. Empty when the line already is so. */
export function ossiaOf(f: Fingering, kind: Ossia): ReadonlyMap<string, readonly HeadPlace[]> {
  const other = wholeAlternatives(f, Infinity).find(a => a.name === OSSIAS[kind])
  if (!other) return new Map()
  return new Map(
    other.changed.map(i => [f.problem.tones[i]!.id, f.problem.states[i]![other.path[i]!]!.places] as const),
  )
}

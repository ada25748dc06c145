/**
 * What an added spice is worth and what it costs, each weight with its musical reason. One unit is about what
 * a single ornament on a beat is worth.
 */
import type { SpiceKind } from './spices'

/**
 * What each kind is worth where it offers itself: what changes the form most is heard most, a flick of the
 * finger least.
 */
export const SPICE_WORTH: Readonly<Record<SpiceKind, number>> = {
  ending: 3,
  octaves: 2.6,
  repeats: 1.9,
  turns: 1.8,
  broken: 1.7,
  rocking: 1.6,
  unisons: 1.5,
  drones: 1.4,
  stops: 1.3,
  rolls: 1.2,
  runs: 1.1,
  slides: 1,
  hammers: 0.95,
  cuts: 0.9,
}

export const SPICE_WEIGHTS = {
  /** For each beat's weight below the first of a measure: what stands on a strong beat is heard. */
  weakBeat: 0.1,
  /** Each quarter beyond the first that a note lasts gives a spice room. */
  room: 0.15,
  /** What a spice is there for, such as a cut that parts two notes of one height. */
  asked: 0.4,
  /** A phrase comes to rest: what moves on there takes its ending away, a flick of the finger less so. */
  movesAtClose: 0.7,
  flickAtClose: 0.2,
  /** Heard before, a measure may sound otherwise; the first time it is the tune. */
  again: 0.25,
  /** A second spice in a measure, and again for a third: few at a time. */
  crowded: 0.3,
  /** The same spice measure after measure is a habit, not a spice. */
  sameAgain: 0.35,
  /** A phrase goes an octave up as a whole or not at all. */
  halfUp: 6,
  /** More of a kind than a phrase bears, each time it was found so. */
  beyond: 2,
} as const

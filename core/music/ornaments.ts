/** What ornaments play: one table for what is heard and what the hand is told. */
import type { Mark } from './tune'

/**
 * Steps of the key from the note itself, in the order they sound. A trill goes on as it begins, a roll is
 * spread over its note, a slide glides from where it begins.
 */
export const ORNAMENT_STEPS = {
  trill: [0, 1, 0, 1],
  mordent: [0, -1, 0],
  upperMordent: [0, 1, 0],
  turn: [1, 0, -1, 0],
  cut: [1, 0],
  roll: [0, 1, 0, -1, 0],
  slide: [-1, 0],
} as const satisfies Partial<Record<Mark, readonly number[]>>

export type Ornament = keyof typeof ORNAMENT_STEPS
export const isOrnament = (mark: string): mark is Ornament => mark in ORNAMENT_STEPS

/**
 * What a key costs an instrument, whatever the tune: the signs to read and to place, less the open strings
 * that ring in it.
 */
import { signature, tonicClass, type Key } from '#core/music/key'
import type { Tuning } from '#core/instruments/tunings'

/** What it is worth, for each note of a tune, to stay in the key everybody knows it in. */
export const OWN_KEY = 0.05
/**
 * … that the key's first and fifth degree are open strings: the instrument rings, and the ear has something
 * to tune to.
 */
const RING = 0.025
/** … and of keys that cost as much the plainer one. */
const SIGN = 0.014
/** A flat takes the first or second finger back: it counts so many sharps. */
const FLAT = 3

/**
 * For each note of a tune; less is better, and negative where open strings outweigh the signs. Weights of our
 * own, set by which keys teachers choose.
 */
export function keyCost(key: Key, strings: Tuning): number {
  const signs = signature(key)
  const ringing = [0, 7].filter(above => strings.some(s => (s - tonicClass(key) - above) % 12 === 0)).length
  return SIGN * (signs < 0 ? -signs * FLAT : signs) - RING * ringing
}

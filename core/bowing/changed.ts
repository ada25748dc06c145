/** Where two lines for the bow differ: what was found for one serves for the other everywhere else. */
import type { BowLine } from './line'

/**
 * The first tone whose costs differ, and the one after the last; undefined when the lines are not alike
 * enough to compare.
 */
export function changedTones(a: BowLine, b: BowLine): { first: number; last: number } | undefined {
  const n = a.tones.length
  if (b.tones.length !== n || a.bearing !== b.bearing || a.lastUp !== b.lastUp) return undefined
  let [first, last] = [n, -1]
  for (let k = 0; k < n; k++) {
    if (sameCosts(a, b, k)) continue
    first = Math.min(first, k)
    last = k
  }
  return { first, last: last + 1 }
}

export const sameCosts = (a: BowLine, b: BowLine, k: number) =>
  a.start[2 * k] === b.start[2 * k] &&
  a.start[2 * k + 1] === b.start[2 * k + 1] &&
  a.inside[2 * k] === b.inside[2 * k] &&
  a.inside[2 * k + 1] === b.inside[2 * k + 1] &&
  a.stroke[k] === b.stroke[k] &&
  a.over[k] === b.over[k] &&
  a.more[k] === b.more[k] &&
  a.join[k] === b.join[k] &&
  a.turn[k] === b.turn[k] &&
  a.hook[k] === b.hook[k] &&
  a.lift[k] === b.lift[k] &&
  a.habits[k]?.way === b.habits[k]?.way &&
  Object.is(a.low[k], b.low[k]) &&
  Object.is(a.high[k], b.high[k]) &&
  sameTone(a.tones[k]!, b.tones[k]!)

type Tone = BowLine['tones'][number]
const sameTone = (a: Tone, b: Tone) =>
  a.seconds === b.seconds &&
  a.loudness === b.loudness &&
  a.accent === b.accent &&
  a.restBefore === b.restBefore

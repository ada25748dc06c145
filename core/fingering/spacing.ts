/**
 * How far apart the fingers of one hand stand from note to note: violin and viola have room for mistakes, the
 * frames of cello and bass little.
 */
import type { Finger } from '#core/instruments/hands'
import { isLow } from '#core/instruments/instruments'
import type { InstrumentId } from '#core/music/tune'
import type { HandState, HeadPlace } from './candidates'
import { WEIGHTS as W } from './weights'

const NUMBER: Record<Finger, number> = { 0: 0, T: 0, 1: 1, 2: 2, 3: 3, 4: 4 }

/** Semitones that so many fingers apart may stand, at least and at most, in one hand. */
const SPREAD: readonly (readonly [number, number])[] = [
  [0, 0],
  [1, 3],
  [2, 5],
  [3, 6],
]

/**
 * Low and high fingers of violin and viola can stand too far apart or too close; the frames of cello and bass
 * leave room only for fingers in the wrong order.
 */
export function stretchCost(
  instrument: InstrumentId,
  a: HandState,
  b: HandState,
  quick: number,
  run = false,
): number {
  if (isLow(instrument)) return wrongOrder(a.lead, b.lead) ? W.stretch : 0
  // In a chromatic run fingers stand for half steps, not for letters.
  const cost = pairStretch(a.lead, b.lead) + (run ? 0 : letterCost(a.lead, b.lead))
  const weak =
    a.lead.string === b.lead.string && NUMBER[a.lead.finger] + NUMBER[b.lead.finger] === 7
      ? W.weakPair * quick
      : 0
  return cost + weak
}

function wrongOrder(p: HeadPlace, q: HeadPlace): boolean {
  if (p.harmonic || q.harmonic) return false
  const [x, y] = NUMBER[p.finger] <= NUMBER[q.finger] ? [p, q] : [q, p]
  return p.string === q.string && x.finger !== 0 && x.finger !== y.finger && y.offset <= x.offset
}

/**
 * In one position a finger stands for a letter: notes that are two letters apart are two fingers apart,
 * whatever their accidentals.
 */
function letterCost(p: HeadPlace, q: HeadPlace): number {
  if (p.finger === 0 || q.finger === 0 || (p.offset === q.offset && p.string === q.string)) return 0
  if (p.harmonic || q.harmonic) return 0
  return p.letterPosition === q.letterPosition ? 0 : W.letters
}

function pairStretch(p: HeadPlace, q: HeadPlace): number {
  const [x, y] = NUMBER[p.finger] <= NUMBER[q.finger] ? [p, q] : [q, p]
  const apart = NUMBER[y.finger] - NUMBER[x.finger]
  if (x.finger === 0 || x.finger === 'T' || apart === 0 || p.harmonic || q.harmonic) return 0
  const [least, most] = SPREAD[apart]!
  const gap = y.offset - x.offset
  // On another string fingers may stand as close as side by side.
  const tight = p.string === q.string ? least : Math.max(0, least - 1)
  return gap < tight ? W.stretch * (tight - gap) : gap > most ? W.stretch * (gap - most) : 0
}

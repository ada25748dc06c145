/** Places on the hair and what being at one, or going through the air to one, costs by itself. */
import type { BowLine } from './line'
import { STEPS, wantedLength } from './travel'

export const PLACES = STEPS + 1
/** Down at each place, then up at each. */
export const STATES = 2 * PLACES
/** A rest this long, in seconds, leaves time to move the bow through the air. */
export const MOVE_REST = 0.2
/** Taking whatever hair is left when no wanted length fits. */
export const SQUEEZED = 3
/** Moving the bow through the air, per whole bow. */
export const AIR = 0.6
/** An accent has no weight out at the tip. */
const ACCENT_AT_TIP = 0.5
/** Away from the part of the bow that was asked for, per whole bow. */
const OFF_PART = 5

/** Leaving the comfortable part costs: light tip, heavy frog. */
export const END_COST = Float64Array.from({ length: PLACES }, (_, p) =>
  p <= 1 || p >= STEPS - 1 ? 0.25 : p <= 3 || p >= STEPS - 3 ? 0.06 : 0,
)

/** A bow set down anew goes near the frog for a down bow, near the tip for an up bow. */
export const settingDown = (d: number, p: number) => Math.abs(p - (d === 0 ? 3 : STEPS - 3)) * 0.02

/** A line begins near the frog going down, near the tip going up; with short notes further in. */
export function beginningInset(line: BowLine): number {
  const t = line.tones[0]!
  return Math.min(8, STEPS * (1 - wantedLength(t.seconds, t.loudness, t.accent)) * 0.5)
}
export const beginningCost = (s: number, inset: number) =>
  Math.abs((s % PLACES) - (s < PLACES ? inset : STEPS - inset)) * 0.03

/** Whether the place of the stroke that begins at a tone costs anything by itself. */
export const isPlaced = (line: BowLine, i: number) => line.low[i] === line.low[i] || line.tones[i]!.accent

export function placeCost(line: BowLine, i: number, d: number, from: number, end: number): number {
  const accent = line.tones[i]!.accent && d === 1 && from > STEPS * 0.8 ? ACCENT_AT_TIP : 0
  const [low, high] = [line.low[i]!, line.high[i]!]
  if (low !== low) return accent
  // A point is where the stroke begins; a part is where its middle lies.
  const at = low === high ? from / STEPS : (from + end) / 2 / STEPS
  return accent + OFF_PART * (low === high ? 4 : 1) * Math.max(0, low - at, at - high)
}

/**
 * Through the air between any two places: for each place the best of all others with the way from there, and
 * which it was. Two sweeps along the bow, as the cost grows evenly with the way. What is given back is used
 * again at the next call.
 */
export function inTheAir(own: (place: number) => number): {
  readonly best: Float64Array
  readonly at: Int16Array
} {
  const step = AIR / STEPS
  const { best, at } = SWEPT
  for (let p = 0; p < PLACES; p++) {
    best[p] = own(p)
    at[p] = p
  }
  for (let p = 1; p < PLACES; p++) {
    if (best[p - 1]! + step >= best[p]!) continue
    best[p] = best[p - 1]! + step
    at[p] = at[p - 1]!
  }
  for (let p = PLACES - 2; p >= 0; p--) {
    if (best[p + 1]! + step >= best[p]!) continue
    best[p] = best[p + 1]! + step
    at[p] = at[p + 1]!
  }
  return SWEPT
}
const SWEPT = { best: new Float64Array(PLACES), at: new Int16Array(PLACES) }

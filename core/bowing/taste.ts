/**
 * A teacher's own taste of bows: slurs, hooks, lifts and parted slurs cost a little more or less than our
 * weights have. It adds to costs, never to what can be played.
 */
import type { BowTaste, BowTrait } from '#core/instruments/taste'

/** So far from our own weights a taste may go: never so far that a mark would be set for its own sake. */
export const BOW_TASTE_RANGE: Readonly<Record<BowTrait, readonly [least: number, most: number]>> = {
  slur: [-0.5, 2],
  hook: [-0.6, 2],
  lift: [-0.3, 2],
  part: [-0.6, 2],
}

/** A rest of so many seconds lifts the bow anyway: no mark tells of it. */
export const ANYWAY = 0.2

/** Costs of the ways at each tone, as a line has them. */
interface WayCosts {
  readonly tones: readonly {
    readonly slurred: boolean
    readonly lifted: boolean
    readonly restBefore: number
  }[]
  readonly join: Float64Array
  readonly turn: Float64Array
  readonly hook: Float64Array
  readonly lift: Float64Array
}

/** What each mark at a tone costs more. */
export function tasteAt(taste: BowTaste, line: WayCosts, k: number) {
  const { slur = 0, hook = 0, lift = 0, part = 0 } = taste
  const { slurred, lifted, restBefore } = line.tones[k]!
  if (!slurred && line.join[k]! > 0) line.join[k]! += Math.max(slur, -line.join[k]!)
  if (line.hook[k]! > 0) line.hook[k]! += Math.max(hook, -line.hook[k]!)
  if (!lifted && restBefore < ANYWAY && line.lift[k]! > 0) line.lift[k]! += Math.max(lift, -line.lift[k]!)
  if (slurred && line.turn[k]! > 0) line.turn[k]! += Math.max(part, -line.turn[k]!)
}

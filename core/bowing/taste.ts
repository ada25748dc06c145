/**
 * A teacher's own taste of bows: slurs, hooks, lifts and parted slurs cost a little more or less than our
 * weights have. It adds to costs, never to what can be played.
 */
import type { BowTaste, BowTrait } from '#core/instruments/taste'
import type { BowLine } from './line'
import type { Found } from './search'

/** So far from our own weights a taste may go: never so far that a mark would be set for its own sake. */
export const BOW_TASTE_RANGE: Readonly<Record<BowTrait, readonly [least: number, most: number]>> = {
  slur: [-0.5, 2],
  hook: [-0.6, 2],
  lift: [-0.3, 2],
  part: [-0.6, 2],
}

/** A rest of so many seconds lifts the bow anyway: no mark tells of it. */
const ANYWAY = 0.2

/** What each mark at a tone costs more. */
export function tasteAt(taste: BowTaste, line: BowLine, k: number) {
  const { slur = 0, hook = 0, lift = 0, part = 0 } = taste
  const { slurred, lifted, restBefore } = line.tones[k]!
  if (!slurred && line.join[k]! > 0) line.join[k]! += Math.max(slur, -line.join[k]!)
  if (line.hook[k]! > 0) line.hook[k]! += Math.max(hook, -line.hook[k]!)
  if (!lifted && restBefore < ANYWAY && line.lift[k]! > 0) line.lift[k]! += Math.max(lift, -line.lift[k]!)
  if (slurred && line.turn[k]! > 0) line.turn[k]! += Math.max(part, -line.turn[k]!)
}

/** How often each trait is met in a bowing of a line, in the order of `BOW_TRAITS`. */
export function bowTraits({ tones }: Pick<BowLine, 'tones'>, strokes: readonly Found[]): number[] {
  const count: Record<BowTrait, number> = { slur: 0, hook: 0, lift: 0, part: 0 }
  for (const s of strokes) {
    const first = tones[s.first]!
    if (s.way === 'hook' && !first.hooked) count.hook++
    if (s.way === 'lift' && !first.lifted && first.restBefore < ANYWAY) count.lift++
    if (s.way === 'turn' && s.first > 0 && first.slurred) count.part++
    for (let k = s.first + 1; k < s.end; k++) if (!tones[k]!.slurred) count.slur++
  }
  return [count.slur, count.hook, count.lift, count.part]
}

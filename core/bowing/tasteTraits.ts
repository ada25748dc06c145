/** How often each trait of a taste of bows is met in a bowing. */
import type { BowTrait } from '#core/instruments/taste'
import type { BowLine } from './line'
import type { Found } from './search'
import { ANYWAY } from './taste'

/** In the order of `BOW_TRAITS`. */
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

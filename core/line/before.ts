/** Which tone a tone is heard after: where endings part, not the one written before it. */
import { playOrder } from '#core/music/playOrder'
import type { Tune } from '#core/music/tune'
import type { Tone } from './tones'

/**
 * For each tone the index of the one it follows when the tune is played; -1 for the first. It is the one
 * written before it, but where the two never sound one after another: the beginning of a second ending
 * follows what came before the first. Linear in the number of measures played.
 */
export function heardBefore(tune: Tune, tones: readonly Tone[]): number[] {
  const before = tones.map((_, i) => i - 1)
  const first = new Map<number, number>()
  const last = new Map<number, number>()
  tones.forEach((t, i) => {
    if (!first.has(t.measureIndex)) first.set(t.measureIndex, i)
    last.set(t.measureIndex, i)
  })
  const played = playOrder(tune)
    .map(m => m.index)
    .filter(m => first.has(m))
  const comesFrom = new Map<number, Set<number>>()
  played.slice(1).forEach((m, i) => {
    const known = comesFrom.get(m)
    if (known) known.add(last.get(played[i]!)!)
    else comesFrom.set(m, new Set([last.get(played[i]!)!]))
  })
  for (const [m, i] of first) {
    const from = comesFrom.get(m)
    if (!from || from.has(i - 1)) continue
    // What comes later in the line is a repeat's way back.
    const found = [...from].find(x => x < i)
    if (found !== undefined) before[i] = found
  }
  return before
}

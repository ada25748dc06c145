/**
 * Phrases of four bars and more have halves, and the second is often the first again, moved or turned: half
 * of a phrase to learn.
 */
import type { Phrase } from './form'
import { isLoose, relate, type Related } from './kinship'
import { stretch } from './likeness'
import { ticks } from './material'

/** How the second half of a phrase is kin to its first; null when it is not, or when there are no halves. */
export function secondHalf(p: Phrase): Related | null {
  const { tones, downbeat, end } = p.stretch
  const bar = ticks(p.notes[0]!.measure.full)
  const bars = Math.round((end - downbeat) / bar)
  if (bars < 4 || bars % 2 !== 0) return null
  const middle = downbeat + (bars / 2) * bar
  // A tone over the middle makes one of the two.
  if (!tones.some(t => t.at === middle)) return null
  const first = stretch(
    tones.filter(t => t.at < middle),
    downbeat,
    middle,
  )
  const second = stretch(
    tones.filter(t => t.at >= middle),
    middle,
    end,
  )
  const found = relate(second, first)
  return found && !isLoose(found.relation) ? found : null
}

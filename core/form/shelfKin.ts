/** "You know this from …": phrases of one tune that another tune has too, in its own key or another. */
import { melodyPrintOf, type MelodyPrint } from '#core/melody/print'
import type { Tune } from '#core/music/tune'
import { analyseForm, type Form, type Phrase } from './form'
import { isLoose, relate, type Related } from './kinship'

export interface ShelfKin {
  /** Label of the phrase here, and of its kin there. */
  readonly phrase: string
  readonly start: string
  readonly of: string
  readonly relation: Related['relation']
  readonly differences: number
  readonly moved?: Related['moved']
}

/** The marks a phrase leaves, to be looked for in the prints of whole tunes. */
export const phrasePrint = (p: Phrase): MelodyPrint => melodyPrintOf(p.notes)

/** The phrases of `form` that `other` has, each with its nearest kin there; only what makes a family. */
export function kinIn(form: Form, other: Tune): ShelfKin[] {
  const there = analyseForm(other)
  return form.phrases.flatMap(p => {
    if (p.kin[0]?.relation === 'same') return []
    let best: (Related & { of: string }) | null = null
    for (const q of there.phrases) {
      const r = relate(p.stretch, q.stretch)
      if (r && !isLoose(r.relation) && (!best || r.worth > best.worth)) best = { ...r, of: q.label }
    }
    if (!best) return []
    const { of, relation, differences, moved } = best
    return [
      {
        phrase: p.label,
        start: p.events[0]!,
        of,
        relation,
        differences: differences.length,
        ...(moved && { moved }),
      },
    ]
  })
}

/** What an arrangement says of the hand, as the fingering asks it. */
import type { FingeringOptions } from '#core/fingering/problem'
import type { HandOptions } from '#core/instruments/hands'
import { sizeOf } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import type { EventId } from '#core/music/ids'
import { defaultTempo } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import type { DeriveContext } from './context'
import type { Arrangement, Played } from './recipe'

/** Vibrating string length in mm: a measured one wins. */
export const stringLength = (p: Pick<Played, 'instrument' | 'size' | 'measured'>) =>
  p.measured ?? sizeOf(p.instrument, p.size).string

export const handOptions = ({ schools }: Pick<Played, 'schools'>): HandOptions => ({
  bassHand: schools.bassHand,
  ...(schools.reach !== 'cost' && { reach: schools.reach }),
})

/** The tempo an arrangement is played in: its own, the tune's, or what is usual for the metre. */
export const tempoOf = (tune: Tune, { played }: Arrangement) =>
  played.tempo ?? tune.tempo ?? defaultTempo(tune.metre)

/** Everything the fingering depends on but the fingers pinned. */
export function fingeringOptions(
  tune: Tune,
  recipe: Arrangement,
  joined: ReadonlySet<EventId>,
  { learner, model, taste }: DeriveContext,
): FingeringOptions {
  const { instrument, tuning, schools, level, passages } = recipe.played
  const span = recipe.played.span ?? learner?.span ?? null
  return {
    instrument,
    length: stringLength(recipe.played),
    tuning: tuning ?? homeTuning(instrument),
    open: schools.open,
    long: schools.long,
    harmonics: schools.harmonics === 'yes',
    ...(schools.position && { places: schools.position }),
    tempo: tempoOf(tune, recipe),
    model,
    ...(level !== null && { level }),
    hand: handOptions(recipe.played),
    ...(taste && { taste }),
    ...(span !== null && { span }),
    rules: passages,
    joined,
  }
}

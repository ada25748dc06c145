import { withFactsOf, type Tune } from '#core/music/tune'
import type { DerivedView } from './views'

/** A view, which is of the music alone, under the facts of a tune. */
export function toldOf(view: DerivedView, tune: Tune): DerivedView {
  const told = (music: Tune) => withFactsOf(music, tune)
  return { ...view, tune: told(view.tune), ...(view.shown && { shown: told(view.shown) }) }
}

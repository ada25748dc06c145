import type { DeriveContext } from '#core/arrangement/context'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Tune } from '#core/music/tune'

/** What nearly every question is about: a tune, what is made of it, and what is known of hands. */
export interface PartDocuments {
  readonly tune: Tune
  readonly recipe: Arrangement
  readonly context: DeriveContext
}

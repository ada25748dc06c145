/** What a derivation needs beside tune and recipe: what is known of hands. Asked for, never assumed. */
import { HAND_MODEL, type HandModel } from '#core/instruments/handModel'
import type { BowTaste, HandTaste } from '#core/instruments/taste'
import type { Mm } from '#core/instruments/instruments'

/** The learner an arrangement is for, as far as the computation asks. */
export interface Learner {
  /** Reach from 1 to 4; null where nobody measured it. */
  readonly span: Mm | null
}

export interface DeriveContext {
  /** The least time a hand and an arm need. */
  readonly model: HandModel
  /** Null when it is for nobody in particular. */
  readonly learner: Learner | null
  /** What the teacher has taste for, as far as the teacher's own decisions tell. */
  readonly taste?: HandTaste
  readonly bowTaste?: BowTaste
}

/** Our own assumptions, for nobody in particular: what to hand over where a studio has entered nothing. */
export const ASSUMED_HANDS: DeriveContext = { model: HAND_MODEL, learner: null }

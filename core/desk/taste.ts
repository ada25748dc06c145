/** A studio's taste, with what the fingers, or the bow marks, set in a part say of it. */
import { DeriveMemory } from '#core/arrangement/derive'
import type { BowTasteDocument, TasteDocument } from '#core/instruments/taste'
import { bowDecisionOf } from '#core/taste/bowDecision'
import { decisionOf, ownPins } from '#core/taste/decision'
import { BOW, HAND } from '#core/taste/kinds'
import { decidedOn, relearned } from '#core/taste/learn'
import type { Memories } from './memories'
import type { PartDocuments } from './part'

/** @param id names tune and arrangement */
export function decide(
  memories: Memories,
  part: PartDocuments,
  id: string,
  taste: TasteDocument,
): TasteDocument {
  const { tune, recipe, context } = part
  const d = memories.derived({ ...part, context: { model: context.model, learner: context.learner } })
  const pins = ownPins(tune, recipe.played.pins.fingers)
  const { options } = d.fingering.problem
  const decision = Object.keys(pins).length > 0 ? decisionOf(d.tune, options, id, pins) : null
  return decidedOn(HAND, taste, id, decision)
}

/** @param id names tune and arrangement */
export function decideBow(
  _: Memories,
  part: PartDocuments,
  id: string,
  taste: BowTasteDocument,
): BowTasteDocument {
  const decision = bowDecisionOf(part.tune, part.recipe, part.context, id, new DeriveMemory())
  return decidedOn(BOW, taste, id, decision)
}

/** What follows from its decisions with other traits switched off. */
export const relearn = (taste: TasteDocument): TasteDocument => relearned(HAND, taste)
export const relearnBow = (taste: BowTasteDocument): BowTasteDocument => relearned(BOW, taste)

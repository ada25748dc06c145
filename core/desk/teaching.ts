/** What is said beside the notes of a part: of hand, bow, form, and of what to watch. */
import { tuningEffect } from '#core/arrangement/tuningEffect'
import type { Arrangement } from '#core/arrangement/recipe'
import { chordSkeleton } from '#core/form/chords'
import { planOf } from '#core/form/plan'
import type { Tuning } from '#core/instruments/tunings'
import type { EventId } from '#core/music/ids'
import { contentOf } from '#core/paper/content'
import { bowReport } from '#core/teach/bowReport'
import { compareHands as compared } from '#core/teach/compareHands'
import { handReport } from '#core/teach/handReport'
import { hardNotes } from '#core/teach/hardness'
import { overlayOf } from '#core/teach/overlay'
import { warmUps } from '#core/watch/warmUps'
import { watch as watched } from '#core/watch/watch'
import { phraseFigures } from '#core/words/form'
import { strokeView } from './derivedView'
import type { Memories } from './memories'
import type { PartDocuments } from './part'
import type { BowView, HandQuestion, StrokeView, Teaching, WatchResult } from './views'

/** What is said of the hand, for the phrase that begins with an event, or all of it. */
export function hand(memories: Memories, part: PartDocuments, question: HandQuestion) {
  const { fingers: pins } = part.recipe.played.pins
  return handReport(memories.derived(part), { ...question, model: part.context.model, pins })
}

export function bow(memories: Memories, part: PartDocuments): BowView {
  const report = bowReport(memories.derived(part), part.recipe, part.context.model)
  return { ...report, later: report.later.map(strokeView) }
}

/** The strokes alone, of a recipe that is only being tried. */
export const strokes = (memories: Memories, part: PartDocuments): readonly StrokeView[] =>
  memories.derived(part).bowing.written.map(strokeView)

/** The fingers of two arrangements of the tune side by side. */
export const compareHands = (memories: Memories, part: PartDocuments, other: Arrangement) =>
  compared(memories.derived(part), memories.derived({ ...part, recipe: other }), part.context.model)

/** What tunings do to this tune: the home one first, then as asked. */
export const tunings = (
  memories: Memories,
  { tune, recipe, context }: PartDocuments,
  list: readonly Tuning[],
) => [null, ...list].map(t => tuningEffect(tune, recipe, t, context, memories.parts))

export function watch(memories: Memories, part: PartDocuments): WatchResult {
  const d = memories.derived(part)
  const { instrument } = part.recipe.played
  const { known } = part.recipe.taught
  return {
    ...watched(d, { instrument, ...(known.length > 0 && { known: new Set(known) }) }),
    warmUps: warmUps(d, instrument),
  }
}

/** The way to learn the tune, and what its phrases are made of. */
export function teach(memories: Memories, part: PartDocuments): Teaching {
  const d = memories.derived(part)
  return {
    plan: planOf(d.form, { order: part.recipe.taught.order, tempo: d.tempo, hard: hardNotes(d) }),
    figures: Object.fromEntries(d.form.phrases.map(p => [p.events[0]!, phraseFigures(p)])),
    chords: chordSkeleton(part.tune),
  }
}

/** Two phrases, by their first events, laid over each other. */
export const overlay = (memories: Memories, part: PartDocuments, first: EventId, second: EventId) =>
  overlayOf(memories.derived(part), first, second)

/** What the sheet holds beside its music. */
export const sheet = (memories: Memories, part: PartDocuments) =>
  contentOf(memories.derived(part), part.recipe, part.context, memories.papers)

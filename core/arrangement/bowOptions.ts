/** What an arrangement says of the bow, as the bowing asks it. */
import type { BowPlan } from '#core/bowing/line'
import type { BowingOptions } from '#core/bowing/stroke'
import type { Groove } from '#core/bowing/pattern'
import type { StrokePin } from '#core/bowing/pins'
import type { Fingering } from '#core/fingering/fingering'
import type { Form } from '#core/form/form'
import { isLoose } from '#core/form/kinship'
import { sizeOf } from '#core/instruments/instruments'
import type { BowTaste } from '#core/instruments/taste'
import { toNumber } from '#core/music/fraction'
import { eventOf, type EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import type { BowPassage, GrooveRecipe } from './bowRecipe'
import { tempoOf } from './handOptions'
import type { Arrangement } from './recipe'

export function bowingOptions(
  tune: Tune,
  recipe: Arrangement,
  joined: ReadonlySet<EventId>,
  form: Form,
  fingering: Fingering,
  rebowed: boolean,
  taste: BowTaste | undefined,
): BowingOptions {
  const { instrument, size, schools, bow, pins } = recipe.played
  const strings = new Map(fingering.notes.map(n => [eventOf(n.id), n.string]))
  const stretches = stretchesOf(tune, bow.passages)
  const whole: BowPlan = { school: schools.bow, groove: grooveOf(bow.groove) }
  return {
    instrument,
    tempo: tempoOf(tune, recipe),
    hair: sizeOf(instrument, size).bow,
    joined,
    rebowed,
    planOf: id => stretches.plans.get(id) ?? whole,
    may: bow.may,
    habits: bow.habits,
    pins: withParts(pins.strokes, stretches.parts),
    joins: pins.joins,
    phrases: phrasesOf(form),
    stringOf: id => strings.get(id) ?? 0,
    ...(taste && { taste }),
    partOf: index => form.parts.find(p => index >= p.indices[0] && index <= p.indices[1])?.label,
  }
}

const grooveOf = (g: GrooveRecipe | null | undefined): Groove | null =>
  g ? { pattern: g.pattern, unit: toNumber(g.unit), offset: g.offset } : null

/** By event the plan and the part of the bow of the stretch it lies in. */
function stretchesOf(tune: Tune, passages: readonly BowPassage[]) {
  const plans = new Map<EventId, BowPlan>()
  const parts = new Map<EventId, NonNullable<StrokePin['part']>>()
  const ids = passages.length > 0 ? tune.measures.flatMap(m => m.events.map(e => e.id)) : []
  for (const p of passages) {
    const [from, to] = [ids.indexOf(p.from), ids.indexOf(p.to)]
    if (from < 0 || to < from) continue
    const plan = p.school && { school: p.school, groove: grooveOf(p.groove) }
    for (const id of ids.slice(from, to + 1)) {
      if (plan) plans.set(id, plan)
      if (p.part) parts.set(id, p.part)
    }
  }
  return { plans, parts }
}

/** A pin of a single stroke counts more than the stretch it lies in. */
function withParts(
  pins: Readonly<Record<EventId, StrokePin>>,
  parts: ReadonlyMap<EventId, NonNullable<StrokePin['part']>>,
): Readonly<Record<EventId, StrokePin>> {
  if (parts.size === 0) return pins
  const out: Record<EventId, StrokePin> = { ...pins }
  for (const [id, part] of parts) if (out[id]?.at === undefined) out[id] = { part, ...out[id] }
  return out
}

/** First events of phrases, each with the first event of the phrase it is close kin to. */
function phrasesOf(form: Form): Map<EventId, EventId | null> {
  const first = new Map(form.phrases.map(p => [p.label, p.events[0]!]))
  return new Map(
    form.phrases.map(p => {
      const kin = p.kin.find(k => !isLoose(k.relation))
      return [p.events[0]!, (kin && first.get(kin.phrase)) ?? null]
    }),
  )
}

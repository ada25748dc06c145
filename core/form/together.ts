/** Which notes of a tune ask for the same fingers, from its form. */
import type { Form } from '#core/form/form'
import { isLoose } from '#core/form/kinship'
import type { Stretch } from '#core/form/likeness'
import type { Together } from '#core/fingering/consistency'

/**
 * Phrases, and for every phrase that is kin to an earlier one the notes they share: the same pitch at
 * the same place, counted from the phrase's first downbeat.
 */
export function togetherOf(form: Form): Together {
  const byLabel = new Map(form.phrases.map(p => [p.label, p]))
  const repeats = new Map<string, string>()
  for (const p of form.phrases) {
    const kin = p.kin.find(k => !isLoose(k.relation))
    const of = kin && byLabel.get(kin.phrase)
    if (!of) continue
    for (const [id, earlier] of shared(p.stretch, of.stretch))
      repeats.set(id, repeats.get(earlier) ?? earlier)
  }
  return { phrases: new Set(form.phrases.map(p => p.events[0]!)), repeats }
}

function shared(a: Stretch, b: Stretch): [string, string][] {
  const place = (s: Stretch, t: Stretch['tones'][number]) => `${t.at - s.downbeat}:${t.midi}`
  const there = new Map(b.tones.map(t => [place(b, t), t.id]))
  return a.tones.flatMap(t => {
    const earlier = t.midi === null ? undefined : there.get(place(a, t))
    return earlier === undefined ? [] : [[t.id, earlier]]
  })
}

/** Which notes of a tune ask for the same fingers, from its form. */
import type { Form, Phrase } from '#core/form/form'
import { isLoose } from '#core/form/kinship'
import type { Together } from './consistency'

const heard = (p: Phrase) => p.stretch.tones.filter(t => t.midi !== null)

/**
 * Phrases, and for every phrase that is kin to an earlier one the notes they share: as many as agree in pitch from the start, and from the end.
 */
export function togetherOf(form: Form): Together {
  const byLabel = new Map(form.phrases.map(p => [p.label, p]))
  const repeats = new Map<string, string>()
  for (const p of form.phrases) {
    const kin = p.kin.find(k => !isLoose(k.relation))
    const of = kin && byLabel.get(kin.phrase)
    if (!of) continue
    for (const [id, earlier] of shared(heard(p), heard(of))) repeats.set(id, repeats.get(earlier) ?? earlier)
  }
  return { phrases: new Set(form.phrases.map(p => p.events[0]!)), repeats }
}

type Heard = ReturnType<typeof heard>

function shared(a: Heard, b: Heard): [string, string][] {
  const same = (i: number, k: number) => a[i]!.midi === b[k]!.midi
  const out: [string, string][] = []
  let n = 0
  for (; n < Math.min(a.length, b.length) && same(n, n); n++) out.push([a[n]!.id, b[n]!.id])
  for (let m = 1; m <= Math.min(a.length, b.length) - n && same(a.length - m, b.length - m); m++)
    out.push([a[a.length - m]!.id, b[b.length - m]!.id])
  return out
}

/** The lesson outline as lines of text: what prints, and what a teacher reads before the lesson. */
import type { Taught as AllTaught } from '#core/arrangement/recipe'
import { stepSentence } from '#core/words/form'
import { PACE, type Plan } from '#core/form/plan'

/** What the outline asks of how it is taught. */
type Taught = Pick<AllTaught, 'left' | 'lines' | 'remarks'>

export interface OutlineLine {
  readonly kind: 'title' | 'heading' | 'step' | 'note'
  readonly text: string
}

export interface OutlineOptions {
  readonly title: string
  readonly plan: Plan
  readonly taught: Taught
  /** A teacher's name for the phrase with this label, and its first event. */
  readonly phrases: ReadonlyMap<string, { readonly id: string; readonly name: string }>
}

/** Steps the teacher kept, and the minutes they take. */
export const keptSteps = (plan: Plan, taught: Taught) => plan.steps.filter(s => !taught.left.includes(s.id))
export const minutesOf = (plan: Plan, taught: Taught) =>
  keptSteps(plan, taught).reduce((sum, s) => sum + s.minutes, 0)

/** What the minutes assume, in a sentence. */
export const ASSUMED = `Minutes assume ${Math.round(PACE.slow * 100)}% of the tempo, a phrase of new notes played and answered ${PACE.times} times, joined ones ${PACE.stitched} times, and ${PACE.words} seconds of words to a step.`

export function outline({ title, plan, taught, phrases }: OutlineOptions): OutlineLine[] {
  const steps = keptSteps(plan, taught)
  const facts = new Map(plan.phrases.map(p => [p.label, p]))
  const told = new Set<string>()
  const lines: OutlineLine[] = [
    { kind: 'title', text: title },
    { kind: 'note', text: `About ${minutesOf(plan, taught)} minutes. ${ASSUMED}` },
  ]
  steps.forEach((s, i) => {
    const label = s.phrases[0]!
    const [fact, own] = [facts.get(label), phrases.get(label)]
    if (s.phrases.length === 1 && fact && !told.has(label)) {
      told.add(label)
      const name = own?.name ? `${label}, ${own.name}` : label
      lines.push({
        kind: 'heading',
        text: `${name}: ${fact.newNotes} of ${fact.notes} notes new; ${Math.round(fact.knownAfter * 100)}% of the tune known after it`,
      })
      if (fact.doNotRush)
        lines.push({ kind: 'note', text: 'Harder than what comes before it: do not rush into it.' })
      const line = own && taught.lines[own.id]
      if (line) lines.push({ kind: 'note', text: `Sing: ${line}` })
      const remark = own && taught.remarks[own.id]
      if (remark) lines.push({ kind: 'note', text: remark })
    }
    lines.push({ kind: 'step', text: `${i + 1}. ${stepSentence(s)} (${s.minutes} min)` })
  })
  return lines
}

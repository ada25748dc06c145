import { text, type Verb } from '../verb'
import { BadInput } from '../badInput'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { chordSkeleton } from '#core/form/chords'
import { kinSentence, phraseFigures, ROLE_WORDS, stepSentence } from '#core/words/form'
import { figuresOf } from '#core/form/figures'
import type { Phrase } from '#core/form/form'
import { hardNotes } from '#core/teach/hardness'
import { ORDERS, planOf, type Order } from '#core/form/plan'
import { formatFraction } from '#core/music/fraction'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'
import { told } from '../told'

const place = (p: Phrase['from']) => ({ measure: p.measure, start: formatFraction(p.start) })

export const form: Verb = {
  name: 'form',
  what: 'Parts, phrases, their kin and roles, what is new in each, and the way to learn them.',
  takes: 'FILE…',
  options: {
    ...ARRANGEMENT_OPTIONS,
    order: { type: 'string', value: ORDERS.join('|'), what: 'the order phrases are learned in' },
  },
  run: (values, paths, open) => {
    const order = (text(values.order) ?? 'written') as Order
    if (!ORDERS.includes(order)) throw new BadInput(`--order ${order}: choose ${ORDERS.join(', ')}`)
    const file = open(paths[0])
    const { tune, findings } = file
    const d = derive(tune, recipeFrom(file, values, null), ASSUMED_HANDS)
    const plan = planOf(d.form, { order, tempo: d.tempo, hard: hardNotes(d) })
    return {
      parts: d.form.parts.map(p => ({
        label: p.label,
        measures: p.measures,
        repeated: p.repeated,
        ...(p.again && { again: true }),
        phrases: p.phrases.map(x => ({
          label: x.label,
          family: String.fromCharCode(97 + (x.family % 26)) + "'".repeat(x.variant),
          notes: x.events,
          from: place(x.from),
          to: place(x.to),
          bars: x.bars,
          kin: x.kin.map(k => ({ ...k, told: kinSentence(k) })),
          role: x.role,
          told: ROLE_WORDS[x.role],
          figures: figuresOf(x.stretch.tones),
          madeOf: phraseFigures(x),
          ...(x.endings.length > 0 && { endings: x.endings }),
        })),
      })),
      learningOrder: plan.order,
      newMaterial: plan.phrases.map(({ label, ...p }) => ({ phrase: label, ...p })),
      steps: plan.steps.map(s => ({ ...s, told: stepSentence(s) })),
      chords: chordSkeleton(d.tune),
      findings: told(findings),
    }
  },
}

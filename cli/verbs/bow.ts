import type { Verb } from '../verb'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import type { Stroke } from '#core/bowing/stroke'
import { inCm } from '#core/bowing/travel'
import { lettersOf } from '#core/instruments/instruments'
import { bowReport } from '#core/teach/bowReport'
import { whyStroke } from '#core/words/bow'
import { BOW_OPTIONS, recipeFrom } from '../input'
import { told } from '../told'

export const bow: Verb = {
  name: 'bow',
  what: 'Direction and place on the bow of every stroke in playing order, the drift, crossings, ceilings, and what to look at with its mends.',
  takes: 'FILE…',
  options: BOW_OPTIONS,
  run: (values, paths, open) => {
    const file = open(paths[0])
    const { tune, findings } = file
    const recipe = recipeFrom(file, values, 'strokes')
    const d = derive(tune, recipe, ASSUMED_HANDS)
    const { options } = d.bowing.problem
    const report = bowReport(d, recipe, ASSUMED_HANDS.model)
    const letters = lettersOf(recipe.played.instrument, recipe.played.tuning)
    const name = (string: number) => letters[string] ?? '?'
    const stroke = (s: Stroke) => ({
      notes: s.notes,
      measure: s.measure,
      pass: s.pass,
      direction: s.direction,
      from: rounded(s.from),
      to: rounded(s.to),
      cm: inCm(Math.abs(s.to - s.from), options.hair),
      ...(s.lift && { lift: true }),
      ...(s.hook && { hook: true }),
      ...(s.added.length > 0 && { added: s.added }),
      strings: s.strings.map(name),
      why: whyStroke(s, options.planOf(s.notes[0]!).school),
      cost: s.cost,
    })
    return {
      strokes: d.bowing.strokes.map(stroke),
      drift: report.drift.map(({ measureIndex: _, ...m }) => m),
      crossings: report.crossings.map(c => ({
        ...c,
        from: name(c.from),
        to: name(c.to),
        seconds: rounded(c.seconds),
      })),
      ceilings: report.ceilings,
      slowly: report.slow,
      proposal: {
        edits: report.edits,
        firstBeats: report.firstBeats,
        upNow: report.upNow,
        upThen: report.upThen,
      },
      findings: told([...findings, ...report.findings]),
    }
  },
}

const rounded = (x: number) => Math.round(x * 1000) / 1000

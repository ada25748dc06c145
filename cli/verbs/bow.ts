import { derive } from '#core/arrangement/derive'
import { whyStroke } from '#core/bowing/bowing'
import { ARRANGEMENT_OPTIONS, parseOptions, readTuneFile, recipeFrom } from '../input'
import { told } from '../told'

/** `bow FILE`: direction and place on the bow of every stroke, as written (the first time through each repeat). */
export function bow(args: string[]) {
  const { values, positionals } = parseOptions(args, ARRANGEMENT_OPTIONS)
  const { tune, findings } = readTuneFile(positionals[0])
  const recipe = recipeFrom(tune, values, 'strokes')
  const { bowing } = derive(tune, recipe)
  return {
    strokes: bowing.written.map(s => ({
      notes: s.notes,
      measure: s.measure,
      direction: s.direction,
      from: Math.round(s.from * 1000) / 1000,
      to: Math.round(s.to * 1000) / 1000,
      ...(s.lift && { lift: true }),
      why: whyStroke(s, recipe.schools.bow),
    })),
    findings: told([...findings, ...bowing.findings]),
  }
}

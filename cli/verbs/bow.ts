import type { Verb } from '../verb'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { ARRANGEMENT_OPTIONS, readTuneFile, recipeFrom } from '../input'
import { told } from '../told'
import { whyStroke } from '#core/words/bow'

export const bow: Verb = {
  name: 'bow',
  what: 'Direction and place on the bow of every stroke, as written.',
  takes: 'FILE…',
  options: ARRANGEMENT_OPTIONS,
  run: (values, paths) => {
    const { tune, findings } = readTuneFile(paths[0])
    const recipe = recipeFrom(tune, values, 'strokes')
    const { bowing } = derive(tune, recipe, ASSUMED_HANDS)
    return {
      strokes: bowing.written.map(s => ({
        notes: s.notes,
        measure: s.measure,
        direction: s.direction,
        from: Math.round(s.from * 1000) / 1000,
        to: Math.round(s.to * 1000) / 1000,
        ...(s.lift && { lift: true }),
        why: whyStroke(s, recipe.played.schools.bow),
      })),
      findings: told([...findings, ...bowing.findings]),
    }
  },
}

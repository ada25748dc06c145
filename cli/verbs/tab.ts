import { derive } from '#core/arrangement/derive'
import { tabModel } from '#core/tablature/tabModel'
import { tabText } from '#core/tablature/tabText'
import { ARRANGEMENT_OPTIONS, parseOptions, readTuneFile, recipeFrom } from '../input'

/** `tab FILE`: the page model, or with --text the tablature drawn in letters. */
export function tab(args: string[]) {
  const { values, positionals } = parseOptions(args, {
    ...ARRANGEMENT_OPTIONS,
    text: { type: 'boolean' },
  } as const)
  const { tune } = readTuneFile(positionals[0])
  const { text, ...options } = values
  const recipe = recipeFrom(tune, options, 'fingers')
  const model = tabModel(derive(tune, recipe), recipe)
  return text ? tabText(model) : model
}

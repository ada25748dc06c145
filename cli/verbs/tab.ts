import type { Verb } from '../verb'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { PLAIN_MEASURER } from '#core/page/measurer'
import { notate } from '#core/page/notation'
import { MARGIN, PAPERS } from '#core/page/paper'
import { SHEET_SPACE } from '#core/page/sheet'
import { systemsOf } from '#core/page/systems'
import { tabModel } from '#core/tablature/tabModel'
import { tabText } from '#core/tablature/tabText'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'

export const tab: Verb = {
  name: 'tab',
  what: 'The page model, or with --text the tablature drawn in letters.',
  takes: 'FILE…',
  options: { ...ARRANGEMENT_OPTIONS, text: { type: 'boolean', what: 'drawn in letters' } },
  run: (values, paths, open) => {
    const file = open(paths[0])
    const { tune } = file
    const recipe = recipeFrom(file, values, 'fingers')
    const d = derive(tune, recipe, ASSUMED_HANDS)
    const tab = tabModel(d, recipe)
    if (values.text) return tabText(tune.title, tab)
    const { measures, ...labels } = tab
    const part = { notated: notate(d.tune), tab }
    const rows = { fingers: true, bows: true, tab: true, chords: true }
    const width = PAPERS.A4.width - 2 * MARGIN
    const systems = systemsOf([part], { width, space: SHEET_SPACE, measurer: PLAIN_MEASURER, rows })
    return { title: tune.title, ...labels, systems: systems.map(s => s.measures.map(m => measures[m.index])) }
  },
}

/**
 * One sheet from an arrangement, as pages of SVG: the page of the app and the shell draw with the same code.
 */
import type { Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import type { Studio } from '#core/instruments/studio'
import { formatTuning } from '#core/instruments/tunings'
import type { Tempo } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import type { SheetContent } from '#core/paper/content'
import { sectionsOf } from '#core/paper/sections'
import type { TabModel } from '#core/tablature/tabModel'
import { drawPages, type DrawnSheet, type PagesOptions } from './pages'

/** A tune as it is engraved, with its tab. */
export interface Engraved {
  readonly tune: Tune
  readonly tab: TabModel
}

/** All that a sheet is drawn from. */
export interface SheetSource extends Engraved {
  readonly recipe: Arrangement
  readonly tempo: Tempo
  readonly content: SheetContent
  /** What stands under it, system by system. */
  readonly under: Engraved | null
}

export type StudioLook = Pick<Studio, 'tapes' | 'leftHanded' | 'countWords'>

export function drawSheet(source: SheetSource, studio: StudioLook, foot?: PagesOptions['foot']): DrawnSheet {
  const { recipe, content, tempo } = source
  const { instrument, tuning } = recipe.played
  const { sheet } = recipe.shown
  const board = { colours: studio.tapes[instrument] ?? {}, leftHanded: studio.leftHanded }
  const sections = sectionsOf(sheet, content, { ...source, countWords: studio.countWords, board })
  const words = {
    arrangement: recipe.name,
    instrument: INSTRUMENTS[instrument].name,
    tuning: tuning && formatTuning(tuning),
  }
  return drawPages(sections, { sheet, words, tempo, ...(foot && { foot }) })
}

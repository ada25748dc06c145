/** The shelf, or some of it, as files for other programs. */
import { newArrangement } from '#core/arrangement/recipe'
import { joinedBook } from '#core/formats/abc/joinedBook'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import type { DeriveContext } from '#core/arrangement/context'
import type { TuneListItem } from '#contract/documents'
import { api } from '../api/client'
import type { Told } from '../paper/useExport'
import { askPart } from '../worker/client'

/** Tunes as one ABC book: each as its text was typed, or written anew where it has none. */
export async function abcBookOf(ids: readonly string[], context: DeriveContext, told: Told): Promise<Blob> {
  const texts: string[] = []
  for (const id of ids) {
    const { source, tune } = await api.tune(id)
    const instrument = writtenFor(tune)
    const recipe = newArrangement(instrument, sizeOf(instrument).name)
    texts.push(source ?? (await askPart('write', { tune, recipe, context })).text)
    await told(texts.length, ids.length)
  }
  return new Blob([joinedBook(texts)], { type: 'text/vnd.abc' })
}

const PAGE = 500

/** All tunes of the shelf as a table, a line each. */
export async function shelfTable(): Promise<Blob> {
  const { unparse } = await import('papaparse')
  const tunes: TuneListItem[] = []
  for (;;) {
    const found = await api.shelf({ offset: tunes.length, limit: PAGE, sort: 'title', order: 'up' })
    tunes.push(...found.tunes)
    if (tunes.length >= found.total || found.tunes.length === 0) break
  }
  const rows = tunes.map(t => ({
    Title: t.title,
    'Other titles': t.otherTitles.join('; '),
    Kind: t.kind,
    Key: keyName(t.key),
    Metre: metreName(t.metre),
    Measures: t.measures,
    'Arranged for': t.instruments.join('; '),
    Tags: t.tags.join('; '),
    Changed: t.updatedAt.slice(0, 10),
  }))
  // A title that begins with a sign is no formula, whatever opens the table.
  return new Blob([unparse(rows, { escapeFormulae: true })], { type: 'text/csv' })
}

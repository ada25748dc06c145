/** Documents as rows: the columns that are made of them, and the records they are read as. */
import { arrangementSchema, type Arrangement } from '#core/arrangement/recipe'
import { melodyPrint } from '#core/melody/print'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { tuneSchema, type Tune } from '#core/music/tune'
import type { ArrangementRecord, TuneRecord } from '#contract/documents'
import { orderOf, plainLetters } from './letters'
import { COLUMNS_FORM, type arrangements, type tunes, type TuneSummary } from './schema'

const summaryOf = (t: Tune): TuneSummary => ({
  kind: t.kind,
  key: t.key,
  metre: t.metre,
  measures: t.measures.length,
  otherTitles: [...t.otherTitles],
  composer: t.composer,
  tags: [...t.tags],
  rights: t.rights,
  settings: t.settings ?? null,
})

/** What the shelf lists, searches, filters and sorts by. */
export function listColumns(tune: Tune) {
  const summary = summaryOf(tune)
  const [key, metre] = [keyName(tune.key), metreName(tune.metre)]
  const told = [
    tune.title,
    ...summary.otherTitles,
    summary.composer,
    summary.kind,
    key,
    metre,
    ...summary.tags,
  ]
  return {
    title: tune.title,
    summary,
    print: melodyPrint(tune),
    columnsForm: COLUMNS_FORM,
    titleOrder: orderOf(tune.title),
    kindOrder: orderOf(summary.kind),
    composerOrder: orderOf(summary.composer),
    kind: summary.kind,
    keyName: key,
    metreName: metre,
    measures: summary.measures,
    tags: summary.tags,
    settings: summary.settings,
    ownLetters: plainLetters(told.join(' ')),
  }
}

/** The columns a tune's document stands in. */
export const tuneColumns = (source: string | null, tune: Tune) => ({
  source,
  doc: tune,
  ...listColumns(tune),
})

/** The columns a recipe stands in. */
export const recipeColumns = (doc: Arrangement) => ({
  doc,
  instrument: doc.played.instrument,
  level: doc.played.level,
  crossTuned: doc.played.tuning !== null,
})

type TuneRow = Pick<typeof tunes.$inferSelect, 'id' | 'version' | 'source' | 'doc' | 'updatedAt'>
type ArrangementRow = Pick<typeof arrangements.$inferSelect, 'id' | 'tuneId' | 'version' | 'doc'>

export const tuneRecord = (row: TuneRow): TuneRecord => ({
  id: row.id,
  version: row.version,
  source: row.source,
  tune: tuneSchema.parse(row.doc),
  updatedAt: row.updatedAt.toISOString(),
})

export const arrangementRecord = (row: ArrangementRow): ArrangementRecord => ({
  id: row.id,
  tuneId: row.tuneId,
  version: row.version,
  arrangement: arrangementSchema.parse(row.doc),
})

/** JSON the database made of rows: one driver gives the text, another what it says. */
export const fromJson = <T>(given: unknown) => (typeof given === 'string' ? JSON.parse(given) : given) as T

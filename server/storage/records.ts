/** Rows of the database as the records the interface speaks of, and what the shelf keeps of each. */
import { arrangementSchema, type Arrangement } from '#core/arrangement/recipe'
import { melodyPrint } from '#core/melody/print'
import { tuneSchema, type Tune } from '#core/music/tune'
import type { ArrangementRecord, TuneRecord } from '#contract/documents'
import { SUMMARY_FORM, type arrangements, type tunes, type TuneSummary } from './schema'

export const summaryOf = (t: Tune): TuneSummary => ({
  form: SUMMARY_FORM,
  kind: t.kind,
  key: t.key,
  metre: t.metre,
  measures: t.measures.length,
  otherTitles: [...t.otherTitles],
  composer: t.composer,
  tags: [...t.tags],
  rights: t.rights,
  settings: t.settings ?? null,
  print: melodyPrint(t),
})

/** The columns a tune's document stands in. */
export const tuneColumns = (source: string | null, tune: Tune) => ({
  title: tune.title,
  source,
  doc: tune,
  summary: summaryOf(tune),
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

/** A list the database makes of rows comes as text. */
export const listed = <T>(text: string) => JSON.parse(text) as T[]

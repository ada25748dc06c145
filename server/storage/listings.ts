/** What the shelf lists of its tunes, and the fingerprints of their melodies. */
import { and, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm'
import { tuneSchema, type InstrumentId } from '#core/music/tune'
import type { TuneListItem } from '#contract/documents'
import type { Db } from './database'
import { listed, summaryOf } from './records'
import { arrangements, SUMMARY_FORM, tunes, type TuneSummary } from './schema'

/** What the list tells of a tune, but for its arrangements. */
export interface ListedTuneDocument {
  readonly title: string
  readonly summary: TuneSummary
  readonly updatedAt: Date
}

/** What the list tells of an arrangement. */
interface ListedRecipe {
  readonly instrument: InstrumentId
  readonly level: number | null
  readonly crossTuned: boolean
}

export function shownOf({ title, summary, updatedAt }: ListedTuneDocument) {
  const { form: _form, print: _print, ...shown } = summary
  return { title, ...shown, updatedAt: updatedAt.toISOString() }
}

/** What the list and the melody index are made of. */
export interface Listing {
  readonly item: TuneListItem
  readonly print: TuneSummary['print']
}

/** What the shelf lists, of all tunes or of some. */
export async function listings(db: Db, ours: SQL, only?: readonly string[]): Promise<Listing[]> {
  const rows = await db
    .select({
      id: tunes.id,
      title: tunes.title,
      summary: tunes.summary,
      updatedAt: tunes.updatedAt,
      own: sql`(select coalesce(json_agg(json_build_object('instrument', a.instrument, 'level', a.level, 'crossTuned', a.cross_tuned) order by a.instrument), '[]') from ${arrangements} a where a.tune_id = tunes.id and a.deleted_at is null)`.mapWith(listed<ListedRecipe>), // prettier-ignore
    })
    .from(tunes)
    .where(and(ours, isNull(tunes.deletedAt), only && inArray(tunes.id, [...only])))
  const out: Listing[] = []
  for (const { summary: stored, updatedAt, own, ...row } of rows) {
    const summary = stored.form === SUMMARY_FORM ? stored : await summarised(db, row.id)
    const item: TuneListItem = {
      ...row,
      ...shownOf({ ...row, summary, updatedAt }),
      instruments: [...new Set(own.map(r => r.instrument))],
      levels: [...new Set(own.flatMap(r => r.level ?? []))].sort(),
      crossTuned: own.some(r => r.crossTuned),
    }
    out.push({ item, print: summary.print })
  }
  return out
}

/** Makes the summary of a tune stored by an older Nokta anew; of one that is saved in the meantime it is made then. */
async function summarised(db: Db, id: string): Promise<TuneSummary> {
  const [row] = await db
    .select({ doc: tunes.doc, version: tunes.version })
    .from(tunes)
    .where(eq(tunes.id, id))
  const summary = summaryOf(tuneSchema.parse(row!.doc))
  await db
    .update(tunes)
    .set({ summary })
    .where(and(eq(tunes.id, id), eq(tunes.version, row!.version)))
  return summary
}

/**
 * What migrations can't do because it takes the documents' own meaning: columns made anew, a studio's one
 * document taken apart. Done when a store is opened, and a second time it finds nothing to do.
 */
import { count, eq, ne } from 'drizzle-orm'
import { partOf, STUDIO_PARTS, studioSchema } from '#core/instruments/studio'
import { tuneSchema } from '#core/music/tune'
import { listColumns } from './columns'
import { noteFormats } from './formats'
import type { Db } from './port'
import { changing } from './revisions'
import { COLUMNS_FORM, studioParts, studios, tunes } from './schema'

const AT_ONCE = 50
/** From so many tunes on it takes long enough to be told. */
const MANY = 500

/** Hears, in sentences, of work that keeps whoever opens a store waiting. */
export type Tell = (sentence: string) => void

export async function upgraded(db: Db, tell: Tell = () => {}): Promise<void> {
  await noteFormats(db)
  await withColumns(db, tell)
  await inParts(db)
}

async function withColumns(db: Db, tell: Tell) {
  const old = ne(tunes.columnsForm, COLUMNS_FORM)
  const [{ many } = { many: 0 }] = await db.select({ many: count() }).from(tunes).where(old)
  if (many >= MANY) tell(`${many} tunes of an older Nokta are brought up to date, once. Please wait.`)
  for (;;) {
    const rows = await db
      .select({ id: tunes.id, studio: tunes.studio, doc: tunes.doc })
      .from(tunes)
      .where(old)
      .limit(AT_ONCE)
    if (rows.length === 0) return
    for (const studio of new Set(rows.map(r => r.studio))) {
      const own = rows.filter(r => r.studio === studio)
      await changing({ db, scope: { studio } }, async (tx, touched) => {
        for (const { id, doc } of own)
          await tx
            .update(tunes)
            .set(listColumns(tuneSchema.parse(doc)))
            .where(eq(tunes.id, id))
        touched(...own.map(r => r.id))
      })
    }
  }
}

async function inParts(db: Db) {
  for (const { id, version, doc } of await db.select().from(studios)) {
    const studio = studioSchema.parse(doc)
    await db.transaction(async tx => {
      const parts = STUDIO_PARTS.map(part => ({ studio: id, part, version, doc: partOf(studio, part) }))
      await tx.insert(studioParts).values(parts).onConflictDoNothing()
      await tx.delete(studios).where(eq(studios.id, id))
    })
  }
}

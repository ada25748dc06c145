/** The studio's own document: read with its version, saved only over the version it was read at. */
import { and, eq } from 'drizzle-orm'
import { newStudio, studioSchema, type Studio } from '#core/instruments/studio'
import type { StudioRecord } from '#contract/api'
import type { Db } from './database'
import { studios } from './schema'
import type { Saved } from './tuneStore'

const ID = 'studio'

export class StudioStore {
  constructor(
    private readonly db: Db,
    private readonly changed: () => void = () => {},
  ) {}

  /** What a studio that entered nothing has is version 1. */
  async get(): Promise<StudioRecord> {
    const [row] = await this.db.select().from(studios).where(eq(studios.id, ID))
    return row
      ? { version: row.version, studio: studioSchema.parse(row.doc) }
      : { version: 1, studio: newStudio() }
  }

  async save(version: number, studio: Studio): Promise<Saved<StudioRecord>> {
    await this.db.insert(studios).values({ id: ID, doc: newStudio() }).onConflictDoNothing()
    const saved = await this.db
      .update(studios)
      .set({ doc: studio, version: version + 1 })
      .where(and(eq(studios.id, ID), eq(studios.version, version)))
      .returning({ version: studios.version })
    if (!saved[0]) return { stale: await this.get() }
    this.changed()
    return { saved: saved[0].version }
  }
}

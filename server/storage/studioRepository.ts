/** The studio's own document: read with its version, saved only over the version it was read at. */
import { and, eq } from 'drizzle-orm'
import { newStudio, studioSchema, type Studio } from '#core/instruments/studio'
import type { StudioRecord } from '#contract/documents'
import { purge, type Db, type Scope } from './database'
import { studios } from './schema'

/** An erased learner is erased in the database's files too. */
export class StudioRepository {
  constructor(
    private readonly db: Db,
    private readonly scope: Scope,
    private readonly changed: () => void = () => {},
  ) {}

  /** What a studio that entered nothing has is version 1. */
  async get(): Promise<StudioRecord> {
    const [row] = await this.db.select().from(studios).where(eq(studios.id, this.scope.studio))
    return row
      ? { version: row.version, studio: studioSchema.parse(row.doc) }
      : { version: 1, studio: newStudio() }
  }

  async save(
    version: number,
    studio: Studio,
  ): Promise<{ readonly saved: number } | { readonly stale: StudioRecord }> {
    const { studio: id } = this.scope
    const before = await this.get()
    await this.db.insert(studios).values({ id, doc: newStudio() }).onConflictDoNothing()
    const saved = await this.db
      .update(studios)
      .set({ doc: studio, version: version + 1 })
      .where(and(eq(studios.id, id), eq(studios.version, version)))
      .returning({ version: studios.version })
    if (!saved[0]) return { stale: await this.get() }
    this.changed()
    const there = new Set(studio.learners.map(l => l.id))
    if (before.studio.learners.some(l => !there.has(l.id))) await purge(this.db, studios)
    return { saved: saved[0].version }
  }
}

/**
 * What a studio entered, part by part: each read with its version, and saved only over the version it was
 * read at.
 */
import { and, eq, sql } from 'drizzle-orm'
import {
  newStudio,
  STUDIO_PARTS,
  STUDIO_VERSION,
  studioSchema,
  type StudioPart,
  type StudioPartDocument,
} from '#core/instruments/studio'
import type { StudioRecord } from '#contract/documents'
import type { Connection, Scope } from './port'
import { studioParts } from './schema'

/** An erased learner is erased in the database's files too, where these are ours. */
export class StudioStore {
  constructor(
    private readonly connection: Pick<Connection, 'db' | 'erase'>,
    private readonly scope: Scope,
    private readonly changed: () => void = () => {},
  ) {}

  /** A part nobody stored yet is as a new studio has it, at version 0. */
  async get(): Promise<StudioRecord> {
    const rows = await this.connection.db
      .select()
      .from(studioParts)
      .where(eq(studioParts.studio, this.scope.studio))
    const versions = Object.fromEntries(STUDIO_PARTS.map(p => [p, 0])) as Record<StudioPart, number>
    let studio: object = newStudio()
    for (const { part, version, doc } of rows) {
      if (!(part in versions)) continue
      versions[part as StudioPart] = version
      const { part: _, ...fields } = doc as StudioPartDocument
      studio = { ...studio, ...fields }
    }
    return { versions, studio: studioSchema.parse({ ...studio, version: STUDIO_VERSION }) }
  }

  async save(
    version: number,
    doc: StudioPartDocument,
  ): Promise<{ readonly saved: number } | { readonly stale: StudioRecord }> {
    const erases = doc.part === 'learners' && (await this.leaves(doc))
    const row = { studio: this.scope.studio, part: doc.part, version: version + 1, doc }
    const own = and(eq(studioParts.studio, row.studio), eq(studioParts.part, row.part))
    const [saved] =
      version === 0
        ? await this.connection.db
            .insert(studioParts)
            .values(row)
            .onConflictDoNothing()
            .returning({ version: studioParts.version })
        : await this.connection.db
            .update(studioParts)
            .set({ doc, version: sql`${studioParts.version} + 1` })
            .where(and(own, eq(studioParts.version, version)))
            .returning({ version: studioParts.version })
    if (!saved) return { stale: await this.get() }
    this.changed()
    if (erases) await this.connection.erase(studioParts)
    return { saved: saved.version }
  }

  /** Somebody who is there is not there afterwards. */
  private async leaves({ learners }: Extract<StudioPartDocument, { part: 'learners' }>): Promise<boolean> {
    const there = new Set(learners.map(l => l.id))
    return (await this.get()).studio.learners.some(l => !there.has(l.id))
  }
}

/**
 * The melodies of a shelf, by their fingerprints: which tunes sound alike. An index in memory, brought up to
 * the stored revision before each answer.
 */
import { and, asc, eq, gt, gte, or, sql } from 'drizzle-orm'
import type { AlikePair } from '#core/melody/pairs'
import { PrintIndex } from '#core/melody/print'
import { askThread } from './thread'
import type { WhichAreAlike } from './alikeThread'
import type { Store } from './port'
import { tunes } from './schema'

/** Few enough to be read without being felt. */
const AT_ONCE = 1000

export class Melodies {
  private readonly index = new PrintIndex()
  /** The last that was read. */
  private known: { readonly revision: number; readonly id: string } = { revision: 0, id: '' }
  private reading: Promise<void> = Promise.resolve()

  constructor(private readonly store: Store) {}

  /** The index as the shelf is now: one look at what changed, for as many questions as there are. */
  async now(): Promise<Pick<PrintIndex, 'alike' | 'holding'>> {
    await this.fresh()
    return this.index
  }

  /** Pairs that sound alike, the likest first: found beside the server's other work, for as long as one waits. */
  async pairs(most: number, signal?: AbortSignal): Promise<readonly AlikePair[]> {
    await this.fresh()
    const asked: WhichAreAlike = { prints: this.index.all(), most }
    return askThread(new URL('./alikeThread.ts', import.meta.url), asked, signal)
  }

  /** These are on the shelf no more. */
  forget(ids: readonly string[]) {
    for (const id of ids) this.index.delete(id)
  }

  /** One reads at a time. */
  private fresh(): Promise<void> {
    return (this.reading = this.reading.catch(() => {}).then(() => this.read()))
  }

  /** What was changed since, some at a time; rows of one revision are all there or none of them. */
  private async read() {
    for (;;) {
      const { revision, id: last } = this.known
      const rows = await this.store.db
        .select({
          id: tunes.id,
          revision: tunes.revision,
          away: sql<boolean>`${tunes.deletedAt} is not null`,
          print: tunes.print,
        })
        .from(tunes)
        .where(
          and(
            eq(tunes.studio, this.store.scope.studio),
            gte(tunes.revision, revision),
            or(gt(tunes.revision, revision), gt(tunes.id, last)),
          ),
        )
        .orderBy(asc(tunes.revision), asc(tunes.id))
        .limit(AT_ONCE)
      for (const { id, away, print } of rows) {
        if (away) this.index.delete(id)
        else this.index.set(id, print)
      }
      this.known = rows.at(-1) ?? this.known
      if (rows.length < AT_ONCE) return
    }
  }
}

/** The shelf: what is stored, its list and its melodies kept in step, and whoever wants to know of a change told. */
import type { Arrangement } from '#core/arrangement/recipe'
import { analyseForm, type Boundaries } from '#core/form/form'
import { kinIn, phrasePrint } from '#core/form/shelfKin'
import type { StoredTune } from '#core/formats/backup/backup'
import type { Tune } from '#core/music/tune'
import type { MelodyPrint } from '#core/melody/print'
import type { SaveDocuments, ShelfQuery, TuneKin, TuneWithArrangements } from '#contract/documents'
import { setTimeout } from 'node:timers/promises'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { HOME_STUDIO, type Db, type Scope } from './database'
import { listings } from './listings'
import { Recent } from './recent'
import { ShelfIndex } from './shelfIndex'
import { type NewIds, TuneRepository, type NewTune, type Saved } from './tuneRepository'
import { getVersion, keepVersion, listVersions, renameVersion } from './versions'

/** Fewer marks than this tell nothing of a phrase; so much of it another tune must hold; so many of them are opened. */
const LEAST_MARKS = 3
const HELD_SHARE = 0.45
const MOST_OPENED = 6
/** Bytes of packed tunes kept ready: some ten thousand of them. */
const MOST_RECENT = 32 * 2 ** 20
/** Tunes read ahead at a time; then so many milliseconds none. */
const READ_AHEAD = 8
const READ_AHEAD_PAUSE = 8

const pack = promisify(gzip)

export class Shelf {
  private readonly tunes: TuneRepository
  private readonly index: ShelfIndex
  private readonly recent = new Recent<Buffer>(MOST_RECENT)

  constructor(
    db: Db,
    newId: () => string,
    /** Called after every change. */
    private readonly changed: () => void = () => {},
    scope: Scope = HOME_STUDIO,
  ) {
    this.tunes = new TuneRepository(db, scope, newId)
    this.index = new ShelfIndex(only => listings(db, this.tunes.ours, only))
  }

  /** The answer as it is sent, a `TuneList`. */
  page = (query: ShelfQuery) => this.index.page(query)
  list = () => this.index.list()
  alike = (prints: readonly MelodyPrint[]) => this.index.alike(prints)
  duplicates = () => this.index.duplicates()
  /** Makes the list and the index of melodies anew. */
  rebuild = () => this.index.rebuild()
  get = (id: string) => this.tunes.get(id)
  /** The same as JSON, packed (gzip): so it is kept ready. */
  packed = (id: string) =>
    this.recent.get(id, async () => {
      const found = await this.tunes.get(id)
      return found && pack(JSON.stringify(found), { level: 4 })
    })

  /** Reads tunes that are not ready, those changed last first, some at a time and with a pause after each time, until they are or there is no room, or `stopped`. */
  async readAhead(stopped: AbortSignal): Promise<void> {
    const list = [...(await this.index.list())].sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : -1))
    for (let i = 0; i < list.length && !this.recent.full; i += READ_AHEAD) {
      await Promise.all(list.slice(i, i + READ_AHEAD).map(t => this.packed(t.id)))
      if (stopped.aborted) return
      await setTimeout(READ_AHEAD_PAUSE, undefined, { ref: false })
    }
  }
  all = () => this.tunes.all()
  /** As the text of a backup; and packed, what did not change packed already. */
  texts = () => this.tunes.texts.plain()
  packedTexts = () => this.tunes.texts.packed()

  private async touched(...ids: readonly string[]) {
    this.forget(ids)
    await this.index.touched(ids)
    this.changed()
  }

  private forget(ids: readonly string[]) {
    this.recent.forget(ids)
    this.tunes.texts.forget(ids)
  }

  /** Named versions are in backups, but on no list. */
  private versionsChanged(tuneId: string) {
    this.tunes.texts.forget([tuneId])
    this.changed()
  }

  /** A tune with its first arrangements, all or nothing. */
  async create(
    source: string | null,
    tune: Tune,
    recipes: readonly Arrangement[],
  ): Promise<TuneWithArrangements> {
    const [id] = await this.createAll([{ source, tune, arrangements: recipes.map((arrangement, i) => ({ id: String(i), arrangement })) }]) // prettier-ignore
    return (await this.get(id!))!
  }

  async createAll(list: readonly NewTune[]): Promise<string[]> {
    const ids = (await this.tunes.createAll(list)).map(made => made.id)
    await this.touched(...ids)
    return ids
  }

  async save(id: string, docs: SaveDocuments): Promise<Saved> {
    const result = await this.tunes.save(id, docs)
    if (!('saved' in result)) return result
    if (!result.listed) await this.touched(id)
    else {
      this.forget([id])
      await this.index.saved(id, result.listed)
      this.changed()
    }
    return result
  }

  /** Puts tunes of a backup on the shelf beside what is there: those put away too, and their named versions. Returns what they are called now. */
  async restore(list: readonly StoredTune[]): Promise<NewIds[]> {
    const made = await this.tunes.createAll(list)
    await this.touched(...made.map(m => m.id))
    return made
  }

  away = () => this.tunes.away()

  /** For good; only what was put away. */
  async throwAway(id: string): Promise<boolean> {
    const done = await this.tunes.throwAway(id)
    if (!done) return false
    this.tunes.texts.forget([id])
    this.changed()
    return true
  }

  async putAway(id: string): Promise<boolean> {
    const done = await this.tunes.putAway(id)
    await this.touched(id)
    return done
  }

  async bringBack(id: string): Promise<TuneWithArrangements | null> {
    const done = await this.tunes.bringBack(id)
    await this.touched(id)
    return done ? this.get(id) : null
  }

  /**
   * Phrases of a tune that others on the shelf have too: the index says which tunes to open, and only those few are compared phrase by phrase. Null when
   * there is no such tune.
   */
  async kinOf(id: string, boundaries: Boundaries): Promise<TuneKin[] | null> {
    const own = await this.get(id)
    if (!own) return null
    const form = analyseForm(own.tune, { boundaries })
    const found = new Map<string, number>()
    for (const p of form.phrases) {
      const print = phrasePrint(p)
      if (print.length < LEAST_MARKS) continue
      for (const { id: other, likeness } of await this.index.holding(print, HELD_SHARE, id)) found.set(other, (found.get(other) ?? 0) + likeness) // prettier-ignore
    }
    const likest = [...found].sort((a, b) => b[1] - a[1]).slice(0, MOST_OPENED).map(([other]) => other) // prettier-ignore
    const there = (await Promise.all(likest.map(this.get))).filter(t => t !== null)
    const kin = there.map(t => ({ id: t.id, title: t.tune.title, kin: kinIn(form, t.tune) }))
    return kin.filter(t => t.kin.length > 0).sort((a, b) => b.kin.length - a.kin.length)
  }

  readonly versions = {
    list: (tuneId: string) => listVersions(this.tunes, tuneId),
    get: (id: string) => getVersion(this.tunes, id),
    keep: async (tuneId: string, name: string) => {
      const made = await keepVersion(this.tunes, tuneId, name)
      if (made) this.versionsChanged(tuneId)
      return made
    },
    rename: async (id: string, name: string) => {
      const tuneId = await renameVersion(this.tunes, id, name)
      if (tuneId !== null) this.versionsChanged(tuneId)
      return tuneId !== null
    },
  }
}

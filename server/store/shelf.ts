/**
 * The shelf of one studio: what is stored is the truth; what is kept in memory is checked against its
 * revision before it is used.
 */
import { createHash } from 'node:crypto'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { LRUCache } from 'lru-cache'
import type { Arrangement } from '#core/arrangement/recipe'
import { analyseForm, type Boundaries } from '#core/form/form'
import { kinIn, phrasePrint } from '#core/form/shelfKin'
import type { StoredTune } from '#core/formats/backup/backup'
import type { MelodyPrint } from '#core/melody/print'
import type { Tune } from '#core/music/tune'
import type { SaveDocuments, ShelfQuery, TuneKin, TuneWithArrangements } from '#contract/documents'
import { Melodies } from './melodies'
import type { Db, Scope } from './port'
import { ShelfList } from './shelfList'
import { TuneRepository, type NewIds, type NewTune, type Saved } from './tuneRepository'
import { getVersion, keepVersion, listVersions, renameVersion } from './versions'

/**
 * Fewer marks than this tell nothing of a phrase; so much of it another tune must hold; so many of them are
 * opened.
 */
const LEAST_MARKS = 3
const HELD_SHARE = 0.45
const MOST_OPENED = 6
/** Pairs of tunes that sound alike are told up to so many, and so many likenesses of one. */
const MOST_PAIRS = 500
const MOST_ALIKE = 5
/** Bytes of packed tunes kept ready: some ten thousand of them. */
const MOST_READY = 32 * 2 ** 20

const pack = promisify(gzip)

/** A tune as it is sent: JSON, packed (gzip), and what it is known again by: a fingerprint of the JSON. */
export interface PackedTune {
  readonly print: string
  readonly bytes: Buffer
}

export class Shelf {
  readonly tunes: TuneRepository
  private readonly listed: ShelfList
  private readonly melodies: Melodies
  /** By id and revision, so that a class on one tune packs it once. */
  private readonly ready = new LRUCache<string, PackedTune>({
    maxSize: MOST_READY,
    sizeCalculation: ({ bytes }) => bytes.length,
    fetchMethod: async key => {
      const found = await this.tunes.get(key.slice(0, key.indexOf(' ')))
      if (!found) return undefined
      const json = JSON.stringify(found)
      return {
        print: createHash('sha256').update(json).digest('base64url'),
        bytes: await pack(json, { level: 4 }),
      }
    },
  })

  constructor(
    db: Db,
    scope: Scope,
    newId: () => string,
    /** Called after every change made here. */
    private readonly changed: () => void,
  ) {
    this.tunes = new TuneRepository(db, scope, newId)
    this.listed = new ShelfList(this.tunes)
    this.melodies = new Melodies(this.tunes)
  }

  page = (query: ShelfQuery) => this.listed.page(query)
  list = () => this.listed.all()
  get = (id: string) => this.tunes.get(id)
  all = () => this.tunes.all()

  /**
   * Null where it is not there. What is ready is sent as long as nothing changed it, here or in another
   * process.
   */
  async packed(id: string): Promise<PackedTune | null> {
    const revision = await this.tunes.revisionOf(id)
    return revision === null ? null : ((await this.ready.fetch(`${id} ${revision}`)) ?? null)
  }

  /** Tunes that sound like each of some fingerprints. */
  async alike(prints: readonly MelodyPrint[]) {
    const melodies = await this.melodies.now()
    const found = prints.map(print => melodies.alike(print))
    const items = await this.there(found.flat())
    return found.map(list =>
      list
        .flatMap(a => (items.has(a.id) ? [{ ...a, title: items.get(a.id)!.title }] : []))
        .slice(0, MOST_ALIKE),
    )
  }

  /** Pairs of tunes that sound alike, the likest first. */
  async duplicates(signal?: AbortSignal) {
    const pairs = await this.melodies.pairs(MOST_PAIRS, signal)
    const items = await this.there(pairs.flatMap(p => [{ id: p.a }, { id: p.b }]))
    return pairs.flatMap(p => {
      const [a, b] = [items.get(p.a), items.get(p.b)]
      return a && b ? [{ a, b, likeness: p.likeness }] : []
    })
  }

  /**
   * What the list tells of those that are on the shelf; the index forgets the others, which another process
   * threw away.
   */
  private async there(found: readonly { readonly id: string }[]) {
    const ids = [...new Set(found.map(f => f.id))]
    const items = await this.listed.some(ids)
    this.melodies.forget(ids.filter(id => !items.has(id)))
    return items
  }

  /** A tune with its first arrangements, all or nothing. */
  async create(
    source: string | null,
    tune: Tune,
    recipes: readonly Arrangement[],
  ): Promise<TuneWithArrangements> {
    const arrangements = recipes.map((arrangement, i) => ({ id: String(i), arrangement }))
    const [id] = await this.createAll([{ source, tune, arrangements }])
    return (await this.get(id!))!
  }

  async createAll(list: readonly NewTune[]): Promise<string[]> {
    return (await this.restore(list)).map(made => made.id)
  }

  /**
   * Puts tunes on the shelf beside what is there; of a backup those put away too, and their named versions.
   * Returns what they are called now.
   */
  restore = (list: readonly StoredTune[] | readonly NewTune[]): Promise<NewIds[]> =>
    this.told(this.tunes.createAll(list), made => made.length > 0)

  save = (id: string, docs: SaveDocuments): Promise<Saved> =>
    this.told(this.tunes.save(id, docs), result => 'saved' in result)

  away = () => this.tunes.away()
  /** For good; only what was put away. */
  throwAway = (id: string) => this.told(this.tunes.throwAway(id), Boolean)
  putAway = (id: string) => this.told(this.tunes.putAway(id), Boolean)

  async bringBack(id: string): Promise<TuneWithArrangements | null> {
    return (await this.told(this.tunes.bringBack(id), Boolean)) ? this.get(id) : null
  }

  /**
   * Phrases of a tune that others on the shelf have too: the index says which tunes to open, and only those
   * few are compared phrase by phrase. Null when there is no such tune.
   */
  async kinOf(id: string, boundaries: Boundaries): Promise<TuneKin[] | null> {
    const own = await this.get(id)
    if (!own) return null
    const form = analyseForm(own.tune, { boundaries })
    const melodies = await this.melodies.now()
    const found = new Map<string, number>()
    for (const p of form.phrases) {
      const print = phrasePrint(p)
      if (print.length < LEAST_MARKS) continue
      for (const { id: other, likeness } of melodies.holding(print, HELD_SHARE, id))
        found.set(other, (found.get(other) ?? 0) + likeness)
    }
    const likest = [...found].sort((a, b) => b[1] - a[1]).slice(0, MOST_OPENED)
    const there = (await Promise.all(likest.map(([other]) => this.get(other)))).filter(t => t !== null)
    const kin = there.map(t => ({ id: t.id, title: t.tune.title, kin: kinIn(form, t.tune) }))
    return kin.filter(t => t.kin.length > 0).sort((a, b) => b.kin.length - a.kin.length)
  }

  readonly versions = {
    list: (tuneId: string) => listVersions(this.tunes, tuneId),
    get: (id: string) => getVersion(this.tunes, id),
    keep: (tuneId: string, name: string) => this.told(keepVersion(this.tunes, tuneId, name), v => v !== null),
    rename: (id: string, name: string) => this.told(renameVersion(this.tunes, id, name), Boolean),
  }

  /** Whoever wants to know of a change is told, once it is made. */
  private async told<T>(work: Promise<T>, made: (result: T) => boolean): Promise<T> {
    const result = await work
    if (made(result)) this.changed()
    return result
  }
}

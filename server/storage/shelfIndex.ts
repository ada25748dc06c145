/** The list of the shelf and the index of its melodies, kept in memory. Both are made of what is stored and can be made anew at any time. */
import { PrintIndex, type MelodyPrint } from '#core/melody/print'
import type { ShelfQuery, TuneListItem } from '#contract/documents'
import { shownOf, type ListedTuneDocument, type Listing } from './listings'
import { ByTitle, listedTune, type ListedTune } from './byTitle'
import { FacetCounts, shelfPage } from './shelfList'

/** Pairs of tunes that sound alike are told up to so many. */
const MOST_PAIRS = 500
/** And so many likenesses of one. */
const MOST_ALIKE = 5

export class ShelfIndex {
  private items: Promise<Map<string, ListedTune>> | null = null
  private sorted: ByTitle | null = null
  private counts = new FacetCounts()
  private prints = new PrintIndex()

  /** @param read what is stored, of all tunes or of some */
  constructor(private readonly read: (only?: readonly string[]) => Promise<Listing[]>) {}

  /** Makes both anew from what is stored. */
  async rebuild(): Promise<void> {
    this.items = null
    this.sorted = null
    this.counts = new FacetCounts()
    this.prints = new PrintIndex()
    await this.listed()
  }

  /** The answer as it is sent, a `TuneList`. */
  async page(query: ShelfQuery): Promise<string> {
    const sorted = await this.byTitle()
    return shelfPage(sorted, this.counts.facets, query)
  }

  async list(): Promise<readonly TuneListItem[]> {
    return (await this.byTitle()).all().map(t => t.item)
  }

  /** Tunes that sound like each of some fingerprints. */
  async alike(prints: readonly MelodyPrint[]): Promise<{ id: string; title: string; likeness: number }[][]> {
    const items = await this.listed()
    return prints.map(p =>
      this.prints
        .alike(p)
        .slice(0, MOST_ALIKE)
        .map(a => ({ ...a, title: items.get(a.id)!.item.title })),
    )
  }

  /** Pairs of tunes that sound alike, the likest first. */
  async duplicates(): Promise<{ a: TuneListItem; b: TuneListItem; likeness: number }[]> {
    const items = await this.listed()
    return this.prints
      .pairs()
      .sort((x, y) => y.likeness - x.likeness)
      .slice(0, MOST_PAIRS)
      .map(p => ({ a: items.get(p.a)!.item, b: items.get(p.b)!.item, likeness: p.likeness }))
  }

  /** Tunes that hold so much of a print, but for one. */
  async holding(print: MelodyPrint, share: number, except: string) {
    await this.listed()
    return this.prints.holding(print, share, except)
  }

  /** After a change of some tunes: their entries. */
  async touched(ids: readonly string[]): Promise<void> {
    if (this.items) {
      const items = await this.items
      const fresh = new Map((await this.read(ids)).map(l => [l.item.id, l]))
      for (const id of ids) {
        const found = fresh.get(id)
        this.leave(items, id)
        if (found) this.enter(items, found)
      }
    }
  }

  /** After a save of a tune alone: its arrangements are what they were. */
  async saved(id: string, tune: ListedTuneDocument): Promise<void> {
    const items = await this.items
    const before = items?.get(id)
    if (!items || !before) return this.touched([id])
    this.leave(items, id)
    this.enter(items, { item: { ...before.item, ...shownOf(tune) }, print: tune.summary.print })
  }

  private async byTitle(): Promise<ByTitle> {
    const items = await this.listed()
    this.sorted ??= new ByTitle([...items.values()])
    return this.sorted
  }

  private listed(): Promise<Map<string, ListedTune>> {
    this.items ??= this.read().then(list => {
      const items = new Map<string, ListedTune>()
      for (const l of list) this.enter(items, l)
      return items
    })
    return this.items
  }

  private enter(items: Map<string, ListedTune>, { item, print }: Listing) {
    const listed = listedTune(item)
    this.prints.set(item.id, print)
    items.set(item.id, listed)
    this.counts.count(item, 1)
    this.sorted?.put(listed)
  }

  private leave(items: Map<string, ListedTune>, id: string) {
    const before = items.get(id)
    if (!before) return
    items.delete(id)
    this.prints.delete(id)
    this.counts.count(before.item, -1)
    this.sorted?.take(before)
  }
}

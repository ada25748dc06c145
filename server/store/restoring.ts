/**
 * A backup put on a shelf beside what is there: its tunes under ids of their own here, and what the studio
 * entered. What is not sound is named, and the rest comes back.
 */
import type { BackupItem } from '#core/formats/backup/items'
import type { StoredTune } from '#core/formats/backup/backup'
import { partOf, STUDIO_PARTS, type Studio } from '#core/instruments/studio'
import { MOST_BOOKLETS, withOtherIds } from '#core/styles/booklet'
import type { Shelf } from './shelf'
import type { StudioStore } from './studioStore'
import type { NewIds } from './tuneRepository'

/** Tunes a transaction puts there: all of them or none. */
const AT_ONCE = 100

export interface Restored {
  readonly tunes: number
  /** A sentence for each thing that could not be taken. */
  readonly faults: readonly string[]
}

/** @param told how many tunes are there, now and then */
export async function restoreBackup(
  items: AsyncIterable<BackupItem> | Iterable<BackupItem>,
  shelf: Shelf,
  studios: StudioStore,
  told: (tunes: number) => void = () => {},
): Promise<Restored> {
  const made = new Map<string, NewIds>()
  const faults: string[] = []
  let waiting: StoredTune[] = []
  let studio: Studio | null = null
  const put = async (some: readonly StoredTune[]): Promise<void> => {
    try {
      const ids = await shelf.restore(some)
      some.forEach((t, i) => made.set(t.id, ids[i]!))
    } catch (e) {
      if (some.length > 1) for (const t of some) await put([t])
      else faults.push(`“${some[0]!.tune.title}”: ${e instanceof Error ? e.message : String(e)}`)
    }
  }
  const putWaiting = async () => {
    if (waiting.length === 0) return
    await put(waiting)
    waiting = []
    told(made.size)
  }
  for await (const item of items) {
    if (item.kind === 'fault')
      faults.push([item.what, item.error.path, item.error.message].filter(Boolean).join(': '))
    else if (item.kind === 'studio') studio = item.studio
    else if (waiting.push(item.tune) >= AT_ONCE) await putWaiting()
  }
  await putWaiting()
  if (studio) await restoreStudio(studio, studios, made)
  return { tunes: made.size, faults }
}

async function restoreStudio(studio: Studio, studios: StudioStore, made: ReadonlyMap<string, NewIds>) {
  const booklets = studio.booklets.map(b => withOtherIds(b, made))
  const now = await studios.get()
  for (const part of STUDIO_PARTS) {
    const version = now.versions[part]
    // What was entered since is not written over; booklets stand beside each other.
    if (part === 'booklets') {
      const all = [...now.studio.booklets, ...booklets].slice(0, MOST_BOOKLETS)
      if (booklets.length > 0) await studios.save(version, { part, booklets: all })
    } else if (version === 0) await studios.save(version, partOf(studio, part))
  }
}

/**
 * A whole backup put on a shelf beside what is there: its tunes under ids of their own here, and what the
 * studio entered.
 */
import type { Backup } from '#core/formats/backup/backup'
import { partOf, STUDIO_PARTS } from '#core/instruments/studio'
import { MOST_BOOKLETS, withOtherIds } from '#core/styles/booklet'
import type { Shelf } from './shelf'
import type { StudioStore } from './studioStore'
import type { NewIds } from './tuneRepository'

export async function restoreBackup(
  { tunes, studio }: Backup,
  shelf: Shelf,
  studios: StudioStore,
): Promise<void> {
  const made = new Map<string, NewIds>()
  for (const t of tunes) made.set(t.id, (await shelf.restore([t]))[0]!)
  if (!studio) return
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

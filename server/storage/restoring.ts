/** A whole backup put on a shelf beside what is there: its tunes under ids of their own here, and what the studio entered. */
import type { Backup } from '#core/formats/backup/backup'
import { MOST_BOOKLETS, withOtherIds } from '#core/styles/booklet'
import type { Shelf } from './shelf'
import type { StudioRepository } from './studioRepository'
import type { NewIds } from './tuneRepository'

export async function restoreBackup({ tunes, studio }: Backup, shelf: Shelf, studios: StudioRepository): Promise<void> {
  const made = new Map<string, NewIds>()
  for (const t of tunes) made.set(t.id, (await shelf.restore([t]))[0]!)
  if (!studio) return
  const booklets = studio.booklets.map(b => withOtherIds(b, made))
  const now = await studios.get()
  // What was entered since is not written over; booklets stand beside each other.
  const next = now.version === 1 ? { ...studio, booklets } : { ...now.studio, booklets: [...now.studio.booklets, ...booklets].slice(0, MOST_BOOKLETS) }
  if (now.version === 1 || booklets.length > 0) await studios.save(now.version, next)
} // prettier-ignore

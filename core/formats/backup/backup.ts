/** The open JSON document of tunes with their arrangements: .nokta.json files, and the server's backups. */
import { z } from 'zod'
import { arrangementSchema } from '#core/arrangement/recipe'
import { studioSchema, type Studio } from '#core/instruments/studio'
import { tuneSchema } from '#core/music/tune'

export const BACKUP_VERSION = 1

export const storedArrangementSchema = z
  .object({ id: z.string().min(1).max(60), arrangement: arrangementSchema })
  .readonly()
export const storedTuneSchema = z
  .object({
    id: z.string().min(1).max(60),
    /** The text as typed, kept for the source pane; null when the tune has none. */
    source: z.string().max(2_000_000).nullable(),
    tune: tuneSchema,
    arrangements: z.array(storedArrangementSchema).max(1000).readonly(),
  })
  .readonly()
export const backupSchema = z
  .object({
    format: z.literal('nokta'),
    version: z.literal(BACKUP_VERSION),
    tunes: z.array(storedTuneSchema).max(100_000).readonly(),
    /** What the studio knows of its own instruments; in the server's backups only. */
    studio: studioSchema.optional(),
  })
  .readonly()

export type Backup = z.infer<typeof backupSchema>
export type StoredTune = z.infer<typeof storedTuneSchema>

/** Learners' hands are left out: an erased one must not come back. */
export const writeBackup = (tunes: readonly StoredTune[], studio?: Studio) =>
  JSON.stringify({
    format: 'nokta',
    version: BACKUP_VERSION,
    tunes,
    ...(studio && { studio: { ...studio, hands: [] } }),
  } satisfies Backup)

export type BackupError = {
  readonly code: 'json' | 'format'
  readonly path: string
  readonly message: string
}

/** Reads and checks; a broken file is refused whole, with the place of its first fault. */
export function readBackup(text: string): { backup: Backup } | { error: BackupError } {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (e) {
    return { error: { code: 'json', path: '', message: e instanceof Error ? e.message : 'not JSON' } }
  }
  const result = backupSchema.safeParse(json)
  if (result.success) return { backup: result.data }
  const first = result.error.issues[0]!
  return { error: { code: 'format', path: first.path.join('.'), message: first.message } }
}

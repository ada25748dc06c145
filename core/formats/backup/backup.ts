/** The open JSON document of tunes with their arrangements: .nokta.json files, and the server's backups. */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { readDocument, versioned, type DocumentError } from '#core/documents/versioned'
import { arrangementSchema } from '#core/arrangement/recipe'
import { studioSchema, type Studio } from '#core/instruments/studio'
import { tuneSchema } from '#core/music/tune'

export const BACKUP_VERSION = 1

export const storedArrangementSchema = z
  .strictObject({ id: z.string().min(1).max(60), arrangement: arrangementSchema })
  .readonly()
export const storedTuneSchema = z
  .strictObject({
    id: z.string().min(1).max(60),
    /** The text as typed, kept for the source pane; null when the tune has none. */
    source: text(2_000_000).nullable(),
    tune: tuneSchema,
    arrangements: z.array(storedArrangementSchema).max(1000).readonly(),
  })
  .readonly()
const schema = z
  .strictObject({
    format: z.literal('nokta'),
    version: z.literal(BACKUP_VERSION),
    tunes: z.array(storedTuneSchema).max(100_000).readonly(),
    /** What the studio knows of its own instruments; in the server's backups only. */
    studio: studioSchema.optional(),
  })
  .readonly()

/** Its tunes, arrangements and studio climb ladders of their own. */
export const backupSchema = versioned(schema, [])

export type Backup = z.infer<typeof backupSchema>
export type StoredTune = z.infer<typeof storedTuneSchema>

/** Learners are left out: an erased one must not come back. */
export const writeBackup = (tunes: readonly StoredTune[], studio?: Studio) =>
  JSON.stringify({
    format: 'nokta',
    version: BACKUP_VERSION,
    tunes,
    ...(studio && { studio: { ...studio, learners: [] } }),
  } satisfies Backup)

/** The same piece by piece, of tunes that are text already (each piece: one or more of them, with its commas). */
export async function* backupPieces(tunes: AsyncIterable<string>, studio?: Studio): AsyncGenerator<string> {
  yield `{"format":"nokta","version":${BACKUP_VERSION},"tunes":[`
  yield* tunes
  yield studio ? `],"studio":${JSON.stringify({ ...studio, learners: [] })}}` : ']}'
}

export interface BackupError extends DocumentError {
  readonly code: 'json' | 'format'
}

/** Reads and checks; a broken file is refused whole, with the place of its first fault. */
export function readBackup(text: string): { backup: Backup } | { error: BackupError } {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (e) {
    return { error: { code: 'json', path: '', message: e instanceof Error ? e.message : 'not JSON' } }
  }
  const result = readDocument(backupSchema, json)
  return 'doc' in result ? { backup: result.doc } : { error: { code: 'format', ...result.error } }
}

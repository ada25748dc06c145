/** The open JSON document of tunes with their arrangements: .nokta.json files, and the server's backups. */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { readDocument, versioned, type DocumentError, type Step } from '#core/documents/versioned'
import { arrangementSchema } from '#core/arrangement/recipe'
import { studioSchema, type Studio } from '#core/instruments/studio'
import { tuneSchema } from '#core/music/tune'

export const BACKUP_VERSION = 2

/** What no such file holds, said in the file itself. */
export const LEFT_OUT =
  'Not in this file: learners (an erased one must not come back), and earlier versions of a tune that were not given a name.'

export const storedArrangementSchema = z
  .strictObject({ id: z.string().min(1).max(60), arrangement: arrangementSchema })
  .readonly()
const storedVersionSchema = z
  .strictObject({
    name: text(120),
    createdAt: z.iso.datetime(),
    source: text(2_000_000).nullable(),
    tune: tuneSchema,
    arrangements: z.array(storedArrangementSchema).max(1000).readonly(),
  })
  .readonly()
/** More than a tune may hold: what was stored when nobody counted comes back all the same. */
const MOST_STORED = 100_000

export const storedTuneSchema = z
  .strictObject({
    id: z.string().min(1).max(60),
    /** The text as typed, kept for the source pane; null when the tune has none. */
    source: text(2_000_000).nullable(),
    tune: tuneSchema,
    arrangements: z.array(storedArrangementSchema).max(MOST_STORED).readonly(),
    /** It was put away. */
    away: z.literal(true).optional(),
    /** Earlier states that were given a name. */
    versions: z.array(storedVersionSchema).max(10_000).readonly().optional(),
  })
  .readonly()
const schema = z
  .strictObject({
    format: z.literal('nokta'),
    version: z.literal(BACKUP_VERSION),
    tunes: z.array(storedTuneSchema).max(100_000).readonly(),
    /** What the studio knows of its own instruments; in the server's backups only. */
    studio: studioSchema.optional(),
    leftOut: text(400).optional(),
  })
  .readonly()

/**
 * Its tunes, arrangements and studio climb ladders of their own. Version 2 holds tunes that were put away and
 * versions with a name, and says what it leaves out.
 */
const withMore: Step = old => ({ ...old, version: 2 })

export const backupSchema = versioned(schema, [withMore])

export type Backup = z.infer<typeof backupSchema>
export type StoredTune = z.infer<typeof storedTuneSchema>
export type StoredArrangement = z.infer<typeof storedArrangementSchema>

/** Learners are left out: an erased one must not come back. */
export const writeBackup = (tunes: readonly StoredTune[], studio?: Studio) =>
  JSON.stringify({
    format: 'nokta',
    version: BACKUP_VERSION,
    leftOut: LEFT_OUT,
    tunes,
    ...(studio && { studio: { ...studio, learners: [] } }),
  } satisfies Backup)

/** Between two tunes of a backup that is written piece by piece: each stands on a line of its own. */
export const BETWEEN = ',\n'

/**
 * The same piece by piece, of tunes that are text already, or packed text (each piece: some of them with
 * {@link BETWEEN} them). It is read line by line again (`readBackupItems`): as one text a large shelf is longer
 * than a text may be.
 */
export async function* backupPieces<Piece = string>(
  tunes: AsyncIterable<Piece>,
  studio?: Studio,
): AsyncGenerator<Piece | string> {
  yield `{"format":"nokta","version":${BACKUP_VERSION},"leftOut":${JSON.stringify(LEFT_OUT)},"tunes":[\n`
  yield* tunes
  yield studio ? `\n],"studio":${JSON.stringify({ ...studio, learners: [] })}}` : '\n]}'
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

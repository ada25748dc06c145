/**
 * A backup read line by line, so that its size is no matter: each tune is checked by itself, and one that is
 * not sound does not keep the others from coming back. A backup that is one line is read as one text.
 */
import { z } from 'zod'
import { isObject, readDocument, type DocumentError } from '#core/documents/versioned'
import { studioSchema, type Studio } from '#core/instruments/studio'
import { BACKUP_VERSION, storedTuneSchema, type StoredTune } from './backup'

export type BackupItem =
  | { readonly kind: 'tune'; readonly tune: StoredTune }
  | { readonly kind: 'studio'; readonly studio: Studio }
  /** A tune (by its title, where it can be made out), or the studio, that cannot be taken. */
  | { readonly kind: 'fault'; readonly what: string; readonly error: DocumentError }

/** It is no backup, or not all of one. */
export class BackupBroken extends Error {}

/** What stands around the tunes; of a newer kind than this program knows it is refused. */
const frameSchema = z.object({
  format: z.literal('nokta'),
  version: z.int().min(1).max(BACKUP_VERSION),
  tunes: z.array(z.unknown()),
})

/**
 * @param lines without their ends
 * Throws {@link BackupBroken} where it is no backup, and at its end where it is cut.
 */
export async function* readBackupItems(lines: AsyncIterable<string>): AsyncGenerator<BackupItem> {
  let head = true
  let closed = false
  const rest: string[] = []
  for await (const line of lines) {
    if (closed) {
      if (line.trim() !== '') throw new BackupBroken('something follows its end')
    } else if (head) {
      head = false
      if (!line.endsWith('"tunes":[')) rest.push(line)
      else framed(parsed(`${line}]}`))
    } else if (rest.length > 0) rest.push(line)
    else if (line.startsWith(']')) {
      closed = true
      yield* studioIn(parsed(`{"tunes":[${line}`))
    } else if (line !== '') yield tuneIn(parsed(line.endsWith(',') ? line.slice(0, -1) : line))
  }
  if (rest.length > 0) yield* ofWhole(parsed(rest.join('\n')))
  else if (!closed) throw new BackupBroken('its end is missing')
}

function* ofWhole(doc: unknown): Generator<BackupItem> {
  for (const tune of framed(doc).tunes) yield tuneIn(tune)
  yield* studioIn(doc)
}

function framed(doc: unknown) {
  const frame = frameSchema.safeParse(doc)
  if (frame.success) return frame.data
  throw new BackupBroken('it is no backup of Nokta, or one of a newer kind')
}

function tuneIn(json: unknown): BackupItem {
  const read = readDocument(storedTuneSchema, json)
  if ('doc' in read) return { kind: 'tune', tune: read.doc }
  const tune = isObject(json) ? json.tune : null
  const title = isObject(tune) && typeof tune.title === 'string' ? tune.title.slice(0, 80) : ''
  return { kind: 'fault', what: title ? `“${title}”` : 'a tune without a title', error: read.error }
}

function* studioIn(json: unknown): Generator<BackupItem> {
  if (!isObject(json) || json.studio === undefined) return
  const read = readDocument(studioSchema, json.studio)
  yield 'doc' in read
    ? { kind: 'studio', studio: read.doc }
    : { kind: 'fault', what: 'what the studio entered', error: read.error }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch (e) {
    throw new BackupBroken(e instanceof Error ? e.message : 'not JSON')
  }
}

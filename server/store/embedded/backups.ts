/**
 * Rolling backups in the open JSON format, packed. The database never asks the disk to make writes permanent,
 * so a power cut could lose the last of them; these files are written piece by piece beside other work,
 * synced, read back, and only then given their name. They are numbered as they are written: a clock that was
 * set wrong does not change which is the newest. Newer ones are kept closer together than older ones, and none
 * makes room for one that is not whole.
 */
import { open, rename, rm } from 'node:fs/promises'
import { createReadStream, existsSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { createInterface } from 'node:readline'
import type { Readable } from 'node:stream'
import { createGunzip, gzip } from 'node:zlib'
import { readBackupItems } from '#core/formats/backup/items'
import type { Packed } from '../backupTexts'
import { ownersFolder } from './owner'

/** "nokta-000012-20260601T120000000": its number, and the time by the clock of that moment. Old ones have no number. */
const NAME = /^nokta-(?:(\d{6,})-)?(\d{4})(\d{2})(\d{2})T(\d{2})(\d{2})(\d{2})(\d{3})\.nokta\.json(?:\.gz)?$/
const PART = /^nokta-.*\.part$/
const pack = promisify(gzip)
/** Bytes written at a time. */
const AT_ONCE = 256 * 1024

export type Piece = string | Packed
type Pieces = AsyncIterable<Piece> | Iterable<Piece>

/** The disk has no room: what is there already stays. */
export class DiskFull extends Error {
  constructor() {
    super('The disk is full: no backup could be written. Make room; those that are there are kept.')
  }
}

/**
 * Writes one backup from its pieces, reads it back, and lets older ones go by age. Returns its path. Given up at
 * the signal: then nothing of it is left, and no older one went.
 */
export async function writeBackupFile(
  folder: string,
  pieces: Pieces,
  now: Date,
  givenUp?: AbortSignal,
): Promise<string> {
  ownersFolder(folder)
  // What a killed process left half written; there is no other one in this folder.
  for (const left of readdirSync(folder).filter(f => PART.test(f)))
    await rm(join(folder, left), { force: true })
  const number = String(backupNumber(backupFiles(folder)[0]) + 1).padStart(6, '0')
  const path = join(folder, `nokta-${number}-${now.toISOString().replace(/[-:.Z]/g, '')}.nokta.json.gz`)
  const part = `${path}.part`
  try {
    const length = await packed(part, pieces, givenUp)
    const back = await unpackedLength(part, givenUp)
    if (back !== length) throw new Error(`the backup came out with ${back} bytes of ${length}`)
    await rename(part, path)
    await syncFolder(folder)
  } catch (e) {
    await rm(part, { force: true })
    if ((e as NodeJS.ErrnoException).code === 'ENOSPC') throw new DiskFull()
    throw e
  }
  for (const old of outlived(backupFiles(folder), now)) await rm(join(folder, old), { force: true })
  return path
}

/** What is in a file, unpacked where it is packed; ends with an error where it is damaged. */
function contents(path: string): Readable {
  const file = createReadStream(path)
  if (!path.endsWith('.gz') && !path.endsWith('.part')) return file
  const unpacked = createGunzip()
  file.on('error', e => unpacked.destroy(e))
  return file.pipe(unpacked)
}

/** How many bytes a packed file holds; read piece by piece. Fails where it is damaged. */
async function unpackedLength(path: string, givenUp?: AbortSignal): Promise<number> {
  let length = 0
  for await (const piece of contents(path) as AsyncIterable<Buffer>) {
    givenUp?.throwIfAborted()
    length += piece.length
  }
  return length
}

/** The bytes that went in. What is text yet is packed here. */
async function packed(path: string, pieces: Pieces, givenUp?: AbortSignal): Promise<number> {
  const file = await open(path, 'w', 0o600)
  try {
    let length = 0
    let waiting: Buffer[] = []
    let bytes = 0
    const written = async () => {
      await whole(file, Buffer.concat(waiting))
      waiting = []
      bytes = 0
    }
    for await (const piece of pieces) {
      givenUp?.throwIfAborted()
      const own = typeof piece === 'string' ? await pack(piece, { level: 4 }) : piece.packed
      length += typeof piece === 'string' ? Buffer.byteLength(piece) : piece.length
      waiting.push(own)
      bytes += own.length
      if (bytes >= AT_ONCE) await written()
    }
    await written()
    await file.sync()
    return length
  } finally {
    await file.close()
  }
}

/** A short write goes on until all is written. */
async function whole(file: Awaited<ReturnType<typeof open>>, bytes: Buffer) {
  for (let at = 0; at < bytes.length;) at += (await file.write(bytes, at)).bytesWritten
}

async function syncFolder(folder: string) {
  const handle = await open(folder, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}

/** Names of the backups in a folder, newest first: by their numbers, old ones without by their time. */
export function backupFiles(folder: string): string[] {
  try {
    return readdirSync(folder)
      .filter(f => NAME.test(f))
      .sort((a, b) => backupNumber(b) - backupNumber(a) || backupTime(b) - backupTime(a))
  } catch {
    return []
  }
}

/** 0 for those that were written before they were numbered, and where there is none. */
const backupNumber = (name: string | undefined): number => Number(NAME.exec(name ?? '')?.[1] ?? 0)

/** What the clock said when it was written. */
export const backupTime = (name: string): number => {
  const [, , y, mo, d, h, mi, s, ms] = NAME.exec(name)!.map(Number)
  return Date.UTC(y!, mo! - 1, d, h, mi, s, ms)
}

const MINUTE = 60_000
/**
 * Kept: in the last hour one every five minutes, in the last day one an hour, in the last month one a day, in
 * the last year one a month.
 */
const KEPT = [
  { age: 60 * MINUTE, apart: 5 * MINUTE },
  { age: 24 * 60 * MINUTE, apart: 60 * MINUTE },
  { age: 31 * 24 * 60 * MINUTE, apart: 24 * 60 * MINUTE },
  { age: 366 * 24 * 60 * MINUTE, apart: 30 * 24 * 60 * MINUTE },
] as const

/** So many of the newest never go, whatever the clock says. */
const ALWAYS_KEPT = 12
/** A clock may be so much ahead before it is wondered at. */
const AHEAD = 24 * 60 * MINUTE

/** Dated in the future: the clock was wrong then, or is now. */
export const fromTheFuture = (names: readonly string[], now: Date): string[] =>
  names.filter(n => backupTime(n) > now.getTime() + AHEAD)

/** Those that may go, of names with the newest first. The oldest of a stretch is the one that stays. */
export function outlived(names: readonly string[], now: Date): string[] {
  const seen = new Set<string>()
  const rest = names.slice(ALWAYS_KEPT).toReversed()
  return rest.filter(name => {
    const at = backupTime(name)
    if (at > now.getTime()) return false
    const rule = KEPT.find(k => now.getTime() - at <= k.age)
    if (!rule) return true
    const slot = `${rule.apart} ${Math.floor(at / rule.apart)}`
    if (seen.has(slot)) return true
    seen.add(slot)
    return false
  })
}

/** The lines of a backup, packed or not; throws where it is damaged. */
export async function* backupLines(path: string): AsyncGenerator<string> {
  const input = contents(path)
  // A damaged file ends the lines early: what went wrong is heard beside them.
  let fault: Error | null = null
  input.on('error', (e: Error) => (fault = e))
  try {
    for await (const line of createInterface({ input, crlfDelay: Infinity })) yield line
  } finally {
    input.destroy()
  }
  if (fault) throw fault
}

/** Fails where a backup is damaged, cut, or none; before anything of it is used. */
export async function checkBackupFile(path: string): Promise<void> {
  if (path.endsWith('.gz')) await unpackedLength(path)
  let [first, last, count] = ['', '', 0]
  for await (const line of backupLines(path)) {
    if (count++ === 0) first = line.slice(0, 200)
    last = line === '' ? last : line.slice(-1)
  }
  if (!first.startsWith('{') || last !== '}') throw new Error('it is cut, or no backup')
  // Its first line says of which kind it is.
  for await (const _ of readBackupItems(backupLines(path))) break
}

/** Lies in the folder while something is in no backup yet. */
const OUTSTANDING = 'outstanding'

/** Something is stored that no backup holds: one is written even if the process ends before. */
export function markOutstanding(folder: string): void {
  ownersFolder(folder)
  writeFileSync(join(folder, OUTSTANDING), '', { mode: 0o600 })
}

export interface BackupKeeper {
  /** Says that something changed; a backup follows soon. */
  changed(): void
  /** Writes what is outstanding now. */
  flush(): Promise<void>
  /**
   * The same as the server ends, but no longer than one waits for that: what takes longer is given up and
   * written when the folder is opened next.
   */
  close(): Promise<void>
}

/**
 * Seconds after a change until it is in a backup, at most; where the last backup took long, as the first of a
 * large shelf does, twenty times that.
 */
export const BACKUP_DELAY_SECONDS = 20
const REST = 20
/** Milliseconds a backup may take when the server ends. */
const PATIENCE = 3500

export function keepBackups(
  folder: string,
  all: () => AsyncIterable<Piece>,
  delay = BACKUP_DELAY_SECONDS,
  patience = PATIENCE,
): BackupKeeper {
  let timer: NodeJS.Timeout | null = null
  let dirty = false
  let took = 0
  let running: Promise<void> = Promise.resolve()
  let warned = false
  const ending = new AbortController()
  const write = async () => {
    if (timer) clearTimeout(timer)
    timer = null
    if (!dirty) return
    dirty = false
    const began = Date.now()
    try {
      const now = new Date()
      await writeBackupFile(folder, all(), now, ending.signal)
      if (!dirty) rmSync(join(folder, OUTSTANDING), { force: true })
      const ahead = fromTheFuture(backupFiles(folder), now)
      if (ahead.length > 0 && !warned)
        console.error(
          `Backups are dated in the future, the first ${ahead.at(-1)}: they are kept. Is the clock right?`,
        )
      warned = ahead.length > 0
    } catch (e) {
      dirty = true
      throw e
    }
    took = Date.now() - began
  }
  /** One after another. */
  const flush = () => (running = running.catch(() => {}).then(write))
  const keeper: BackupKeeper = {
    changed() {
      if (!dirty) markOutstanding(folder)
      dirty = true
      timer ??= setTimeout(
        () => {
          flush().catch(e =>
            console.error(`The backup could not be written: ${e instanceof Error ? e.message : e}`),
          )
        },
        Math.max(delay * 1000, REST * took),
      )
      timer.unref()
    },
    flush,
    async close() {
      const tooLong = setTimeout(() => ending.abort(), patience)
      try {
        await flush()
      } catch (e) {
        if (!ending.signal.aborted) throw e
        console.error('The backup was not finished: it is written when Nokta is opened next.')
      } finally {
        clearTimeout(tooLong)
        if (timer) clearTimeout(timer)
      }
    },
  }
  // What the process before had not written yet.
  if (existsSync(join(folder, OUTSTANDING))) keeper.changed()
  return keeper
}

/**
 * Rolling backups in the open JSON format. The database never asks the disk to make writes permanent, so a power cut could lose the last
 * of them; these files are written whole, synced, then renamed.
 */
import {
  closeSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs'
import { join } from 'node:path'
import { writeBackup, type StoredTune } from '#core/formats/backup/backup'
import type { Studio } from '#core/instruments/studio'

/** Backups kept: the newest of them. */
export const KEPT = 12

const NAME = /^nokta-\d{8}T\d{9}\.nokta\.json$/

/** Writes one backup and drops the oldest beyond {@link KEPT}. Returns its path. */
export function writeBackupFile(
  folder: string,
  { tunes, studio }: { readonly tunes: readonly StoredTune[]; readonly studio?: Studio },
  now: Date,
): string {
  mkdirSync(folder, { recursive: true })
  const path = join(folder, `nokta-${now.toISOString().replace(/[-:.Z]/g, '')}.nokta.json`)
  const fd = openSync(`${path}.part`, 'w')
  try {
    writeSync(fd, writeBackup(tunes, studio))
    fsyncSync(fd)
  } finally {
    closeSync(fd)
  }
  renameSync(`${path}.part`, path)
  syncFolder(folder)
  for (const old of backupFiles(folder).slice(KEPT)) rmSync(join(folder, old), { force: true })
  return path
}

function syncFolder(folder: string) {
  const fd = openSync(folder, 'r')
  try {
    fsyncSync(fd)
  } finally {
    closeSync(fd)
  }
}

/** Names of the backups in a folder, newest first. */
export function backupFiles(folder: string): string[] {
  try {
    return readdirSync(folder)
      .filter(f => NAME.test(f))
      .sort()
      .reverse()
  } catch {
    return []
  }
}

export interface BackupKeeper {
  /** Says that something changed; a backup follows soon. */
  changed(): void
  /** Writes what is outstanding now. */
  flush(): Promise<void>
}

/** Seconds after a change until it is in a backup, at most. */
export const BACKUP_DELAY_SECONDS = 20

export function keepBackups(
  folder: string,
  all: () => Promise<Parameters<typeof writeBackupFile>[1]>,
  delay = BACKUP_DELAY_SECONDS,
): BackupKeeper {
  let timer: NodeJS.Timeout | null = null
  let dirty = false
  const flush = async () => {
    if (timer) clearTimeout(timer)
    timer = null
    if (!dirty) return
    dirty = false
    writeBackupFile(folder, await all(), new Date())
  }
  return {
    changed() {
      dirty = true
      timer ??= setTimeout(() => {
        flush().catch(e =>
          console.error(`The backup could not be written: ${e instanceof Error ? e.message : e}`),
        )
      }, delay * 1000)
      timer.unref()
    },
    flush,
  }
}

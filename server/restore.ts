/**
 * `npm run restore -- FILE`: puts the tunes of a backup on the shelf beside what is there. With no file, the
 * newest backup of the data folder.
 */
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { readBackup, type Backup } from '#core/formats/backup/backup'
import { readConfig } from './config'
import { LOCAL_TEACHER } from '#contract/principal'
import { backupFiles, markOutstanding, readBackupFile } from './store/embedded/backups'
import { lockFolder } from './store/embedded/lock'
import { openEmbedded } from './store/embedded/open'
import { restoreBackup } from './store/restoring'
import { Stores } from './store/stores'

const { data, databaseUrl } = readConfig(process.env, fileURLToPath(new URL('..', import.meta.url)))
/** The one that is named; else those of the data folder, the newest first. */
const files = process.argv[2]
  ? [process.argv[2]]
  : backupFiles(join(data, 'backups')).map(f => join(data, 'backups', f))

/** The first that is whole. Of those before it is told why they are not. */
async function firstWhole(): Promise<{ path: string; backup: Backup }> {
  if (files.length === 0)
    throw new Error('There is no backup yet. Give the path of one: npm run restore -- FILE')
  const faults: string[] = []
  for (const path of files) {
    const result = await readBackupFile(path).then(readBackup, (e: Error) => ({
      error: { path: '', message: e.message },
    }))
    if ('backup' in result) {
      for (const f of faults) console.error(`Passed over: ${f}`)
      return { path, backup: result.backup }
    }
    faults.push(`${path}: ${[result.error.path, result.error.message].filter(Boolean).join(': ')}`)
  }
  throw new Error(faults.join('\n'))
}

async function restore(backup: Backup): Promise<number> {
  const lock = lockFolder(data)
  try {
    const connection = await openEmbedded(data)
    try {
      markOutstanding(join(data, 'backups'))
      const stores = new Stores(connection, randomUUID)
      await restoreBackup(backup, stores.shelf(LOCAL_TEACHER), stores.studio(LOCAL_TEACHER))
      return backup.tunes.length
    } finally {
      await connection.close()
    }
  } finally {
    lock.release()
  }
}

try {
  if (databaseUrl)
    throw new Error(
      'DATABASE_URL is set: a backup is put into a data folder. Unset it; what lies on a server its own backups bring back.',
    )
  const { path, backup } = await firstWhole()
  const count = await restore(backup)
  console.log(`${count} tunes from ${path} are on the shelf.`)
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exitCode = 2
}

/**
 * `npm run restore -- FILE`: puts the tunes of a backup on the shelf beside what is there. With no file, the
 * newest backup of the data folder. A database that can't be opened is set aside first; with `--aside` also one
 * that opens.
 */
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { readBackupItems } from '#core/formats/backup/items'
import { readConfig } from './config'
import { LOCAL_TEACHER } from '#contract/principal'
import { backupFiles, backupLines, checkBackupFile, markOutstanding } from './store/embedded/backups'
import { lockFolder } from './store/embedded/lock'
import { DatabaseDamaged, isDatabaseGone, openEmbedded, setAside } from './store/embedded/open'
import type { Connection } from './store/port'
import { restoreBackup, type Restored } from './store/restoring'
import { Stores } from './store/stores'

const { data, databaseUrl } = readConfig(process.env, fileURLToPath(new URL('..', import.meta.url)))
/** The one that is named; else those of the data folder, the newest first. */
const aside = process.argv.includes('--aside')
const named = process.argv.slice(2).find(a => a !== '--aside')
const files = named ? [named] : backupFiles(join(data, 'backups')).map(f => join(data, 'backups', f))

/** The first that is whole. Of those before it is told why they are not. */
async function firstWhole(): Promise<string> {
  if (files.length === 0)
    throw new Error('There is no backup yet. Give the path of one: npm run restore -- FILE')
  const faults: string[] = []
  for (const path of files) {
    try {
      await checkBackupFile(path)
      for (const f of faults) console.error(`Passed over: ${f}`)
      return path
    } catch (e) {
      faults.push(`${path}: ${e instanceof Error ? e.message : String(e)}`)
    }
  }
  throw new Error(faults.join('\n'))
}

/** The shelf of the folder; a database that is damaged, or what is left of one, is set aside first. */
async function openShelf(): Promise<Connection> {
  if (aside || isDatabaseGone(data)) tellAside(setAside(data, new Date()))
  try {
    return await openEmbedded(data, console.log)
  } catch (e) {
    if (!(e instanceof DatabaseDamaged)) throw e
    tellAside(setAside(data, new Date()))
    return openEmbedded(data)
  }
}
const tellAside = (path: string | null) => {
  if (path) console.error(`The database that was there lies in ${path}: nothing is thrown away.`)
}

async function restore(path: string): Promise<Restored> {
  const lock = lockFolder(data)
  try {
    const connection = await openShelf()
    try {
      markOutstanding(join(data, 'backups'))
      const stores = new Stores(connection, randomUUID)
      const [shelf, studio] = [stores.shelf(LOCAL_TEACHER), stores.studio(LOCAL_TEACHER)]
      return await restoreBackup(readBackupItems(backupLines(path)), shelf, studio, told)
    } finally {
      await connection.close()
    }
  } finally {
    lock.release()
  }
}

/** Tunes between two words of how far it is. */
const TOLD = 500
let next = TOLD
function told(tunes: number) {
  if (tunes < next) return
  next = tunes + TOLD
  console.error(`${tunes} tunes …`)
}

try {
  if (databaseUrl)
    throw new Error(
      'DATABASE_URL is set: a backup is put into a data folder. Unset it; what lies on a server its own backups bring back.',
    )
  const path = await firstWhole()
  const { tunes, faults } = await restore(path)
  console.log(`${tunes} tunes from ${path} are on the shelf.`)
  if (faults.length > 0) {
    console.error(`Not taken, because it is not sound (${faults.length}):\n${faults.join('\n')}`)
    process.exitCode = 1
  }
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exitCode = 2
}

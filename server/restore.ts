/** `npm run restore -- FILE`: puts the tunes of a backup on the shelf beside what is there. With no file, the newest backup of the data folder. */
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { readBackup } from '#core/formats/backup/backup'
import { backupFiles } from './storage/backups'
import { HOME_STUDIO, openDatabase } from './storage/database'
import { lockFolder } from './storage/lock'
import { Shelf } from './storage/shelf'
import { StudioRepository } from './storage/studioRepository'

const data = resolve(process.env.NOKTA_DATA ?? fileURLToPath(new URL('../data', import.meta.url)))
const newest = backupFiles(join(data, 'backups'))[0]
const file = process.argv[2] ?? (newest && join(data, 'backups', newest))

async function restore(path: string): Promise<number> {
  const result = readBackup(readFileSync(path, 'utf8'))
  if ('error' in result)
    throw new Error(`${path}: ${[result.error.path, result.error.message].filter(Boolean).join(': ')}`)
  const lock = lockFolder(data)
  try {
    const database = await openDatabase({ folder: data })
    const shelf = new Shelf(database.db, randomUUID)
    for (const t of result.backup.tunes)
      await shelf.create(
        t.source,
        t.tune,
        t.arrangements.map(a => a.arrangement),
      )
    const studio = new StudioRepository(database.db, HOME_STUDIO)
    // What was entered since is not written over.
    const untouched = (await studio.get()).version === 1
    if (untouched && result.backup.studio) await studio.save(1, result.backup.studio)
    await database.close()
    return result.backup.tunes.length
  } finally {
    lock.release()
  }
}

try {
  if (!file) throw new Error('There is no backup yet. Give the path of one: npm run restore -- FILE')
  const count = await restore(file)
  console.log(`${count} tunes from ${file} are on the shelf.`)
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exitCode = 2
}

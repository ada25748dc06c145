/**
 * `npm start`: data in ./data or NOKTA_DATA, or on the PostgreSQL server of DATABASE_URL; port 4747 or
 * NOKTA_PORT. With NOKTA_DEMO=1 an empty shelf gets the demo tunes.
 */
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { fillShelf } from '#demo/fillShelf'
import { BadConfig, readConfig } from './config'
import { logAt } from './log'
import { startNokta } from './nokta'
import { FolderInUse } from './store/embedded/lock'
import { DatabaseDamaged, DatabaseGone } from './store/embedded/open'
import { NewerStore } from './store/formats'
import { isDiskFull } from './store/limits'
import { NoServer } from './store/postgres'

const root = fileURLToPath(new URL('..', import.meta.url))
const { version } = JSON.parse(readFileSync(resolve(root, 'package.json'), 'utf8')) as { version: string }

function fail(message: string): never {
  console.error(message)
  process.exit(2)
}

// What is stored is for its owner's eyes only.
process.umask(0o077)

try {
  const { backupSeconds, demo, log, ...config } = readConfig(process.env, root)
  const nokta = await startNokta({
    ...config,
    log: logAt(log),
    web: resolve(root, 'dist/web'),
    version,
    tell: sentence => console.log(sentence),
    ...(backupSeconds !== null && { backupSeconds }),
    ...(demo && { seed: fillShelf }),
  })
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.once(signal, () => {
      void nokta.stop().then(
        () => process.exit(0),
        (e: Error) => fail(e.message),
      )
    })
  }
  console.log(`Nokta is open at ${nokta.url}`)
} catch (e) {
  if (
    e instanceof FolderInUse ||
    e instanceof BadConfig ||
    e instanceof DatabaseDamaged ||
    e instanceof DatabaseGone ||
    e instanceof NewerStore ||
    e instanceof NoServer
  )
    fail(e.message)
  if ((e as NodeJS.ErrnoException).code === 'EADDRINUSE')
    fail('The port is in use. Set NOKTA_PORT to another one.')
  if (isDiskFull(e))
    fail(
      'The disk Nokta keeps its data on is full: it can’t open. Make room and start it again; nothing is lost.',
    )
  throw e
}

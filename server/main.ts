/** `npm start`: data in ./data or NOKTA_DATA, port 4747 or NOKTA_PORT. With NOKTA_DEMO=1 an empty shelf gets the demo tunes. */
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { fillShelf } from '#demo/fillShelf'
import { isDiskFull } from './errors'
import { startNokta } from './nokta'
import { NoSuchDatabase, openDatabase } from './storage/database'
import { FolderInUse } from './storage/lock'

const root = fileURLToPath(new URL('..', import.meta.url))
const { version } = JSON.parse(readFileSync(resolve(root, 'package.json'), 'utf8')) as { version: string }

function portFrom(text: string | undefined): number {
  const port = Number(text ?? 4747)
  if (Number.isInteger(port) && port >= 0 && port <= 65_535) return port
  fail(`NOKTA_PORT is “${text}”: give a number from 0 to 65535.`)
}

function secondsFrom(text: string): number {
  const seconds = Number(text)
  if (seconds >= 0.01 && seconds <= 86_400) return seconds
  fail(`NOKTA_BACKUP_SECONDS is “${text}”: give seconds from 0.01 to 86400.`)
}

function fail(message: string): never {
  console.error(message)
  process.exit(2)
}

// What is stored is for its owner's eyes only.
process.umask(0o077)

try {
  if (process.env.DATABASE_URL) await openDatabase({ url: process.env.DATABASE_URL })
  const nokta = await startNokta({
    data: resolve(process.env.NOKTA_DATA ?? resolve(root, 'data')),
    port: portFrom(process.env.NOKTA_PORT),
    web: resolve(root, 'dist/web'),
    version,
    ...(process.env.NOKTA_BACKUP_SECONDS && { backupSeconds: secondsFrom(process.env.NOKTA_BACKUP_SECONDS) }),
    ...(process.env.NOKTA_DEMO === '1' && { seed: fillShelf }),
  })
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.once(signal, () => {
      void nokta.stop().then(() => process.exit(0))
    })
  }
  console.log(`Nokta is open at ${nokta.url}`)
} catch (e) {
  if (e instanceof FolderInUse || e instanceof NoSuchDatabase) fail(e.message)
  if ((e as NodeJS.ErrnoException).code === 'EADDRINUSE')
    fail('The port is in use. Set NOKTA_PORT to another one.')
  if (isDiskFull(e)) fail('The disk Nokta keeps its data on is full: it can’t open. Make room and start it again; nothing is lost.') // prettier-ignore
  throw e
}

/** A whole running server: lock, database, backups, HTTP. What `npm start` and the tests start and stop. */
import { randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { createApp } from './app'
import { keepBackups, type BackupKeeper } from './storage/backups'
import { openDatabase } from './storage/database'
import { lockFolder } from './storage/lock'
import { StudioStore } from './storage/studioStore'
import { TuneStore } from './storage/tuneStore'

export interface NoktaOptions {
  /** Data folder; in memory without one. */
  readonly data?: string
  /** 0 for any free port. */
  readonly port: number
  readonly web?: string
  readonly version: string
  /** Fills an empty shelf. */
  readonly seed?: (store: TuneStore) => Promise<void>
}

export interface Nokta {
  readonly url: string
  readonly store: TuneStore
  stop(): Promise<void>
}

export async function startNokta(options: NoktaOptions): Promise<Nokta> {
  const lock = options.data ? lockFolder(options.data) : null
  try {
    const database = await openDatabase(options.data)
    let backups: BackupKeeper | null = null
    const store = new TuneStore(database.db, randomUUID, () => backups?.changed())
    const studio = new StudioStore(database.db, () => backups?.changed())
    if (options.data)
      backups = keepBackups(join(options.data, 'backups'), async () => ({
        tunes: await store.all(),
        studio: (await studio.get()).studio,
      }))
    if (options.seed && (await store.list()).length === 0) await options.seed(store)
    const server = createServer(
      createApp({
        store,
        studio,
        version: options.version,
        ...(options.web && { web: options.web }),
      }),
    )
    await listen(server, options.port)
    const { port } = server.address() as AddressInfo
    let stopped = false
    const stop = async () => {
      if (stopped) return
      stopped = true
      server.closeAllConnections()
      await new Promise(done => server.close(done))
      await backups?.flush()
      await database.close()
      lock?.release()
    }
    return { url: `http://127.0.0.1:${port}`, store, stop }
  } catch (e) {
    lock?.release()
    throw e
  }
}

const listen = (server: Server, port: number) =>
  new Promise<void>((done, fail) => {
    server.once('error', fail)
    server.listen(port, '127.0.0.1', done)
  })

/** A whole running server: lock, database, backups, HTTP. What `npm start` and the tests start and stop. */
import { randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { backupPieces } from '#core/formats/backup/backup'
import { createApp } from './app'
import { keepBackups, type BackupKeeper } from './storage/backups'
import { HOME_STUDIO, openDatabase, type Database } from './storage/database'
import { lockFolder } from './storage/lock'
import { Shelf } from './storage/shelf'
import { StudioRepository } from './storage/studioRepository'

export interface NoktaOptions {
  /** Data folder; in memory without one. */
  readonly data?: string
  /** 0 for any free port. */
  readonly port: number
  readonly web?: string
  readonly version: string
  /** Seconds after a change until it is in a backup. */
  readonly backupSeconds?: number
  /** Fills an empty shelf. */
  readonly seed?: (shelf: Shelf) => Promise<void>
}

export interface Nokta {
  readonly url: string
  readonly shelf: Shelf
  readonly studio: StudioRepository
  stop(): Promise<void>
}

export async function startNokta(options: NoktaOptions): Promise<Nokta> {
  const lock = options.data ? lockFolder(options.data) : null
  let database: Database | null = null
  try {
    database = await openDatabase(options.data ? { folder: options.data } : { memory: true })
    const { db, close } = database
    let backups: BackupKeeper | null = null
    const shelf = new Shelf(db, randomUUID, () => backups?.changed())
    const studio = new StudioRepository(db, HOME_STUDIO, () => backups?.changed())
    if (options.data)
      backups = keepBackups(
        join(options.data, 'backups'),
        async function* () {
          yield* backupPieces(shelf.packedTexts(), (await studio.get()).studio)
        },
        options.backupSeconds,
      )
    if (options.seed && (await shelf.list()).length === 0) await options.seed(shelf)
    const server = createServer(
      PATIENCE,
      createApp({
        shelf,
        studio,
        version: options.version,
        ...(options.web && { web: options.web }),
      }),
    )
    await listen(server, options.port)
    const { port } = server.address() as AddressInfo
    const stopping = new AbortController()
    // What can't be read ahead is told to whoever asks for it.
    const ahead = shelf.readAhead(stopping.signal).catch(() => {})
    const stop = async () => {
      if (stopping.signal.aborted) return
      stopping.abort()
      await ahead
      server.closeAllConnections()
      await new Promise(done => server.close(done))
      await backups?.flush()
      await close()
      lock?.release()
    }
    return { url: `http://127.0.0.1:${port}`, shelf, studio, stop }
  } catch (e) {
    await database?.close()
    lock?.release()
    throw e
  }
}

/** Sockets that say nothing, or not to the end, are closed. */
const PATIENCE = { headersTimeout: 10_000, requestTimeout: 60_000, keepAliveTimeout: 5_000, connectionsCheckingInterval: 2_000 } // prettier-ignore

const listen = (server: Server, port: number) =>
  new Promise<void>((done, fail) => {
    server.once('error', fail)
    server.listen(port, '127.0.0.1', done)
  })

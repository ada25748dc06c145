/** A whole running server: lock, database, backups, HTTP. What `npm start` and the tests start and stop. */
import { randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { backupPieces } from '#core/formats/backup/backup'
import { createApp } from './app'
import { LOCAL_TEACHER } from '#contract/principal'
import { shelfQuerySchema } from '#contract/documents'
import { SILENT, type Log } from './log'
import { BackupTexts } from './store/backupTexts'
import { keepBackups, type BackupKeeper } from './store/embedded/backups'
import { lockFolder } from './store/embedded/lock'
import { DatabaseGone, isDatabaseGone, openEmbedded } from './store/embedded/open'
import type { Connection } from './store/port'
import { openPostgres } from './store/postgres'
import type { Shelf } from './store/shelf'
import { Stores } from './store/stores'
import type { StudioStore } from './store/studioStore'
import type { Tell } from './store/upgrade'

export interface NoktaOptions {
  /** Data folder of the embedded database; in memory without one. */
  readonly data?: string
  /** A PostgreSQL server instead. */
  readonly databaseUrl?: string | null
  readonly host?: string
  readonly log?: Log
  /** 0 for any free port. */
  readonly port: number
  readonly web?: string
  readonly version: string
  /** Seconds after a change until it is in a backup. */
  readonly backupSeconds?: number
  /** Fills an empty shelf. */
  readonly seed?: (shelf: Shelf) => Promise<void>
  /** Hears, in sentences, of work that keeps whoever starts it waiting. */
  readonly tell?: Tell
}

export interface Nokta {
  readonly url: string
  /** Of the one teacher at this machine. */
  readonly shelf: Shelf
  readonly studio: StudioStore
  stop(): Promise<void>
}

export async function startNokta(options: NoktaOptions): Promise<Nokta> {
  const log = options.log ?? SILENT
  const opened = await opening(options)
  try {
    let backups: BackupKeeper | null = null
    const stores = new Stores(opened.connection, randomUUID, () => backups?.changed())
    const [shelf, studio] = [stores.shelf(LOCAL_TEACHER), stores.studio(LOCAL_TEACHER)]
    if (opened.backups !== null) {
      const texts = new BackupTexts(shelf.tunes)
      const pieces = async function* () {
        yield* backupPieces(texts.packed(), (await studio.get()).studio)
      }
      backups = keepBackups(opened.backups, pieces, options.backupSeconds)
    }
    if (options.seed && (await shelf.page(FIRST)).shelf === 0) await options.seed(shelf)
    const { web, version } = options
    const server = createServer(PATIENCE, createApp({ stores, version, log, ...(web && { web }) }))
    await listen(server, options.port, options.host ?? '127.0.0.1')
    const { port, address, family } = server.address() as AddressInfo
    const url = `http://${family === 'IPv6' ? `[${address}]` : address}:${port}`
    let stopped: Promise<void> | null = null
    const stop = async () => {
      server.closeAllConnections()
      await new Promise(done => server.close(done))
      // Where no backup can be written the folder is left in order all the same.
      try {
        await backups?.close()
      } finally {
        await opened.close()
      }
    }
    return { url, shelf, studio, stop: () => (stopped ??= stop()) }
  } catch (e) {
    await opened.close()
    throw e
  }
}

const FIRST = shelfQuerySchema.parse({ limit: 1 })

interface Opened {
  readonly connection: Connection
  /** Where backups go; null where they are somebody else's. */
  readonly backups: string | null
  close(): Promise<void>
}

/** The server that is named; else the folder, locked; else memory. */
async function opening({ data, databaseUrl, tell }: NoktaOptions): Promise<Opened> {
  if (databaseUrl) {
    const connection = await openPostgres(databaseUrl, tell)
    return { connection, backups: null, close: () => connection.close() }
  }
  const lock = data ? lockFolder(data) : null
  try {
    if (data && isDatabaseGone(data)) throw new DatabaseGone(data)
    const connection = await openEmbedded(data ?? null, tell)
    const close = async () => {
      await connection.close()
      lock?.release()
    }
    return { connection, backups: data ? join(data, 'backups') : null, close }
  } catch (e) {
    lock?.release()
    throw e
  }
}

/** Sockets that say nothing, or not to the end, are closed. */
const PATIENCE = {
  headersTimeout: 10_000,
  requestTimeout: 60_000,
  keepAliveTimeout: 5_000,
  connectionsCheckingInterval: 2_000,
}

const listen = (server: Server, port: number, host: string) =>
  new Promise<void>((done, fail) => {
    server.once('error', fail)
    server.listen(port, host, done)
  })

/**
 * `npm run torture [rounds]`: a server of its own is killed over and over, at random moments of opening,
 * migrating, saving and backing up, while two windows save the same tune, another makes new ones, and clients
 * hang on the line; then one runs on a disk that fills up ({@link fullDisk}). Nothing that was acknowledged
 * may be lost, the folder must open again, and no backup under a good name may be broken. A few rounds run
 * with the tests.
 */
import { connect, type Socket } from 'node:net'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { newArrangement } from '#core/arrangement/recipe'
import { readBackupItems } from '#core/formats/backup/items'
import { numbers } from '#core/random'
import { emptyTune } from '#core/music/tune'
import { urlOf } from '#contract/api'
import { tuneWithArrangementsSchema } from '#contract/documents'
import { backupFiles, backupLines } from '../server/store/embedded/backups'
import { fullDisk } from './fullDisk'
import { startServer } from './ownServer'

export interface TortureReport {
  readonly rounds: number
  /** Saves and new tunes the server said were stored. */
  readonly acknowledged: number
  /** Kills before the server had opened. */
  readonly whileOpening: number
  /** Saves of one window refused because the other had been there. */
  readonly conflicts: number
  /** Backups that were read back, each once a round. */
  readonly backups: number
  readonly faults: readonly string[]
}

const wait = (ms: number) => new Promise<void>(done => setTimeout(done, ms))

class Torture {
  readonly faults: string[] = []
  acknowledged = 0
  whileOpening = 0
  conflicts = 0
  backups = 0
  /** By tune: the version acknowledged last, and what each acknowledged version was called. */
  private readonly known = new Map<string, { version: number; titles: Map<number, string> }>()
  private count = 0

  constructor(
    readonly data: string,
    private readonly random: () => number,
  ) {}

  private async send(url: string, method: string, body: object) {
    return fetch(url, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } })
  }

  /** Until the server is gone; each acknowledged one is written down. */
  private async makes(url: string) {
    for (;;) {
      const title = `made ${++this.count}`
      const answer = await this.send(url + urlOf('createTune'), 'POST', {
        source: null,
        tune: emptyTune(title),
        arrangement: newArrangement('violin', '4/4'),
      })
      if (!answer.ok) this.faults.push(`a new tune was answered with ${answer.status}`)
      const { id } = tuneWithArrangementsSchema.parse(await answer.json())
      this.acknowledged++
      this.known.set(id, { version: 1, titles: new Map([[1, title]]) })
      await wait(20)
    }
  }

  /** One window that saves one tune again and again; refused, it goes on from what is stored. */
  private async saves(url: string, id: string, window: string) {
    let version = (await this.stored(url, id)).version
    for (;;) {
      const title = `${window} ${++this.count}`
      const answer = await this.send(url + urlOf('tune', { id }), 'PUT', {
        tune: { version, source: null, tune: emptyTune(title) },
        arrangements: [],
        removed: [],
      })
      if (answer.status === 409) {
        this.conflicts++
        version = (await this.stored(url, id)).version
        continue
      }
      if (!answer.ok) this.faults.push(`a save was answered with ${answer.status}`)
      version++
      this.acknowledged++
      const own = this.known.get(id)!
      if (own.titles.has(version)) this.faults.push(`version ${version} was acknowledged twice`)
      own.titles.set(version, title)
      own.version = Math.max(own.version, version)
    }
  }

  private async stored(url: string, id: string) {
    return tuneWithArrangementsSchema.parse(await (await fetch(url + urlOf('tune', { id }))).json())
  }

  /** Everything that was acknowledged is there; one more may have been stored whose answer never came. */
  async check(url: string) {
    for (const [id, { version, titles }] of this.known) {
      const answer = await fetch(url + urlOf('tune', { id }))
      if (!answer.ok) {
        this.faults.push(`a tune that was acknowledged is gone (${answer.status})`)
        continue
      }
      const found = tuneWithArrangementsSchema.parse(await answer.json())
      if (found.version < version)
        this.faults.push(`version ${version} was acknowledged, ${found.version} is there`)
      const title = titles.get(found.version)
      if (title !== undefined && title !== found.tune.title)
        this.faults.push(`version ${found.version} is “${found.tune.title}”, not “${title}”`)
    }
  }

  async readBackups() {
    const folder = join(this.data, 'backups')
    for (const name of backupFiles(folder)) {
      try {
        for await (const item of readBackupItems(backupLines(join(folder, name))))
          if (item.kind === 'fault') this.faults.push(`${name}: ${item.what}: ${item.error.message}`)
        this.backups++
      } catch (e) {
        this.faults.push(`${name} is broken: ${e instanceof Error ? e.message : String(e)}`)
      }
    }
  }

  async round() {
    const server = startServer(this.data)
    const sockets: Socket[] = []
    // Now and then before it has opened; else in the middle of its work.
    const early = this.random() < 0.25
    if (early) {
      await Promise.race([wait(200 + this.random() * 2500), server.url])
      if (server.child.exitCode === null) this.whileOpening++
    } else {
      const url = await server.url
      if (url === null) {
        this.faults.push('the folder could not be opened')
        return
      }
      await this.check(url)
      if (this.known.size === 0) await Promise.race([this.makes(url).catch(() => {}), wait(120)])
      const shared = [...this.known.keys()][0]
      const work = [
        this.makes(url),
        ...(shared ? [this.saves(url, shared, 'left'), this.saves(url, shared, 'right')] : []),
      ]
      for (let i = 0; i < 5; i++) sockets.push(hanging(url))
      const all = Promise.allSettled(work)
      // Mostly soon, now and then late enough for a backup to be under way.
      await wait(30 + this.random() ** 2 * 3500)
      server.child.kill('SIGKILL')
      await all
    }
    server.child.kill('SIGKILL')
    await server.ended
    for (const s of sockets) s.destroy()
    await this.readBackups()
  }

  /** Opens once more, checks, and ends as it should when it is asked to. */
  async finish() {
    const server = startServer(this.data)
    const url = await server.url
    if (url === null) this.faults.push('the folder could not be opened')
    else await this.check(url)
    server.child.kill('SIGTERM')
    if ((await server.ended) !== 0) this.faults.push('it did not end with 0 when it was asked to end')
    await this.readBackups()
  }
}

/** A client that begins a request and never ends it. */
function hanging(url: string): Socket {
  const socket = connect(Number(new URL(url).port), '127.0.0.1')
  socket.on('error', () => {})
  socket.write('POST /api/v1/tunes HTTP/1.1\r\nHost: localhost\r\nContent-Length: 900000\r\n\r\n{"source"')
  return socket
}

export async function torture(
  rounds: number,
  seed = 1,
  told: (t: Torture, round: number) => void = () => {},
): Promise<TortureReport> {
  const random = numbers(seed)
  const data = mkdtempSync(join(tmpdir(), 'nokta-torture-'))
  const t = new Torture(data, random)
  try {
    for (let i = 0; i < rounds; i++) {
      await t.round()
      told(t, i + 1)
    }
    await t.finish()
  } finally {
    rmSync(data, { recursive: true, force: true })
  }
  const { acknowledged, whileOpening, conflicts, backups, faults } = t
  return { rounds, acknowledged, whileOpening, conflicts, backups, faults }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const report = await torture(Number(process.argv[2] ?? 200), Date.now() % 1e6, (t, round) => {
    if (round % 20 === 0)
      console.log(`${round} kills, ${t.acknowledged} acknowledged, ${t.faults.length} faults`)
  })
  const { rounds, acknowledged, whileOpening, conflicts, backups, faults } = report
  console.log(
    `${rounds} kills (${whileOpening} while opening): ${acknowledged} acknowledged, ${conflicts} saves refused as stale, ${backups} backups read, ${faults.length} faults`,
  )
  const full = await fullDisk()
  console.log(
    full
      ? `a full disk: ${full.acknowledged} acknowledged, ${full.refused} refused for want of room, ${full.faults.length} faults`
      : 'a full disk: left out, there is no right to mount one here',
  )
  const all = [...faults, ...(full?.faults ?? [])]
  for (const f of all.slice(0, 20)) console.log(`  ${f}`)
  process.exitCode = all.length > 0 ? 1 : 0
}

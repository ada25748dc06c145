/**
 * `npm run bench`, last part: a server of its own with 5,000 tunes while 100 clients read and save for 20
 * seconds, with pauses and without, each waiting for its answer before it asks again. And how long the
 * server's loop stands still at most while one teacher edits and backups are written beside every two
 * seconds.
 */
import { Agent, request } from 'node:http'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { numbers } from '#core/random'
import { urlOf } from '#contract/api'
import { tuneWithArrangementsSchema, type TuneWithArrangements } from '#contract/documents'
import { demoSource } from '#demo/fillShelf'
import { startNokta } from '../server/nokta'
import { rowOf } from './benchRows'
import { startServer } from './ownServer'

const SECONDS = 20
const CLIENTS = 100
const TUNES = 5000
/** Milliseconds after the start of a server until it has read ahead. */
const READY_AFTER = 30_000
const wait = (ms: number) => new Promise<void>(done => setTimeout(done, ms))
const { tune } = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!
const kinds = ['reel', 'jig', 'waltz', 'air']

const data = mkdtempSync(join(tmpdir(), 'nokta-load-'))
const filled = await startNokta({ data, port: 0, version: 'bench' })
for (let i = 0; i < TUNES; i += 250) {
  const many = Array.from({ length: 250 }, (_, k) => ({
    source: null,
    tune: { ...tune, title: `Tune ${i + k}`, kind: kinds[k % 4]! },
    arrangements: [{ id: 'a', arrangement: newArrangement('violin', 'full') }],
  }))
  await filled.shelf.createAll(many)
}
const ids = (await filled.shelf.list()).map(t => t.id)
await filled.stop()

let server = startServer(data, 2)
let url = (await server.url)!
/**
 * Where the next part begins: a server anew, with backups as often as they are by default, and a while later.
 */
async function anew() {
  agent.destroy()
  server.child.kill('SIGTERM')
  await server.ended
  server = startServer(data, null)
  url = (await server.url)!
  await wait(READY_AFTER)
}
/**
 * Light clients, who elsewhere would have machines of their own: it is the server that is measured. As
 * browsers they take answers packed.
 */
const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS + 1 })
interface Answer {
  readonly ok: boolean
  readonly json: () => unknown
}
const ask = (path: string, put?: object): Promise<Answer> =>
  new Promise((done, fail) => {
    const body = put && JSON.stringify(put)
    const said = body ? { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(body) } : {}
    const headers = { 'Accept-Encoding': 'gzip', ...said }
    const asked = request(url + path, { agent, method: put ? 'PUT' : 'GET', headers }, answer => {
      const pieces: Buffer[] = []
      const whole = () => Buffer.concat(pieces)
      const text = () =>
        (answer.headers['content-encoding'] === 'gzip' ? gunzipSync(whole()) : whole()).toString()
      answer.on('data', (piece: Buffer) => pieces.push(piece))
      answer.on('end', () =>
        done({ ok: answer.statusCode === 200, json: () => JSON.parse(text()) as unknown }),
      )
    })
    asked.on('error', fail)
    asked.end(body)
  })
const put = (id: string, body: object) => ask(urlOf('tune', { id }), body)
const stored = async (id: string): Promise<TuneWithArrangements> =>
  tuneWithArrangementsSchema.parse((await ask(urlOf('tune', { id }))).json())

const reads: number[] = []
const saves: number[] = []
let faults = 0
async function timed(list: number[], work: () => Promise<{ ok: boolean }>) {
  const from = performance.now()
  const answer = await work()
  list.push(performance.now() - from)
  if (!answer.ok) faults++
}

/**
 * Nine times in ten it reads: a tune, the shelf. Else it saves a tune that is its own. After each answer it
 * waits a while.
 */
async function client(number: number, until: number, pause: number) {
  const random = numbers(number + 1)
  const own = ids[number]!
  let { version } = await stored(own)
  while (performance.now() < until) {
    if (pause > 0) await wait(2 * pause * random())
    const what = random()
    if (what < 0.1) {
      await timed(saves, () =>
        put(own, {
          tune: { version, source: null, tune: { ...tune, title: `Client ${number}, ${version}` } },
          arrangements: [],
          removed: [],
        }),
      )
      version++
    } else if (what < 0.6)
      await timed(reads, () => ask(urlOf('tune', { id: ids[Math.floor(random() * TUNES)]! })))
    else if (what < 0.8)
      await timed(reads, () =>
        ask(urlOf('shelf', {}, { search: `tune ${Math.floor(random() * 99)}`, limit: 50 })),
      )
    else await timed(reads, () => ask(urlOf('health')))
  }
}
const share = (list: readonly number[], of: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * of))]!
// One teacher edits, backups are written every two seconds: how late the server answers at the worst.
let worst = 0
let editing = true
const poll = (async () => {
  while (editing) {
    const from = performance.now()
    await ask(urlOf('health'))
    worst = Math.max(worst, performance.now() - from)
    await wait(5)
  }
})()
// The list is made at the first question.
await ask(urlOf('shelf', {}, { limit: 50 }))
let { version } = await stored(ids[4000]!)
await wait(1000)
worst = 0
for (let i = 0; i < 12; i++, version++) {
  await put(ids[4000]!, {
    tune: { version, source: null, tune: { ...tune, title: `Edited ${i}` } },
    arrangements: [],
    removed: [],
  })
  await wait(800)
}
editing = false
await poll
rowOf('longest stall of the server while one edits and backups of 5,000 tunes are written', worst, '100 ms')
// A teacher who types must not wait for a backup.
if (worst > 100) process.exitCode = 1

await anew()
for (const [said, pause] of [
  ['asking once a second', 1000],
  ['asking five times a second', 200],
  ['without a pause', 0],
] as const) {
  reads.length = saves.length = 0
  const until = performance.now() + SECONDS * 1000
  await Promise.all(Array.from({ length: CLIENTS }, (_, i) => client(i, until, pause)))
  rowOf(`${CLIENTS} clients ${said}: 95% of ${reads.length} reads within`, share(reads, 0.95), '100 ms')
  rowOf(`  95% of ${saves.length} saves within`, share(saves, 0.95), '300 ms')
  rowOf('  the slowest of all', Math.max(...reads, ...saves), '–')
}
if (faults > 0) console.log(`  ${faults} were not answered as they should`)
agent.destroy()
server.child.kill('SIGTERM')
await server.ended
rmSync(data, { recursive: true, force: true })

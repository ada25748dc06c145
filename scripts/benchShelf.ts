/**
 * `npm run bench:shelf`: a large shelf in a server of its own. 20,000 tunes (or as many as are asked for) are
 * imported as the page does it; which of them are alike; a backup of them all, what a SIGTERM does to one that is
 * half written, and the way back from it.
 */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from '#core/music/composed'
import { urlOf } from '#contract/api'
import { backupFiles } from '../server/store/embedded/backups'
import { row } from './benchRows'
import { startServer, type Running } from './ownServer'

const TUNES = Number(process.argv[2] ?? 20_000)
const AT_ONCE = 100
const root = fileURLToPath(new URL('..', import.meta.url))
const data = mkdtempSync(join(tmpdir(), 'nokta-shelf-'))
const folder = join(data, 'backups')
const seconds = (from: number) => (performance.now() - from) / 1000
const told = (name: string, s: number, budget: string) => row(name, `${s.toFixed(1)} s`, null, budget)
const wait = (ms: number) => new Promise<void>(done => setTimeout(done, ms))

/** The most memory a process had, in MB. */
const memory = ({ child }: Running) =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))![1]) / 1024
const tellMemory = (when: string, server: Running) =>
  row(`memory at its most, ${when}`, `${memory(server).toFixed(0)} MB`, null, '–')

async function imported(url: string) {
  const arrangements = [{ id: 'a', arrangement: newArrangement('violin', '4/4') }]
  for (let i = 0; i < TUNES; i += AT_ONCE) {
    const tunes = Array.from({ length: Math.min(AT_ONCE, TUNES - i) }, (_, k) => {
      const { tune } = readAbc(composedAbc(i + k + 1)).tunes[0]!
      return { source: null, tune, arrangements }
    })
    const answer = await fetch(url + urlOf('importTunes'), {
      method: 'POST',
      body: JSON.stringify({ tunes }),
      headers: { 'Content-Type': 'application/json' },
    })
    if (!answer.ok) throw new Error(await answer.text())
  }
}

/** SIGTERM, and how long until it is gone. */
async function stopped(server: Running) {
  const from = performance.now()
  server.child.kill('SIGTERM')
  await server.ended
  return seconds(from)
}

async function until(there: () => boolean) {
  while (!there()) await wait(50)
}
const parts = () =>
  (readdirSync(data).includes('backups') ? readdirSync(folder) : []).filter(f => f.endsWith('.part'))

// What it takes to make the database is no matter of the shelf's size.
let server = startServer(data, 3600)
await server.url
tellMemory('as the database is made', server)
await stopped(server)
server = startServer(data, 3600)
let from = performance.now()
await imported((await server.url)!)
told(`${TUNES} tunes imported, read from ABC beside it`, seconds(from), '180 s')
tellMemory('after the import (700 MB)', server)
from = performance.now()
await (await fetch((await server.url)! + urlOf('duplicates'))).json()
told('which are alike', seconds(from), '–')
told('stopped while all of it is in no backup', await stopped(server), '5 s')
console.log(`  backups: ${backupFiles(folder).length}, half written: ${parts().length}`)

server = startServer(data, 0.5)
from = performance.now()
const url = (await server.url)!
told('opened again', seconds(from), '–')
from = performance.now()
await fetch(url + urlOf('shelf', {}, { limit: 50 }))
told('first page of the shelf', seconds(from), '–')
await until(() => backupFiles(folder).length > 0)
told('a backup of all is there, counted from then', seconds(from), '–')
tellMemory('after the backup (700 MB)', server)
row(
  'size of the backup',
  `${(statSync(join(folder, backupFiles(folder)[0]!)).size / 2 ** 20).toFixed(0)} MB`,
  null,
  '–',
)
told('stopped', await stopped(server), '5 s')

from = performance.now()
const restored = spawnSync(process.execPath, ['--import', 'tsx', 'server/restore.ts', '--aside'], {
  cwd: root,
  env: { ...process.env, NOKTA_DATA: data, DATABASE_URL: '' },
  encoding: 'utf8',
})
told(
  `restored: ${restored.stdout.trim().split(' from ')[0]}`,
  seconds(from),
  `${((10 * TUNES) / 2800).toFixed(0)} s`,
)
if (restored.status !== 0) console.error(restored.stderr)
rmSync(data, { recursive: true, force: true })

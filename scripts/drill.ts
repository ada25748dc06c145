/**
 * `npm run drill`: a shelf is damaged in each of the ways a bad day has, started, and brought back as the
 * message says. Prints a table (case, what is said, seconds to be back, tunes back of tunes) for
 * docs/recovery.md; ends with 1 where a case ends in anything but a sentence, or with tunes missing.
 */
import { spawn } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { urlOf } from '#contract/api'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from '#core/music/composed'
import { startNokta } from '../server/nokta'

const root = fileURLToPath(new URL('..', import.meta.url))
const TUNES = 60
const PATIENCE = 60_000

/** A whole shelf, stopped in good order; every case begins with a copy of it. */
async function madeShelf(data: string) {
  const nokta = await startNokta({ data, port: 0, version: 'drill' })
  for (let i = 0; i < TUNES; i++) {
    const source = composedAbc(i)
    await nokta.shelf.create(source, readAbc(source).tunes[0]!.tune, [newArrangement('violin', '4/4')])
  }
  await nokta.stop()
}

interface Said {
  readonly code: number | null
  readonly text: string
}
/** Runs one of our programs; a server is ended as soon as it answers. */
function run(
  data: string,
  script: string,
  args: readonly string[] = [],
): Promise<Said & { readonly tunes: number | null }> {
  const child = spawn(process.execPath, ['--import', 'tsx', script, ...args], {
    cwd: root,
    env: { ...process.env, NOKTA_DATA: data, NOKTA_PORT: '0', DATABASE_URL: '', NOKTA_DEMO: '' },
  })
  let text = ''
  let tunes: number | null = null
  const patience = setTimeout(() => child.kill('SIGKILL'), PATIENCE)
  const ask = async (url: string) => {
    const answer = await fetch(url + urlOf('shelf') + '?limit=500')
    const page = (await answer.json()) as { tunes?: { id: string }[]; error?: { message: string } }
    text += page.error ? `\nlist: ${page.error.message}` : ''
    let count = 0
    for (const { id } of page.tunes ?? []) if ((await fetch(url + urlOf('tune', { id }))).ok) count++
    tunes = count
    const health = (await (await fetch(url + urlOf('health'))).json()) as { error?: { message: string } }
    if (health.error) text = health.error.message
    child.kill('SIGTERM')
  }
  let asked = false
  const hear = (chunk: Buffer) => {
    text += chunk.toString()
    const url = /http:\/\/127\.0\.0\.1:\d+/.exec(text)?.[0]
    if (!url || asked) return
    asked = true
    ask(url).catch(() => child.kill('SIGTERM'))
  }
  child.stdout.on('data', hear)
  child.stderr.on('data', hear)
  return new Promise(done =>
    child.on('close', code => {
      clearTimeout(patience)
      done({ code, text, tunes })
    }),
  )
}

const filesIn = (folder: string) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter(f => f.isFile())
    .map(f => join(f.parentPath, f.name))
const largest = (folder: string) => filesIn(folder).sort((a, b) => statSync(b).size - statSync(a).size)[0]!
const log = (data: string) => largest(join(data, 'pg/pg_wal'))
function flip(path: string, every: number) {
  const bytes = readFileSync(path)
  for (let i = 64; i < bytes.length; i += every) bytes[i]! ^= 0xff
  writeFileSync(path, bytes)
}
/** Files of our own tables, the largest first: their numbers begin where the database's own end. */
const tables = (data: string) =>
  filesIn(join(data, 'pg/base'))
    .filter(f => Number.parseInt(basename(f), 10) >= 16_384)
    .sort((a, b) => statSync(b).size - statSync(a).size)

const CASES: Readonly<Record<string, (data: string) => void>> = {
  'nothing (for comparison)': () => {},
  'control file zeroed': d => writeFileSync(join(d, 'pg/global/pg_control'), Buffer.alloc(8192)),
  'control file missing': d => rmSync(join(d, 'pg/global/pg_control')),
  'log cut in half': d => truncateSync(log(d), Math.floor(statSync(log(d)).size / 2)),
  'log missing': d => rmSync(log(d)),
  'log of flipped bytes': d => flip(log(d), 97),
  'version file missing': d => rmSync(join(d, 'pg/PG_VERSION')),
  'database folder missing': d => rmSync(join(d, 'pg'), { recursive: true }),
  'catalogue files of flipped bytes': d => {
    for (const f of filesIn(join(d, 'pg/global'))) if (!f.endsWith('pg_control')) flip(f, 61)
  },
  'largest table cut in half': d => truncateSync(tables(d)[0]!, Math.floor(statSync(tables(d)[0]!).size / 2)),
  'all tables of flipped bytes': d => {
    for (const f of tables(d)) flip(f, 257)
  },
  'all tables emptied': d => {
    for (const f of tables(d)) truncateSync(f, 0)
  },
  'newest backup cut as well': d => {
    writeFileSync(join(d, 'pg/global/pg_control'), Buffer.alloc(8192))
    const newest = readdirSync(join(d, 'backups'))
      .filter(f => f.endsWith('.gz'))
      .sort()
      .at(-1)!
    cpSync(join(d, 'backups', newest), join(d, 'backups', newest.replace('nokta-0', 'nokta-9')))
    truncateSync(join(d, 'backups', newest.replace('nokta-0', 'nokta-9')), 2000)
  },
}

interface Row {
  readonly name: string
  readonly said: string
  readonly seconds: number
  readonly back: number
  readonly good: boolean
}

const sentence = ({ text }: Said, data: string) =>
  text
    .trim()
    .split('\n')[0]!
    .replaceAll(data, 'FOLDER')
    .replace(/nokta-\d+-\d+T\d+/g, 'nokta-…')
    .replace(/\d{4}-\d\d-\d\d \d\d:\d\d/g, '…')
    .slice(0, 300)
/** A stack trace, or more than a few lines, is no sentence. */
const isSentence = ({ text }: Said) => text.trim().split('\n').length <= 2 && !/^\s+at /m.test(text)

async function drilled(name: string, damage: (data: string) => void, whole: string): Promise<Row> {
  const data = mkdtempSync(join(tmpdir(), 'nokta-drill-'))
  try {
    cpSync(whole, data, { recursive: true })
    damage(data)
    const first = await run(data, 'server/main.ts')
    if (first.tunes === TUNES)
      return { name, said: 'opens as ever', seconds: 0, back: TUNES, good: !existsSync(join(data, 'lock')) }
    const began = performance.now()
    // Where it opens and not all of it is there, it is set aside on purpose.
    const restored = await run(data, 'server/restore.ts', first.tunes === null ? [] : ['--aside'])
    const seconds = (performance.now() - began) / 1000
    const again = await run(data, 'server/main.ts')
    const good = isSentence(first) && restored.code === 0 && again.tunes === TUNES
    if (!good) console.error(`${name}\n${first.text}\n${restored.text}\n${again.text}`)
    return { name, said: sentence(first, data), seconds, back: again.tunes ?? 0, good }
  } finally {
    rmSync(data, { recursive: true, force: true })
  }
}

const whole = mkdtempSync(join(tmpdir(), 'nokta-drill-'))
try {
  await madeShelf(whole)
  const wanted = process.argv[2]
  console.log('| Case | What is said | Seconds to restore | Tunes back |\n| --- | --- | ---: | ---: |')
  let good = true
  for (const [name, damage] of Object.entries(CASES)) {
    if (wanted && !name.includes(wanted)) continue
    const row = await drilled(name, damage, whole)
    good &&= row.good
    console.log(
      `| ${row.name}${row.good ? '' : ' **fails**'} | ${row.said} | ${row.seconds.toFixed(1)} | ${row.back} of ${TUNES} |`,
    )
  }
  if (!good) process.exitCode = 1
} finally {
  rmSync(whole, { recursive: true, force: true })
}

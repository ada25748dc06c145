import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { urlOf } from '#contract/api'
import { tuneWithArrangementsSchema } from '#contract/documents'
import { startNokta } from '../nokta'
import { readBackup } from '#core/formats/backup/backup'
import { newLearner } from '#core/instruments/learner'
import { newStudio } from '#core/instruments/studio'
import { backupFiles, KEPT, keepBackups, writeBackupFile } from './backups'
import { FolderInUse, lockFolder } from './lock'

const folders: string[] = []
const processes: ChildProcess[] = []
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'nokta-test-'))
  folders.push(made)
  return made
}
afterEach(() => {
  for (const p of processes.splice(0)) p.kill('SIGKILL')
  for (const f of folders.splice(0)) rmSync(f, { recursive: true, force: true })
})

const root = fileURLToPath(new URL('../..', import.meta.url))

/** A server of its own process; resolves with its address, or with what it said when it ended. */
function serve(
  data: string,
  env: Record<string, string> = {},
  script = 'server/main.ts',
  args: string[] = [],
) {
  const child = spawn(process.execPath, ['--import', 'tsx', script, ...args], {
    cwd: root,
    env: { ...process.env, NOKTA_DATA: data, NOKTA_PORT: '0', DATABASE_URL: '', NOKTA_DEMO: '', ...env },
  })
  processes.push(child)
  let said = ''
  return new Promise<{ child: ChildProcess; url: string; said: string; code: number | null }>(done => {
    const hear = (chunk: Buffer) => {
      said += chunk.toString()
      const url = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0]
      if (url) done({ child, url, said, code: null })
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('exit', code => done({ child, url: '', said, code }))
  })
}

const send = (url: string, method: string, body: object) =>
  fetch(url, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } })

describe('the data folder', () => {
  it('is one server’s at a time; a lock left by a dead process is taken over', () => {
    const data = folder()
    const lock = lockFolder(data)
    expect(() => lockFolder(data)).toThrow(FolderInUse)
    lock.release()
    writeFileSync(join(data, 'lock'), '999999999 1\n')
    const taken = lockFolder(data)
    expect(() => lockFolder(data)).toThrow(/process \d+/)
    taken.release()
    expect(readdirSync(data)).toEqual([])
  })

  it('keeps every save that was acknowledged when the server is killed in the middle of saving', async () => {
    const data = folder()
    const first = await serve(data)
    const created = await send(first.url + urlOf('createTune'), 'POST', {
      source: null, tune: emptyTune('start'), arrangement: newArrangement('violin', 'full'),
    }) // prettier-ignore
    const { id } = tuneWithArrangementsSchema.parse(await created.json())
    let acknowledged = 1
    const saving = (async () => {
      for (let version = 1; version < 5000; version++) {
        const answer = await send(first.url + urlOf('tune', { id: id }), 'PUT', {
          tune: { version, source: null, tune: emptyTune(`save ${version}`) },
          arrangements: [],
          removed: [],
        })
        if (answer.ok) acknowledged = version + 1
      }
    })().catch(() => {})
    while (acknowledged < 40) await new Promise(wait => setTimeout(wait, 5))
    first.child.kill('SIGKILL')
    await saving
    const second = await serve(data)
    const found = tuneWithArrangementsSchema.parse(
      await (await fetch(second.url + urlOf('tune', { id: id }))).json(),
    )
    // One more may have been stored whose answer never arrived.
    expect([acknowledged, acknowledged + 1]).toContain(found.version)
    expect(found.tune.title).toBe(`save ${found.version - 1}`)
    const third = await serve(data)
    expect([third.code, third.said]).toEqual([2, expect.stringContaining('is in use by another Nokta')])
  })

  it('is there after a restart, and what was lost comes back from the newest backup by one command', async () => {
    const [data, fresh] = [folder(), folder()]
    const one = await startNokta({ data, port: 0, version: 'test' })
    await one.shelf.create('X:1', emptyTune('Kept'), [newArrangement('viola', '16"')])
    await one.stop()
    const two = await startNokta({ data, port: 0, version: 'test' })
    expect((await two.shelf.list()).map(t => t.title)).toEqual(['Kept'])
    await two.stop()
    const [newest] = backupFiles(join(data, 'backups'))
    const restored = await serve(fresh, {}, 'server/restore.ts', [join(data, 'backups', newest!)])
    expect([restored.code, restored.said]).toEqual([0, expect.stringContaining('1 tunes')])
    const three = await startNokta({ data: fresh, port: 0, version: 'test' })
    expect((await three.shelf.all())[0]).toMatchObject({
      source: 'X:1',
      tune: { title: 'Kept' },
      arrangements: [{ arrangement: { played: { instrument: 'viola' } } }],
    })
    await three.stop()
  })

  it('refuses settings it cannot follow, in words', async () => {
    const port = await serve(folder(), { NOKTA_PORT: 'many' })
    expect([port.code, port.said]).toEqual([2, expect.stringContaining('NOKTA_PORT is “many”')])
    const database = await serve(folder(), { DATABASE_URL: 'postgres://elsewhere' })
    expect([database.code, database.said]).toEqual([2, expect.stringContaining('reserved')])
    const restore = await serve(folder(), {}, 'server/restore.ts')
    expect([restore.code, restore.said]).toEqual([2, expect.stringContaining('no backup yet')])
  })
})

describe('backups', () => {
  it('roll: the newest are kept, whole', () => {
    const f = folder()
    for (let i = 0; i < KEPT + 5; i++)
      writeBackupFile(f, { tunes: [] }, new Date(1_700_000_000_000 + i * 1000))
    const files = backupFiles(f)
    expect(files).toHaveLength(KEPT)
    expect(files[0]! > files[1]!).toBe(true)
    expect(readdirSync(f).every(name => name.endsWith('.nokta.json'))).toBe(true)
  })
  it('hold what the studio entered, but no learner', () => {
    const f = folder()
    const learners = [newLearner('h', 'M.', 'cello', '1/2')]
    const studio = { ...newStudio(), tapes: { violin: { 2: '#aa3322' } }, learners }
    const path = writeBackupFile(f, { tunes: [], studio }, new Date(1_700_000_000_000))
    const read = readBackup(readFileSync(path, 'utf8'))
    expect(read).toMatchObject({ backup: { studio: { tapes: studio.tapes, learners: [] } } })
    expect(readFileSync(path, 'utf8')).not.toContain('M.')
  })
  it('follow a change, once, and never without one', async () => {
    const f = folder()
    const keeper = keepBackups(f, async () => ({ tunes: [] }), 3600)
    await keeper.flush()
    expect(backupFiles(f)).toEqual([])
    keeper.changed()
    keeper.changed()
    await keeper.flush()
    await keeper.flush()
    expect(backupFiles(f)).toHaveLength(1)
  })
})

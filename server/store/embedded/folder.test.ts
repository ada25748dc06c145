import { spawn, type ChildProcess } from 'node:child_process'
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { urlOf } from '#contract/api'
import { tuneWithArrangementsSchema } from '#contract/documents'
import { startNokta } from '../../nokta'
import { backupPieces, readBackup } from '#core/formats/backup/backup'
import { collected } from '#core/formats/backup/testing'
import { newLearner } from '#core/instruments/learner'
import { newStudio } from '#core/instruments/studio'
import {
  backupFiles,
  backupLines,
  backupTime,
  fromTheFuture,
  keepBackups,
  outlived,
  writeBackupFile,
} from './backups'
import { FolderInUse, lockFolder } from './lock'
import { openEmbedded } from './open'
import { formats } from '../schema'
import { eq } from 'drizzle-orm'

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

/** Of an empty shelf. */

async function* none(): AsyncGenerator<string> {}

const root = fileURLToPath(new URL('../../..', import.meta.url))

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
    // All it said has come only once its pipes are closed.
    child.on('close', code => done({ child, url: '', said, code }))
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
      source: null,
      tune: emptyTune('start'),
      arrangement: newArrangement('violin', 'full'),
    })
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
    const database = await serve(folder(), { DATABASE_URL: 'postgres://127.0.0.1:1/none' })
    expect([database.code, database.said]).toEqual([
      2,
      expect.stringContaining('DATABASE_URL: the PostgreSQL server can’t be used (ECONNREFUSED)'),
    ])
    const restore = await serve(folder(), {}, 'server/restore.ts')
    expect([restore.code, restore.said]).toEqual([2, expect.stringContaining('no backup yet')])
  })
})

describe('backups', () => {
  it('are kept closer together the newer they are, and the newest three always', async () => {
    const now = new Date(Date.UTC(2026, 5, 1, 12))
    const hours = (n: number) =>
      `nokta-${new Date(now.getTime() - n * 3_600_000).toISOString().replace(/[-:.Z]/g, '')}.nokta.json.gz`
    const names = Array.from({ length: 24 * 60 }, (_, i) => hours(i / 2))
      .sort()
      .reverse()
    const left = names.filter(n => !outlived(names, now).includes(n))
    const within = (h: number) => left.filter(n => now.getTime() - backupTime(n) <= h * 3_600_000).length
    expect(left.slice(0, 12)).toEqual(names.slice(0, 12))
    expect(within(24)).toBeGreaterThanOrEqual(24)
    expect(within(24)).toBeLessThanOrEqual(34)
    expect(within(24 * 30) - within(24)).toBeGreaterThanOrEqual(28)
    expect(within(24 * 30) - within(24)).toBeLessThanOrEqual(31)
    // Letting go again lets go of nothing more.
    expect(outlived(left, now)).toEqual([])
  })
  it('are numbered: a clock that ran ahead changes neither which is the newest nor what stays', async () => {
    const f = folder()
    const day = 86_400_000
    const today = Date.UTC(2026, 5, 1, 12)
    const write = (at: number) => writeBackupFile(f, backupPieces(none()), new Date(at))
    for (let i = 0; i < 14; i++) await write(today + i * 60_000)
    const before = backupFiles(f)
    for (let i = 0; i < 3; i++) await write(today + 400 * day + i * 60_000)
    // However old they seem, the newest twelve are there.
    expect(backupFiles(f).slice(3)).toEqual(before.slice(0, 9))
    const next = await write(today + 3_600_000)
    expect(backupFiles(f)[0]).toBe(next.slice(f.length + 1))
    expect(fromTheFuture(backupFiles(f), new Date(today))).toHaveLength(3)
    for (let i = 0; i < 15; i++) await write(today + 7_200_000 + i * 60_000)
    expect(fromTheFuture(backupFiles(f), new Date(today))).toHaveLength(3)
  })
  it('that were written before they were numbered are older than those that are', async () => {
    const f = folder()
    const old = ['nokta-20260102T000000000.nokta.json.gz', 'nokta-20270101T000000000.nokta.json.gz']
    for (const name of old) writeFileSync(join(f, name), '')
    const path = await writeBackupFile(f, backupPieces(none()), new Date(Date.UTC(2026, 0, 3)))
    expect(backupFiles(f)).toEqual([path.slice(f.length + 1), old[1], old[0]])
    expect(path).toContain('nokta-000001-20260103T')
  })
  it('clear away what a killed process left half written', async () => {
    const f = folder()
    writeFileSync(join(f, 'nokta-000003-20260102T000000000.nokta.json.gz.part'), 'half')
    const path = await writeBackupFile(f, backupPieces(none()), new Date(Date.UTC(2026, 0, 3)))
    expect(readdirSync(f)).toEqual([path.slice(f.length + 1)])
  })
  it('follow after a restart what a killed process had not written yet, without another change', async () => {
    const f = folder()
    keepBackups(f, () => backupPieces(none()), 3600).changed()
    const next = keepBackups(f, () => backupPieces(none()), 3600)
    await next.flush()
    expect(backupFiles(f)).toHaveLength(1)
    await keepBackups(f, () => backupPieces(none()), 3600).flush()
    expect(backupFiles(f)).toHaveLength(1)
  })
  it('hold what the studio entered, but no learner, and are for their owner’s eyes', async () => {
    const f = folder()
    const learners = [newLearner('h', 'M.', 'cello', '1/2')]
    const studio = { ...newStudio(), tapes: { violin: { 2: '#aa3322' } }, learners }
    const path = await writeBackupFile(f, backupPieces(none(), studio), new Date(1_700_000_000_000))
    const text = (await collected(backupLines(path))).join('\n')
    expect(readBackup(text)).toMatchObject({ backup: { studio: { tapes: studio.tapes, learners: [] } } })
    expect(text).not.toContain('M.')
    expect(statSync(path).mode & 0o077).toBe(0)
  })
  it('that fail leave nothing under a good name, and those before stay', async () => {
    const f = folder()
    const good = await writeBackupFile(f, backupPieces(none()), new Date(1_700_000_000_000))
    async function* broken() {
      yield '{"format":'
      await Promise.resolve()
      throw Object.assign(new Error('no space'), { code: 'ENOSPC' })
    }
    await expect(writeBackupFile(f, broken(), new Date(1_700_000_100_000))).rejects.toThrow(
      /The disk is full/,
    )
    expect(readdirSync(f)).toEqual([good.slice(f.length + 1)])
  })
  it('are passed over by the restore where they are damaged, which says so', async () => {
    const data = folder()
    const one = await startNokta({ data, port: 0, version: 'test' })
    await one.shelf.create('X:1', emptyTune('Kept'), [newArrangement('viola', '16"')])
    await one.stop()
    const own = join(data, 'backups')
    writeFileSync(join(own, 'nokta-999999-20991231T235959000.nokta.json.gz'), 'no packed file at all')
    const whole = readFileSync(join(own, backupFiles(own).at(-1)!))
    writeFileSync(join(own, 'nokta-999998-20991230T235959000.nokta.json.gz'), whole.subarray(0, -20))
    const restored = await serve(data, {}, 'server/restore.ts')
    expect(restored.code).toBe(0)
    expect(restored.said).toMatch(/Passed over: .*20991231/)
    expect(restored.said).toMatch(/Passed over: .*20991230/)
    expect(restored.said).toMatch(/1 tunes from .*nokta-0{5}\d-2\d{3}/)
  })
  it('are told of where their database is gone: no empty shelf opens, and the restore brings all back', async () => {
    const data = folder()
    const one = await startNokta({ data, port: 0, version: 'test' })
    await one.shelf.create('X:1', emptyTune('Kept'), [newArrangement('viola', '16"')])
    await one.stop()
    rmSync(join(data, 'pg'), { recursive: true })
    await expect(startNokta({ data, port: 0, version: 'test' })).rejects.toThrow(/npm run restore/)
    expect(readdirSync(data)).not.toContain('lock')
    expect((await serve(data, {}, 'server/restore.ts')).code).toBe(0)
    const again = await startNokta({ data, port: 0, version: 'test' })
    expect((await again.shelf.list()).map(t => t.title)).toEqual(['Kept'])
    await again.stop()
  })
  it('bring back all that is sound of a shelf, and name the rest', async () => {
    const data = folder()
    const one = await startNokta({ data, port: 0, version: 'test' })
    for (const title of ['Sound', 'Unsound', 'Sound too'])
      await one.shelf.create(null, emptyTune(title), [newArrangement('viola', '16"')])
    await one.stop()
    const [newest] = backupFiles(join(data, 'backups'))
    const text = (await collected(backupLines(join(data, 'backups', newest!)))).join('\n')
    const file = join(data, 'mine.nokta.json')
    writeFileSync(file, text.replace('"title":"Unsound"', '"title":"Unsound","unheardOf":1'))
    const restored = await serve(data, {}, 'server/restore.ts', [file])
    expect(restored.code).toBe(1)
    expect(restored.said).toMatch(/2 tunes from .*mine\.nokta\.json/)
    expect(restored.said).toMatch(/Not taken.*\n“Unsound”: tune: .*unheardOf/)
  })
  it('put a new database in the place of a damaged one, which is set aside; the message says how', async () => {
    const data = folder()
    const one = await startNokta({ data, port: 0, version: 'test' })
    await one.shelf.create('X:1', emptyTune('Kept'), [newArrangement('viola', '16"')])
    await one.stop()
    writeFileSync(join(data, 'pg/global/pg_control'), Buffer.alloc(8192))
    const refused = await serve(data)
    expect(refused.code).toBe(2)
    expect(refused.said.trim().split('\n')).toHaveLength(1)
    expect(refused.said).toMatch(/is damaged .* newest backup is of 20\d\d-.*npm run restore/)
    expect(readdirSync(data)).not.toContain('lock')
    // A file that is no backup moves nothing.
    const wrong = join(data, 'wrong.json')
    writeFileSync(wrong, '{"format":"other","tunes":[]}')
    const not = await serve(data, {}, 'server/restore.ts', [wrong])
    expect([not.code, not.said]).toEqual([2, expect.stringContaining('no backup of Nokta')])
    expect(readdirSync(data).filter(f => f.startsWith('pg-damaged-'))).toEqual([])
    const restored = await serve(data, {}, 'server/restore.ts')
    expect(restored.code).toBe(0)
    expect(restored.said).toMatch(/database that was there lies in .*pg-damaged-20\d+T\d+/)
    expect(readdirSync(data).filter(f => f.startsWith('pg-damaged-'))).toHaveLength(1)
    const again = await startNokta({ data, port: 0, version: 'test' })
    expect((await again.shelf.list()).map(t => t.title)).toEqual(['Kept'])
    await again.stop()
  })
  it('that an older Nokta left open to others are open to their owner alone once they are opened', async () => {
    const data = folder()
    for (const inner of ['pg', 'backups']) mkdirSync(join(data, inner), { mode: 0o755 })
    for (const inner of ['pg', 'backups']) chmodSync(join(data, inner), 0o755)
    await (await openEmbedded(data)).close()
    await writeBackupFile(join(data, 'backups'), backupPieces(none()), new Date())
    for (const inner of ['pg', 'backups']) expect(statSync(join(data, inner)).mode & 0o077).toBe(0)
  })
  it('of a newer Nokta, like its database, are refused in a sentence before anything is touched', async () => {
    const data = folder()
    const connection = await openEmbedded(join(data))
    await connection.db.update(formats).set({ version: 99 }).where(eq(formats.kind, 'tune'))
    await connection.close()
    const refused = await serve(data)
    expect([refused.code, refused.said.trim().split('\n').length]).toEqual([2, 1])
    expect(refused.said).toMatch(/written by a newer Nokta/)
    expect(readdirSync(data)).not.toContain('lock')
  })
  it('follow a change, once, and never without one', async () => {
    const f = folder()
    const keeper = keepBackups(f, () => backupPieces(none()), 3600)
    await keeper.flush()
    expect(backupFiles(f)).toEqual([])
    keeper.changed()
    keeper.changed()
    await keeper.flush()
    await keeper.flush()
    expect(backupFiles(f)).toHaveLength(1)
  })
  it('that would take too long as the server ends are given up, and written when it opens next', async () => {
    const f = folder()
    const whole = await writeBackupFile(f, backupPieces(none()), new Date())
    const endless = async function* () {
      for (;;) {
        await new Promise(done => setTimeout(done, 1))
        yield 'and on '
      }
    }
    const said = vi.spyOn(console, 'error').mockImplementation(() => {})
    const keeper = keepBackups(f, endless, 3600, 30)
    keeper.changed()
    await keeper.close()
    expect(said).toHaveBeenCalledWith(expect.stringContaining('written when Nokta is opened next'))
    said.mockRestore()
    expect(readdirSync(f).sort()).toEqual([basename(whole), 'outstanding'])
    await keepBackups(f, () => backupPieces(none()), 3600).close()
    expect(backupFiles(f)).toHaveLength(2)
    expect(readdirSync(f)).not.toContain('outstanding')
  })
})

describe('the lock', () => {
  it('that another one is just taking is told in a sentence', () => {
    const f = folder()
    writeFileSync(join(f, 'lock'), '999999 0\n')
    mkdirSync(join(f, 'lock-guard'))
    expect(() => lockFolder(f)).toThrow(FolderInUse)
    expect(() => lockFolder(f)).toThrow(/Try again in ten seconds/)
    rmSync(join(f, 'lock-guard'), { recursive: true })
    lockFolder(f).release()
  })
  it('is had by one of many who try at once, whatever a killed process left', async () => {
    for (let round = 0; round < 3; round++) {
      const data = folder()
      writeFileSync(join(data, 'lock'), '999999 1\n')
      // Each says how it went and stays until all have.
      const script = `import { lockFolder } from './server/store/embedded/lock.ts'; try { lockFolder(${JSON.stringify(data)}); console.log('had') } catch (e) { console.log(e.constructor.name) } process.stdin.resume().on('end', () => process.exit())`
      const children = Array.from({ length: 5 }, () =>
        spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script], {
          cwd: root,
          stdio: ['pipe', 'pipe', 'inherit'],
        }),
      )
      processes.push(...children)
      const said = await Promise.all(
        children.map(
          c => new Promise<string>(done => c.stdout.once('data', (b: Buffer) => done(b.toString().trim()))),
        ),
      )
      const gone = children.map(c => new Promise(done => c.once('exit', done)))
      for (const c of children) c.stdin.end()
      await Promise.all(gone)
      expect(said.filter(s => s === 'had')).toHaveLength(1)
      expect(said.filter(s => s === 'FolderInUse')).toHaveLength(4)
    }
  })
})

describe('a command that stays', () => {
  it('ends with its server when it is told to, and leaves no lock', async () => {
    const data = folder()
    const { child, url } = await serve(data, {}, 'scripts/stay.mjs')
    expect((await fetch(`${url}${urlOf('health')}`)).status).toBe(200)
    const ended = new Promise<number | null>(done => child.on('exit', code => done(code)))
    child.kill('SIGTERM')
    expect(await ended).toBe(0)
    expect(readdirSync(data)).not.toContain('lock')
    await expect(fetch(`${url}${urlOf('health')}`)).rejects.toThrow()
  })
})

import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { withSheet } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readBackup } from '#core/formats/backup/backup'
import { readBackupItems } from '#core/formats/backup/items'
import { linesOf } from '#core/formats/backup/testing'
import { readFile } from '#core/formats/readFile'
import { newLearner } from '#core/instruments/learner'
import { emptyTune } from '#core/music/tune'
import { newBooklet } from '#core/styles/booklet'
import { BACKUP_PATH, urlOf } from '#contract/api'
import {
  awaySchema,
  importedSchema,
  tuneWithArrangementsSchema,
  versionListSchema,
} from '#contract/documents'
import { startNokta } from './nokta'
import { restoreBackup } from './store/restoring'
import { running } from './testing'

const data = mkdtempSync(join(tmpdir(), 'nokta-erased-'))
afterAll(() => rmSync(data, { recursive: true, force: true }))
const nokta = running(() => ({ data }))
const { call } = nokta

/** Files of the data folder that hold some text. */
function filesWith(text: string, folder = data): string[] {
  return readdirSync(folder).flatMap(name => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return filesWith(text, path)
    return readFileSync(path).includes(text) ? [path] : []
  })
}

describe('a learner', () => {
  it('who is erased is in no file of the data folder any more', async () => {
    const learner = { ...newLearner('h1', 'Quagmira of Elsewhere', 'cello', '1/2'), notes: 'prefers Sundays' }
    const saved = await call('PUT', urlOf('saveStudio'), {
      version: 0,
      doc: { part: 'learners', learners: [learner] },
    })
    expect(saved.status).toBe(200)
    expect(filesWith('Quagmira').length).toBeGreaterThan(0)
    const erased = await call('PUT', urlOf('saveStudio'), {
      version: 1,
      doc: { part: 'learners', learners: [] },
    })
    expect(erased.status).toBe(200)
    expect(filesWith('Quagmira')).toEqual([])
    expect(filesWith('prefers Sundays')).toEqual([])
    expect(await call('GET', urlOf('studio'))).toMatchObject({ json: { versions: { learners: 2 } } })
    // Also where another one comes in the same save.
    for (const [version, name] of [
      [2, 'Vexilla of Nowhere'],
      [3, 'Somebody Else'],
    ] as const) {
      const learners = [newLearner(name, name, 'cello', '1/2')]
      await call('PUT', urlOf('saveStudio'), { version, doc: { part: 'learners', learners } })
    }
    expect(filesWith('Somebody Else').length).toBeGreaterThan(0)
    expect(filesWith('Vexilla')).toEqual([])
  })
})

const put = async (title: string) =>
  (await nokta.shelf.create('X:1', emptyTune(title), [newArrangement('viola', '16"', 'One')])).id
const away = async () => awaySchema.parse((await call('GET', urlOf('away'))).json).tunes.map(t => t.title)

describe('a tune that was put away', () => {
  it('is listed, comes back, or is thrown away for good', async () => {
    const [kept, gone] = [await put('Comes Back'), await put('Goes for Good')]
    // What is on the shelf is not thrown away.
    expect((await call('DELETE', urlOf('throwAway', { id: gone }))).status).toBe(404)
    for (const id of [kept, gone]) await call('DELETE', urlOf('putAway', { id }))
    expect(await away()).toEqual(['Goes for Good', 'Comes Back'])
    expect((await call('DELETE', urlOf('throwAway', { id: gone }))).status).toBe(204)
    expect((await call('POST', urlOf('bringBack', { id: gone }))).status).toBe(404)
    expect((await call('DELETE', urlOf('throwAway', { id: gone }))).status).toBe(404)
    expect((await call('POST', urlOf('bringBack', { id: kept }))).status).toBe(200)
    expect(await away()).toEqual([])
  })
})

describe('the whole shelf in one file', () => {
  it('holds what it claims: put-away tunes, named versions, the studio; and says what it leaves out', async () => {
    const id = await put('With a Past')
    await call('POST', urlOf('keepVersion', { id }), { name: 'Before the concert' })
    const other = await put('In the Cellar')
    const booklet = { ...newBooklet('b1', [id, 'one that is gone']), title: 'Concert' }
    await call('PUT', urlOf('saveStudio'), { version: 0, doc: { part: 'booklets', booklets: [booklet] } })
    await call('DELETE', urlOf('putAway', { id: other }))
    const text = await (await fetch(nokta.url + BACKUP_PATH)).text()
    const read = readBackup(text)
    if ('error' in read) throw new Error(read.error.message)
    const { backup } = read
    expect(backup.leftOut).toMatch(/learners/)
    expect(backup.studio).toBeDefined()
    expect(backup.tunes.find(t => t.tune.title === 'With a Past')).toMatchObject({
      versions: [{ name: 'Before the concert', tune: { title: 'With a Past' } }],
    })
    expect(backup.tunes.find(t => t.tune.title === 'In the Cellar')).toMatchObject({ away: true })

    // All of it comes into another shelf.
    const fresh = await startNokta({ port: 0, version: 'test' })
    try {
      const restore = () => restoreBackup(readBackupItems(linesOf(text)), fresh.shelf, fresh.studio)
      expect(await restore()).toEqual({ tunes: backup.tunes.length, faults: [] })
      expect((await fresh.shelf.away()).map(t => t.title)).toEqual(['In the Cellar'])
      const back = (await fresh.shelf.all()).find(t => t.tune.title === 'With a Past')!
      // The booklet speaks of the tune as it is called here, and of what is gone as before.
      const { studio } = await fresh.studio.get()
      expect(studio.booklets).toMatchObject([
        { title: 'Concert', tunes: [{ tune: back.id }, { tune: 'one that is gone' }] },
      ])
      // Once more: it stands beside the one that is there.
      await restore()
      expect((await fresh.studio.get()).studio.booklets).toHaveLength(2)
      const versions = versionListSchema.parse(
        await (await fetch(fresh.url + urlOf('versions', { id: back.id }))).json(),
      )
      expect(versions.versions.map(v => [v.name, v.kept])).toEqual([['Before the concert', true]])
    } finally {
      await fresh.stop()
    }

    // A page that reads it takes what is on the shelf, and tells what it leaves.
    const file = readFile('shelf.nokta.json', new TextEncoder().encode(text))
    expect(file.tunes.map(t => t.tune.title)).not.toContain('In the Cellar')
    expect(file.findings.map(f => f.code)).toEqual(['backup.away', 'backup.versions', 'backup.studio'])
  })
})

describe('a tune taken in with its arrangements', () => {
  it('keeps all of them, and what one says of another', async () => {
    const [plain, cello] = [newArrangement('violin', '4/4', 'Plain'), newArrangement('cello', '4/4', 'Low')]
    const arrangements = [
      { id: 'p', arrangement: plain },
      { id: 'c', arrangement: withSheet(cello, { under: 'p' }) },
      { id: 'd', arrangement: withSheet(cello, { under: 'nobody' }) },
    ]
    const answer = await call('POST', urlOf('importTunes'), {
      tunes: [{ source: null, tune: emptyTune('Whole'), arrangements }],
    })
    const [id] = importedSchema.parse(answer.json).ids
    const made = tuneWithArrangementsSchema.parse((await call('GET', urlOf('tune', { id: id! }))).json)
    expect(made.arrangements.map(a => a.arrangement.name)).toEqual(['Plain', 'Low', 'Low'])
    expect(made.arrangements.map(a => a.arrangement.shown.sheet.under)).toEqual([
      null,
      made.arrangements[0]!.id,
      null,
    ])
  })
})

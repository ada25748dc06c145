import { gunzipSync } from 'node:zlib'
import { afterAll, beforeEach, describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from '#core/music/composed'
import { numbers } from '#core/random'
import { BackupTexts } from './backupTexts'
import { openEmbedded } from './embedded/open'
import type { Connection } from './port'
import { Shelf } from './shelf'

let database: Connection | undefined
let shelf: Shelf
/** What is kept packed from one backup to the next. */
let texts: BackupTexts
let told = 0
beforeEach(async () => {
  if (database) return
  database = await openEmbedded(null)
  let id = 0
  shelf = new Shelf(
    database.db,
    { studio: 'one' },
    () => `id-${id++}`,
    () => told++,
  )
  texts = new BackupTexts(shelf.tunes)
})
afterAll(() => database?.close())

const tuneOf = (n: number) => readAbc(composedAbc(n)).tunes[0]!.tune
const make = async (n: number) =>
  (await shelf.create(composedAbc(n), tuneOf(n), [newArrangement('violin', 'full')])).id
async function plain() {
  let text = ''
  for await (const piece of texts.plain()) text += piece
  return `[${text}]`
}
async function packed() {
  const parts: Buffer[] = []
  let length = 0
  for await (const p of texts.packed()) {
    parts.push(p.packed)
    length += p.length
  }
  const bytes = parts.length > 0 ? gunzipSync(Buffer.concat(parts)) : Buffer.alloc(0)
  expect(bytes.length).toBe(length)
  return `[${bytes.toString('utf8')}]`
}

describe('the texts of a backup', () => {
  it('are an empty list where nothing is', async () => {
    expect([await plain(), await packed()]).toEqual(['[]', '[]'])
  })
  it('say packed what they say plainly, whatever was done in between', async () => {
    const next = numbers(7)
    const ids: string[] = []
    for (let i = 0; i < 20; i++) ids.push(await make(i + 1))
    await packed()
    for (let step = 0; step < 40; step++) {
      const id = ids[Math.floor(next() * ids.length)]!
      const what = Math.floor(next() * 6)
      const now = await shelf.get(id)
      if (what === 0) ids.push(await make(100 + step))
      else if (what === 1) await shelf.putAway(id)
      else if (what === 2) await shelf.bringBack(id)
      else if (what === 3) await shelf.versions.keep(id, `before lesson ${step} – “ümlaut”`)
      else if (what === 4) {
        const [v] = await shelf.versions.list(id)
        if (v) await shelf.versions.rename(v.id, `renamed ${step}`)
      } else if (now) {
        const tune = {
          version: now.version,
          source: now.source,
          tune: { ...now.tune, title: `Step ${step}` },
        }
        expect(await shelf.save(id, { tune, arrangements: [], removed: [] })).toHaveProperty('saved')
      }
      if (next() < 0.4) expect(await packed()).toBe(await plain())
    }
    const [gone] = (await shelf.away()).map(t => t.id)
    if (gone) await shelf.throwAway(gone)
    const text = await packed()
    expect(text).toBe(await plain())
    expect(text.includes(`"${gone}"`)).toBe(false)
    expect((JSON.parse(text) as unknown[]).length).toBeGreaterThan(19)
  })
  it('are packed anew only where something changed', async () => {
    const ask = async () => {
      const all: unknown[] = []
      for await (const p of texts.packed()) all.push(p)
      return all
    }
    const first = await ask()
    const own = new Set(first)
    expect((await ask()).every(p => own.has(p))).toBe(true)
    const [one] = (await shelf.list()).map(t => t.id)
    await shelf.versions.keep(one!, 'another name')
    expect((await ask()).filter(p => !own.has(p))).toHaveLength(1)
  })
  it('are not kept beyond their room, and still all there', async () => {
    const few = new BackupTexts(shelf.tunes, 3000)
    let count = 0
    for await (const p of few.packed()) count += p.length
    expect(count).toBe(Buffer.byteLength(await plain()) - 2)
    expect(few.ready).toBeGreaterThan(0)
    expect(few.ready).toBeLessThan((await shelf.list()).length)
  })
  it('are asked for when a version gets a name', async () => {
    const id = await make(300)
    const before = told
    const kept = await shelf.versions.keep(id, 'first')
    await shelf.versions.rename(kept!.id, 'second')
    expect(await shelf.versions.rename('nowhere', 'third')).toBe(false)
    expect(told - before).toBe(2)
  })
})

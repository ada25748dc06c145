import { readFileSync } from 'node:fs'
import { request } from 'node:http'
import { describe, expect, it } from 'vitest'
import { ARRANGEMENT_VERSION, newArrangement } from '#core/arrangement/recipe'
import { readBackup } from '#core/formats/backup/backup'
import { readAbc } from '#core/formats/abc/readAbc'
import { BACKUP_PATH, BODY_LIMIT, conflictSchema, errorSchema, urlOf } from '#contract/api'
import {
  tuneListSchema,
  tuneWithArrangementsSchema,
  versionListSchema,
  versionSchema,
} from '#contract/documents'
import { demoSource } from '#demo/fillShelf'
import { KEPT_VERSIONS } from './store/versions'
import { running } from './testing'

const source = demoSource('heron-on-saltmarsh-lane.abc')
const { tune } = readAbc(source).tunes[0]!
const arrangement = newArrangement('violin', 'full', 'As written')

const nokta = running()
const { call } = nokta
const create = async () =>
  tuneWithArrangementsSchema.parse(
    (await call('POST', urlOf('createTune'), { source, tune, arrangement })).json,
  )

const nothing = { tune: null, arrangements: [], removed: [] }
const save = (id: string, docs: object) =>
  call('PUT', urlOf('saveDocuments', { id }), { ...nothing, ...docs })
const titled = (title: string, version = 1) => ({ tune: { version, source, tune: { ...tune, title } } })
const stored = async (id: string) =>
  tuneWithArrangementsSchema.parse((await call('GET', urlOf('tune', { id }))).json)

describe('tunes', () => {
  it('are put on the shelf, listed, opened and saved', async () => {
    const made = await create()
    expect(made.tune).toEqual(tune)
    const { tunes } = tuneListSchema.parse((await call('GET', urlOf('shelf'))).json)
    expect(tunes.find(t => t.id === made.id)).toMatchObject({
      title: tune.title,
      kind: 'jig',
      instruments: ['violin'],
      measures: 18,
    })
    const saved = await save(made.id, titled('Renamed'))
    expect(saved).toMatchObject({ status: 200, json: { tune: 2, arrangements: [] } })
    const again = await stored(made.id)
    expect([again.version, again.tune.title]).toEqual([2, 'Renamed'])
  })

  it('a stale save changes nothing and gets what is stored', async () => {
    const made = await create()
    await save(made.id, titled('First'))
    const stale = await save(made.id, titled('Second'))
    expect(stale.status).toBe(409)
    const { error, current } = conflictSchema.parse(stale.json)
    expect(error).toMatchObject({ code: 'conflict', where: 'version' })
    expect(current).toMatchObject({ version: 2, tune: { title: 'First' } })
  })

  it('of two saves at once exactly one wins', async () => {
    const made = await create()
    const answers = await Promise.all(['a', 'b', 'c', 'd'].map(t => save(made.id, titled(t))))
    expect(answers.map(a => a.status).sort()).toEqual([200, 409, 409, 409])
  })

  it('that were put away can be brought back', async () => {
    const made = await create()
    expect((await call('DELETE', urlOf('putAway', { id: made.id }))).status).toBe(204)
    expect((await call('GET', urlOf('tune', { id: made.id }))).status).toBe(404)
    expect((await save(made.id, titled('Gone'))).status).toBe(404)
    expect((await call('POST', urlOf('bringBack', { id: made.id }))).json).toMatchObject({
      id: made.id,
      arrangements: [{ version: 1 }],
    })
  })
})

describe('a tune and its arrangements', () => {
  const low = newArrangement('cello', 'full', 'Low')

  it('are saved together: all of it, or when one of them is stale nothing', async () => {
    const made = await create()
    const [own] = made.arrangements
    const first = await save(made.id, {
      ...titled('Both'),
      arrangements: [{ id: 'low', version: null, arrangement: low }],
    })
    expect(first).toMatchObject({ status: 200, json: { tune: 2, arrangements: [{ id: 'low', version: 1 }] } })
    const stale = await save(made.id, {
      ...titled('Neither', 2),
      arrangements: [
        { id: own!.id, version: 1, arrangement: { ...arrangement, name: 'Changed' } },
        { id: 'low', version: 7, arrangement: { ...low, name: 'Lower' } },
      ],
    })
    expect(stale.status).toBe(409)
    expect(conflictSchema.parse(stale.json).current).toMatchObject({ version: 2, tune: { title: 'Both' } })
    const now = await stored(made.id)
    expect(now.tune.title).toBe('Both')
    expect(now.arrangements.map(a => [a.arrangement.name, a.version])).toEqual([
      ['As written', 1],
      ['Low', 1],
    ])
  })

  it('an arrangement is taken away, and comes back to its place', async () => {
    const made = await create()
    const [own] = made.arrangements
    await save(made.id, { arrangements: [{ id: `low-${made.id}`, version: null, arrangement: low }] })
    const gone = await save(made.id, { removed: [{ id: own!.id, version: 1 }] })
    expect(gone.status).toBe(200)
    expect((await stored(made.id)).arrangements.map(a => a.arrangement.name)).toEqual(['Low'])
    expect((await save(made.id, { removed: [{ id: own!.id, version: 1 }] })).status).toBe(409)
    const back = await save(made.id, { arrangements: [{ id: own!.id, version: null, arrangement }] })
    expect(back).toMatchObject({ status: 200, json: { arrangements: [{ id: own!.id, version: 2 }] } })
    expect((await stored(made.id)).arrangements.map(a => a.arrangement.name)).toEqual(['As written', 'Low'])
  })

  it('of another tune are not reached through this one', async () => {
    const [a, b] = [await create(), await create()]
    const [theirs] = b.arrangements
    const stolen = { id: theirs!.id, version: 1, arrangement: low }
    expect((await save(a.id, { arrangements: [stolen] })).status).toBe(409)
    expect((await save(a.id, { arrangements: [{ ...stolen, version: null }] })).status).toBe(409)
    expect((await save(a.id, { removed: [{ id: theirs!.id, version: 1 }] })).status).toBe(409)
    expect((await stored(b.id)).arrangements).toEqual(b.arrangements)
  })

  it('a saved arrangement keeps the state before it as a version; taking one away always does', async () => {
    const made = await create()
    const [own] = made.arrangements
    const versions = async () =>
      versionListSchema.parse((await call('GET', urlOf('versions', { id: made.id }))).json).versions
    await save(made.id, {
      arrangements: [{ id: own!.id, version: 1, arrangement: { ...arrangement, name: 'Other' } }],
    })
    expect(await versions()).toHaveLength(1)
    await save(made.id, {
      arrangements: [{ id: `n-${made.id}`, version: null, arrangement: low }],
      removed: [{ id: own!.id, version: 2 }],
    })
    const [newest] = await versions()
    const kept = versionSchema.parse((await call('GET', urlOf('version', { id: newest!.id }))).json)
    expect(kept.arrangements.map(a => a.arrangement.name)).toEqual(['Other'])
  })

  it('of those kept by themselves the oldest make room, those with a name stay', async () => {
    const made = await create()
    const [own] = made.arrangements
    const listedNow = async () =>
      versionListSchema.parse((await call('GET', urlOf('versions', { id: made.id }))).json).versions
    await call('POST', urlOf('keepVersion', { id: made.id }), { name: 'For good' })
    // Taking away always keeps what was there.
    for (let i = 0; i < KEPT_VERSIONS + 3; i++) {
      const id = `n${i}-${made.id}`
      await save(made.id, {
        arrangements: [{ id, version: null, arrangement: { ...arrangement, name: `No. ${i}` } }],
      })
      await save(made.id, { removed: [{ id, version: 1 }] })
    }
    const kept = await listedNow()
    expect(kept.filter(v => v.name === '')).toHaveLength(KEPT_VERSIONS)
    expect(kept.at(-1)!.name).toBe('For good')
    const oldest = versionSchema.parse((await call('GET', urlOf('version', { id: kept.at(-2)!.id }))).json)
    expect(oldest.arrangements.map(a => a.arrangement.name)).toEqual([own!.arrangement.name, 'No. 3'])
  })

  it('none is kept by a save that is stale, nor of a tune that was put away', async () => {
    const made = await create()
    await save(made.id, titled('Stale', 5))
    await save(made.id, { arrangements: [{ id: made.arrangements[0]!.id, version: 5, arrangement: low }] })
    await call('DELETE', urlOf('putAway', { id: made.id }))
    await save(made.id, titled('Away', 1))
    await call('POST', urlOf('bringBack', { id: made.id }))
    const { versions } = versionListSchema.parse((await call('GET', urlOf('versions', { id: made.id }))).json)
    expect(versions).toEqual([])
  })
})

describe('one document saved again a short while after a version was kept', () => {
  const edited = async () => {
    const made = await create()
    await save(made.id, titled('First'))
    return { id: made.id, own: made.arrangements[0]!.id }
  }
  const named = (id: string, name: string, version: number) => ({
    arrangements: [{ id, version, arrangement: { ...arrangement, name } }],
  })
  const versions = async (id: string) =>
    versionListSchema.parse((await call('GET', urlOf('versions', { id }))).json).versions
  const listed = async (id: string) =>
    tuneListSchema.parse((await call('GET', urlOf('shelf'))).json).tunes.find(t => t.id === id)

  it('is stored and listed, and no other version is kept', async () => {
    const { id, own } = await edited()
    expect(await save(id, titled('Second', 2))).toMatchObject({
      status: 200,
      json: { tune: 3, arrangements: [] },
    })
    const low = { ...newArrangement('cello', 'full'), name: 'Low' }
    const saved = await save(id, { arrangements: [{ id: own, version: 1, arrangement: low }] })
    expect(saved).toMatchObject({
      status: 200,
      json: { tune: null, arrangements: [{ id: own, version: 2 }] },
    })
    const now = await stored(id)
    expect([now.tune.title, now.version, now.arrangements[0]!.arrangement.name]).toEqual(['Second', 3, 'Low'])
    expect(await listed(id)).toMatchObject({ title: 'Second', instruments: ['cello'] })
    expect(await versions(id)).toHaveLength(1)
  })

  it('that is stale changes nothing and gets what is stored', async () => {
    const { id, own } = await edited()
    const before = await stored(id)
    for (const stale of [titled('Second', 1), titled('Second', 3), named(own, 'Other', 2)]) {
      const answer = await save(id, stale)
      expect(answer.status).toBe(409)
      expect(conflictSchema.parse(answer.json).current).toEqual(before)
    }
    expect(await stored(id)).toEqual(before)
    const answers = await Promise.all(['a', 'b', 'c', 'd'].map(t => save(id, titled(t, 2))))
    expect(answers.map(a => a.status).sort()).toEqual([200, 409, 409, 409])
  })

  it('is refused where the tune was put away, and through another tune', async () => {
    const [a, b] = [await edited(), await edited()]
    expect((await save(a.id, named(b.own, 'Stolen', 1))).status).toBe(409)
    await call('DELETE', urlOf('putAway', { id: b.id }))
    expect((await save(b.id, titled('Gone', 2))).status).toBe(404)
    expect((await save(b.id, named(b.own, 'Gone', 1))).status).toBe(404)
    const back = tuneWithArrangementsSchema.parse((await call('POST', urlOf('bringBack', { id: b.id }))).json)
    expect([back.tune.title, back.arrangements[0]!.arrangement.name]).toEqual(['First', 'As written'])
  })
})

describe('stored documents', () => {
  it('of an older version are read as they are now', async () => {
    const example = JSON.parse(
      readFileSync(new URL('../core/documents/examples/arrangement.v1.json', import.meta.url), 'utf8'),
    ) as object
    const made = await call('POST', urlOf('createTune'), { source, tune, arrangement: example })
    expect(made).toMatchObject({
      status: 201,
      json: { arrangements: [{ arrangement: { version: ARRANGEMENT_VERSION } }] },
    })
  })
})

describe('bad requests', () => {
  const error = (json: unknown) => errorSchema.parse(json).error

  it('name the field at fault', async () => {
    const answer = await call('POST', urlOf('createTune'), {
      source,
      tune: { ...tune, title: 5 },
      arrangement,
    })
    expect(answer.status).toBe(400)
    expect(error(answer.json)).toMatchObject({ code: 'badRequest', where: 'tune.title' })
  })
  it('name a field nobody knows, instead of dropping it', async () => {
    const unknown = { ...arrangement, played: { ...arrangement.played, colour: 'red' } }
    const answer = await call('POST', urlOf('createTune'), { source, tune, arrangement: unknown })
    expect(answer.status).toBe(400)
    expect(error(answer.json)).toMatchObject({ where: 'arrangement.played' })
    expect(error(answer.json).message).toContain('colour')
  })
  it('name a document of a newer Nokta', async () => {
    const answer = await call('POST', urlOf('createTune'), {
      source,
      tune,
      arrangement: { ...arrangement, version: 99 },
    })
    expect(error(answer.json)).toMatchObject({ where: 'arrangement.version' })
    expect(error(answer.json).message).toContain('newer Nokta')
  })
  it('that are no JSON, too large or of another kind are refused', async () => {
    const post = (body: string, type = 'application/json') =>
      fetch(nokta.url + urlOf('createTune'), { method: 'POST', body, headers: { 'Content-Type': type } })
    expect(error(await (await post('{"tune":')).json())).toMatchObject({ code: 'badRequest', where: 'body' })
    const large = await post(JSON.stringify({ source: 'x'.repeat(BODY_LIMIT) }))
    expect([large.status, error(await large.json()).code]).toEqual([413, 'tooLarge'])
    expect((await post('{}', 'text/plain')).status).toBe(400)
  })
  it('to nowhere say so', async () => {
    const answer = await call('GET', '/api/v1/nowhere')
    expect([answer.status, error(answer.json).where]).toEqual([404, '/api/v1/nowhere'])
  })
})

describe('safety', () => {
  const raw = (headers: Record<string, string>, method = 'GET') =>
    new Promise<number>((done, fail) => {
      const { hostname, port } = new URL(nokta.url)
      request({ hostname, port, path: urlOf('createTune'), method, headers }, r =>
        done((r.resume(), r.statusCode!)),
      )
        .on('error', fail)
        .end()
    })
  it('answers only to this machine’s own names', async () => {
    expect(await raw({ Host: 'elsewhere.example' })).toBe(403)
    expect(await raw({ Host: 'localhost:1234' })).toBe(200)
  })
  it('takes changes only from its own page', async () => {
    expect(await raw({ Host: 'localhost', Origin: 'https://elsewhere.example' }, 'POST')).toBe(403)
  })
  it('sends headers that keep other pages and scripts out', async () => {
    const { headers } = await call('GET', urlOf('health'))
    expect(headers.get('content-security-policy')).toContain("default-src 'self'")
    expect(headers.get('x-content-type-options')).toBe('nosniff')
    expect(headers.get('x-powered-by')).toBeNull()
  })
})

it('gives the whole shelf as one open document', async () => {
  const made = await create()
  const response = await fetch(nokta.url + BACKUP_PATH)
  const read = readBackup(await response.text())
  if ('error' in read) throw new Error(read.error.message)
  expect(read.backup.tunes.find(t => t.id === made.id)).toMatchObject({
    source,
    tune,
    arrangements: [{ arrangement }],
  })
})

import { request } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readBackup } from '#core/formats/backup/backup'
import { readAbc } from '#core/formats/abc/readAbc'
import {
  BODY_LIMIT,
  conflictSchema,
  errorSchema,
  paths,
  tuneListSchema,
  tuneWithArrangementsSchema,
} from '#contract/api'
import { demoSource } from '#demo/fillShelf'
import { startNokta, type Nokta } from './nokta'
import { caller } from './testing'

const source = demoSource('heron-on-saltmarsh-lane.abc')
const { tune } = readAbc(source).tunes[0]!
const arrangement = newArrangement('violin', 'full', 'As written')

let nokta: Nokta
beforeAll(async () => {
  nokta = await startNokta({ port: 0, version: 'test' })
})
afterAll(() => nokta.stop())

const call = caller(() => nokta)
const create = async () =>
  tuneWithArrangementsSchema.parse((await call('POST', paths.tunes, { source, tune, arrangement })).json)

describe('tunes', () => {
  it('are put on the shelf, listed, opened and saved', async () => {
    const made = await create()
    expect(made.tune).toEqual(tune)
    const { tunes } = tuneListSchema.parse((await call('GET', paths.tunes)).json)
    expect(tunes.find(t => t.id === made.id)).toMatchObject({
      title: tune.title,
      kind: 'jig',
      instruments: ['violin'],
      measures: 18,
    })
    const saved = await call('PUT', paths.tune(made.id), {
      version: 1,
      source,
      tune: { ...tune, title: 'Renamed' },
    })
    expect(saved).toMatchObject({ status: 200, json: { version: 2 } })
    const again = tuneWithArrangementsSchema.parse((await call('GET', paths.tune(made.id))).json)
    expect([again.version, again.tune.title]).toEqual([2, 'Renamed'])
  })

  it('a stale save changes nothing and gets what is stored', async () => {
    const made = await create()
    await call('PUT', paths.tune(made.id), { version: 1, source, tune: { ...tune, title: 'First' } })
    const stale = await call('PUT', paths.tune(made.id), {
      version: 1,
      source,
      tune: { ...tune, title: 'Second' },
    })
    expect(stale.status).toBe(409)
    const { error, current } = conflictSchema.parse(stale.json)
    expect(error).toMatchObject({ code: 'conflict', where: 'version' })
    expect(current).toMatchObject({ version: 2, tune: { title: 'First' } })
  })

  it('of two saves at once exactly one wins', async () => {
    const made = await create()
    const save = (title: string) =>
      call('PUT', paths.tune(made.id), { version: 1, source, tune: { ...tune, title } })
    const answers = await Promise.all(['a', 'b', 'c', 'd'].map(save))
    expect(answers.map(a => a.status).sort()).toEqual([200, 409, 409, 409])
  })

  it('that were put away can be brought back', async () => {
    const made = await create()
    expect((await call('DELETE', paths.tune(made.id))).status).toBe(204)
    expect((await call('GET', paths.tune(made.id))).status).toBe(404)
    expect((await call('PUT', paths.tune(made.id), { version: 1, source, tune })).status).toBe(404)
    expect((await call('POST', paths.restoreTune(made.id))).json).toMatchObject({
      id: made.id,
      arrangements: [{ version: 1 }],
    })
  })
})

describe('arrangements', () => {
  it('belong to a tune, keep their order and their own versions', async () => {
    const made = await create()
    const added = await call('POST', paths.arrangements(made.id), {
      arrangement: newArrangement('cello', 'full', 'Low'),
    })
    expect(added.status).toBe(201)
    const { id } = added.json as { id: string }
    expect(
      (
        await call('PUT', paths.arrangement(id), {
          version: 1,
          arrangement: newArrangement('bass', '3/4', 'Lower'),
        })
      ).json,
    ).toEqual({ version: 2 })
    const stale = await call('PUT', paths.arrangement(id), { version: 1, arrangement })
    expect(stale.status).toBe(409)
    const all = tuneWithArrangementsSchema.parse((await call('GET', paths.tune(made.id))).json)
    expect(all.arrangements.map(a => [a.arrangement.name, a.version])).toEqual([['As written', 1], ['Lower', 2]]) // prettier-ignore
  })
  it('of no tune are refused', async () => {
    expect((await call('POST', paths.arrangements('none'), { arrangement })).status).toBe(404)
    expect((await call('PUT', paths.arrangement('none'), { version: 1, arrangement })).status).toBe(404)
  })
})

describe('bad requests', () => {
  const error = (json: unknown) => errorSchema.parse(json).error

  it('name the field at fault', async () => {
    const answer = await call('POST', paths.tunes, { source, tune: { ...tune, title: 5 }, arrangement })
    expect(answer.status).toBe(400)
    expect(error(answer.json)).toMatchObject({ code: 'badRequest', where: 'tune.title' })
  })
  it('that are no JSON, too large or of another kind are refused', async () => {
    const post = (body: string, type = 'application/json') =>
      fetch(nokta.url + paths.tunes, { method: 'POST', body, headers: { 'Content-Type': type } })
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
      request({ hostname, port, path: paths.tunes, method, headers }, r => done((r.resume(), r.statusCode!)))
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
    const { headers } = await call('GET', paths.health)
    expect(headers.get('content-security-policy')).toContain("default-src 'self'")
    expect(headers.get('x-content-type-options')).toBe('nosniff')
    expect(headers.get('x-powered-by')).toBeNull()
  })
})

it('gives the whole shelf as one open document', async () => {
  const made = await create()
  const response = await fetch(nokta.url + paths.backup)
  const read = readBackup(await response.text())
  if ('error' in read) throw new Error(read.error.message)
  expect(read.backup.tunes.find(t => t.id === made.id)).toMatchObject({
    source,
    tune,
    arrangements: [{ arrangement }],
  })
})

/** Who may ask for what, what is logged of it, and what a browser may keep. */
import { randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { Writable } from 'node:stream'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { BACKUP_PATH, ENDPOINTS, urlOf, type EndpointName } from '#contract/api'
import type { Principal } from '#contract/principal'
import { createApp } from './app'
import { openEmbedded } from './store/embedded/open'
import type { Connection } from './store/port'
import { Stores } from './store/stores'

/** Who asks is told in a header here, as a sign-in would. */
const asked: { by: Principal } = { by: { studio: 'one', person: 'p', role: 'teacher' } }
const as = (by: Partial<Principal>) => void (asked.by = { ...asked.by, role: 'teacher', ...by })
let connection: Connection
let stores: Stores
let server: Server
let url = ''
let log = ''
beforeAll(async () => {
  connection = await openEmbedded(null)
  stores = new Stores(connection, randomUUID)
  const sink = new Writable({ write: (chunk: Buffer, _e, done) => ((log += chunk.toString()), done()) })
  server = createServer(
    createApp({
      stores,
      version: 'test',
      principalOf: () => asked.by,
      log: pino({ level: 'info', base: null }, sink),
    }),
  )
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done))
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  server.closeAllConnections()
  await new Promise(done => server.close(done))
  await connection.close()
})
const put = (studio: string, title: string) =>
  stores.shelf({ studio }).create(null, emptyTune(title), [newArrangement('violin', '4/4')])
const titles = async () =>
  ((await (await fetch(url + urlOf('shelf'))).json()) as { tunes: { title: string }[] }).tunes.map(
    t => t.title,
  )

describe('a principal', () => {
  it('sees its own studio alone', async () => {
    await put('one', 'Mine')
    const theirs = await put('two', 'Theirs')
    as({ studio: 'one' })
    expect(await titles()).toEqual(['Mine'])
    expect((await fetch(url + urlOf('tune', { id: theirs.id }))).status).toBe(404)
    expect((await fetch(url + urlOf('putAway', { id: theirs.id }), { method: 'DELETE' })).status).toBe(404)
    expect(await (await fetch(url + BACKUP_PATH)).text()).not.toContain('Theirs')
    as({ studio: 'two' })
    expect(await titles()).toEqual(['Theirs'])
  })
  it('who is no teacher is refused everything but what is for everybody', async () => {
    for (const role of ['learner', 'guest'] as const) {
      as({ studio: 'one', role })
      for (const name of Object.keys(ENDPOINTS) as EndpointName[]) {
        const { method } = ENDPOINTS[name]
        const json = method === 'GET' ? {} : { body: '{}', headers: { 'Content-Type': 'application/json' } }
        const { status } = await fetch(url + urlOf(name, { id: 'x' }), { method, ...json })
        expect([name, status]).toEqual([name, name === 'health' ? 200 : 403])
      }
      expect((await fetch(url + BACKUP_PATH)).status).toBe(403)
    }
  })
})

describe('a tune a browser has kept', () => {
  it('is not sent again as long as nothing of it changed', async () => {
    as({ studio: 'three' })
    const { id, tune, arrangements } = await put('three', 'Kept')
    const get = (etag = '') => fetch(url + urlOf('tune', { id }), { headers: { 'If-None-Match': etag } })
    const first = await get()
    const etag = first.headers.get('etag')!
    expect([first.status, first.headers.get('cache-control')]).toEqual([200, 'private, no-cache'])
    expect([(await get(etag)).status, (await get('W/"0"')).status]).toEqual([304, 200])
    const own = { id: arrangements[0]!.id, version: 1, arrangement: newArrangement('viola', '16"') }
    await stores.shelf({ studio: 'three' }).save(id, { tune: null, arrangements: [own], removed: [] })
    const second = await get(etag)
    expect([second.status, ((await second.json()) as { tune: object }).tune]).toEqual([200, tune])
    expect(second.headers.get('etag')).not.toBe(etag)
  })
})

describe('the log', () => {
  it('has a line for each request, with the id its answer carries, and no word of a document', async () => {
    as({ studio: 'four' })
    log = ''
    const { id } = await put('four', 'Quagmire Polka')
    const answer = await fetch(url + urlOf('shelf', {}, { search: 'quagmire' }))
    await fetch(url + urlOf('tune', { id }))
    await expect.poll(() => log.trim().split('\n').length).toBe(2)
    const lines = log
      .trim()
      .split('\n')
      .map(l => JSON.parse(l) as Record<string, unknown>)
    expect(lines.map(l => [l.endpoint, l.method, l.status])).toEqual([
      ['shelf', 'GET', 200],
      ['tune', 'GET', 200],
    ])
    expect(lines[0]!.request).toBe(answer.headers.get('x-request-id'))
    expect(log.toLowerCase()).not.toContain('quagmire')
  })
})

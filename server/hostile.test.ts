import { connect } from 'node:net'
import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { urlOf } from '#contract/api'
import { logged } from './errors'
import { running } from './testing'

const nokta = running()
const { call } = nokta
const made = (title: string) =>
  call('POST', urlOf('createTune'), {
    source: 'X:1',
    tune: emptyTune(title),
    arrangement: newArrangement('violin', '4/4'),
  })

/** Bytes as they are, and the status line that comes back. */
const raw = (request: string | Buffer) =>
  new Promise<number>((done, fail) => {
    const { port, hostname } = new URL(nokta.url)
    const socket = connect(Number(port), hostname, () => socket.write(request))
    socket.once('data', (b: Buffer) => {
      done(Number(/HTTP\/1\.1 (\d+)/.exec(b.toString())?.[1]))
      socket.destroy()
    })
    socket.once('error', fail)
  })
const host = () => new URL(nokta.url).host

describe('what no page of ours sends', () => {
  it.each([
    ['a NUL in an address', () => fetch(`${nokta.url}/api/v1/tunes/%00`)],
    ['an escape that is none', () => fetch(`${nokta.url}/api/v1/tunes/%ff`)],
    ['an id longer than any', () => fetch(`${nokta.url}/api/v1/tunes/${'x'.repeat(500)}`)],
    [
      'a body that says it is packed',
      () =>
        fetch(`${nokta.url}/api/v1/tunes`, {
          method: 'POST',
          body: 'not packed',
          headers: { 'Content-Type': 'application/json', 'Content-Encoding': 'gzip' },
        }),
    ],
    [
      'a version no column holds',
      () =>
        fetch(`${nokta.url}/api/v1/studio`, {
          method: 'PUT',
          body: JSON.stringify({ version: 2 ** 31, studio: {} }),
          headers: { 'Content-Type': 'application/json' },
        }),
    ],
  ])('is refused as a bad request: %s', async (_what, ask) => {
    expect((await ask()).status).toBe(400)
  })
  it('from the page of another port is refused', async () => {
    const body = JSON.stringify({ tunes: [] })
    const from = (origin: string) =>
      raw(
        `POST /api/v1/tunes/import HTTP/1.1\r\nHost: ${host()}\r\nOrigin: ${origin}\r\nContent-Type: application/json\r\nContent-Length: ${body.length}\r\n\r\n${body}`,
      )
    expect(await from('http://127.0.0.1:9')).toBe(403)
    expect(await from('http://evil.example')).toBe(403)
    expect(await from(`http://${host()}`)).toBe(400)
  })
  it('to another host carries the headers of safety too', async () => {
    const answer = await new Promise<string>(done => {
      const { port, hostname } = new URL(nokta.url)
      const socket = connect(Number(port), hostname, () =>
        socket.write('GET / HTTP/1.1\r\nHost: elsewhere\r\n\r\n'),
      )
      socket.once('data', (b: Buffer) => {
        done(b.toString())
        socket.destroy()
      })
    })
    expect(answer).toMatch(/^HTTP\/1\.1 403/)
    expect(answer).toMatch(/Content-Security-Policy/i)
  })
})

describe('text that no database takes', () => {
  it('is cleaned on the way in, and the tune can be saved again', async () => {
    const { status, json } = await made(`Half ${String.fromCharCode(0xd83d)} and \u0000 nothing`)
    expect(status).toBe(201)
    const doc = json as { id: string; version: number; source: string; tune: { title: string } }
    expect(doc.tune.title).toBe('Half  and  nothing')
    const again = await call('PUT', urlOf('saveDocuments', { id: doc.id }), {
      tune: { version: doc.version, source: doc.source, tune: { ...doc.tune, title: 'Again' } },
      arrangements: [],
      removed: [],
    })
    expect(again.status).toBe(200)
    const found = await call('GET', urlOf('shelf', {}, { search: 'a\u0000gain' }))
    expect(found.status).toBe(200)
  })
})

describe('answers', () => {
  it('of the interface are kept by nobody on the way', async () => {
    expect((await call('GET', urlOf('studio'))).headers.get('cache-control')).toBe('no-store')
  })
  it('that fail are logged without a word of what was asked', () => {
    const query = Object.assign(new Error('Failed query: insert … params: {"title":"A secret tune"}'), {
      code: '23505',
    })
    expect(logged(query)).toMatch(/^Error 23505\n\s+at /)
    expect(logged(query)).not.toContain('secret')
  })
})

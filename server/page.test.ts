import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, brotliDecompressSync, gunzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { newArrangement } from '#core/arrangement/recipe'
import { urlOf } from '#contract/api'
import { versionListSchema } from '#contract/documents'
import { readPage } from './page'
import { running } from './testing'

const INDEX =
  '<!doctype html><html><head><title>Nokta</title><script type="module" src="/assets/index-1.js"></script></head><body></body></html>'
const NEEDS = {
  start: 'assets/start-1.js',
  shelf: { scripts: ['assets/index-1.js', 'assets/shelf-1.js'], styles: [] },
  bench: { scripts: ['assets/index-1.js', 'assets/bench-1.js'], styles: ['assets/bench-1.css'] },
  stations: {
    hand: { scripts: ['assets/bench-1.js', 'assets/hand-1.js'], styles: ['assets/hand-1.css'] },
    bow: { scripts: ['assets/bow-1.js'], styles: [] },
  },
  fonts: ['assets/text-1.ttf'],
}
const SCRIPT = `console.log(${JSON.stringify('x'.repeat(5000))})`

let web: string
beforeAll(async () => {
  web = mkdtempSync(join(tmpdir(), 'nokta-page-'))
  mkdirSync(join(web, 'assets'))
  writeFileSync(join(web, 'index.html'), INDEX)
  writeFileSync(join(web, 'needs.json'), JSON.stringify(NEEDS))
  writeFileSync(join(web, 'assets/hand-1.js'), SCRIPT)
  writeFileSync(join(web, 'assets/hand-1.js.br'), brotliCompressSync(SCRIPT))
})
afterAll(() => rmSync(web, { recursive: true }))
const nokta = running(() => ({ web }))

/** The files a document names, in order, with how it names them. */
const named = (html: string) =>
  [...html.matchAll(/(modulepreload|stylesheet|preload|module)"[^>]*?(?:href|src)="([^"]+)"/g)].map(
    ([, how, what]) => `${how} ${what}`,
  )

describe('the page of a bench', () => {
  it('names the first script, the tune, and what the bench and this station need, each once', () => {
    expect(named(readPage(web)!.at('/tunes/t1/hand')).sort()).toEqual([
      'module /assets/index-1.js',
      'module /assets/start-1.js',
      'modulepreload /assets/bench-1.js',
      'modulepreload /assets/hand-1.js',
      `preload ${urlOf('studio')}`,
      `preload ${urlOf('tune', { id: 't1' })}`,
      'preload /assets/text-1.ttf',
      'stylesheet /assets/bench-1.css',
      'stylesheet /assets/hand-1.css',
    ])
  })

  it('names nothing of another station', () => {
    expect(readPage(web)!.at('/tunes/t1/hand')).not.toContain('bow-1')
    expect(readPage(web)!.at('/tunes/t1/bow')).not.toContain('hand-1')
  })

  it('of the shelf names what the shelf needs', () => {
    expect(named(readPage(web)!.at('/'))).toContain('modulepreload /assets/shelf-1.js')
    expect(readPage(web)!.at('/')).not.toContain('start-1')
  })

  it.each(['/instruments', '/tunes/t1/nowhere', '/tunes/t1'])(
    'for %s names only what every page has',
    path => {
      expect(named(readPage(web)!.at(path))).toEqual([
        'preload /assets/text-1.ttf',
        'module /assets/index-1.js',
      ])
    },
  )

  it('writes an odd address as an address, not into the page', () => {
    const html = readPage(web)!.at('/tunes/%22%3E%3Cscript%3E$&/hand')
    expect(html).not.toContain('<script>')
    expect(html).toContain(urlOf('tune', { id: '"><script>$&' }))
    expect(readPage(web)!.at('/tunes/%ff/hand')).toContain(urlOf('tune', { id: '%ff' }))
  })

  it('is served as it is when the list of needs is not there or damaged', () => {
    const bare = mkdtempSync(join(tmpdir(), 'nokta-page-'))
    expect(readPage(bare)).toBeNull()
    writeFileSync(join(bare, 'index.html'), INDEX)
    expect(readPage(bare)!.at('/tunes/t1/hand')).toBe(INDEX)
    writeFileSync(join(bare, 'needs.json'), '{"start":1}')
    expect(readPage(bare)!.at('/tunes/t1/hand')).toBe(INDEX)
    rmSync(bare, { recursive: true })
  })

  it('asks for the tune where the contract has it', () => {
    const start = readFileSync(join(import.meta.dirname, '../web/src/start.ts'), 'utf8')
    expect(start).toContain('`' + urlOf('tune', { id: '' }) + '${bench}`')
  })
})

/** An answer as it comes over the wire. */
const raw = (path: string, encoding: string) =>
  new Promise<{ headers: Record<string, unknown>; body: Buffer }>((done, fail) => {
    request(nokta.url + path, { headers: { 'Accept-Encoding': encoding } }, res => {
      const parts: Buffer[] = []
      res.on('data', (part: Buffer) => parts.push(part))
      res.on('end', () => done({ headers: res.headers, body: Buffer.concat(parts) }))
    })
      .on('error', fail)
      .end()
  })

describe('what is served', () => {
  it('is packed beforehand for those who can read it, kept for a year by its name', async () => {
    const packed = await raw('/assets/hand-1.js', 'gzip, br')
    expect(packed.headers).toMatchObject({
      'content-encoding': 'br',
      'cache-control': 'public, max-age=31536000, immutable',
    })
    expect(brotliDecompressSync(packed.body).toString()).toBe(SCRIPT)
    const plain = await raw('/assets/hand-1.js', 'identity')
    expect(plain.headers['content-encoding']).toBeUndefined()
    expect(plain.body.toString()).toBe(SCRIPT)
  })

  it('the document is asked for anew each time', async () => {
    expect((await raw('/tunes/t1/hand', 'identity')).headers['cache-control']).toBe('no-cache')
  })

  it('a tune goes packed to those who can read it, as it is to the others, and the same to both', async () => {
    const { id, source } = await longTune()
    const packed = await raw(urlOf('tune', { id }), 'gzip, br')
    const plain = await raw(urlOf('tune', { id }), 'identity')
    expect([packed.headers['content-encoding'], plain.headers['content-encoding']]).toEqual([
      'gzip',
      undefined,
    ])
    expect([packed.headers.vary, plain.headers.vary]).toEqual(['Accept-Encoding', 'Accept-Encoding'])
    expect(Number(packed.headers['content-length'])).toBe(packed.body.length)
    expect(gunzipSync(packed.body).equals(plain.body)).toBe(true)
    expect(JSON.parse(plain.body.toString())).toMatchObject({ id, source })
  })

  it('another long answer of the interface is packed on the way, a short one is not', async () => {
    const { id } = await longTune()
    await nokta.call('POST', urlOf('keepVersion', { id }), { name: 'Kept' })
    const listed = versionListSchema.parse((await nokta.call('GET', urlOf('versions', { id }))).json)
    const version = await raw(urlOf('version', { id: listed.versions[0]!.id }), 'gzip')
    expect(version.headers['content-encoding']).toBe('gzip')
    expect(gunzipSync(version.body).toString()).toContain('"name":"Kept"')
    expect((await raw(urlOf('duplicates'), 'gzip')).headers['content-encoding']).toBeUndefined()
  })
})

/** Long enough to be packed. */
async function longTune() {
  const source = `X:1\nT:Long\nM:4/4\nL:1/8\nK:A\n${'A B c d e f g a | '.repeat(80)}`
  const made = await nokta.call('POST', urlOf('createTune'), {
    source,
    tune: readAbc(source).tunes[0]!.tune,
    arrangement: newArrangement('violin', 'full', 'As written'),
  })
  return { id: (made.json as { id: string }).id, source }
}

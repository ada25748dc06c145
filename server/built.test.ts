/** The server as `npm start` runs it: built, in a process of its own. */
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, expect, it } from 'vitest'
import { duplicatesSchema, tuneListSchema } from '#contract/documents'
import { urlOf } from '#contract/api'
import { DEMO_TUNES } from '#demo/shelf'
import { buildServer } from '../scripts/setup.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const data = mkdtempSync(join(tmpdir(), 'nokta-built-'))
afterAll(() => rmSync(data, { recursive: true, force: true }))

it('starts without anything that translates, finds its files, and ends when it is told', async () => {
  buildServer()
  const env = { ...process.env, NOKTA_DATA: data, NOKTA_PORT: '0', NOKTA_DEMO: '1', DATABASE_URL: '' }
  const child = spawn(process.execPath, ['dist/server/main.js'], { cwd: root, env })
  let said = ''
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()))
  const url = await new Promise<string>((done, fail) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec((said += chunk.toString()))?.[0]
      if (found) done(found)
    })
    child.once('exit', () => fail(new Error(said)))
  })
  const list = tuneListSchema.parse(await (await fetch(url + urlOf('shelf'))).json())
  expect(list.total).toBe(DEMO_TUNES.length)
  // Its threads are built too.
  const alike = duplicatesSchema.parse(await (await fetch(url + urlOf('duplicates'))).json())
  expect(alike.pairs).toEqual([])
  const ended = new Promise(done => child.once('exit', code => done(code)))
  child.kill('SIGTERM')
  expect(await ended).toBe(0)
})

import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, describe, expect, it } from 'vitest'
import { isBuilt } from './setup.mjs'

const folder = mkdtempSync(join(tmpdir(), 'nokta-setup-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (path: string, seconds: number) => utimesSync(join(folder, path), seconds, seconds)

describe('the built app', () => {
  const folders = ['web', 'core', 'contract', 'drawing', 'demo', 'server']
  for (const name of [...folders, 'dist/web', 'dist/server'])
    mkdirSync(join(folder, name), { recursive: true })
  const built = ['dist/web/index.html', 'dist/server/main.js']
  const files = ['web/main.ts', 'drawing/marks.ts', 'server/app.ts', 'vite.config.ts', ...built]
  for (const f of files) writeFileSync(join(folder, f), '')
  const calm = () => {
    for (const f of [...folders, ...files]) at(f, 1000)
    for (const f of built) at(f, 2000)
  }

  it('is there as long as nothing it is built from changes', () => {
    calm()
    expect(isBuilt(folder)).toBe(true)
  })
  it.each(['web/main.ts', 'drawing/marks.ts', 'server/app.ts', 'vite.config.ts'])(
    'is old when %s changes',
    path => {
      calm()
      at(path, 3000)
      expect(isBuilt(folder)).toBe(false)
    },
  )
  it.each(built)('is not there without %s', path => {
    calm()
    rmSync(join(folder, path))
    expect(isBuilt(folder)).toBe(false)
    writeFileSync(join(folder, path), '')
  })
  it('is old when a source is taken away, and not there before it is built', () => {
    calm()
    rmSync(join(folder, 'drawing/marks.ts'))
    expect(isBuilt(folder)).toBe(false)
    rmSync(join(folder, 'dist'), { recursive: true })
    expect(isBuilt(folder)).toBe(false)
  })
})

describe('a program that npm started', () => {
  /** A shell in npm's place, which starts what stays and says the number of its child. */
  function started(env: Record<string, string>) {
    const program =
      "console.log(process.pid); setInterval(() => {}, 1000); process.on('SIGTERM', () => process.exit())"
    const script = `import { stay } from './scripts/setup.mjs'; stay(process.execPath, ['-e', ${JSON.stringify(program)}])`
    const npm = spawn('sh', ['-c', 'node --input-type=module -e "$0"; true', script], {
      cwd: fileURLToPath(new URL('..', import.meta.url)),
      env: { ...process.env, npm_lifecycle_event: '', ...env },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    return new Promise<{ npm: typeof npm; own: number }>(done =>
      npm.stdout.once('data', (b: Buffer) => done({ npm, own: Number(b.toString()) })),
    )
  }
  const isAlive = (pid: number) => {
    try {
      return process.kill(pid, 0)
    } catch {
      return false
    }
  }

  it('ends with it, even where npm is killed and passes nothing on', async () => {
    const { npm, own } = await started({ npm_lifecycle_event: 'start' })
    expect(isAlive(own)).toBe(true)
    npm.kill('SIGKILL')
    await expect.poll(() => isAlive(own), { timeout: 10_000 }).toBe(false)
  })
  it('started otherwise goes on without who started it', async () => {
    const { npm, own } = await started({})
    npm.kill('SIGKILL')
    await new Promise(done => setTimeout(done, 1500))
    expect(isAlive(own)).toBe(true)
    process.kill(own)
  })
})

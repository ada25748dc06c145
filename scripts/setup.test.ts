import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { isBuilt } from './setup.mjs'

const folder = mkdtempSync(join(tmpdir(), 'nokta-setup-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (path: string, seconds: number) => utimesSync(join(folder, path), seconds, seconds)

describe('the built app', () => {
  for (const name of ['web', 'core', 'contract', 'drawing', 'demo', 'dist/web'])
    mkdirSync(join(folder, name), { recursive: true })
  const files = ['web/main.ts', 'drawing/marks.ts', 'vite.config.ts', 'dist/web/index.html']
  for (const f of files) writeFileSync(join(folder, f), '')
  const calm = () => {
    for (const f of ['web', 'core', 'contract', 'drawing', 'demo', ...files]) at(f, 1000)
    at('dist/web/index.html', 2000)
  }

  it('is there as long as nothing it is built from changes', () => {
    calm()
    expect(isBuilt(folder)).toBe(true)
  })
  it.each(['web/main.ts', 'drawing/marks.ts', 'vite.config.ts'])('is old when %s changes', path => {
    calm()
    at(path, 3000)
    expect(isBuilt(folder)).toBe(false)
  })
  it('is old when a source is taken away, and not there before it is built', () => {
    calm()
    rmSync(join(folder, 'drawing/marks.ts'))
    expect(isBuilt(folder)).toBe(false)
    rmSync(join(folder, 'dist'), { recursive: true })
    expect(isBuilt(folder)).toBe(false)
  })
})

import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
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

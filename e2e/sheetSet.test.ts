import { readFileSync } from 'node:fs'
import { unzipSync } from 'fflate'
import type { Page } from 'playwright-core'
import { expect, describe, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test, tuneId } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

describe('versions and sheets for all who play a tune', () => {
  it('twelve sheets in six clicks: names that sort, one key, one tempo, one step to undo', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'sheet')
    const id = await tuneId(nokta, 'Brindlewick Bridge')
    const before = (await nokta.shelf.get(id))!.arrangements.length
    await page.click(test('for-many'))
    for (const i of ['viola', 'cello', 'bass']) await page.click(test(`set-${i}`))
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('set-make'))])
    const files = unzipSync(new Uint8Array(readFileSync(await download.path())))
    const names = Object.keys(files)
    expect(names).toHaveLength(12)
    expect(names).toEqual([...names].sort())
    expect(names[4]).toBe('05-brindlewick-bridge-viola-level-2.pdf')
    for (const bytes of Object.values(files))
      expect(new TextDecoder().decode(bytes.slice(0, 5))).toBe('%PDF-')
    await saved(page)
    const { tune, arrangements } = (await nokta.shelf.get(id))!
    const made = arrangements.slice(before).map(a => a.arrangement)
    expect(made.map(a => a.name).slice(0, 2)).toEqual(['Violin, level 1', 'Violin, level 2'])
    expect(new Set(made.map(a => JSON.stringify(a.played.key ?? tune.key))).size).toBe(1)
    expect(new Set(made.map(a => JSON.stringify(a.played.tempo ?? tune.tempo))).size).toBe(1)
    await page.click(test('undo'))
    await saved(page)
    expect((await nokta.shelf.get(id))!.arrangements).toHaveLength(before)
  })

  it('the tune as it is for one instrument, not kept, in its own key', async () => {
    await openBench(page, nokta, 'Goose Gate Jog', 'sheet')
    const id = await tuneId(nokta, 'Goose Gate Jog')
    const before = (await nokta.shelf.get(id))!.arrangements.length
    await page.click(test('for-many'))
    for (const l of ['level-1', 'level-2', 'level-3', 'written', 'keep']) await page.click(test(`set-${l}`))
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('set-make'))])
    const names = Object.keys(unzipSync(new Uint8Array(readFileSync(await download.path()))))
    expect(names).toEqual(['01-goose-gate-jog-violin-as-written.pdf'])
    await expect.poll(() => page.locator(test('sheet-set')).count()).toBe(0)
    expect((await nokta.shelf.get(id))!.arrangements).toHaveLength(before)
  })
})

import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { launch, openBench, openPage, serve, test } from './browser'

const data = mkdtempSync(join(tmpdir(), 'nokta-e2e-'))
let [nokta, browser] = [null as unknown as Nokta, null as unknown as Browser]
beforeAll(async () => {
  ;[nokta, browser] = await Promise.all([serve({ data }), launch()])
})
afterAll(async () => {
  await browser.close()
  await nokta.stop()
  rmSync(data, { recursive: true, force: true })
})

const saveState = (words: string) =>
  [
    (w: string) => document.querySelector('[data-test="save-state"]')?.textContent?.includes(w),
    words,
  ] as const
const port = () => Number(new URL(nokta.url).port)

describe('nothing is lost', () => {
  it('edits are saved by themselves and are there after a restart of the server', async () => {
    const { page, context } = await openPage(browser, [])
    await openBench(page, nokta, 'Kiln Yard Polska', 'hand')
    await page
      .locator(`${test('hand-lane')} .note circle`)
      .nth(1)
      .click()
    await page.keyboard.press('3')
    await page.waitForSelector('.note circle.pinned')
    await page.waitForFunction(...saveState('Saved'))
    const at = port()
    await nokta.stop()
    nokta = await serve({ data, port: at })
    await page.reload()
    await page.waitForSelector('.note circle.pinned')
    await context.close()
  })

  it('what was done while the server was away comes back after a reload and is saved then', async () => {
    const { page, context } = await openPage(browser, [])
    await openBench(page, nokta, 'Half-Step Study', 'hand')
    const at = port()
    await nokta.stop()
    await page
      .locator(`${test('hand-lane')} .note circle`)
      .nth(2)
      .click()
    await page.keyboard.press('p')
    await page.waitForSelector('.note circle.pinned')
    await page.waitForFunction(...saveState('Kept in this browser'))
    const address = page.url()
    // The window is closed before the server is back; only the browser's own store has the edit.
    await page.close()
    nokta = await serve({ data, port: at })
    const again = await context.newPage()
    await again.goto(address)
    await again.waitForSelector('.note circle.pinned')
    await again.waitForSelector('text=was brought back')
    await again.waitForFunction(...saveState('Saved'))
    await context.close()
  })

  const pinNote = async (page: Page, at: number) => {
    await page
      .locator(`${test('hand-lane')} .note circle`)
      .nth(at)
      .click()
    await page.keyboard.press('p')
  }

  it('fingers changed in two browsers are kept twice, each in use where it was made', async () => {
    const [one, two] = [await openPage(browser, []), await openPage(browser, [])]
    await openBench(one.page, nokta, 'The Crooked Stile', 'hand')
    await openBench(two.page, nokta, 'The Crooked Stile', 'hand')
    await pinNote(one.page, 0)
    await one.page.waitForFunction(...saveState('Saved'))
    await pinNote(two.page, 5)
    await two.page.waitForSelector('text=were changed elsewhere too')
    await two.page.waitForFunction(...saveState('Saved'))
    const { id } = (await nokta.shelf.list()).find(t => t.title === 'The Crooked Stile')!
    const { arrangements } = (await nokta.shelf.get(id))!
    const second = arrangements.filter(a => a.arrangement.name.endsWith('(second version)'))
    expect(second).toHaveLength(1)
    expect(await two.page.locator('.note circle.pinned').count()).toBe(1)
    await Promise.all([one.context.close(), two.context.close()])
  })

  it('a second window of the same browser shows at once what the first one saved', async () => {
    const { page, context } = await openPage(browser, [])
    await openBench(page, nokta, 'Low Barn Stomp', 'hand')
    const second = await context.newPage()
    await second.goto(page.url())
    await second.waitForSelector(`${test('hand-lane')} .note circle`)
    await pinNote(page, 1)
    await second.waitForSelector('.note circle.pinned')
    await second.waitForFunction(...saveState('Saved'))
    await context.close()
  })

  it('a reload right after an edit leaves no second version of anything', async () => {
    const { page, context } = await openPage(browser, [])
    await openBench(page, nokta, 'Goose Gate Jog', 'hand')
    const before = (await nokta.shelf.list()).length
    for (let at = 0; at < 4; at++) {
      await pinNote(page, at)
      await page.waitForSelector(`.note circle.pinned >> nth=${at}`)
      await page.waitForTimeout(100 * at)
      await page.reload()
      await page.waitForSelector(`.note circle.pinned >> nth=${at}`)
    }
    await page.waitForFunction(...saveState('Saved'))
    const { id } = (await nokta.shelf.list()).find(t => t.title === 'Goose Gate Jog')!
    const names = (await nokta.shelf.get(id))!.arrangements.map(a => a.arrangement.name)
    expect(names.filter(n => n.includes('second'))).toEqual([])
    expect((await nokta.shelf.list()).length).toBe(before)
    await context.close()
  })
})

describe('everybody can use it', () => {
  const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
  it.each([
    'shelf',
    'tune',
    'tune spoken',
    'tune note',
    'tune watch',
    'tune facts',
    'tune versions',
    'form',
    'hand',
    'hand ways',
    'hand phrase',
    'hand setup',
    'hand look',
    'bow',
    'bow stroke',
    'bow school',
    'levels',
    'instruments',
    'sheet',
  ])('the %s passes the accessibility check in light and dark', async view => {
    const { page, context } = await openPage(browser, [])
    if (view === 'shelf') await page.goto(nokta.url)
    else if (view === 'instruments') {
      await page.goto(`${nokta.url}/instruments`)
      await page.click('[data-test="simulate"]')
      await page.waitForSelector('[data-test="advice"]')
    } else await openBench(page, nokta, 'The Heron on Saltmarsh Lane', view.split(' ')[0]!)
    const [station, pane] = view.split(' ')
    if ((station === 'hand' || station === 'bow') && pane) {
      await page.click(`[data-test="${station}-${pane}"]`)
      if (pane === 'stroke')
        await page.locator('[data-test="bow-lane"] .stroke .hit').first().click({ force: true })
      if (pane === 'school') await page.click('[data-test="school-pattern"]')
    } else if (view === 'levels') {
      await page.click('[data-test="search-keys"]')
      await page.waitForFunction(() => !document.querySelector('progress'))
      await page.locator('[data-test="key-cell"]').first().click()
    } else if (pane) {
      await page.click(`[data-test="pane-${pane}"]`)
      await page.click('[data-test="write"]')
      await page.click('[data-test="board"]')
      await page.keyboard.press('ArrowRight')
    }
    await page.waitForTimeout(600)
    for (const theme of ['light', 'dark']) {
      if (theme === 'dark') await page.getByLabel('Dark colours').click()
      await page.waitForTimeout(500)
      const session = await page.context().newCDPSession(page)
      // Injected past the page's policy, which forbids inline scripts.
      await session.send('Runtime.evaluate', { expression: axe })
      const found = await page.evaluate(() =>
        (
          window as unknown as {
            axe: {
              run(o: object): Promise<{
                violations: { id: string; nodes: { html: string; failureSummary: string }[] }[]
              }>
            }
          }
        ).axe.run({
          resultTypes: ['violations'],
        }),
      )
      const told = found.violations.map(
        v => `${v.id}: ${v.nodes[0]!.html.slice(0, 160)} ${v.nodes[0]!.failureSummary.slice(0, 200)}`,
      )
      expect(told, theme).toEqual([])
    }
    await context.close()
  })
})

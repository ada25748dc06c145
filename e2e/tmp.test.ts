import type { Page } from 'playwright-core'
import { it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test } from './browser'
import { useBrowser } from './harness'
let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))
it('look', async () => {
  const all = await nokta.store.list()
  console.log(all.map(t => t.title).join(' | '))
  await openBench(page, nokta, 'Little Bell Round', 'hand')
  await page.waitForTimeout(1500)
  await page.locator(`${test('hand-lane')} .note circle`).nth(5).click()
  await page.waitForTimeout(800)
  await page.screenshot({ path: '/tmp/h1.png' })
  await page.click(test('hand-ways'))
  await page.waitForTimeout(500)
  await page.locator(test('lay')).first().click()
  await page.waitForTimeout(500)
  await page.screenshot({ path: '/tmp/h2.png' })
  await page.click(test('hand-phrase'))
  await page.waitForTimeout(500)
  await page.screenshot({ path: '/tmp/h3.png' })
})

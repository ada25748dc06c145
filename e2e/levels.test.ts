import type { Page } from 'playwright-core'
import { beforeEach, expect, it } from 'vitest'
import { openBench, test } from './browser'
import { saved, useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})
const searched = () =>
  page.waitForFunction(() => !document.querySelector('progress') && document.querySelectorAll('[data-test="key-cell"]').length > 0) // prettier-ignore

it('says what a tune asks for, rung by rung, and lights the notes that ask', async () => {
  await openBench(page, driven.nokta, 'Evening on Quillen Water', 'levels')
  await page.waitForSelector(`${test('grade')} >> text=/Level 4: low 1 in measures 6, 11 and 13/`)
  await page.locator(test('demand'), { hasText: 'low 1' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[data-test="lit"]').length === 3)
  await page.locator(test('demand'), { hasText: 'low 1' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[data-test="lit"]').length === 0)
})

it('tries every key, tells why one is easier, and makes the arrangement with one click', async () => {
  await openBench(page, driven.nokta, 'Evening on Quillen Water', 'levels')
  for (const i of ['viola', 'bass']) await page.locator(test(`with-${i}`)).uncheck()
  await page.click(test('search-keys'))
  await searched()
  await page.waitForSelector(test('common-keys'))
  await page.getByLabel('violin in D major: level 3').click()
  const told = await page.locator(test('key-detail')).textContent()
  expect(told).toMatch(/29 % open strings, 9 crossings, 0 shifts/)
  expect(told).toMatch(/The tune’s own key is level 4 there/)
  await page.click(test('make-arrangement'))
  await page.waitForSelector(`${test('grade')} >> text=/Level 3/`)
  expect(await page.locator(test('arrangement-line')).textContent()).toMatch(/Violin in D major, level 3.*in D major.*level 3/s) // prettier-ignore
  await saved(page)
  await page.keyboard.press('Control+z')
  await page.waitForSelector(`${test('grade')} >> text=/Level 4/`)
})

it('is cancelled at once, and what was found stays', async () => {
  await openBench(page, driven.nokta, 'Four Corners of Ostrey', 'levels')
  await page.locator(test('with-tunings')).check()
  await page.click(test('search-keys'))
  await page.waitForFunction(() => document.querySelectorAll('[data-test="key-cell"]').length > 1)
  await page.click(test('cancel-keys'))
  await page.waitForSelector(test('search-keys'))
  const found = await page.locator(test('key-cell')).count()
  await page.waitForTimeout(500)
  expect(await page.locator(test('key-cell')).count()).toBe(found)
})

it('brings a tune down to level 2, refuses one change, hears it and prints it', async () => {
  await openBench(page, driven.nokta, 'The Tannery Band Steps Out', 'levels')
  await page.waitForSelector(test('ladder'))
  await page.click(test('make-2'))
  await page.waitForSelector(`${test('kept')} >> text=/Kept: \\d+ % of the strong beats/`)
  const changes = page.locator(test('change'))
  const count = await changes.count()
  expect(count).toBeGreaterThan(3)
  expect(await page.locator(test('arrangement-line')).textContent()).toMatch(/Violin, level 2/)
  await changes.first().uncheck()
  await page.waitForSelector(`${test('changes')} >> text=${count - 1} of ${count} taken`)
  await saved(page)
  await page.click(test('play'))
  await page.waitForSelector(test('sounding'))
  await page.click(test('play'))
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('pages')} svg`)
  // The refusal is kept with the recipe.
  await page.click(test('station-levels'))
  await page.waitForSelector(`${test('changes')} >> text=${count - 1} of ${count} taken`)
})

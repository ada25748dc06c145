import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { beforeEach, expect, it } from 'vitest'
import { openBench, pasteTune, test } from './browser'
import { saved, useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})
const searched = () =>
  page.waitForFunction(
    () =>
      !document.querySelector('progress') && document.querySelectorAll('[data-test="key-cell"]').length > 0,
  )

it('says what a tune asks for, rung by rung, and lights the notes that ask', async () => {
  await openBench(page, driven.nokta, 'Evening on Quillen Water', 'levels')
  await page.waitForSelector(
    `${test('grade')} >> text=/Level 5: third position in the pickup and measures 1 to 15/`,
  )
  await page.locator(test('demand'), { hasText: 'high 3' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[data-test="lit"]').length === 1)
  await page.locator(test('demand'), { hasText: 'high 3' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[data-test="lit"]').length === 0)
})

it('tries every key, tells why one is easier, and makes the arrangement with one click', async () => {
  await openBench(page, driven.nokta, 'Evening on Quillen Water', 'levels')
  for (const i of ['viola', 'bass']) await page.locator(test(`with-${i}`)).uncheck()
  await page.click(test('search-keys'))
  await searched()
  await page.waitForSelector(test('common-keys'))
  // The best few of each instrument, with the reason.
  await page.click(`${test('best-key')} >> text=/level 3, /`)
  await page.waitForSelector(`${test('key-detail')} >> text=/Make this arrangement/`)
  await page.getByLabel('violin in D major: level 3').click()
  const told = await page.locator(test('key-detail')).textContent()
  expect(told).toMatch(/\d+% open strings, \d+ crossings, 0 shifts/)
  expect(told).toMatch(/The tune’s own key is level 4 there/)
  await page.click(test('make-arrangement'))
  await page.waitForSelector(`${test('grade')} >> text=/Level 3/`)
  await expect
    .poll(() => page.locator(test('arrangement-line')).textContent())
    .toMatch(/Violin in D major, level 3.*in D major.*level 3/s)
  await saved(page)
  await page.keyboard.press('Control+z')
  await page.waitForSelector(`${test('grade')} >> text=/Level 5/`)
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
  await expect.poll(() => page.locator(test('key-cell')).count()).toBe(found)
})

it('brings a tune down to level 2, refuses one change, hears it and prints it', async () => {
  await page.addInitScript(() =>
    localStorage.setItem('nokta.player', JSON.stringify({ tempo: 200, countIn: 'none' })),
  )
  await openBench(page, driven.nokta, 'The Tannery Band Steps Out', 'levels')
  await page.waitForSelector(test('ladder'))
  await page.click(test('make-2'))
  await page.waitForSelector(`${test('kept')} >> text=/Kept: \\d+% of the strong beats/`)
  await page.waitForSelector(`${test('slower')} >> text=/Slower: quarter = \\d+ instead of 100/`)
  const changes = page.locator(test('change'))
  const count = await changes.count()
  expect(count).toBeGreaterThan(3)
  await expect.poll(() => page.locator(test('arrangement-line')).textContent()).toMatch(/Violin, level 2/)
  await changes.first().uncheck()
  await page.waitForSelector(`${test('changes')} >> text=${count - 1} of ${count} taken`)
  await saved(page)
  // Phrase by phrase, first as it is, then as it is here.
  await page.check(test('under'))
  await page.waitForSelector('.system.grey')
  // No line of either is blank, nor when it is drawn anew.
  const blank = page.locator('.system .ink:not(:has(svg))')
  await expect.poll(() => blank.count()).toBe(0)
  await page.setViewportSize({ width: 1279, height: 800 })
  await page.setViewportSize({ width: 1280, height: 800 })
  await expect.poll(() => blank.count()).toBe(0)
  await page.click(test('hear-difference'))
  await page.waitForSelector(`${test('count')} >> text=/A1 as it is/`)
  await page.waitForSelector(`${test('count')} >> text=/A1 here/`)
  await page.getByText('Stop', { exact: true }).click()
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('pages')} svg`)
  // The refusal is kept with the recipe.
  await page.click(test('station-levels'))
  await page.waitForSelector(`${test('changes')} >> text=${count - 1} of ${count} taken`)
})

it('offers a measure otherwise, to be heard and taken, another version, and its slurs left out', async () => {
  await page.addInitScript(() =>
    localStorage.setItem('nokta.player', JSON.stringify({ tempo: 200, countIn: 'none' })),
  )
  await pasteTune(
    page,
    driven.nokta,
    'X:1\nT:Three Buckets to the Well\nM:4/4\nL:1/8\nQ:1/4=160\nK:D\nF2 AF DFAF|G2 BG EGBG|cABc d2 AG|G2 FE D4|\nf2 af dfaf|gfed c2 de|dcBA G2 FE|G2 FE D4|]\n',
  )
  await page.click(test('station-levels'))
  await page.waitForSelector(test('ladder'))
  await page.click(test('make-2'))
  await page.waitForSelector(test('changes'))
  const list = () => page.locator(test('changes')).innerText()
  const first = await list()
  await page.locator(test('otherwise')).first().click()
  await page.waitForSelector(test('take-choice'))
  await page.locator(test('hear-choice')).first().click()
  await page.waitForSelector(`${test('count')} >> text=/this measure/`)
  await page.getByText('Stop', { exact: true }).click()
  await page.locator(test('take-choice')).first().click()
  await expect.poll(list).not.toBe(first)
  const chosen = await list()
  await page.click(test('another'))
  await expect.poll(list).not.toBe(chosen)
  await page.waitForSelector(test('added-slurs'))
  await page.click(test('without-slurs'))
  await page.waitForSelector(`${test('added-slurs')} >> text=/^0 slurs/`)
  await page.click(test('without-slurs'))
  await page.waitForSelector(`${test('added-slurs')} >> text=/leave them out/`)
  await saved(page)
})

it('takes a tune nobody has seen to the cello at level 2: pasted, one change refused, heard, printed', async () => {
  await page.addInitScript(() =>
    localStorage.setItem('nokta.player', JSON.stringify({ tempo: 200, countIn: 'none' })),
  )
  await pasteTune(
    page,
    driven.nokta,
    'X:1\nT:Kestrel over the Quarry\nM:4/4\nL:1/8\nQ:1/4=96\nK:G\nD|"G"G>AB>c d2 Bd|"Am"cBAG "D"F2 A2|"G"GABc "C"e2 g2|"D"fdef "G"g3D|\n' +
      '"G"G>AB>c d2 Bd|"C"e2 ^c2 "D"d2 A2|"Em"BAGB "D"AGFA|"G"G6|]\n',
  )
  await page.click(test('arrangement'))
  await page.click(test('add-cello'))
  await page.keyboard.press('Escape')
  await page.click(test('station-levels'))
  await page.waitForSelector(test('ladder'))
  await page.click(test('make-2'))
  await page.waitForSelector(`${test('kept')} >> text=/Kept: \\d+% of the strong beats/`)
  await expect.poll(() => page.locator(test('arrangement-line')).textContent()).toMatch(/level 2/)
  await expect.poll(() => page.locator(test('arrangement-line')).textContent()).toMatch(/cello/i)
  const count = await page.locator(test('change')).count()
  expect(count).toBeGreaterThan(2)
  await page.locator(test('change')).first().uncheck()
  await page.waitForSelector(`${test('changes')} >> text=${count - 1} of ${count} taken`)
  await page.click(test('hear-difference'))
  await page.waitForSelector(`${test('count')} >> text=/A1 as it is/`)
  await page.waitForSelector(`${test('count')} >> text=/A1 here/`)
  await page.getByText('Stop', { exact: true }).click()
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('pages')} >> text=Kestrel over the Quarry`)
  const [file] = await Promise.all([page.waitForEvent('download'), page.click(test('pdf'))])
  expect(
    readFileSync(await file.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-')
})

it('leaves out a part that asks for too much, says so, and has it back', async () => {
  await openBench(page, driven.nokta, 'Brindlewick Bridge', 'levels')
  await page.waitForSelector(test('ladder'))
  await page.getByRole('tab', { name: 'The version' }).click()
  const notes = () => page.locator('.vf-notehead').count()
  await page.waitForSelector(test('part-B'))
  const all = await notes()
  await page.locator(test('part-B')).uncheck()
  await page.waitForSelector(`${test('changes')} >> text=/left out/`)
  await expect.poll(notes).toBeLessThan(all)
  await page.waitForSelector(`${test('part-A')}:disabled`)
  await expect.poll(() => page.locator(test('left-out')).textContent()).toMatch(/^without .*measures? \d+/)
  await saved(page)
  // A version is made of what is played, and the part stays out of it.
  await page.click(test('levels-asks'))
  await page.click(test('make-2'))
  await page.waitForSelector(test('kept'))
  await page.waitForSelector(`${test('part-B')}:not(:checked)`)
  // Refused like any other change, it is played again.
  await page.locator(test('change')).first().uncheck()
  await page.waitForFunction(() => !document.querySelector('[data-test="left-out"]'))
  await page.waitForSelector(`${test('part-B')}:checked`)
})

it('adds more to a tune, plain the first time through, and takes it back', async () => {
  await openBench(page, driven.nokta, 'Skylark over Hethering', 'levels')
  await page.click(test('levels-version'))
  await page.click(test('fancier'))
  await page.waitForSelector(`${test('changes')} >> text=/an open string rings with|a cut on|is played too/`)
  const count = await page.locator(test('change')).count()
  expect(count).toBeGreaterThan(2)
  await page.click(test('through-1'))
  await page.waitForSelector(`${test('through-1')}[aria-checked="true"]`)
  await page.click(test('hear-times'))
  await page.waitForSelector(`${test('count')} >> text=/first: plain/`)
  await page.getByText('stop', { exact: true }).click()
  await page.waitForSelector(test('hear-times'))
  await page.click(test('no-spice'))
  await page.waitForSelector(test('changes'), { state: 'detached' })
  await page.keyboard.press('Control+z')
  await page.waitForSelector(test('changes'))
})

it('keeps a learner, tells what a tune asks of them, and erases them for good', async () => {
  await page.goto(`${driven.nokta.url}/learners`)
  await page.fill(`${test('learner-name')} input`, 'Q. W.')
  await page.click(test('add-learner'))
  await page.waitForSelector(test('about-learner'))
  await page.click(test('skill-low2'))
  await page.waitForSelector(`${test('skill-low2')}[aria-label="low 2: known"]`)
  await page.goto(driven.nokta.url)
  await page.click(test('within-reach'))
  await page.getByRole('option', { name: 'Q. W.' }).click()
  await page.waitForFunction(() =>
    /^\d+ of \d+$/.test(document.querySelector('[data-test="found"]')!.textContent!.trim()),
  )
  await openBench(page, driven.nokta, 'Kiln Yard Polska', 'levels')
  await page.click(test('levels-version'))
  await page.click(test('for-learner'))
  await page.getByRole('option', { name: 'Q. W., violin' }).click()
  await page.waitForSelector(`${test('fit')} >> text=/New for Q. W.: /`)
  await page.goto(`${driven.nokta.url}/learners`)
  await page.click(test('learner'))
  await page.click(test('erase-learner'))
  await page.click(test('erase-sure'))
  await page.waitForSelector(test('learner'), { state: 'detached' })
  const { studio } = (await (await page.request.get(`${driven.nokta.url}/api/v1/studio`)).json()) as {
    studio: { learners: unknown[] }
  }
  expect(studio.learners).toEqual([])
})

it('puts a skill on another rung of the studio’s own ladder', async () => {
  await openBench(page, driven.nokta, 'Evening on Quillen Water', 'levels')
  await page.waitForSelector(`${test('grade')} >> text=/Level 5/`)
  await page.locator(test('demand'), { hasText: 'third position' }).click()
  await page.click(test('move-skill'))
  await page.getByRole('option', { name: 'level 2' }).click()
  await page.waitForSelector(`${test('grade')} >> text=/Level 3/`)
})

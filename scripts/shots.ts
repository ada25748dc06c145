import { mkdirSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Page } from 'playwright-core'
import { launch, openBench, openPage, serve, test, VIEWPORT } from '../e2e/browser'

const folder = fileURLToPath(new URL('../docs/screenshots', import.meta.url))
mkdirSync(folder, { recursive: true })
for (const old of readdirSync(folder)) if (old.endsWith('.png')) rmSync(join(folder, old))

const [nokta, browser] = await Promise.all([serve(), launch()])
const faults: string[] = []
const { page } = await openPage(browser, faults)

async function shot(name: string, prepare: (page: Page) => Promise<void>) {
  await page.setViewportSize(VIEWPORT)
  await prepare(page)
  await page.waitForTimeout(700)
  await page.screenshot({ path: join(folder, `${name}.png`) })
  console.log(`docs/screenshots/${name}.png`)
}
const note = (lane: string, n: number) =>
  page
    .locator(`${test(lane)} .note circle`)
    .nth(n)
    .click()

await shot('shelf', async p => {
  await p.goto(nokta.url)
  await p.waitForSelector(test('tune-row'))
})
await shot('booklet', async p => {
  await p.goto(nokta.url)
  for (const title of [
    'Little Bell Round',
    'Goose Gate Jog',
    'Evening on Quillen Water',
    'Brindlewick Bridge',
    'The Crooked Stile',
  ]) {
    await p.locator(test('tune-row'), { hasText: title }).locator(test('tick')).check()
  }
  await p.click(test('to-booklet'))
  await p.fill(`${test('booklet-title')} input`, 'Autumn at Ostrey Vale')
  await p.fill(`${test('booklet-about')} input`, 'The Saturday group, first term')
  await p.keyboard.press('Tab')
  await p.waitForFunction(() => document.querySelectorAll('.paper > svg').length === 6)
})
await shot('tune', async p => {
  await openBench(p, nokta, 'The Heron on Saltmarsh Lane', 'tune')
  await p.waitForSelector('.cm-content')
  await p.click(test('write'))
  await p
    .locator(`${test('score')} .system`)
    .first()
    .click({ position: { x: 200, y: 60 } })
  await p.keyboard.press('Shift+ArrowRight')
  await p.keyboard.press('Shift+ArrowRight')
})
await shot('tune-spoken', async p => {
  await p.click(test('pane-spoken'))
  await p.click(test('board'))
  await p.waitForSelector(test('spoken'))
})
await shot('tune-watch', async p => {
  await openBench(p, nokta, 'The Tannery Band Steps Out', 'tune')
  await p.click(test('pane-watch'))
  await p.waitForSelector(test('watch'))
  for (const n of [0, 1, 2, 3, 4])
    await p
      .locator(`${test('watch')} .chips button`)
      .nth(n)
      .click()
})
await shot('form', async p => {
  await openBench(p, nokta, 'Four Corners of Ostrey', 'form')
  await p
    .locator(`.quilt ${test('phrase')}`)
    .nth(1)
    .click()
  await p.waitForSelector(`${test('compare')} svg`)
})
await shot('form-learn', async p => {
  await openBench(p, nokta, 'Brindlewick Bridge', 'form')
  await p.click(test('form-learn'))
  await p.waitForSelector(test('new-material'))
})
await shot('hand-playing', async p => {
  await openBench(p, nokta, 'The Tannery Band Steps Out', 'hand')
  await note('hand-lane', 2)
  await p.keyboard.press('4')
  await p.evaluate(() => localStorage.setItem('nokta.silent', '1'))
  await p.locator(test('phrase')).nth(1).click()
  await p.click(test('play'))
  await p.waitForSelector(test('sounding'))
  await p.waitForTimeout(1500)
})
await shot('hand-cello', async p => {
  await p.click(test('play'))
  await openBench(p, nokta, 'Kiln Yard Polska', 'hand')
  await note('hand-lane', 5)
})
await shot('hand-ways', async p => {
  await openBench(p, nokta, 'Low Barn Stomp', 'hand')
  await p.click(test('hand-ways'))
  await p.locator(test('lay')).nth(1).click()
  await p.waitForSelector(test('ghost'))
})
await shot('instruments', async p => {
  await p.goto(`${nokta.url}/instruments`)
  await p.fill(`${test('hand-name')} input`, 'Wren')
  await p.fill(`${test('hand-span')} input`, '66')
  await p.click(test('add-hand'))
  await p.waitForSelector(test('hand-row'))
  await p.fill(`${test('retune-to')} input`, 'A3 E4 A4 E5')
  await p.setViewportSize({ width: VIEWPORT.width, height: 1240 })
  await p.click(test('simulate'))
  await p.waitForSelector(`${test('advice')}:has-text("cents")`)
})
await shot('bow', async p => {
  await openBench(p, nokta, 'Goose Gate Jog', 'bow')
  await p.locator(test('mend')).first().hover()
  await p.waitForSelector(`${test('tried')} line`)
})
await shot('bow-pattern', async p => {
  await openBench(p, nokta, 'Brindlewick Bridge', 'bow')
  await p.click(test('bow-school'))
  await p.click(test('school-pattern'))
  await p.click(test('groove-2-1-1'))
  await p.waitForSelector('.stroke.added')
  await p.locator('.side').evaluate(side => side.scrollTo(0, 150))
})
await shot('levels', async p => {
  await openBench(p, nokta, 'Evening on Quillen Water', 'levels')
  await p.locator(test('demand')).first().click()
  await p.click(test('search-keys'))
  await p.waitForFunction(() => !document.querySelector('progress'))
  await p.getByLabel('violin in D major: level 3').click()
})
await shot('levels-version', async p => {
  await openBench(p, nokta, 'Evening on Quillen Water', 'levels')
  await p.click(test('levels-version'))
  await p.click(test('fancier'))
  await p.waitForSelector(test('kept'))
  await p.check(test('under'))
  await p.waitForSelector('.system.grey')
})
await shot('learners', async p => {
  await p.goto(`${nokta.url}/learners`)
  for (const name of ['Pip', 'O. B.', 'M. K.']) {
    await p.fill(`${test('learner-name')} input`, name)
    await p.click(test('add-learner'))
    await p.waitForSelector(`${test('about-learner')}[aria-label="${name}"]`)
  }
  await p.click(test('learner-level'))
  await p.getByRole('option', { name: 'level 2' }).click()
  await p.click(test('skill-four'))
  await p.click(test('skill-four'))
  await p.evaluate(() => scrollTo(0, 0))
})
await shot('sheet', async p => {
  await openBench(p, nokta, 'Evening on Quillen Water', 'sheet')
  await p.locator(test('style'), { hasText: 'First year' }).click()
  await p.setViewportSize({ width: VIEWPORT.width, height: 1240 })
  await p.waitForSelector(`${test('pages')} >> text=/The notes of this tune/`)
})
await shot('sheet-tab', async p => {
  await openBench(p, nokta, 'Brindlewick Bridge', 'sheet')
  await p.click(test('sheet-music'))
  await p.getByRole('option', { name: 'tab alone' }).click()
  for (const kind of ['cards', 'grid']) await p.check(test(`kind-${kind}`))
  await p.click(test('zoom'))
  await p.getByRole('option', { name: 'two side by side' }).click()
})
await shot('hand-dark', async p => {
  await openBench(p, nokta, 'The Ninepin Ring', 'hand')
  await p.getByLabel('Dark colours').click()
  await note('hand-lane', 4)
})
await browser.close()
await nokta.stop()
if (faults.length > 0) throw new Error(faults.join('\n'))

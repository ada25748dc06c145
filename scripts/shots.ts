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
await shot('add-a-tune', async p => {
  await p.click(test('add'))
  await p
    .locator(`${test('paste')} textarea`)
    .first()
    .fill('X:1\nT:A Walk to Ostrey\nM:6/8\nL:1/8\nK:G\n|:D|G2B d2B|c2A F2D|G2B d2g|f3 g3 a:|\n')
  await p.waitForSelector(test('findings'))
})
await shot('tune', p => openBench(p, nokta, 'The Heron on Saltmarsh Lane', 'tune'))
await shot('form', async p => {
  await openBench(p, nokta, 'Four Corners of Ostrey', 'form')
  await p
    .locator(`.quilt ${test('phrase')}`)
    .nth(1)
    .click()
})
await shot('hand', async p => {
  await openBench(p, nokta, 'The Tannery Band Steps Out', 'hand')
  await note('hand-lane', 2)
  await p.keyboard.press('4')
})
await shot('hand-cello', async p => {
  await openBench(p, nokta, 'Kiln Yard Polska', 'hand')
  await note('hand-lane', 5)
})
await shot('bow', async p => {
  await openBench(p, nokta, 'Brindlewick Bridge', 'bow')
  await p
    .locator(`${test('bow-lane')} .stroke .hit`)
    .nth(3)
    .click({ force: true })
  await p.click(test('slur'))
})
await shot('sheet', async p => {
  await openBench(p, nokta, 'Evening on Quillen Water', 'sheet')
  await p.setViewportSize({ width: VIEWPORT.width, height: 1240 })
})
await shot('hand-dark', async p => {
  await openBench(p, nokta, 'The Ninepin Ring', 'hand')
  await p.getByLabel('Dark colours').click()
  await note('hand-lane', 4)
})
await browser.close()
await nokta.stop()
if (faults.length > 0) throw new Error(faults.join('\n'))

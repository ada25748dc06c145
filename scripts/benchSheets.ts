/**
 * The budgets of paper, part of `npm run bench`: a sheet drawn anew after a choice, its PDF, and a whole
 * shelf of sheets as one zip.
 */
import { readFileSync } from 'node:fs'
import { unzipSync } from 'fflate'
import { launch, openBench, openPage, serve, test } from '../e2e/browser'
import { middle, rowOf } from './benchRows'

/** Sheets whose time the budget speaks of. */
const SHEETS = 32

const [nokta, browser] = await Promise.all([serve(), launch()])
const { page } = await openPage(browser, [])
console.log('\n    median     ratio       budget')

await openBench(page, nokta, 'Four Corners of Ostrey', 'sheet')
const pages = `${test('pages')} .drawn > svg`
await page.waitForFunction(at => document.querySelectorAll(at).length > 0, pages)
// What is drawn lazily (chords, numbers) is asked for once before it is timed.
const redrawn = () =>
  page.evaluate(
    async ([at, tick]) => {
      const first = document.querySelector(at!)
      const from = performance.now()
      ;(document.querySelector(tick!) as HTMLInputElement).click()
      while (document.querySelector(at!) === first || !document.querySelector(at!))
        await new Promise(done => requestAnimationFrame(done))
      return performance.now() - from
    },
    [pages, test('show-numbers')],
  )
await redrawn()
await page.waitForTimeout(500)
const redraws: number[] = []
for (let i = 0; i < 9; i++) {
  redraws.push(await redrawn())
  await page.waitForTimeout(300)
}
const count = await page.locator(pages).count()
rowOf(
  `sheet of ${count} ${count === 1 ? 'page' : 'pages'} drawn anew after a choice`,
  middle(redraws),
  '150 ms',
)

async function download(what: string): Promise<{ ms: number; path: string }> {
  const from = performance.now()
  const [file] = await Promise.all([
    page.waitForEvent('download', { timeout: 120_000 }),
    page.click(test(what)),
  ])
  const path = await file.path()
  return { ms: performance.now() - from, path }
}
await download('pdf')
const pdfs: number[] = []
for (let i = 0; i < 3; i++) pdfs.push((await download('pdf')).ms)
rowOf('its PDF', middle(pdfs), '1000 ms')

await page.goto(nokta.url)
await page.waitForSelector(test('tune-row'))
for (const tick of await page.locator(test('tick')).all()) await tick.check()
await page.click(test('to-booklet'))
await page.waitForFunction(
  at => document.querySelectorAll(at).length > 10,
  `${test('booklet-pages')} .paper > svg`,
)
await page.click('summary')
await page.check(test('zip-all'))
for (const style of (await page.locator('fieldset input').all()).slice(0, 2)) await style.check()
const zip = await download('booklet-zip')
const sheets = Object.keys(unzipSync(new Uint8Array(readFileSync(zip.path)))).length
rowOf(
  `${SHEETS} sheets as PDF in one zip (${sheets} took ${(zip.ms / 1000).toFixed(1)} s)`,
  (zip.ms * SHEETS) / sheets,
  '20000 ms',
)
await browser.close()
await nokta.stop()
process.exit(0)

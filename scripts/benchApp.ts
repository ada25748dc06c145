/** The budgets of server and app, measured on a running one. Ratios are to an empty request of the same server, or of the same page. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { Page } from 'playwright-core'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { paths } from '#contract/api'
import { demoSource } from '#demo/fillShelf'
import { launch, openBench, openPage, serve, test } from '../e2e/browser'

const middle = (times: number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!
async function median(work: () => Promise<unknown>, runs: number): Promise<number> {
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const start = performance.now()
    await work()
    times.push(performance.now() - start)
  }
  return middle(times)
}
const row = (name: string, value: string, ratio: number | null, budget: string) =>
  console.log(
    `${value.padStart(10)}   ${(ratio === null ? '–' : ratio.toFixed(1)).padStart(7)}   ${budget.padStart(10)}   ${name}`,
  )

const data = mkdtempSync(join(tmpdir(), 'nokta-bench-'))
let nokta = await serve({ data })
console.log('\n    median     ratio       budget')

// Server
/** A kept-alive connection may have been closed while the bench was busy: it is opened anew once. */
const get = (path: string) => {
  const once = () => fetch(nokta.url + path).then(r => r.text())
  return once().catch(once)
}
const empty = await median(() => get(paths.health), 50)
const { tune } = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!
const recipe = newArrangement('violin', 'full')
await nokta.stop()
const started = performance.now()
nokta = await serve({ data })
row('server start with existing data', `${(performance.now() - started).toFixed(0)} ms`, null, '3000 ms')

const first = await nokta.store.create(null, tune, [recipe])
const save = async (version: number) => {
  const body = JSON.stringify({ version, source: null, tune: { ...tune, title: `Saved ${version}` } })
  await fetch(nokta.url + paths.tune(first.id), {
    method: 'PUT',
    body,
    headers: { 'Content-Type': 'application/json' },
  })
}
const memory = () => {
  gc?.()
  return process.memoryUsage().rss / 2 ** 20
}
for (let v = 1; v <= 200; v++) await save(v)
let before = memory()
for (const thousand of ['first', 'second', 'third']) {
  const from = { first: 201, second: 1201, third: 2201 }[thousand]!
  for (let v = from; v < from + 1000; v++) await save(v)
  const now = memory()
  row(
    `memory of the server, ${thousand} 1,000 saves`,
    `${now < before ? '' : '+'}${(now - before).toFixed(0)} MB`,
    null,
    'flat',
  )
  before = now
}

while ((await nokta.store.list()).length < 5000) {
  await Promise.all(
    Array.from({ length: 50 }, (_, i) => nokta.store.create(null, { ...tune, title: `Tune ${i}` }, [recipe])),
  )
}
const list = await median(() => get(paths.tunes), 9)
row('list of 5,000 tunes', `${list.toFixed(1)} ms`, list / empty, '50 ms')
await nokta.stop()
rmSync(data, { recursive: true, force: true })

// App
nokta = await serve()
const browser = await launch()
const opens: number[] = []
let bytes = 0
for (let i = 0; i < 5; i++) {
  const { page, context } = await openPage(browser, [])
  const scripts: Promise<number>[] = []
  page.on('response', r => {
    if (r.url().endsWith('.js'))
      scripts.push(
        r.body().then(
          b => gzipSync(b).length,
          () => 0,
        ),
      )
  })
  await openBench(page, nokta, 'Brindlewick Bridge', 'hand')
  const url = page.url()
  await context.close()
  const cold = await openPage(browser, [])
  const start = performance.now()
  await cold.page.goto(url)
  await cold.page.waitForSelector(`${test('score')} svg .vf-notehead`)
  opens.push(performance.now() - start)
  await cold.context.close()
  bytes = (await Promise.all(scripts)).reduce((a, b) => a + b, 0)
}
row('open the app on a usable bench, cold', `${middle(opens).toFixed(0)} ms`, null, '1000 ms')

const { page } = await openPage(browser, [])
let painted = 0
page.on('response', r => {
  if (r.url().endsWith('.js'))
    void r.body().then(
      b => (painted += gzipSync(b).length),
      () => 0,
    )
})
await page.goto(nokta.url)
await page.waitForSelector(test('tune-row'))
await page.waitForTimeout(300)
row('JS before the first paint of the shelf, gzip', `${(painted / 1024).toFixed(0)} kB`, null, '350 kB')
row('JS of a whole open bench, gzip, workers too', `${(bytes / 1024).toFixed(0)} kB`, null, '–')

const draws = (p: Page) => p.evaluate(() => performance.getEntriesByName('nokta:draw').map(e => e.duration))
const whole: number[] = []
for (let i = 0; i < 5; i++) {
  await openBench(page, nokta, 'Four Corners of Ostrey', 'hand')
  await page.waitForSelector(`${test('score')} svg .vf-notehead`)
  whole.push((await draws(page))[0]!)
}
row('draw a tune of 32 written measures', `${middle(whole).toFixed(0)} ms`, null, '120 ms')
await page
  .locator(`${test('hand-lane')} .note circle`)
  .nth(5)
  .click()
const redraws: number[] = []
for (const key of ['s', 's', 's', 's', 's', 's', 's']) {
  const before = (await draws(page)).length
  await page.keyboard.press(key)
  await page.waitForTimeout(300)
  // The longest: drawings in which nothing changed are free.
  redraws.push(Math.max(...(await draws(page)).slice(before)))
}
row('redraw after an edit (a slur on, off)', `${middle(redraws).toFixed(0)} ms`, null, '30 ms')
await browser.close()
await nokta.stop()

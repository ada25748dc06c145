/**
 * The budgets of server and app, measured on a running one. Ratios are to an empty request of the same
 * server, or of the same page.
 */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { Page } from 'playwright-core'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { urlOf } from '#contract/api'

import { demoSource } from '#demo/fillShelf'
import { launch, openBench, openPage, serve, test } from '../e2e/browser'
import { levelsStation } from './benchLevelsStation'
import { middle, row, seen, WINDOW_BUILT } from './benchRows'

async function median(work: () => Promise<unknown>, runs: number): Promise<number> {
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const start = performance.now()
    await work()
    times.push(performance.now() - start)
  }
  return middle(times)
}
const data = mkdtempSync(join(tmpdir(), 'nokta-bench-'))
let nokta = await serve({ data })
console.log('\n    median     ratio       budget')

// Server
/** A kept-alive connection may have been closed while the bench was busy: it is opened anew once. */
const get = (path: string) => {
  const once = () => fetch(nokta.url + path).then(r => r.text())
  return once().catch(once)
}
const empty = await median(() => get(urlOf('health')), 50)
const { tune } = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!
const recipe = newArrangement('violin', 'full')
await nokta.stop()
const started = performance.now()
nokta = await serve({ data })
row('server start with existing data', `${(performance.now() - started).toFixed(0)} ms`, null, '3000 ms')

const first = await nokta.shelf.create(null, tune, [recipe])
const save = async (version: number) => {
  const saved = { version, source: null, tune: { ...tune, title: `Saved ${version}` } }
  const body = JSON.stringify({ tune: saved, arrangements: [], removed: [] })
  await fetch(nokta.url + urlOf('tune', { id: first.id }), {
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

const kinds = ['reel', 'jig', 'waltz', 'air']
while ((await nokta.shelf.list()).length < 5000) {
  const many = Array.from({ length: 250 }, (_, i) => ({
    source: null,
    tune: { ...tune, title: `Tune ${i}`, kind: kinds[i % 4]! },
    arrangements: [{ id: 'a', arrangement: recipe }],
  }))
  await nokta.shelf.createAll(many)
}
const list = await median(() => get(urlOf('shelf', {}, {})), 9)
const kinPath = urlOf('kin', { id: first.id })
const kinBody = { method: 'POST', body: '{"boundaries":{}}', headers: { 'Content-Type': 'application/json' } }
const kin = await median(() => fetch(nokta.url + kinPath, kinBody).then(r => r.text()), 15)
row('kin of its phrases among 5,000 tunes', `${kin.toFixed(1)} ms`, kin / empty, '50 ms')
row(
  'first page of 5,000 tunes, with the counts for the filters',
  `${list.toFixed(1)} ms`,
  list / empty,
  '50 ms',
)
const sought = await median(
  () => get(urlOf('shelf', {}, { search: 'tune 12', kind: 'jig', sort: 'changed' })),
  9,
)
row('search, filter and sort them', `${sought.toFixed(1)} ms`, sought / empty, '50 ms')
await nokta.stop()
rmSync(data, { recursive: true, force: true })

// App
nokta = await serve()
const browser = await launch()

/**
 * How many requests for scripts, styles and the tune had to wait for one another: the longest row of them in
 * which each began after the one before had ended.
 */
const wavesOf = (p: Page) =>
  p.evaluate(() => {
    const asked = performance
      .getEntriesByType('resource')
      .filter(e => /\.(js|css)$|\/api\/v1\/tunes\//.test(e.name) && e.duration > 0)
      .map(e => ({ from: e.startTime, to: e.startTime + e.duration }))
      .sort((a, b) => a.to - b.to)
    let [waves, end] = [0, -1]
    for (const { from, to } of asked) {
      if (from < end) continue
      waves++
      end = to
    }
    return waves
  })
const opens: number[] = []
const shelves: number[] = []
const waves: number[] = []
let bytes = 0
await (await openPage(browser, [])).context.close()
const [benchId] = (await nokta.shelf.list()).filter(t => t.title === 'Brindlewick Bridge').map(t => t.id)
/**
 * Opens an address in a window that is there and has never seen it, nothing cached; gives the milliseconds
 * until something is there.
 */
async function coldly(
  path: string,
  there: string,
  look: (p: Page) => Promise<unknown> = () => Promise.resolve(),
) {
  const cold = await openPage(browser, [])
  await cold.page.waitForTimeout(WINDOW_BUILT)
  const start = performance.now()
  await cold.page.goto(nokta.url + path)
  await seen(cold.page, there)
  const took = performance.now() - start
  await look(cold.page)
  await cold.context.close()
  return took
}
for (let i = 0; i < 9; i++) {
  opens.push(
    await coldly(`/tunes/${benchId}/hand`, `${test('score')} svg .vf-notehead`, async p => {
      waves.push(await wavesOf(p))
    }),
  )
  shelves.push(await coldly('', test('tune-row')))
}
{
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
  bytes = (await Promise.all(scripts)).reduce((a, b) => a + b, 0)
  await context.close()
}
const ratio = middle(opens) / middle(shelves)
row('open the app on the shelf, cold', `${middle(shelves).toFixed(0)} ms`, null, '–')
row('open the app on a usable bench, cold', `${middle(opens).toFixed(0)} ms`, null, '1000 ms')
row('  as a ratio to the shelf in the same run', ratio.toFixed(2), null, '–')
row('  waves of scripts, styles and the tune, one after another', String(middle(waves)), null, '–')

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

await levelsStation(browser, nokta)

// The Tune station: typing, importing, listening
const bar = '"G"G2BG D2GB|"C"c2ec "D"A2FA|'
const longTune = `X:1\nT:Sixty-four bars\nM:4/4\nL:1/8\nK:G\n${Array.from({ length: 32 }, (_, i) => bar + (i % 4 === 3 ? '\n' : '')).join('')}`
const made = await nokta.shelf.create(longTune, readAbc(longTune).tunes[0]!.tune, [recipe])
await page.goto(`${nokta.url}/tunes/${made.id}/tune`)
await page.waitForSelector(`${test('score')} svg .vf-notehead`)
await page.click('.cm-content')
await page.keyboard.press('Control+End')
await page.evaluate(() => window.addEventListener('keydown', () => performance.mark('key'), true))
const typed: number[] = []
for (const key of [
  'G',
  '2',
  'A',
  '2',
  'B',
  '2',
  'c',
  '2',
  'd',
  '2',
  'e',
  '2',
  'f',
  '2',
  'g',
  '2',
  'a',
  '2',
  'b',
  '2',
]) {
  const from = (await draws(page)).length
  await page.keyboard.press(key)
  await page.waitForFunction(n => performance.getEntriesByName('nokta:draw').length > n, from)
  await page.waitForTimeout(250)
  typed.push(
    await page.evaluate(n => {
      const pressed = performance.getEntriesByName('key').at(-1)!.startTime
      const drawn = performance
        .getEntriesByName('nokta:draw')
        .slice(n)
        .map(e => e.startTime + e.duration)
      return Math.max(...drawn) - pressed
    }, from),
  )
}
row(
  'a key typed in the source of 64 bars to the score redrawn',
  `${middle(typed).toFixed(0)} ms`,
  null,
  '100 ms',
)

const steps = ['2', '1', '-1', '-2', '3', '0']
const letters = 'CDEFGABcdefgab'
const melody = (n: number) =>
  Array.from(
    { length: 16 },
    (_, b) =>
      Array.from(
        { length: 8 },
        (_, k) => letters[Math.abs((n * 7 + b * 3 + k * Number(steps[(n + b + k) % 6])) % 14)],
      ).join('') + '|',
  ).join('')
const book = Array.from(
  { length: 200 },
  (_, n) => `X:${n + 1}\nT:Book tune ${n + 1}\nR:reel\nM:4/4\nL:1/8\nK:D\n${melody(n)}\n`,
).join('\n')
await page.goto(nokta.url)
await page.click(test('add'))
/** Milliseconds by the page's own clock from a change it makes until a text stands in it. */
const until = (text: string) =>
  page.evaluate(async text => {
    const from = performance.now()
    while (!document.body.textContent.includes(text)) await new Promise(r => setTimeout(r, 5))
    return performance.now() - from
  }, text)
const file = { name: 'book.abc', mimeType: 'text/plain', buffer: Buffer.from(book) }
const [, readBook] = await Promise.all([page.setInputFiles(test('file'), file), until('of 200 chosen')])
if (await page.locator('text=all of them').count()) await page.click('text=all of them')
await page.locator(test('take')).evaluate(e => setTimeout(() => (e as HTMLElement).click()))
const putBook = await until('tunes are on the shelf')
row('read a book of 200 tunes and compare it with the shelf', `${readBook.toFixed(0)} ms`, null, '–')
row('  put them all on the shelf', `${putBook.toFixed(0)} ms`, null, '–')
row('  both', `${(readBook + putBook).toFixed(0)} ms`, null, '3000 ms')

await page.evaluate(() => localStorage.setItem('nokta.silent', '1'))
await openBench(page, nokta, 'Brindlewick Bridge', 'hand')
await page.fill(`${test('play-tempo')} input`, '150')
await page.click(test('play'))
await page.waitForTimeout(12_000)
const late = await page.evaluate(() =>
  performance.getEntriesByName('nokta:cursor').map(e => (e as PerformanceMark).detail as number),
)
row(`the mark after the sound, over ${late.length} notes`, `${middle(late).toFixed(0)} ms`, null, '30 ms')
row('  the latest of them', `${Math.max(...late).toFixed(0)} ms`, null, '30 ms')
await browser.close()
await nokta.stop()

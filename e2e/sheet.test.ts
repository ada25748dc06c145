import { readFileSync } from 'node:fs'
import type { Download, Page } from 'playwright-core'
import { unzipSync } from 'fflate'
import { beforeEach, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { openBench, pasteTune, test } from './browser'
import { saved, useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})
const open = async (title: string) => {
  await openBench(page, driven.nokta, title, 'sheet')
  await page.waitForSelector(`${test('pages')} svg`)
}
const words = () => page.locator(test('pages')).textContent()
const choose = async (what: string, option: string) => {
  await page.click(test(what))
  await page.getByRole('option', { name: option, exact: true }).click()
}
const style = (name: string) => page.locator(test('style'), { hasText: name }).click()
const told = (text: RegExp) => page.waitForSelector(`${test('pages')} >> text=${String(text)}`)
async function download(what: string): Promise<Download> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.click(test(what))])
  return file
}
const bytes = async (d: Download) => readFileSync(await d.path())

it('is set in another clef that the instrument’s players read, where there is one', async () => {
  await open('Little Bell Round')
  await expect.poll(() => page.locator(test('clef')).count()).toBe(0)
  const { tune } = readAbc('X:1\nT:Reading High\nM:4/4\nL:1/4\nK:G clef=bass\nG,B,DG|A4|\n').tunes[0]!
  const made = await driven.nokta.shelf.create(null, tune, [newArrangement('cello', 'full', 'High')])
  await page.goto(`${driven.nokta.url}/tunes/${made.id}/sheet`)
  await page.waitForSelector(`${test('pages')} svg`)
  const drawn = () =>
    page
      .locator(`${test('pages')} svg`)
      .first()
      .innerHTML()
  const before = await drawn()
  await choose('clef', 'tenor clef')
  await page.waitForFunction(
    old => document.querySelector('[data-test="pages"] svg')?.innerHTML !== old,
    before,
  )
  await saved(page)
  const kept = await driven.nokta.shelf.get(made.id)
  expect(kept!.arrangements[0]!.arrangement.shown.clef).toBe('tenor')
  expect(kept!.tune.clef).toBe('bass')
  await choose('clef', 'as usual')
  await saved(page)
  await expect
    .poll(async () => (await driven.nokta.shelf.get(made.id))!.arrangements[0]!.arrangement.shown.clef)
    .toBeNull()
})

it('takes a style in one click: the first year’s with names, counting and a fingerboard', async () => {
  await open('Little Bell Round')
  await expect.poll(words).not.toContain('The notes of this tune')
  await style('First year')
  await told(/The notes of this tune/)
  await expect.poll(words).toContain('F#')
  await style('Orchestra stand')
  await page.waitForFunction(
    () => !document.querySelector('[data-test="pages"]')!.textContent!.includes('The notes of this tune'),
  )
  await saved(page)
})

it('counts in the studio’s own words, and turns the fingerboard for a left-handed player', async () => {
  await open('Skylark over Hethering')
  await style('First year')
  await told(/The notes of this tune/)
  await choose('sheet-counting', '1 e and a')
  await page.fill(test('count-word-1'), 'ti')
  await page.keyboard.press('Tab')
  await page.waitForFunction(() =>
    [...document.querySelectorAll('[data-test="pages"] text')].some(t => t.textContent === 'ti'),
  )
  const nut = () =>
    page.evaluate(() =>
      Math.max(
        ...[...document.querySelectorAll('[data-test="pages"] svg > text')]
          .filter(t => t.textContent === 'G')
          .map(t => Number(t.getAttribute('x'))),
      ),
    )
  const before = await nut()
  await page.check(test('left-handed'))
  await page.waitForFunction(
    x =>
      [...document.querySelectorAll('[data-test="pages"] svg > text')].some(
        t => t.textContent === 'G' && Number(t.getAttribute('x')) > x + 100,
      ),
    before,
  )
})

it('keeps what was chosen as a style of the studio, for other tunes too', async () => {
  await open('Low Barn Stomp')
  await choose('sheet-music', 'tab alone')
  await page.check(test('kind-grid'))
  await told(/reached at/)
  await page.fill(`${test('style-name')} input`, 'Bass room')
  await page.click(test('keep-style'))
  await page.waitForSelector(`${test('style')}[aria-checked="true"] >> text=Bass room`)
  await open('The Lighthouse Stair')
  await style('Bass room')
  await told(/reached at/)
  await page.getByLabel('Take the style Bass room away').click()
  await page.waitForFunction(
    () =>
      ![...document.querySelectorAll('[data-test="style"]')].some(e => e.textContent!.includes('Bass room')),
  )
})

it('holds one kind at least: the last that is left cannot be unticked', async () => {
  await open('Goose Gate Jog')
  await page.waitForSelector(`${test('kind-music')}:disabled:checked`)
  await page.check(test('kind-grid'))
  await page.uncheck(test('kind-music'))
  await page.waitForSelector(`${test('kind-grid')}:disabled:checked`)
  await page.waitForFunction(
    () =>
      document.querySelector('[data-test="pages"] svg') &&
      !document.querySelector('[data-test="pages"] .nokta-marks'),
  )
})

it('begins a line where a note was clicked, and leads to where its finger is decided', async () => {
  await open('Four Corners of Ostrey')
  await choose('sheet-size', 'as on a stand')
  const systems = () =>
    page.evaluate(() => document.querySelectorAll('[data-test="pages"] .nokta-marks').length)
  const before = await systems()
  const box = (await page
    .locator(`${test('pages')} svg`)
    .first()
    .boundingBox())!
  // Along the first system from its end, until a note is met.
  for (let x = 0.88; x > 0.5 && (await page.locator(test('place')).count()) === 0; x -= 0.03)
    await page.mouse.click(box.x + box.width * x, box.y + box.height * 0.17)
  await page.waitForSelector(test('place'))
  await page.click(test('break-page'))
  await page.waitForFunction(
    n => document.querySelectorAll('[data-test="pages"] .nokta-marks').length !== n,
    before,
  )
  await page.click(test('break-page'))
  await page.waitForFunction(
    n => document.querySelectorAll('[data-test="pages"] .nokta-marks').length === n,
    before,
  )
  await page.click(test('to-hand'))
  await page.waitForSelector(test('fingerboard'))
})

it('lets a line be pulled shorter by its end, and keeps the break', async () => {
  await open('The Heron on Saltmarsh Lane')
  const grip = page.locator(test('break-grip')).first()
  await grip.waitFor()
  const before = (await grip.boundingBox())!
  const middle = before.y + before.height / 2
  await page.mouse.move(before.x + 4, middle)
  await page.mouse.down()
  // Some bar lies near the middle of the line.
  await page.mouse.move(before.x - 300, middle, { steps: 5 })
  await page.waitForSelector('.landing')
  await page.mouse.up()
  await page.waitForSelector('.landing', { state: 'detached' })
  const kept = () =>
    page.evaluate(async () => {
      const id = location.pathname.split('/')[2]!
      const doc = (await (await fetch(`/api/v1/tunes/${id}`)).json()) as {
        arrangements: { arrangement: { shown: { sheet: { breaks: Record<string, string> } } } }[]
      }
      return doc.arrangements.flatMap(a => Object.values(a.arrangement.shown.sheet.breaks))
    })
  await expect.poll(kept).toEqual(['line'])
  await page.keyboard.press('Control+z')
  await expect.poll(kept).toEqual([])
})

it('gives the same bytes for the same sheet, pictures of its pages, and all arrangements in one zip', async () => {
  await open('Evening on Quillen Water')
  const [a, b] = [await bytes(await download('pdf')), await bytes(await download('pdf'))]
  expect(a.equals(b)).toBe(true)
  expect(a.toString('latin1')).toContain('Odile Farrant')
  const svg = (await bytes(await download('as-svg'))).toString('utf8')
  expect(svg).toMatch(/^<svg[^>]*xmlns="http:\/\/www\.w3\.org\/2000\/svg"/)
  expect(svg).toContain('@font-face')
  const png = await bytes(await download('as-png'))
  expect(png.subarray(1, 4).toString('latin1')).toBe('PNG')
  const files = unzipSync(new Uint8Array(await bytes(await download('as-zip'))))
  expect(Object.keys(files)).toEqual([
    '01-evening-on-quillen-water-as-sung.pdf',
    '02-evening-on-quillen-water-low-and-warm.pdf',
  ])
})

it('sets a version over the tune it was made of', async () => {
  await openBench(page, driven.nokta, 'The Tannery Band Steps Out', 'levels')
  await page.click(test('make-2'))
  await page.waitForSelector(test('kept'))
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('pages')} svg`)
  const count = () =>
    page.evaluate(() => document.querySelectorAll('[data-test="pages"] .nokta-marks').length)
  const alone = await count()
  await choose('sheet-under', 'the tune as it is')
  await page.waitForFunction(
    n => document.querySelectorAll('[data-test="pages"] .nokta-marks').length >= 2 * n,
    alone,
  )
  // A version that leaves a part out has fewer measures than another arrangement: that is said.
  await page.click(test('station-levels'))
  await page.click(test('levels-version'))
  await page.click(test('part-B'))
  await page.click(test('station-sheet'))
  await choose('sheet-under', 'March past')
  await page.waitForSelector(test('under-apart'))
  await choose('sheet-under', 'nothing')
  await page.waitForSelector(test('under-apart'), { state: 'detached' })
})

it('asks before a protected tune leaves', async () => {
  await openBench(page, driven.nokta, 'The Crooked Stile', 'tune')
  await page.evaluate(async () => {
    const id = location.pathname.split('/')[2]!
    const doc = (await (await fetch(`/api/v1/tunes/${id}`)).json()) as {
      version: number
      source: string
      tune: object
    }
    const tune = { ...doc.tune, rights: 'protected' }
    await fetch(`/api/v1/tunes/${id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        tune: { version: doc.version, source: doc.source, tune },
        arrangements: [],
        removed: [],
      }),
    })
  })
  await open('The Crooked Stile')
  await page.click(test('pdf'))
  await page.waitForSelector('text=Make the file only if its rights allow it')
  const file = await download('export-sure')
  expect(file.suggestedFilename()).toBe('the-crooked-stile-as-written.pdf')
})

it('draws a tie over the end of a line on both lines, and of notes together on both sides', async () => {
  const bars = Array.from({ length: 12 }, (_, i) => (i === 0 ? 'D2B2-' : 'B2B2-'))
  await pasteTune(
    page,
    driven.nokta,
    `X:1\nT:Long Breath\nM:4/4\nL:1/4\nK:G\n${bars.join('|')}|[GB]2-[GB]2|]\n`,
  )
  await page.waitForSelector(`${test('score')} .vf-stavetie`)
  const ties = () =>
    page.evaluate(() => {
      const score = document.querySelector('[data-test="score"]')!
      // Every measure is tied to the next, so each line but the first begins with a tie.
      return score.querySelectorAll('.vf-stavetie').length - (score.querySelectorAll('.system').length - 1)
    })
  await expect.poll(ties).toBe(12 + 2)
  const sides = await page.evaluate(() =>
    [...document.querySelectorAll('[data-test="score"] .vf-stavetie path')].slice(-2).map(p => {
      const [from, through] = [...p.getAttribute('d')!.matchAll(/[\d.]+ ([\d.]+)/g)].map(m => Number(m[1]))
      return through! > from! ? 'below' : 'above'
    }),
  )
  expect(sides).toEqual(['below', 'above'])
})

it('draws a slur over lines on every one of them, and clear of the notes under it', async () => {
  const bars = Array.from({ length: 14 }, () => 'GbBc')
  await pasteTune(page, driven.nokta, `X:1\nT:One Bow\nM:4/4\nL:1/4\nK:G\n(${bars.join('|')})|(d b g d)|]\n`)
  await page.waitForSelector(`${test('score')} .vf-slur`)
  const lines = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('[data-test="score"] .system')].map(system => {
        const of = (name: string) => [...system.querySelectorAll(name)].map(e => e.getBoundingClientRect())
        const [heads, slurs] = [of('.vf-notehead'), of('.vf-slur')]
        const over = heads.filter(h =>
          slurs.some(s => s.left <= h.left + h.width / 2 + 1 && s.right >= h.right - h.width / 2 - 1),
        )
        return {
          bare: heads.length - over.length,
          through: heads.filter(h => slurs.every(s => s.top > h.top)).length,
        }
      }),
    )
  await expect.poll(async () => (await lines()).length).toBeGreaterThan(2)
  // No note is without a slur, and none stands above all of its line’s.
  for (const l of await lines()) expect(l).toEqual({ bare: 0, through: 0 })
})

it('keeps a fermata clear of the tab under it, wherever its note stands', async () => {
  await pasteTune(
    page,
    driven.nokta,
    'X:1\nT:Held High\nM:4/4\nL:1/4\nK:D clef=bass\nDFED|B,CD!fermata!E|]\n',
  )
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('pages')} svg .vf-stavenote`)
  const air = await page.evaluate(() => {
    const svg = document.querySelector('[data-test="pages"] svg:has(.vf-stavenote)')!
    const boxes = (of: string) =>
      [...svg.querySelectorAll(of)].map(e => ({ text: e.textContent ?? '', box: e.getBoundingClientRect() }))
    const lowest = Math.max(...boxes('.vf-stavenote path').map(b => b.box.bottom))
    const digits = boxes('text').filter(
      b => /^[0-4]$/.test(b.text) && (b.box.top + b.box.bottom) / 2 > lowest,
    )
    return Math.min(...digits.map(b => b.box.top)) - lowest
  })
  expect(air).toBeGreaterThan(0)
})

import { readFileSync } from 'node:fs'
import { unzipSync } from 'fflate'
import type { Download, Page } from 'playwright-core'
import { beforeEach, describe, expect, it } from 'vitest'
import { test } from './browser'
import { useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})

const pages = () => page.locator(`${test('booklet-pages')} .paper`)
const drawn = (n: number) =>
  page.waitForFunction(([at, count]) => document.querySelectorAll(`${at} .paper > svg`).length === count, [
    test('booklet-pages'),
    n,
  ] as const)
const words = async (n: number) => (await pages().nth(n).locator('text').allTextContents()).join('|')
const tunes = async () =>
  (await page.locator(`${test('booklet-tune')} .name > a`).allTextContents()).map(t => t.trim())
async function download(what: string): Promise<Download> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.click(test(what))])
  return file
}
async function ticked(...titles: string[]) {
  await page.goto(driven.nokta.url)
  for (const t of titles) await page.locator(test('tune-row'), { hasText: t }).locator(test('tick')).check()
}

describe('a booklet', () => {
  it('is made of tunes ticked on the shelf: contents, numbers, an order that is kept', async () => {
    await ticked('Goose Gate Jog', 'Little Bell Round', 'The Crooked Stile')
    await page.click(test('to-booklet'))
    await drawn(4)
    await page.fill(`${test('booklet-title')} input`, 'First term')
    await page.keyboard.press('Tab')
    await page.waitForSelector(`${test('booklet-pages')} >> text=First term`)
    await expect
      .poll(() => words(0))
      .toMatch(
        /^First term\|Goose Gate Jog.*\|2\|Little Bell Round.*\|3\|The Crooked Stile.*\|4\|First term\|1$/,
      )
    await expect.poll(() => words(3)).toMatch(/The Crooked Stile.*\|First term\|4$/)
    await page.locator(test('tune-up')).nth(2).click()
    await page.waitForFunction(
      at => document.querySelector(at)!.textContent!.match(/The Crooked Stile.*Little Bell/),
      `${test('booklet-pages')} .paper`,
    )
    await expect.poll(() => words(2)).toContain('The Crooked Stile')
    await page.reload()
    await drawn(4)
    await expect.poll(tunes).toEqual(['Goose Gate Jog', 'The Crooked Stile', 'Little Bell Round'])
  })

  it('takes one more tune, another arrangement, one style for all, and opens spreads', async () => {
    await ticked('Evening on Quillen Water')
    await page.click(test('to-booklet'))
    await drawn(2)
    await page.click(`${test('booklet-add')} input`)
    await page.keyboard.type('Low Barn')
    await page.getByRole('option', { name: 'Low Barn Stomp' }).click()
    await drawn(3)
    await page.click(test('booklet-arrangement'))
    await page.getByRole('option', { name: 'Low and warm' }).click()
    await page.waitForSelector(`${test('booklet-pages')} >> text=cello, Low and warm`)
    await expect.poll(() => words(2)).not.toContain('The notes of this tune')
    // The same tune in its other arrangement, on a page of its own; and away again.
    await page.locator(test('tune-again')).first().click()
    await drawn(4)
    await page.waitForFunction(at => document.querySelectorAll(at).length === 3, test('booklet-tune'))
    await expect
      .poll(() => page.locator(test('booklet-tune')).nth(1).textContent())
      .toMatch(/Evening on Quillen Water.*page 3/)
    await page.locator(test('tune-out')).nth(1).click()
    await drawn(3)
    await page.click(test('booklet-style'))
    await page.getByRole('option', { name: 'First year' }).click()
    await page.waitForFunction(
      at => [...document.querySelectorAll(at)].some(p => p.textContent!.includes('The notes of this tune')),
      `${test('booklet-pages')} .paper`,
    )
    await expect.poll(() => words(0)).toMatch(/^Booklet/)
    await page.uncheck(test('booklet-contents'))
    await page.waitForFunction(
      at => document.querySelector(at)!.textContent!.startsWith('Evening on Quillen Water'),
      `${test('booklet-pages')} .paper`,
    )
    await page.locator(test('tune-out')).nth(1).click()
    await page.waitForFunction(at => document.querySelectorAll(at).length === 1, test('booklet-tune'))
  })

  it('is one PDF, the same bytes each time, or a zip of every arrangement', async () => {
    await ticked('Evening on Quillen Water', 'Goose Gate Jog')
    await page.click(test('to-booklet'))
    await drawn(3)
    const bytes = async () => readFileSync(await (await download('booklet-pdf')).path())
    const [a, b] = [await bytes(), await bytes()]
    expect(a.equals(b)).toBe(true)
    expect(a.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(3)
    await page.click('summary')
    await page.check(test('zip-all'))
    const files = unzipSync(new Uint8Array(readFileSync(await (await download('booklet-zip')).path())))
    expect(Object.keys(files)).toEqual([
      '01-evening-on-quillen-water-as-sung.pdf',
      '02-evening-on-quillen-water-low-and-warm.pdf',
      '03-goose-gate-jog-as-written.pdf',
    ])
  })

  it('tells of a tune that is not on the shelf any more, and goes when it is deleted', async () => {
    await ticked('Half-Step Study', 'Kiln Yard Polska')
    await page.click(test('to-booklet'))
    await drawn(3)
    const at = page.url()
    await ticked('Half-Step Study')
    await page.click(test('chosen-away'))
    await page.waitForSelector(test('undo-away'))
    await page.goto(at)
    await page.waitForSelector('text=not on the shelf any more')
    await drawn(2)
    await expect.poll(() => words(0)).toMatch(/^Booklet\|Kiln Yard Polska.*\|2\|1$/)
    await page.click(test('go-booklets'))
    const mine = page.locator(test('booklet'), { hasText: '2 tunes' }).last()
    await mine.waitFor()
    const before = await page.locator(test('booklet')).count()
    await mine.getByRole('button').click()
    await page.click(test('drop-booklet'))
    await page.waitForFunction(([where, n]) => document.querySelectorAll(where).length === n, [
      test('booklet'),
      before - 1,
    ] as const)
    await page.goto(at)
    await page.waitForSelector('text=There is no such booklet')
  })
})

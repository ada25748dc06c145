import { readFileSync } from 'node:fs'
import { expect, describe, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { Nokta } from '#server/nokta'
import { openBench, test, tuneId } from './browser'
import { useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

const tune = (title: string, music = 'DFAd fdAF|EGBe gfed|') =>
  `X:1\nT:${title}\nM:4/4\nL:1/8\nK:D\n${music}\n`
const paste = (text: string) =>
  page.evaluate(said => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', said)
    document.body.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    )
  }, text)
const drop = (files: readonly { name: string; text: string }[]) =>
  page.evaluate(list => {
    const dataTransfer = new DataTransfer()
    for (const { name, text } of list) dataTransfer.items.add(new File([text], name))
    document.body.dispatchEvent(new DragEvent('drop', { dataTransfer, bubbles: true, cancelable: true }))
  }, files)

describe('a tune on its way in', () => {
  it('is pasted anywhere on the shelf, and opens with its fingers, its bows and what comes next', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    await paste(tune('Pasted Anywhere'))
    await page.click(`${test('take')}:not([disabled])`)
    await page.waitForURL(/\/tunes\/.+\/hand/)
    await page.waitForSelector(`${test('next')} >> text=print the sheet`)
    await page.waitForSelector(`${test('score')} svg`)
    await expect.poll(() => page.textContent(test('title'))).toBe('Pasted Anywhere')
    await page.click(`${test('next')} >> text=check the phrases`)
    await page.waitForURL(/\/form/)
    await page.click('[aria-label="Hide what comes next"]')
    await expect.poll(() => page.locator(test('next')).count()).toBe(0)
  })
  it('is offered on the bench too: pasted, or as a dropped file', async () => {
    await openBench(page, nokta, 'Goose Gate Jog', 'bow')
    await paste(tune('Over the Bench'))
    await page.waitForSelector(`${test('add-dialog')} >> text=Over the Bench`)
    await page.click('text=Cancel')
    await drop([{ name: 'a.abc', text: tune('Dropped There') }])
    await page.waitForSelector(`${test('add-dialog')} >> text=Dropped There`)
    await page.click('text=Cancel')
    await expect.poll(() => page.textContent(test('title'))).toBe('Goose Gate Jog')
  })
  it('comes in several files at once; one that holds none is named, with its reason', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    await drop([
      { name: 'one.abc', text: tune('Several One', 'B2A2 G2E2|D2E2 G4|') },
      { name: 'letter.txt', text: 'Dear Sir, no music here at all' },
      { name: 'two.abc', text: tune('Several Two', 'e2d2 B2A2|G2A2 B4|') },
    ])
    await page.waitForSelector(`${test('unread')} >> text=letter.txt`)
    await page.click(`${test('take')}:not([disabled])`)
    await expect
      .poll(async () => (await nokta.shelf.list()).map(t => t.title))
      .toEqual(expect.arrayContaining(['Several One', 'Several Two']))
  })
  it('begun as an empty page shows no error, and leaves nothing behind when nothing is written', async () => {
    const before = (await nokta.shelf.list()).length
    await page.goto(nokta.url)
    await page.click(test('empty'))
    await page.waitForSelector('text=No notes yet')
    await page.waitForTimeout(500)
    expect(await page.locator(test('findings')).count()).toBe(0)
    await page.click('[aria-label="Nokta: to the shelf"]')
    await page.waitForSelector(test('tune-row'))
    await expect.poll(async () => (await nokta.shelf.list()).length).toBe(before)
    expect(await page.locator('text=New tune').count()).toBe(0)
    expect(await nokta.shelf.away()).toEqual([])
  })
  it('is typed at once: the dialog opens in its text box', async () => {
    await page.goto(nokta.url)
    await page.click(test('add'))
    await page.waitForSelector(test('paste'))
    await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).toBe('TEXTAREA')
  })
})

describe('the address', () => {
  it('holds the arrangement, the phrase and the tab: a reload comes to the same place', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'hand')
    const id = await tuneId(nokta, 'Brindlewick Bridge')
    const second = (await nokta.shelf.get(id))!.arrangements[1]!
    await page.goto(`${nokta.url}/tunes/${id}/hand?arrangement=${second.id}`)
    await page.waitForSelector(`text=${second.arrangement.name}`)
    await page.locator(test('phrase')).nth(1).click()
    await expect.poll(() => page.url()).toMatch(/phrase=/)
    await page.click(test('hand-setup'))
    await expect.poll(() => page.url()).toMatch(/hand=setup/)
    const url = page.url()
    await page.reload()
    await page.waitForSelector(`text=${second.arrangement.name}`)
    await expect.poll(() => page.getAttribute(test('hand-setup'), 'aria-selected')).toBe('true')
    await page.waitForSelector(`${test('score')} svg`)
    await page.waitForTimeout(500)
    expect(page.url()).toBe(url)
    await page.click(test('station-sheet'))
    await expect.poll(() => page.url()).toContain(`arrangement=${second.id}`)
  })
  it('holds what the shelf is narrowed down by; “/” goes to the search', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    await page.keyboard.press('/')
    await page.keyboard.type('crooked')
    await expect.poll(() => page.url()).toContain('search=crooked')
    await expect.poll(() => page.locator(test('tune-row')).count()).toBe(1)
    await page.reload()
    await expect.poll(() => page.locator(test('tune-row')).count()).toBe(1)
  })
})

describe('a row of tabs', () => {
  it('is gone through by arrow keys; after a click they walk through the notes', async () => {
    await openBench(page, nokta, 'Goose Gate Jog', 'hand')
    const open = (name: string) => page.getAttribute(test(`hand-${name}`), 'aria-selected')
    await page.focus(test('hand-note'))
    await page.keyboard.press('ArrowRight')
    await expect.poll(() => open('ways')).toBe('true')
    await page.keyboard.press('Home')
    await expect.poll(() => open('note')).toBe('true')
    await page.click(test('hand-phrase'))
    await page.keyboard.press('ArrowRight')
    await expect.poll(() => open('phrase')).toBe('true')
  })
})

describe('a level the notes do not keep to', () => {
  it('is said beside it, and the version that keeps to it is one click away', async () => {
    await openBench(page, nokta, 'Skylark over Hethering', 'sheet')
    await page.click(test('level'))
    await page.getByRole('option', { name: /^level 2 / }).click()
    await page
      .locator(`${test('asks-more')} >> text=The notes ask for level`)
      .first()
      .waitFor()
    await page.locator(test('make-version')).first().click()
    await expect.poll(() => page.textContent(test('arrangement'))).toMatch(/level 2/)
    await expect.poll(() => page.locator(test('asks-more')).count()).toBe(0)
  })
})

describe('undo', () => {
  it('says what it undid, also after a reload', async () => {
    await openBench(page, nokta, 'Low Barn Stomp', 'hand')
    await page.click(`${test('title')} button`)
    await page.keyboard.type('High Barn Stomp')
    await page.keyboard.press('Enter')
    await expect.poll(() => page.textContent(test('title'))).toBe('High Barn Stomp')
    await page.waitForSelector(`${test('save-state')}.saved`)
    await page.reload()
    await page.waitForSelector(`${test('score')} svg`)
    await page.keyboard.press('Control+z')
    await page.waitForSelector(`${test('stepped')} >> text=Undone: the title`)
    await expect.poll(() => page.textContent(test('title'))).toBe('Low Barn Stomp')
    await page.keyboard.press('Control+y')
    await page.waitForSelector(`${test('stepped')} >> text=Done again: the title`)
    await expect.poll(() => page.textContent(test('title'))).toBe('High Barn Stomp')
    await page.keyboard.press('Control+z')
  })
})

describe('the shelf taken away', () => {
  const downloaded = async (click: () => Promise<void>) => {
    const [download] = await Promise.all([page.waitForEvent('download'), click()])
    return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') }
  }
  it('is a table of all its tunes, and some of them one ABC book', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    const table = await downloaded(() => page.click(test('as-csv')))
    const lines = table.text.trim().split(/\r?\n/)
    expect(lines[0]).toMatch(/^Title,Other titles,Kind,Key/)
    expect(lines).toHaveLength(1 + (await nokta.shelf.list()).length)
    await page.locator(test('tick')).nth(0).check()
    await page.locator(test('tick')).nth(2).check()
    const book = await downloaded(() => page.click(test('chosen-abc')))
    expect(book.name).toBe('tunes.abc')
    expect(book.text.match(/^X:\d+$/gm)).toEqual(['X:1', 'X:2'])
  })
  it('is a backup that is read in again like a file', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    const { name, text } = await downloaded(() => page.click(test('backup')))
    await page.click(test('add'))
    await page.setInputFiles(test('file'), { name, mimeType: 'application/json', buffer: Buffer.from(text) })
    await page.waitForSelector(`${test('report')} >> text=Brindlewick Bridge`)
    await page.click('text=Cancel')
  })
})

import { readFileSync } from 'node:fs'
import { inflateSync } from 'node:zlib'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test, tuneId } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

/** The finger digits over the notes, read from the first system of the score. */
const fingers = () =>
  page
    .locator(`${test('score')} .system`)
    .first()
    .locator('.marks')
    .textContent()
async function choose(name: string, option: string | RegExp) {
  await page.click(test(name))
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click()
}
/** Clicks the n-th note of the hand lane. */
const laneNote = (n: number) =>
  page
    .locator(`${test('hand-lane')} .note circle`)
    .nth(n)
    .click()
const choice = () => page.locator(test('choice')).textContent()

describe('the shelf', () => {
  it('loads nothing of the bench: no engraver, no player, no reader', async () => {
    const scripts: string[] = []
    page.on('request', r => scripts.push(/\/assets\/([A-Za-z]+)[^/]*\.js$/.exec(r.url())?.[1] ?? ''))
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    await page.waitForLoadState('networkidle')
    expect(scripts).toContain('app')
    for (const heavy of ['bench', 'readAbc', 'Tone', 'pdf']) expect(scripts).not.toContain(heavy)
  })

  it('nor does a bench load what only the text needs, before its station is opened', async () => {
    const scripts: string[] = []
    // The worker's too.
    page
      .context()
      .on('request', r => scripts.push(/\/assets\/([A-Za-z]+)[^/]*\.js$/.exec(r.url())?.[1] ?? ''))
    await openBench(page, nokta, 'Brindlewick Bridge', 'hand')
    await page.waitForSelector(test('hand-lane'))
    await page.waitForLoadState('networkidle')
    expect(scripts).toContain('bench')
    for (const heavy of ['readAbc', 'SourcePane', 'Tone', 'pdf']) expect(scripts).not.toContain(heavy)
    await page.click(test('station-tune'))
    await expect.poll(() => scripts).toContain('readAbc')
  })

  it('shows the demo tunes, finds as one types, puts away and brings back', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    await expect.poll(() => page.locator(test('tune-row')).count()).toBeGreaterThanOrEqual(8)
    await page.fill(`${test('search')} input`, 'dorian')
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tune-row"]').length === 1)
    await expect.poll(() => page.textContent(test('tune-row'))).toContain('The Heron on Saltmarsh Lane')
    await page.getByLabel('Archive The Heron on Saltmarsh Lane').click()
    await page.waitForSelector('text=No tune matches')
    await page.click(test('undo-away'))
    await page.waitForSelector(test('tune-row'))
  })

  it('takes a pasted tune and opens it, with its problems by line and column', async () => {
    await page.goto(nokta.url)
    await page.click(test('add'))
    const paste = page.locator(`${test('paste')} textarea`).first()
    await paste.fill('no music here at all, sorry')
    await page.waitForSelector('text=This reads as words')
    await expect.poll(() => page.locator(test('take')).isDisabled()).toBe(true)
    await paste.fill('X:1\nT:Pasted Hop\nM:4/4\nL:1/8\nK:G\nG2B2 d2B2|A2F2 D4 @|G2B2 d2g2|f2d2 g5|\n')
    await page.waitForSelector(`${test('add-dialog')} >> text=too long`)
    await expect
      .poll(() => page.locator(`${test('add-dialog')} ${test('findings')}`).textContent())
      .toMatch(/too long: 9\/2.*line 6, column \d+.*Unknown character/s)
    await page.click(test('take'))
    await page.waitForURL(/\/tunes\/.+\/hand/)
    await page.waitForSelector(`${test('score')} svg`)
    await expect.poll(() => page.textContent(test('title'))).toBe('Pasted Hop')
  })

  it('takes what the text says now, not what it said when it was read last', async () => {
    await page.goto(nokta.url)
    await page.click(test('add'))
    const paste = page.locator(`${test('paste')} textarea`).first()
    await paste.fill('X:1\nT:Said Before\nM:4/4\nL:1/4\nK:A#\nGABc|\n')
    await page.waitForSelector(`${test('take')}:not([disabled])`)
    await expect
      .poll(() =>
        page
          .locator(`${test('add-dialog')} ${test('findings')} li`)
          .first()
          .textContent(),
      )
      .toContain('The key “A#” is not understood')
    await paste.fill('X:1\nT:Said Now\nM:4/4\nL:1/4\nK:D\nDEFG|\n')
    await page.click(test('take'))
    await page.waitForURL(/\/tunes\/.+\/hand/)
    await expect.poll(() => page.textContent(test('title'))).toBe('Said Now')
  })

  it('gives up on text nobody could read in time, says so, and reads the next one', async () => {
    await page.goto(nokta.url)
    await page.click(test('add'))
    const paste = page.locator(`${test('paste')} textarea`).first()
    await paste.fill(`X:1\nT:Braces\nM:4/4\nL:1/8\nK:G\n${'{'.repeat(60_000)}\n`)
    await page.waitForSelector('text=could not be read in the time')
    await paste.fill('X:1\nT:Sound\nM:4/4\nL:1/4\nK:G\nGABc|d4|]\n')
    await page.waitForSelector(`${test('take')}:not([disabled])`)
    await page.waitForSelector('text=could not be read in the time', { state: 'detached' })
    await page.click('text=Cancel')
  })

  it('takes a dropped file', async () => {
    await page.goto(nokta.url)
    await page.waitForSelector(test('tune-row'))
    const transfer = await page.evaluateHandle(() => {
      const t = new DataTransfer()
      t.items.add(new File(['X:1\nT:Dropped\nM:3/4\nL:1/4\nK:D\nDFA|d3|]\n'], 'dropped.abc'))
      return t
    })
    await page.dispatchEvent('.shelf', 'drop', { dataTransfer: transfer })
    await page.click(`${test('take')}:not([disabled])`)
    await page.waitForSelector(`${test('score')} svg`)
    await expect.poll(() => page.textContent(test('title'))).toBe('Dropped')
  })
})

describe('typing the source', () => {
  it('starts empty and redraws the score as one types; what can’t be read leaves the last good tune', async () => {
    await page.goto(nokta.url)
    await page.click(test('empty'))
    await page.waitForSelector('.cm-content')
    await page.waitForSelector('text=No notes yet')
    await page.click('.cm-content')
    await page.keyboard.press('Control+End')
    await page.keyboard.type('DEFG ABcd|')
    await page.waitForSelector(`${test('score')} svg`)
    const heads = () => page.locator(`${test('score')} .vf-notehead`).count()
    await page.waitForFunction(
      () => document.querySelectorAll('[data-test="score"] .vf-notehead').length === 8,
    )
    await page.keyboard.type('f4 d3|')
    await page.waitForSelector('text=This bar is too short: 7/2 quarters instead of 4')
    await expect.poll(heads).toBe(10)
    await page.keyboard.press('Control+A')
    await page.keyboard.type('%')
    await page.waitForSelector('text=No notes were found')
    await expect.poll(heads).toBe(10)
    await saved(page)
    await page.reload()
    await page.waitForSelector(`${test('score')} svg`)
    await expect.poll(() => page.locator('.cm-line').first().textContent()).toBe('%')
    await expect.poll(heads).toBe(10)
  })

  it('keeps pins on their notes while others are edited', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await laneNote(3)
    await page.keyboard.press('p')
    await page.waitForSelector(`${test('pin')}:has-text("Take the pin off")`)
    await page.click(test('station-tune'))
    await page.click('.cm-line:has-text("[P:1]")')
    await page.keyboard.press('Home')
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight')
    await page.keyboard.type('E')
    await page.waitForSelector('text=This bar is too long')
    await page.click(test('station-hand'))
    const pinnedAt = (n: number) =>
      page.waitForFunction(
        at => [...document.querySelectorAll('.note')].findIndex(x => x.querySelector('circle.pinned')) === at,
        n,
      )
    await pinnedAt(4)
  })
})

describe('the hand', () => {
  it('fingers every note on all four instruments', async () => {
    await openBench(page, nokta, 'Four Corners of Ostrey', 'hand')
    const notes = await page.locator(`${test('hand-lane')} .note`).count()
    for (const [name, string] of [
      ['viola', 'C'],
      ['cello', 'C'],
      ['double bass', 'E'],
      ['violin', 'G'],
    ] as const) {
      await choose('instrument', name)
      await page.waitForFunction(
        s =>
          [...document.querySelectorAll('[data-test="fingerboard"] .string text')].at(-1)?.textContent === s,
        string,
      )
      await expect.poll(() => page.locator(`${test('hand-lane')} .note`).count()).toBe(notes)
    }
  })

  it('re-solves around a finger pinned by key, and takes it back', async () => {
    await openBench(page, nokta, 'The Tannery Band Steps Out', 'hand')
    await laneNote(2)
    await expect.poll(choice).toContain('‹2 on A')
    const before = await fingers()
    await page.keyboard.press('4')
    await page.waitForSelector('text=pinned by you')
    await expect.poll(choice).toMatch(/4 on D.*third position/)
    await expect.poll(fingers).not.toBe(before)
    await page.keyboard.press('Control+z')
    await page.waitForFunction(() =>
      document.querySelector('[data-test="choice"]')?.textContent?.includes('on A'),
    )
    await expect.poll(fingers).toBe(before)
    await page.keyboard.press('Control+Shift+Z')
    await page.waitForSelector('text=pinned by you')
    await page.click(test('undo'))
  })

  it('offers what else would do, with what it gains and loses, at a click', async () => {
    await openBench(page, nokta, 'The Crooked Stile', 'hand')
    await laneNote(1)
    const rows = page.locator(`${test('alternatives')} tbody tr`)
    await rows.first().waitFor()
    const name = await rows.first().locator('button').textContent()
    await expect.poll(() => rows.first().textContent()).toMatch(/more|fewer|playable up to|as many shifts/)
    // The numbers stand behind a detail.
    await expect.poll(() => page.locator(test('numbers')).getAttribute('open')).toBeNull()
    await page.locator(`${test('numbers')} summary`).click()
    await expect.poll(() => page.locator(test('numbers')).textContent()).toMatch(/[+−]?\d\.\d/)
    await rows.first().locator('button').click()
    await page.waitForSelector('text=pinned by you')
    await expect
      .poll(async () => (await choice())!.toLowerCase().replace('‹', '').replace('›', ''))
      .toContain(name!.trim().toLowerCase())
    await page.click(test('pin'))
    await page.waitForFunction(() => !document.querySelector('.note circle.pinned'))
  })

  it('moves to another key, with other fingers and the same tune', async () => {
    await openBench(page, nokta, 'The Crooked Stile', 'hand')
    const before = await fingers()
    await choose('key', 'A major')
    await page.waitForFunction(
      b => document.querySelector('[data-test="score"] .system .marks')?.textContent !== b,
      before,
    )
    await page.keyboard.press('Control+z')
    await page.waitForFunction(
      b => document.querySelector('[data-test="score"] .system .marks')?.textContent === b,
      before,
    )
  })

  it('warns before a string is tuned up, and says what a level has not', async () => {
    await openBench(page, nokta, 'The Ninepin Ring', 'hand')
    await expect.poll(() => page.locator(test('caution')).textContent()).toMatch(/26% more tension.*luthier/)
    await openBench(page, nokta, 'The Tannery Band Steps Out', 'hand')
    await choose('level', /^level 1/)
    await page.click(test('hand-look'))
    await page.waitForSelector('text=low 1 comes at level 4')
    await page.waitForSelector(`${test('asks-more')} >> text=The notes ask for level`)
  })

  it('does not take letters typed in a field for commands', async () => {
    await openBench(page, nokta, 'The Crooked Stile', 'form')
    await page.locator(test('phrase')).first().click()
    await page.fill(`${test('phrase-name')} input`, '')
    await page.locator(`${test('phrase-name')} input`).pressSequentially('up s 4')
    await page.waitForSelector(`${test('ribbon')} .own:has-text("up s 4")`)
    await page.click(test('station-hand'))
    await expect.poll(() => page.locator('.note circle.pinned').count()).toBe(0)
  })
})

describe('the form', () => {
  it('is split at a note and joined again', async () => {
    await openBench(page, nokta, 'Evening on Quillen Water', 'form')
    const cells = () => page.locator(`${test('ribbon')} ${test('phrase')}`).count()
    const before = await cells()
    await page.keyboard.press('ArrowRight')
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight')
    await page.click(test('split'))
    await page.waitForFunction(
      n => document.querySelectorAll('[data-test="ribbon"] [data-test="phrase"]').length === n,
      before + 1,
    )
    await page.click(test('join'))
    await page.waitForFunction(
      n => document.querySelectorAll('[data-test="ribbon"] [data-test="phrase"]').length === n,
      before,
    )
    await page.click(test('reset-form'))
    await page.waitForFunction(() => !document.querySelector('[data-test="reset-form"]'))
  })
})

/** The page's drawing commands: its first stream, unpacked. */
function drawing(file: Buffer): string {
  const start = file.indexOf('stream\n') + 'stream\n'.length
  return inflateSync(file.subarray(start, file.indexOf('\nendstream', start))).toString('latin1')
}

describe('the sheet', () => {
  it('is laid on A4 and Letter and comes out as a PDF with vector glyphs and text', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'sheet')
    await page.waitForSelector(`${test('pages')} svg`)
    const size = () =>
      page
        .locator(`${test('pages')} svg`)
        .first()
        .getAttribute('height')
    const a4 = Number(await size())
    await choose('paper', 'Letter')
    await page.waitForFunction(
      h => Number(document.querySelector('[data-test="pages"] svg')?.getAttribute('height')) !== h,
      a4,
    )
    await expect.poll(async () => Number(await size())).toBeCloseTo(1056, 0)
    expect(a4).toBeCloseTo(1122.5, 0)
    const words = await page.locator(test('pages')).textContent()
    expect(words).toContain('Brindlewick Bridge')
    expect(words).toContain('half = 72')
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('pdf'))])
    expect(download.suggestedFilename()).toBe('brindlewick-bridge-tuesday-class.pdf')
    const file = readFileSync(await download.path())
    const pdf = file.toString('latin1')
    expect(pdf.startsWith('%PDF-')).toBe(true)
    expect(pdf.match(/\/Type \/Page\b/g)!.length).toBe(await page.locator(`${test('pages')} svg`).count())
    expect(pdf).not.toContain('/Subtype /Image')
    expect(pdf).toMatch(/FontName.*Atkinson/)
    // Curves drawn as paths: note heads, clefs.
    expect(drawing(file).match(/ c\n/g)!.length).toBeGreaterThan(500)
  })
})

it('the credits of what ships with the app stand on a page of their own', async () => {
  await page.goto(nokta.url)
  await page.click(test('about'))
  await page.waitForSelector('text=Creative Commons Attribution 3.0')
})

it('an address that leads nowhere says so', async () => {
  await page.goto(`${nokta.url}/tunes/none/hand`)
  await page.waitForSelector('text=The tune can’t be opened')
  await page.goto(`${nokta.url}/somewhere`)
  await page.waitForSelector('text=There is nothing at this address')
  await expect.poll(() => tuneId(nokta, 'Kiln Yard Polska')).toBeTruthy()
})

import { ASSUMED_HANDS } from '#core/arrangement/context'
import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeFile } from '#core/formats/writeFile'
import { composedAbc } from '#core/music/composed'
import { emptyTune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import type { Nokta } from '#server/nokta'
import { openBench, pasteTune, test } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

describe('files', () => {
  const demo = readAbc(demoSource('heron-on-saltmarsh-lane.abc')).tunes[0]!.tune
  const upload = (name: string, content: string | Uint8Array) =>
    page.setInputFiles(test('file'), {
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(content),
    })
  async function add() {
    await page.goto(nokta.url)
    await page.click(test('add'))
  }

  it.each(['musicxml', 'mxl', 'mid', 'txt'] as const)(
    'takes a .%s file and shows what it found',
    async format => {
      const { content } = writeFile(
        format,
        { ...demo, title: `Taken as ${format}` },
        format === 'txt' ? newArrangement('violin', 'full') : null,
        ASSUMED_HANDS,
      )
      await add()
      await upload(`a.${format}`, content)
      await page.waitForSelector(`${test('add-dialog')} >> text=Taken as ${format}`)
      await page.waitForSelector(`${test('alike-on-shelf')} >> text=The Heron on Saltmarsh Lane`)
      await page.click(test('take'))
      await page.waitForURL(/\/tunes\/.+\/hand/)
      await page.waitForSelector(`${test('score')} svg`)
      await expect.poll(() => page.textContent(test('title'))).toBe(`Taken as ${format}`)
    },
  )

  it('picks tunes out of a book, leaves those already here, reports, and takes it back', async () => {
    const count = (await nokta.shelf.list()).length
    const book = ['brindlewick-bridge.abc', 'ninepin-ring.abc'].map(demoSource).join('\n')
    const fresh = [1, 2, 3]
      .map(
        i =>
          `X:${i + 10}\nT:Book Tune ${i}\nM:2/4\nL:1/8\nK:D\n${['DFAd fdAF', 'dBAG FEDE', 'AFED EFGA'][i - 1]}|E2B2 e2${'GAB'[i - 1]}2|d4 @|\n`,
      )
      .join('\n')
    await add()
    await upload('book.abc', `${book}\n${fresh}`)
    await page.waitForSelector(`${test('add-dialog')} >> text=3 of 5 chosen`)
    await page.waitForSelector(`${test('report')} >> text=like “The Ninepin Ring” (100%)`)
    await page.waitForSelector(`${test('report')} >> text=/\\d to look at/`)
    await page.getByLabel('Take Book Tune 3').uncheck()
    await page.click(test('take'))
    await page.waitForSelector('text=2 tunes are on the shelf')
    await expect.poll(async () => (await nokta.shelf.list()).length).toBe(count + 2)
    await page.click(test('undo-import'))
    await page.waitForSelector('text=were archived')
    await expect.poll(async () => (await nokta.shelf.list()).length).toBe(count)
  })

  it('lists a book of ten thousand at once, looks it over until it is told to stop, and takes what is ticked', async () => {
    const count = (await nokta.shelf.list()).length
    const head = demoSource('ninepin-ring.abc').trimEnd()
    const book = Array.from({ length: 9_999 }, (_, i) =>
      composedAbc(i % 97).replace(/^X:\d+\nT:.*/, `X:${i + 2}\nT:Leaf ${i + 2}`),
    ).join('\n')
    await add()
    await upload('ten-thousand.abc', `${head}\n\n${book}`)
    await page.waitForSelector(`${test('book-chosen')} >> text=of 10000 chosen`)
    await page.waitForSelector(`${test('looked-over')} >> text=/^(?!0 )\\d+ looked over/`)
    await page.click(test('stop-looking'))
    await page.waitForSelector(test('look-over'))
    // The one that is on the shelf already was looked at first, and is not ticked.
    await page.waitForSelector(`${test('book-chosen')} >> text=9999 of 10000 chosen`)
    await expect
      .poll(() =>
        page
          .locator(`${test('book-rows')} .row`)
          .first()
          .textContent(),
      )
      .toMatch(/The Ninepin Ring.*like “The Ninepin Ring”/)
    await page.click(test('toggle-listed'))
    await page.click(test('toggle-listed'))
    await page.waitForSelector(`${test('book-chosen')} >> text=0 of 10000 chosen`)
    await page.fill(`${test('find-in-book')} input`, 'leaf 977')
    await page.click(test('toggle-listed'))
    await page.waitForSelector(`${test('book-chosen')} >> text=20 of 10000 chosen`)
    await page.click(test('take'))
    await page.waitForSelector('text=20 tunes are on the shelf')
    await expect.poll(() => nokta.shelf.list()).toHaveLength(count + 20)
    await page.click(test('undo-import'))
    await page.waitForFunction(([row, n]) => document.querySelectorAll(row).length === n, [
      test('tune-row'),
      count,
    ] as const)
  })
  it('says why a file can’t be read', async () => {
    await add()
    await upload('broken.musicxml', '<score-partwise><part>')
    await page.waitForSelector(`${test('add-dialog')} >> text=not well-formed XML`)
    await expect.poll(() => page.locator(test('take')).isDisabled()).toBe(true)
  })

  it('saves the arrangement as MusicXML with fingers, and says what MIDI leaves behind', async () => {
    await openBench(page, nokta, 'Kiln Yard Polska', 'tune')
    await page.click(test('export'))
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('save-musicxml'))])
    expect(readFileSync(await download.path(), 'utf8')).toMatch(/<fingering>.*<string>/s)
    await Promise.all([page.waitForEvent('download'), page.click(test('save-mid'))])
    await page.waitForSelector(`${test('export-note')} >> text=only what is heard`)
  })
})

describe('jumps in a file', () => {
  it('stand over the staff, are set beside the note, and are written again', async () => {
    const abc = 'X:1\nT:Round the Pump\nM:4/4\nL:1/4\nK:D\nDEFG|A2A2!fine!|BAGF|E2D2!D.C.!|\n'
    const made = await nokta.shelf.create(null, readAbc(abc).tunes[0]!.tune, [
      newArrangement('violin', '4/4'),
    ])
    await page.goto(`${nokta.url}/tunes/${made.id}/tune`)
    await page.waitForSelector(`${test('score')} >> text=D.C. al Fine`)
    await page.waitForSelector(`${test('score')} >> text=/^Fine$/`)
    const head = page.locator(`${test('score')} .vf-stavenote .vf-notehead`).first()
    const box = (await head.boundingBox())!
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
    await page.click(test('pane-note'))
    await page.click(test('jumps'))
    await page.getByRole('option', { name: 'segno', exact: true }).click()
    await saved(page)
    expect((await nokta.shelf.get(made.id))!.tune.measures.filter(m => m.segno)).toHaveLength(1)
  })
})

describe('what was put away', () => {
  it('comes back, or is thrown away for good after asking', async () => {
    const ids = await nokta.shelf.createAll(
      ['Back Again', 'Gone for Good'].map(t => ({ source: null, tune: emptyTune(t), arrangements: [] })),
    )
    for (const id of ids) await nokta.shelf.putAway(id)
    await page.goto(nokta.url)
    await page.click(test('put-away'))
    await page.waitForSelector(test('away-tune'))
    const row = (title: string) => page.locator(test('away-tune'), { hasText: title })
    await row('Gone for Good').locator(test('throw-away')).click()
    await row('Gone for Good').locator(test('throw-away-now')).click()
    await row('Gone for Good').waitFor({ state: 'detached' })
    await row('Back Again').locator(test('bring-back')).click()
    await row('Back Again').waitFor({ state: 'detached' })
    expect((await nokta.shelf.away()).filter(t => ids.includes(t.id))).toEqual([])
    expect((await nokta.shelf.list()).map(t => t.title)).toContain('Back Again')
  })
  it('a tune’s own file brings all of its arrangements back', async () => {
    await openBench(page, nokta, 'Kiln Yard Polska', 'tune')
    const many = await page.evaluate(
      async () =>
        (
          (await (
            await fetch(location.pathname.replace(/^\/tunes\/([^/]+).*/, '/api/v1/tunes/$1'))
          ).json()) as { arrangements: unknown[] }
        ).arrangements.length,
    )
    await page.click(test('export'))
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('save-nokta.json'))])
    const text = readFileSync(await download.path(), 'utf8')
    await pasteTune(page, nokta, text)
    await page.waitForURL(/\/tunes\/.+\/hand/)
    const id = page.url().split('/').at(-2)!
    await expect.poll(async () => (await nokta.shelf.get(id))!.arrangements).toHaveLength(many)
  })
})

describe('a shelf of thousands', () => {
  it('is searched, filtered and sorted as one types, and shown as one scrolls', async () => {
    const kinds = ['reel', 'jig', 'waltz']
    const many = Array.from({ length: 900 }, (_, i) => ({
      source: null,
      tune: { ...emptyTune(`Numbered ${i}`), kind: kinds[i % 3]!, tags: i % 100 === 0 ? ['gala'] : [] },
      arrangements: [],
    }))
    const ids = await nokta.shelf.createAll(many)
    await page.goto(nokta.url)
    await page.fill(`${test('search')} input`, 'numbered 89')
    await page.waitForFunction(() =>
      /^19 of/.test(document.querySelector('[data-test="found"]')?.textContent?.trim() ?? ''),
    )
    await page.fill(`${test('search')} input`, 'numbered')
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tune-row"]').length === 200)
    await page.mouse.wheel(0, 60_000)
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tune-row"]').length >= 400)
    await page.click(test('filter-tag'))
    await page.getByRole('option', { name: /gala/ }).click()
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tune-row"]').length === 9)
    await page.click(test('sort-title'))
    await page.waitForFunction(() =>
      document.querySelector('[data-test="tune-row"]')?.textContent?.includes('Numbered 800'),
    )
    for (const id of ids) await nokta.shelf.putAway(id)
  })
})

/**
 * The arrangement in use and how the score says it: arrangements as documents, small screens, cross-tunings.
 */
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test, tuneId } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

const stored = async (title: string) =>
  (await nokta.shelf.get(await tuneId(nokta, title)))!.arrangements.map(a => a.arrangement)
const names = async (title: string) => (await stored(title)).map(a => a.name)
const laneNote = (n: number) =>
  page
    .locator(`${test('hand-lane')} .note circle`)
    .nth(n)
    .click()

describe('the arrangement in use', () => {
  it('is duplicated, renamed and taken away from the page; undo brings it back, and all of it is saved', async () => {
    const title = 'The Lighthouse Stair'
    await openBench(page, nokta, title, 'hand')
    const before = await names(title)
    await page.click(test('arrangement'))
    await page.click(test('duplicate-arrangement'))
    await page.click(test('arrangement'))
    await page.fill(`${test('arrangement-name')} input`, 'For the Thursday class')
    await page.keyboard.press('Escape')
    await saved(page)
    await expect.poll(() => names(title)).toEqual([...before, 'For the Thursday class'])
    await page.reload()
    await page.click(test('arrangement'))
    await page.getByRole('option', { name: 'For the Thursday class' }).click()
    await expect.poll(() => page.textContent(test('arrangement'))).toContain('For the Thursday class')
    await page.click(test('arrangement'))
    await page.click(test('remove-arrangement'))
    await saved(page)
    await expect.poll(() => names(title)).toEqual(before)
    await page.keyboard.press('Control+z')
    await page.waitForFunction(
      n => document.querySelector('[data-test="arrangement"]')!.textContent!.includes(`one of ${n}`),
      before.length + 1,
    )
    await saved(page)
    await expect.poll(() => names(title)).toEqual([...before, 'For the Thursday class'])
  })

  it('a pin with its place keeps its place on the server', async () => {
    const title = 'Skylark over Hethering'
    await openBench(page, nokta, title, 'hand')
    await laneNote(3)
    await page.click(test('pin-place'))
    await saved(page)
    const pins = (await stored(title))[0]!.played.pins.fingers
    expect(Object.values(pins)).toEqual([expect.objectContaining({ anchor: expect.any(Number) as number })])
    await page.reload()
    await page.waitForSelector(`${test('hand-lane')} .note circle.pinned`)
  })
})

interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
const touch = (a: Box, b: Box) =>
  a.left < b.right - 0.5 && b.left < a.right - 0.5 && a.top < b.bottom - 0.5 && b.top < a.bottom - 0.5

describe('on a screen of 1024 by 768', () => {
  it.each(['Brindlewick Bridge', 'Evening on Quillen Water', 'Kiln Yard Polska', 'The Ninepin Ring'])(
    '%s: nothing runs over the edge, every note is inside its system, digits stand apart',
    async title => {
      await page.setViewportSize({ width: 1024, height: 768 })
      await openBench(page, nokta, title, 'hand')
      await page.waitForSelector(`${test('score')} .system svg`)
      await page.waitForTimeout(300)
      await expect
        .poll(() => page.evaluate(() => document.documentElement.scrollWidth))
        .toBeLessThanOrEqual(1024)
      const systems = await page.evaluate(() => {
        const box = (e: Element) => {
          const { left, right, top, bottom } = e.getBoundingClientRect()
          return { left, right, top, bottom }
        }
        return [...document.querySelectorAll('[data-test="score"] .system svg')].map(svg => ({
          own: box(svg),
          notes: [...svg.querySelectorAll('.vf-notehead')].map(box),
          // A digit alone: what stands over one note.
          digits: [...svg.querySelectorAll('.marks text')]
            .filter(t => /^[0-4]$/.test(t.textContent!.trim()))
            .map(box),
        }))
      })
      expect(systems.length).toBeGreaterThan(1)
      for (const { own, notes, digits } of systems) {
        expect(notes.length).toBeGreaterThan(0)
        expect(Math.max(...notes.map(n => n.right))).toBeLessThanOrEqual(own.right)
        expect(own.right).toBeLessThanOrEqual(1024)
        const inRow = digits.toSorted((a, b) => a.left - b.left)
        expect(inRow.filter((d, i) => i > 0 && touch(d, inRow[i - 1]!))).toEqual([])
      }
    },
  )

  it.each(['tune', 'form', 'bow', 'levels', 'sheet'])(
    'the %s fits, and its line can be read whole',
    async station => {
      await page.setViewportSize({ width: 1024, height: 768 })
      await openBench(page, nokta, 'Brindlewick Bridge', station)
      await page.waitForTimeout(300)
      await expect
        .poll(() => page.evaluate(() => document.documentElement.scrollWidth))
        .toBeLessThanOrEqual(1024)
      const words = await page
        .locator(`${test('arrangement-line')} button`)
        .evaluateAll(all =>
          all.map(b => b.getBoundingClientRect()).map(({ left, right }) => ({ left, right })),
        )
      expect(words.length).toBeGreaterThan(6)
      for (const { left, right } of words) {
        expect(left).toBeGreaterThanOrEqual(0)
        expect(right).toBeLessThanOrEqual(1024)
      }
    },
  )
})

describe('a cross-tuning written as the fingers fall', () => {
  it('has the same notes on the bench, and on the sheet', async () => {
    const title = 'The Ninepin Ring'
    /**
     * How far each head lies under the top line of its staff, in steps: what a reader sees, whatever the size
     * of the drawing.
     */
    const steps = (root: string) =>
      page.locator(root).evaluate(e => {
        const box = (x: Element) => x.getBoundingClientRect()
        const found: number[] = []
        let lines: number[] = []
        for (const drawn of e.querySelectorAll('.vf-stave, .vf-notehead')) {
          const { top, bottom } = box(drawn)
          if (drawn.classList.contains('vf-stave'))
            lines = [...drawn.querySelectorAll('path')].slice(0, 5).map(l => box(l).top)
          else found.push(Math.round((((top + bottom) / 2 - lines[0]!) / (lines[4]! - lines[0]!)) * 8))
        }
        return found
      })
    await openBench(page, nokta, title, 'sheet')
    // Down on the strings that are tuned up: only there a finger falls elsewhere than it sounds.
    await page.click(test('octave'))
    await page.getByRole('option', { name: 'an octave down' }).click()
    await page.waitForFunction(
      () => document.querySelector('[data-test="octave"]')!.textContent!.trim() === 'an octave down',
    )
    await saved(page)
    await page.waitForTimeout(500)
    const sounding = await steps(test('pages'))
    await openBench(page, nokta, title, 'hand')
    await page.click(test('hand-setup'))
    await page.click(test('crossNotes-school'))
    await page.getByRole('option', { name: /as the fingers fall/ }).click()
    await saved(page)
    await page.waitForTimeout(500)
    const bench = await steps(test('score'))
    await openBench(page, nokta, title, 'sheet')
    await page.waitForSelector(`${test('pages')} .vf-notehead`)
    const sheet = await steps(test('pages'))
    expect(sheet).not.toEqual(sounding)
    expect(sheet).toEqual(bench)
  })
})

it('the page names tune and station, and every other place, in its title', async () => {
  const title = () => page.title()
  await openBench(page, nokta, 'The Crooked Stile', 'hand')
  await expect.poll(title).toBe('The Crooked Stile · Hand · Nokta')
  await page.click(test('station-bow'))
  await expect.poll(title).toBe('The Crooked Stile · Bow · Nokta')
  await page.goto(`${nokta.url}/learners`)
  await expect.poll(title).toBe('Learners · Nokta')
  await page.goto(nokta.url)
  await expect.poll(title).toBe('Shelf · Nokta')
})

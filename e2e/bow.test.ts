import type { Page } from 'playwright-core'
import { beforeEach, describe, expect, it } from 'vitest'
import { openBench, pasteTune, test } from './browser'
import { saved, useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})

const open = async (title: string) => {
  await openBench(page, driven.nokta, title, 'bow')
  await page.waitForSelector(`${test('findings')}, ${test('no-bow-findings')}`)
}
const line = (text: string) => page.locator(`${test('findings')} li`, { hasText: text })
const gone = (text: string) => line(text).first().waitFor({ state: 'detached' })
const stroke = () => page.locator(test('stroke')).textContent()
const laneStroke = (n: number) =>
  page
    .locator(`${test('bow-lane')} .stroke .hit`)
    .nth(n)
    .click({ force: true })

describe('what a teacher would see before it is played', () => {
  it('a tune drifts to the tip, and one click mends it', async () => {
    await open('Goose Gate Jog')
    const drifts = line('reaches the tip here')
    await expect.poll(() => drifts.count()).toBe(1)
    await drifts.locator(test('mend')).first().click()
    await gone('reaches the tip here')
    await saved(page)
    await page.keyboard.press('Control+z')
    await drifts.first().waitFor()
  })
  it('a part starts on the wrong bow the second time, and one click mends it', async () => {
    await open('The Ninepin Ring')
    const other = line('Part B starts up bow the second time')
    await expect.poll(() => other.count()).toBe(1)
    // Pointing at the mend shows the strokes it would make, and nothing is changed yet.
    await other.locator(test('mend')).first().hover()
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tried"] line').length > 0)
    // Each bow has one sign: its own, or the one the mend would give it.
    const signs = await page.$$eval('[data-test="bow-lane"] .sign', list =>
      list
        .filter(sign => getComputedStyle(sign).visibility !== 'hidden')
        .map(sign => sign.getAttribute('d')!.split(' ')[0]!),
    )
    expect(signs.length).toBeGreaterThan(10)
    expect(new Set(signs).size).toBe(signs.length)
    await expect.poll(() => page.locator(test('save-state')).textContent()).toContain('Saved')
    await other.locator(test('mend')).first().click()
    await page.mouse.move(300, 300)
    await gone('Part B starts up bow')
    await page.waitForFunction(() => document.querySelectorAll('[data-test="tried"] line').length === 0)
    await saved(page)
  })
  it('all of it is taken at once, and every first beat comes down', async () => {
    await open('Brindlewick Bridge')
    await expect
      .poll(() => page.locator(test('bow-offer')).textContent())
      .toMatch(/17 of 31 first beats come up/)
    await page.click(test('take-all'))
    await page.waitForSelector(`${test('bow-offer')} >> text=All 31 first beats come down`)
    await page.keyboard.press('Control+z')
    await page.waitForSelector(`${test('bow-offer')} >> text=17 of 31`)
  })
})

describe('a groove', () => {
  it('comes over a reel in three clicks, and is tapped and typed into another', async () => {
    await open('Brindlewick Bridge')
    await page.click(test('bow-school'))
    await page.click(test('school-pattern'))
    await page.click(test('groove-2-1-1'))
    await page.waitForFunction(() => document.querySelectorAll('.stroke.added').length > 20)
    await page
      .locator(`${test('tapped')} .gap`)
      .nth(1)
      .click()
    await expect.poll(() => page.locator(`${test('pattern-typed')} input`).inputValue()).toBe('3 1')
    await page.fill(`${test('pattern-typed')} input`, '1 3 x')
    await page.keyboard.press('Enter')
    await page.waitForSelector('text=numbers from 1 to 16')
    await page.fill(`${test('pattern-typed')} input`, '1 3')
    await page.keyboard.press('Enter')
    await page.waitForSelector('text=one separate, three slurred')
    await saved(page)
  })
  it('goes to a phrase alone, and the other phrases stay as they were', async () => {
    await open('The Crooked Stile')
    await page.keyboard.press(']')
    await page.click(test('bow-school'))
    await page.click(test('scope-phrase'))
    await page.click(test('school-pattern'))
    await page.click(test('groove-2-2'))
    await page.waitForSelector('text=/Measures .* in a pattern/')
    const added = await page.locator('.stroke.added').count()
    expect(added).toBeGreaterThan(3)
    expect(added).toBeLessThan(20)
  })
})

describe('marks', () => {
  it('come by habit: dotted pairs hooked or slurred, triplets in one bow, said so where one is met', async () => {
    await open('The Tannery Band Steps Out')
    const lane = `${test('bow-lane')} .stroke .hit`
    const strokes = () => page.locator(lane).count()
    const until = (is: 'fewer' | 'as many', n: number) =>
      page.waitForFunction(
        ([at, how, than]) => {
          const now = document.querySelectorAll(at).length
          return how === 'fewer' ? now < than : now === than
        },
        [lane, is, n] as const,
      )
    await page.click(test('bow-school'))
    const choose = async (habit: string, words: string) => {
      await page.click(test(`habit-${habit}`))
      await page.click(`.v-overlay-container >> text=${words}`)
    }
    const apart = await strokes()
    await choose('triplets', 'one to a bow')
    await until('fewer', apart - 9)
    const inThrees = await strokes()
    await choose('dotted', 'slurred')
    await until('fewer', inThrees - 9)
    // A hook is a bow of its own that goes on the same way.
    await choose('dotted', 'hooked')
    await until('as many', inThrees)
    await page.click(test('bow-stroke'))
    await laneStroke(2)
    await expect.poll(stroke).toContain('Dotted pairs are hooked: both notes in one bow')
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
    await until('as many', apart)
    await saved(page)
  })
  it('Nokta may add are told apart until they are kept', async () => {
    await open('The Tannery Band Steps Out')
    await page.click(test('bow-school'))
    for (const way of ['slur', 'hook', 'lift']) await page.locator(test(`may-${way}`)).check()
    await page.waitForFunction(() => document.querySelectorAll('.nokta-marks .bow-added').length > 3)
    await page.click(test('take-added'))
    await page.waitForFunction(() => document.querySelectorAll('.nokta-marks .bow-added').length === 0)
    await saved(page)
  })
  it('are set on a stroke: slur, pin, hook, lift, a part of the bow; keys do the same', async () => {
    await open('Four Corners of Ostrey')
    await page.click(test('bow-stroke'))
    await laneStroke(2)
    await page.waitForSelector(`${test('stroke')} >> text=In turn`)
    await page.click(test('slur'))
    await page.waitForSelector(`${test('slur')} >> text=Separate from the note before`)
    await page.keyboard.press('s')
    await page.waitForSelector(`${test('slur')} >> text=Slur to the note before`)
    const direction = (await stroke())!.startsWith('Down') ? 'up' : 'down'
    await page.click(test(`pin-${direction}`))
    await page.waitForSelector(`${test('stroke')} >> text=Pinned by you`)
    await expect.poll(async () => (await stroke())!.toLowerCase()).toContain(`${direction} bow`)
    await page.click(test(`pin-${direction}`))
    await page.keyboard.press('h')
    await page.waitForSelector(`${test('hook')} >> text=No hook`)
    await page.keyboard.press('l')
    await page.waitForSelector(`${test('lift')} >> text=No lift`)
    await page.keyboard.press('l')
    await page.waitForSelector(`${test('lift')} >> text=Lift before`)
    await saved(page)
  })
  it('turn round where their sign is clicked in the lane, and are pulled to another place on the bow', async () => {
    await open('Skylark over Hethering')
    await page.click(test('bow-stroke'))
    await page
      .locator(`${test('bow-lane')} .stroke .hit-sign`)
      .nth(3)
      .click({ force: true })
    await page.waitForSelector(`${test('stroke')} >> text=Pinned by you`)
    const grip = page.locator(`${test('bow-lane')} .stroke .grip`).nth(6)
    const box = (await grip.boundingBox())!
    await page.mouse.move(box.x + 5, box.y + 5)
    await page.mouse.down()
    await page.mouse.move(box.x + 5, box.y - 50, { steps: 4 })
    await page.mouse.up()
    await page.waitForSelector('text=as you pulled it')
    await expect.poll(async () => (await grip.boundingBox())!.y).toBeLessThan(box.y - 20)
  })
  it('stand in the score all, where they are needed, or once a phrase', async () => {
    await open('The Heron on Saltmarsh Lane')
    const count = () => page.evaluate(() => document.querySelectorAll('.nokta-marks .bow-mark').length)
    const all = await count()
    await page.click(test('bow-school'))
    const choose = async (name: string) => {
      await page.click(test('bow-marks'))
      await page.click(`.v-overlay-container >> text=${name}`)
    }
    await choose('where it does not follow')
    await page.waitForFunction(n => document.querySelectorAll('.nokta-marks .bow-mark').length < n / 4, all)
    const needed = await count()
    await choose('the first of each phrase')
    await page.waitForFunction(n => document.querySelectorAll('.nokta-marks .bow-mark').length !== n, needed)
    await expect
      .poll(count)
      .toBe(
        await page.locator(`${test('ribbon')} [data-test="phrase-block"], ${test('ribbon')} button`).count(),
      )
  })
})

it('the bow moves with the sound', async () => {
  await open('Little Bell Round')
  await page.keyboard.press('Space')
  await page.waitForSelector(`${test('bow-at-playhead')} .contact`)
  const at = () => page.locator(`${test('bow-at-playhead')} .contact`).getAttribute('cx')
  const first = await at()
  await page.waitForFunction(
    x => document.querySelector('[data-test="bow-at-playhead"] .contact')?.getAttribute('cx') !== x,
    first,
  )
  await page.keyboard.press('Space')
})

it('a tune that says nothing of the bow has its marks on the first sheet: off in one click, offered, taken', async () => {
  await pasteTune(
    page,
    driven.nokta,
    'X:1\nT:Marrow Lane\nM:4/4\nL:1/8\nQ:1/4=100\nR:reel\nK:D\nA2|d2 fd A2 FA|d2 cB A2 F2|G2 BG F2 AF|E2 FE D2|\n',
  )
  await page.waitForSelector(test('station-sheet'))
  await page.click(test('station-sheet'))
  await page.waitForSelector(`${test('added-marks')} >> text=/bow marks? by Nokta/`)
  await page.click(test('added-off'))
  await page.waitForSelector(`${test('bow-gain')} >> text=/come up|comes up/`)
  await page.click(test('take-gain'))
  await page.waitForSelector(test('bow-gain'), { state: 'detached' })
  await page.waitForSelector(test('added-marks'), { state: 'detached' })
  await saved(page)
})

it('marks Nokta added are a list: each kept or taken off by itself', async () => {
  await pasteTune(
    page,
    driven.nokta,
    'X:1\nT:Uneven Lane\nM:4/4\nL:1/8\nQ:1/4=80\nK:D\nD2F2 A3F|G2B2 A4|B3A F2D2|E2FG E4|D2F2 A3F|G2B2 A4|B2AG F2E2|D8|\n',
  )
  await page.click(test('station-bow'))
  await page.waitForSelector(test('added-list'))
  const lines = () => page.locator(`${test('added-list')} li`).allTextContents()
  const all = await lines()
  await page.locator(test('off-one')).first().click()
  await expect.poll(lines).not.toContain(all[0])
  await page.click(test('undo'))
  await expect.poll(lines).toEqual(all)
  await page.locator(test('keep-one')).last().click()
  await expect.poll(lines).toEqual(all.slice(0, -1))
  await page.click(test('undo'))
  await saved(page)
})

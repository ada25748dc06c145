import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { newArrangement } from '#core/arrangement/recipe'
import { TUNED } from '#core/form/goldens/analysed'
import { readAnalysed } from '#core/form/goldens/read'
import { openBench, test } from './browser'
import { saved, useBrowser, type Driven } from './harness'

let nokta: Driven['nokta']
let page: Driven['page']
useBrowser(driven => ({ nokta, page } = driven))

const quilt = (what: string) => page.locator(`${test('quilt')} ${test(what)}`)
const labels = () => quilt('phrase').evaluateAll(list => list.map(e => e.querySelector('b')!.textContent))
const seamText = async (i: number) => (await quilt('seam').nth(i).getAttribute('aria-label'))!

describe('the quilt', () => {
  it('moves a seam by dragging, by key, and undoes both', async () => {
    await openBench(page, nokta, 'Evening on Quillen Water', 'form')
    const before = await seamText(0)
    const seam = (await quilt('seam').first().boundingBox())!
    await page.mouse.move(seam.x + seam.width / 2, seam.y + seam.height / 2)
    await page.mouse.down()
    await page.mouse.move(seam.x - 90, seam.y + 30, { steps: 6 })
    await page.waitForSelector('.ghost em')
    const promised = await page.textContent('.ghost em')
    await page.mouse.up()
    await page.waitForFunction(
      old => document.querySelector('[data-test="seam"]')!.getAttribute('aria-label') !== old,
      before,
    )
    const dragged = await seamText(0)
    expect(dragged).toContain(promised!.trim())
    await quilt('seam').first().focus()
    await page.keyboard.press('ArrowRight')
    await page.waitForFunction(
      old => document.querySelector('[data-test="seam"]')!.getAttribute('aria-label') !== old,
      dragged,
    )
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await page.waitForFunction(
      old => document.querySelector('[data-test="seam"]')!.getAttribute('aria-label') === old,
      before,
    )
  })

  it('opens a long tune without signs with the form a teacher would write', async () => {
    const march = TUNED.find(t => t.name === 'long march with nothing marked')!
    const made = await nokta.shelf.create(null, { ...readAnalysed(march).tune, title: 'Long march' }, [
      newArrangement('violin', 'full'),
    ])
    await page.goto(`${nokta.url}/tunes/${made.id}/form`)
    await page.waitForSelector(`${test('quilt')} ${test('phrase')}`)
    const parts = await page.locator(`${test('quilt')} .part`).allTextContents()
    expect(parts.map(p => p.replace(/\s+/g, ' ').trim())).toEqual([
      'A',
      'A again',
      'B',
      'B again',
      'C',
      'C again',
      'A again',
      'A again',
    ])
    await expect.poll(async () => (await labels()).slice(0, 4)).toEqual(['A1', 'A2', 'A3', 'A4'])
  })
})

describe('a remark', () => {
  it('on a phrase, and on a measure, stands in the score where it begins, and on paper', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'form')
    await quilt('phrase').nth(1).click()
    const field = page.locator(`${test('phrase-remark')} input`)
    await field.fill('like a question')
    await field.press('Enter')
    await saved(page)
    await page.click(test('station-tune'))
    await page.waitForSelector('.marks text >> text=like a question')
    await page.locator('[data-test="tune-note"], [role="tab"]:has-text("Note")').first().click()
    await page.keyboard.press('ArrowRight')
    const measure = page.locator(`${test('measure-remark')} input`)
    await measure.fill('all of it softly')
    await measure.press('Enter')
    await page.waitForSelector('.marks text >> text=all of it softly')
    await saved(page)
    await page.click(test('station-sheet'))
    await page.waitForSelector(`${test('pages')} text >> text=like a question`)
    await expect
      .poll(() => page.locator(`${test('pages')} text`, { hasText: 'all of it softly' }).count())
      .toBe(1)
  })
})

describe('kin', () => {
  it('are laid over each other, declared, denied, and undone', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'form')
    await quilt('phrase').nth(1).click()
    await page.waitForSelector(`${test('compare-told')} >> text=/notes differ/`)
    const lit = await page.locator(test('lit')).count()
    expect(lit).toBeGreaterThan(0)
    const kin = () => page.textContent(test('kin'))
    await expect.poll(kin).toContain('As A1 with another ending')
    await page.click(test('declare-kin'))
    await page.click('text=related to none')
    await page.waitForSelector(`${test('kin')} >> text=New material.`)
    await page.keyboard.press('Control+z')
    await page.waitForSelector(`${test('kin')} >> text=As A1`)
    await saved(page)
  })

  it('are heard in turn, one after the other', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'form')
    await quilt('phrase').nth(1).click()
    await page.fill(`${test('play-tempo')} input`, '200')
    await page.click(test('hear-turn'))
    const sounds = (i: number) =>
      page.waitForSelector(`${test('ribbon')} ${test('phrase')}:nth-of-type(${i}) .at`, { timeout: 60_000 })
    await sounds(1)
    await sounds(2)
    await page.fill(`${test('play-tempo')} input`, '100')
    await page.click(test('play'))
  })

  it('in other tunes of the shelf are told, and lead there', async () => {
    const other = readAbc(
      'X:1\nT:The Borrowed Strain\nM:2/2\nL:1/8\nK:D\nd2f2 e2d2|c2A2 B4|d2f2 a2f2|e8|D2FA d2fd|B2dB A2FA|G2BG F2AF|E2C2 D4|]',
    ).tunes[0]!.tune
    const lender = readAbc(
      'X:1\nT:The Lender\nM:2/2\nL:1/8\nK:D\nD2FA d2fd|B2dB A2FA|G2BG F2AF|E2C2 D4|f2a2 g2f2|e2d2 c4|B2d2 c2B2|A8|]',
    ).tunes[0]!.tune
    await nokta.shelf.create(null, other, [newArrangement('violin', 'full')])
    const made = await nokta.shelf.create(null, lender, [newArrangement('violin', 'full')])
    await page.goto(`${nokta.url}/tunes/${made.id}/form`)
    await quilt('phrase').first().click()
    await page.click(`${test('known-from')} a`)
    await page.waitForSelector('text=The Borrowed Strain')
  })
})

describe('the way to learn it', () => {
  it('changes its order, leaves a step out, keeps a line to sing, and prints', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'form')
    await page.click(test('form-learn'))
    const minutes = async () => Number(await page.textContent(test('plan-minutes')))
    const all = await minutes()
    await page.locator(test('leave-step')).first().click()
    await page.waitForFunction(
      n => Number(document.querySelector('[data-test="plan-minutes"]')!.textContent) < n,
      all,
    )
    await page.fill(test('sing-A1'), 'over the bridge and away')
    await page.keyboard.press('Tab')
    await page.click(test('plan-order'))
    await page.click('text=least new first')
    await page.waitForFunction(
      () => document.querySelector('[data-test="new-material"] tbody b')!.textContent !== 'A1',
    )
    const [file] = await Promise.all([page.waitForEvent('download'), page.click(test('print-outline'))])
    expect(file.suggestedFilename()).toBe('Brindlewick Bridge lesson.pdf')
    await saved(page)
    await page.reload()
    await page.click(test('form-learn'))
    await expect.poll(() => page.inputValue(test('sing-A1'))).toBe('over the bridge and away')
  })
})

describe('chords', () => {
  it('are proposed, corrected, and written into the tune', async () => {
    const plain = readAbc('X:1\nT:No chords yet\nM:4/4\nL:1/8\nK:D\nD2FA d4|G2B2 d4|A2c2 e4|d8|]').tunes[0]!
      .tune
    const made = await nokta.shelf.create(null, plain, [newArrangement('violin', 'full')])
    await page.goto(`${nokta.url}/tunes/${made.id}/form`)
    await page.click(test('form-chords'))
    const chord = page.locator(test('chord'))
    await chord.nth(1).waitFor()
    await expect
      .poll(() => chord.evaluateAll(list => list.map(e => (e as HTMLInputElement).value)))
      .toEqual(['D', 'G', 'A', 'D'])
    await chord.nth(1).fill('H')
    await expect.poll(() => page.locator(test('write-chords')).isDisabled()).toBe(true)
    await chord.nth(1).fill('Em')
    await page.click(test('write-chords'))
    await page.waitForSelector('text=The tune has its chords')
    await saved(page)
    const stored = (await nokta.shelf.get(made.id))!.tune.measures.flatMap(m =>
      m.events.flatMap(e => e.chord ?? []),
    )
    expect(stored).toEqual(['D', 'Em', 'A', 'D'])
  })
})

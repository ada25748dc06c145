import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

const choose = async (name: string, option: string | RegExp) => {
  await page.click(test(name))
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click()
}
const laneNote = (n: number) =>
  page
    .locator(`${test('hand-lane')} .note`)
    .nth(n)
    .locator('circle')
    .first()
    .click()
/** Finger and string of the notes in the lane, as the page's core has them. */
const fourths = () =>
  page
    .locator(`${test('hand-lane')} .note`)
    .evaluateAll(list => list.filter(g => g.textContent?.includes('4')).length)

describe('other ways', () => {
  it('are laid over the lane, compared note by note, used, and undone', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    const before = await fourths()
    expect(before).toBeGreaterThan(0)
    await page.click(test('hand-ways'))
    const way = page.locator(`${test('ways')} li`, { hasText: 'no fourth finger' })
    await way.locator(test('lay')).click()
    await expect.poll(() => page.locator(test('ghost')).count()).toBe(await way.locator('tbody tr').count())
    await expect.poll(() => way.locator(test('compared')).textContent()).toContain('4 on Dopen A')
    await way.locator(test('use-way')).click()
    await page.waitForFunction(
      () =>
        ![...document.querySelectorAll('[data-test="hand-lane"] .note')].some(g =>
          g.textContent?.includes('4'),
        ),
    )
    await page.click(test('hand-phrase'))
    await expect.poll(() => page.locator(test('rule')).textContent()).toContain('no fourth finger')
    await page.click(test('undo'))
    await page.waitForFunction(() => !document.querySelector('[data-test="rule"]'))
    await expect.poll(fourths).toBe(before)
  })
})

describe('another arrangement of the tune', () => {
  it('stands beside this one: what each asks of the hand, which notes change; its fingers can be used', async () => {
    await openBench(page, nokta, 'The Lighthouse Stair', 'hand')
    await page.click(test('hand-ways'))
    await choose('compare-with', 'Rather shifting')
    const facts = page.locator(`${test('facts')} tr`, { hasText: 'Reached out of the hand' })
    await facts.waitFor()
    const [now, then] = (await facts.locator('.number').allTextContents()).map(Number)
    expect(now!).toBeGreaterThan(0)
    expect(then).toBe(0)
    await page.waitForSelector(test('ghost'))
    await page.click(test('use-other'))
    await page.waitForSelector(`${test('other-arrangement')} >> text=Both have the same fingers`)
    await page.click(test('undo'))
    await page.waitForSelector(test('ghost'))
  })
})

describe('names of the school', () => {
  it('change places, positions and tab lines everywhere', async () => {
    await openBench(page, nokta, 'Skylark over Hethering', 'sheet')
    // Above first position places are not marked, so that half steps must be, whatever else is switched off.
    await page.waitForSelector(`${test('pages')} .half-step`, { state: 'attached' })
    await expect.poll(() => page.locator(`${test('pages')} .prepare-sign`).count()).toBe(0)
    await openBench(page, nokta, 'Skylark over Hethering', 'hand')
    const score = () => page.locator(`${test('score')}`).textContent()
    await page.waitForSelector(`${test('score')} .half-step`, { state: 'attached' })
    await expect.poll(score).toContain('third pos.')
    await page.click(test('hand-setup'))
    await choose('positions-school', 'the note of the first finger')
    await page.waitForSelector(`${test('score')} >> text=1 on A`)
    await choose('places-school', '2 is always high or low')
    await page.waitForFunction(() => !document.querySelector('[data-test="score"] .half-step'))
    await choose('tabLines-school', 'as the player looks down')
    await saved(page)
    await openBench(page, nokta, 'Skylark over Hethering', 'sheet')
    const labels = page.locator(`${test('pages')} text`)
    await page.waitForFunction(() =>
      /GDAE/.test(document.querySelector('[data-test="pages"]')?.textContent?.replace(/\s/g, '') ?? ''),
    )
    await expect.poll(async () => (await labels.allTextContents()).join('')).toContain('GDAE')
  })
})

describe('the keyboard', () => {
  it('takes the same place with the next finger, and back', async () => {
    await openBench(page, nokta, 'Half-Step Study', 'hand')
    await laneNote(2)
    const choice = () => page.locator(test('choice')).textContent()
    const before = await choice()
    await page.keyboard.press('<')
    await page.waitForFunction(b => document.querySelector('[data-test="choice"]')?.textContent !== b, before)
    const finger = (t: string | null) => Number(/[1-4]/.exec(t ?? '')?.[0])
    await expect.poll(async () => finger(await choice())).toBe(finger(before) + 1)
    await page.keyboard.press('>')
    await page.waitForFunction(b => document.querySelector('[data-test="choice"]')?.textContent === b, before)
  })
})

describe('a rule for a phrase', () => {
  it('is kept in that phrase, told where it can’t be, and taken off by its mend', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await page.locator(test('phrase')).last().click()
    await page.click(test('hand-phrase'))
    await choose('add-rule', 'stay on A')
    await page.waitForSelector(test('rule'))
    await page.click(test('hand-look'))
    await page.waitForSelector("text=“stay on A” can't be kept")
    await page
      .locator(`${test('hand-findings')} ${test('mend')}`, { hasText: 'Take the rule off' })
      .first()
      .click()
    await page.waitForSelector('text=Nothing to look at')
  })
})

describe('one phrase and its kin', () => {
  it('take the same pin at a tick', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'hand')
    await laneNote(2)
    const box = page.locator(test('also-kin'))
    await box.waitFor()
    await box.locator('input').check()
    await page.click(test('pin'))
    await page.waitForFunction(() => document.querySelectorAll('.note circle.pinned').length > 1)
    await page.click(test('pin'))
    await page.waitForFunction(() => document.querySelectorAll('.note circle.pinned').length === 0)
  })
})

describe('what the hand goes by', () => {
  it('a learner’s short reach takes the fourth finger away, and says so with the caution', async () => {
    await page.goto(`${nokta.url}/instruments`)
    await page.waitForSelector(test('tape'))
    await page.fill(`${test('hand-name')} input`, 'K.')
    await page.fill(`${test('hand-span')} input`, '66')
    await page.click(test('add-hand'))
    await page.waitForSelector(`${test('hand-row')}:has-text("within reach on 1/2")`)
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await expect.poll(fourths).toBeGreaterThan(0)
    await page.click(test('hand-setup'))
    await choose('span', 'K.: 66 mm')
    await page.waitForFunction(
      () =>
        ![...document.querySelectorAll('[data-test="hand-lane"] .note')].some(g =>
          g.textContent?.includes('4'),
        ),
    )
    await saved(page)
    await page.reload()
    await page.waitForSelector(`${test('hand-lane')} .note`)
    await expect.poll(fourths).toBe(0)
  })

  it('shows what each tuning does to the tune and takes one; strings are named as the school has it', async () => {
    await openBench(page, nokta, 'The Ninepin Ring', 'hand')
    await page.click(test('hand-setup'))
    await page.waitForSelector(`${test('tuning-effects')} tbody tr >> nth=3`)
    await expect
      .poll(() => page.locator(`${test('tuning-effects')} .inuse`).textContent())
      .toMatch(/A3 E4 A4 E5.*%/)
    await choose('crossNames-school', 'are named as they sound')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-test="hand-lane"] .string')].every(t =>
        /^[AE]$/.test(t.textContent!.trim()),
      ),
    )
    await page
      .locator(`${test('tuning-effects')} button`)
      .first()
      .click()
    await page.waitForFunction(() => !document.querySelector('[data-test="caution"]'))
  })

  it('plays on five strings', async () => {
    await openBench(page, nokta, 'Half-Step Study', 'hand')
    const strings = () => page.locator(`${test('fingerboard')} .string text`).allTextContents()
    await choose('instrument', 'double bass')
    await choose('tuning', 'five strings: B0 E1 A1 D2 G2')
    await page.waitForFunction(
      () => document.querySelectorAll('[data-test="fingerboard"] .string text').length === 5,
    )
    expect((await strings()).map(s => s.trim())).toEqual(['G', 'D', 'A', 'E', 'B'])
    await page.click(test('undo'))
    await page.waitForFunction(
      () => document.querySelectorAll('[data-test="fingerboard"] .string text').length === 4,
    )
  })

  it('marks the notes that ring with an open string', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await expect.poll(() => page.locator(test('rings')).count()).toBe(0)
    await page.locator(`${test('ringing')} input`).check()
    await page.waitForSelector(test('rings'))
    await page
      .locator(`${test('hand-lane')} .note:has(.rings) circle`)
      .first()
      .click()
    await page.waitForSelector(`${test('extras')}:has-text("It rings with the open")`)
  })
})

describe('the score', () => {
  it('shows what stays down, what is laid over two strings, what to put ready, and fingers of grace notes', async () => {
    await openBench(page, nokta, 'Two Kettles on the Hob', 'hand')
    for (const sign of ['hold-sign', 'slide-sign', 'prepare-sign', 'grace-finger'])
      await page.waitForSelector(`${test('score')} .${sign}`)
    await openBench(page, nokta, 'Skylark over Hethering', 'hand')
    await page.waitForSelector(`${test('score')} .block-sign`)
    await page.waitForSelector(`${test('score')} .position-bracket`)
    await page.waitForSelector(`${test('score')} .prepare-sign`)
  })
})

describe('the page', () => {
  it('prints the other line beside the fingers for those without a fourth finger', async () => {
    await openBench(page, nokta, 'Skylark over Hethering', 'sheet')
    await page.waitForSelector(`${test('pages')} .ossia`)
    await choose('ossia', 'none')
    await page.waitForFunction(() => !document.querySelector('[data-test="pages"] .ossia'))
    await choose('ossia', 'no fourth finger')
    await page.waitForSelector(`${test('pages')} .ossia`)
  })
})

describe('the instruments', () => {
  it('say where the tapes go, by size and by measure, and print a strip true to scale', async () => {
    await page.goto(`${nokta.url}/instruments`)
    const places = () => page.locator(`${test('tape')} td:nth-last-child(3)`).allTextContents()
    await page.waitForSelector(test('tape'))
    await expect.poll(places).toEqual(['35.8', '52.2', '67.7', '82.3', '109.1'])
    await page.fill(`${test('measured')} input`, '0')
    await page.waitForSelector('text=A string length from 100 to 1500 mm')
    await expect.poll(places).toContain('35.8')
    await page.fill(`${test('measured')} input`, '330')
    await page.waitForFunction(() =>
      document.querySelector('[data-test="tape"]')?.textContent?.includes('36.0'),
    )
    const [file] = await Promise.all([page.waitForEvent('download'), page.click(test('print-strip'))])
    const pdf = readFileSync(await file.path())
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
    expect(file.suggestedFilename()).toBe('tapes violin 330 mm.pdf')
  })

  it('say what each string must do, in which order, with the caution; what would break is refused', async () => {
    await page.goto(`${nokta.url}/instruments`)
    const to = `${test('retune-to')} input`
    await page.fill(to, 'A3 E4 A4 E5')
    await page.waitForSelector(`${test('retune-order')}:has-text("G up to A3, then D up to E4")`)
    await expect
      .poll(() => page.locator(test('retune-step')).first().textContent())
      .toMatch(/G3.*A3.*\+2.*\+200.*\+26%/)
    await page.waitForSelector('text=keep the face away')
    await page.fill(to, 'G3 D4 A4 E7')
    await page.waitForSelector('text=24 semitones up from the home string, +1500% tension')
    await page.fill(to, 'E4 D4 A4 E5')
    await page.waitForSelector('text=/cross at|semitones up/')
  })

  it('tune a simulated string by following the advice', async () => {
    await page.goto(`${nokta.url}/instruments`)
    await page.click(test('simulate'))
    const advice = () => page.locator(test('advice')).textContent()
    await page.waitForSelector(`${test('advice')}:has-text("cents")`)
    await expect.poll(advice).toContain('Up')
    const pegs = page.locator(test('peg'))
    for (let i = 0; i < 40 && !(await advice())!.includes('In tune'); i++) {
      const cents = Number(/(-?\d+(\.\d+)?) cents/.exec((await advice()) ?? '')?.[1] ?? 0)
      const peg = cents < -20 ? 3 : cents < 0 ? 2 : cents > 20 ? 0 : 1
      await pegs.nth(peg).click()
      // The string settles.
      await page.waitForTimeout(1200)
    }
    await expect.poll(advice).toContain('In tune')
    await page.click(test('tuner-stop'))
    await expect.poll(() => page.locator(test('advice')).count()).toBe(0)
  })

  it('say what is assumed of a hand; slower figures lower what a fingering holds to', async () => {
    await openBench(page, nokta, 'Low Barn Stomp', 'hand')
    await page.click(test('hand-phrase'))
    await page.waitForSelector(test('ceiling'))
    const tempo = async () =>
      Number(/= ?(\d+)/.exec((await page.locator(test('ceiling')).textContent())!)![1])
    const before = await tempo()
    await page.click(`${test('assumed')} a`)
    await page.fill(test('model-settleSeconds'), '7')
    await page.locator(test('model-settleSeconds')).blur()
    await page.waitForSelector('text=from 0.01 to 1')
    await page.fill(test('model-settleSeconds'), '0.3')
    await page.locator(test('model-settleSeconds')).blur()
    await page.waitForSelector(test('model-back'))
    await openBench(page, nokta, 'Low Barn Stomp', 'hand')
    await page.click(test('hand-phrase'))
    await page.waitForSelector(`${test('assumed')}:has-text("0.3 s")`)
    await page.waitForSelector(test('ceiling'))
    await expect.poll(tempo).toBeLessThan(before)
    await page.click(`${test('assumed')} a`)
    await page.click(test('model-back'))
    await page.waitForFunction(() => !document.querySelector('[data-test="model-back"]'))
  })

  it('say when there is no microphone', async () => {
    await page.goto(`${nokta.url}/instruments`)
    await page.click(test('listen'))
    await page.waitForSelector('text=The simulated string works without one')
  })
})

it('a finger that is set tells of taste: said among the instruments, and forgotten at a word', async () => {
  await openBench(page, nokta, 'The Crooked Stile', 'hand')
  await laneNote(4)
  // Earlier tests that stayed long enough have set fingers too.
  const learned = page.waitForResponse(r => {
    if (!r.ok() || !r.url().endsWith('/studio') || r.request().method() !== 'PUT') return false
    const saved = r.request().postDataJSON() as { doc?: { taste?: { decisions: unknown[] } } }
    return (saved.doc?.taste?.decisions.length ?? 0) > 0
  })
  await page.keyboard.press('p')
  await learned
  await page.goto(`${nokta.url}/instruments`)
  await page.waitForSelector(`${test('taste')} >> text=/So far \\d+ arrangements? with fingers of yours/`)
  await page.click(test('forget-taste'))
  await page.waitForSelector(`${test('taste')} >> text=/You have set none yet/`)
})

import { readFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { openBench, test, tuneId } from './browser'
import { useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

describe('listening', () => {
  it('plays with the marks following, stops by itself, and plays one phrase over and over', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await page.fill(`${test('play-tempo')} input`, '200')
    await page.click(test('play'))
    await page.waitForFunction(() =>
      /^\d$/.test(document.querySelector('[data-test="count"]')?.textContent ?? ''),
    )
    await page.waitForSelector(test('sounding'))
    await page.waitForSelector(`${test('hand-lane')} .playhead`, { state: 'attached' })
    await page.click(test('play'))
    await page.waitForSelector(test('sounding'), { state: 'detached' })
    await page.locator(test('phrase')).first().click()
    await page.click(test('loop'))
    await page.keyboard.press('Escape')
    await page.locator(test('phrase')).first().click()
    await expect.poll(() => page.getAttribute(test('play'), 'aria-label')).toBe('Play phrase A1')
    await page.click(test('play'))
    const marks = () => page.evaluate(() => performance.getEntriesByName('nokta:cursor').length)
    const inPhrase = (await nokta.shelf.get(await tuneId(nokta, 'Little Bell Round')))!.tune.measures
      .slice(0, 2)
      .flatMap(m => m.events).length
    // More notes than the phrase has: it went round.
    await page.waitForFunction(
      n => performance.getEntriesByName('nokta:cursor').length > n,
      (await marks()) + inPhrase + 4,
      { timeout: 60_000 },
    )
    await page.keyboard.press('Space')
    await page.waitForSelector(test('sounding'), { state: 'detached' })
  })

  it('stopped while its sounds are still fetched, stays silent', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'hand')
    await page.keyboard.press('Space')
    await page.waitForSelector(`${test('play')}[aria-label="Stop"], ${test('play')}.v-btn--loading`)
    await page.keyboard.press('Space')
    await page.waitForLoadState('networkidle')
    await page.waitForTimeout(500)
    await expect.poll(() => page.getAttribute(test('play'), 'aria-label')).toMatch(/^Play/)
    await expect.poll(() => page.locator(test('sounding')).count()).toBe(0)
  })

  it('saves what is heard as a WAV file, as long as the music', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'tune')
    await page.fill(`${test('play-tempo')} input`, '200')
    await page.click(test('sound-menu'))
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('wav'))])
    const bytes = readFileSync(await download.path())
    expect([bytes.toString('latin1', 0, 4), download.suggestedFilename()]).toEqual([
      'RIFF',
      'Little Bell Round.wav',
    ])
    const { tune } = (await nokta.shelf.get(await tuneId(nokta, 'Little Bell Round')))!
    const quarters = 4 + tune.measures.length * 4 * (tune.measures.some(m => m.repeatEnd) ? 2 : 1)
    const seconds = (bytes.length - 44) / 2 / bytes.readUInt16LE(22) / bytes.readUInt32LE(24)
    const tempo = tune.tempo!.perMinute * (tune.tempo!.beat.n / tune.tempo!.beat.d) * 2
    expect(Math.abs(seconds - (quarters * 60) / tempo)).toBeLessThan(2.5)
    let loudest = 0
    for (let i = 44; i < bytes.length - 1; i += 2) loudest = Math.max(loudest, Math.abs(bytes.readInt16LE(i)))
    expect(loudest).toBeGreaterThan(3000)
  })
})

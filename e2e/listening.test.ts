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
    expect(Math.max(...loudest(bytes))).toBeGreaterThan(3000)
  })

  it('mixes tracks: the tune off, the drone at the left, the clicks away', async () => {
    await openBench(page, nokta, 'Little Bell Round', 'tune')
    await page.fill(`${test('play-tempo')} input`, '200')
    await page.click(test('sound-menu'))
    const names = page.locator(`${test('mixer')} tbody th`)
    await expect.poll(() => names.allTextContents()).toEqual(['Tune', 'Clicks'])
    await page.click(test('drone'))
    await page.click('.v-list-item:has-text("open D")')
    const track = (id: string, what: string) => `${test(`track-${id}`)} ${test(`track-${what}`)}`
    await page.click(track('tune', 'mute'))
    await page.fill(track('drone', 'pan'), '-1')
    await page.fill(track('clicks', 'volume'), '0')
    const [download] = await Promise.all([page.waitForEvent('download'), page.click(test('wav'))])
    const [left, right] = loudest(readFileSync(await download.path()))
    expect(left).toBeGreaterThan(1000)
    expect(right!).toBeLessThan(left! / 50)
    // What was mixed is there the next time.
    await page.reload()
    await page.click(test('sound-menu'))
    expect(await page.getAttribute(track('tune', 'mute'), 'aria-pressed')).toBe('true')
  })
})

/** The loudest sample of each channel of a WAV file of 16 bits. */
function loudest(bytes: Buffer): number[] {
  const channels = bytes.readUInt16LE(22)
  const found = Array.from({ length: channels }, () => 0)
  for (let i = 44, k = 0; i < bytes.length - 1; i += 2, k = (k + 1) % channels)
    found[k] = Math.max(found[k]!, Math.abs(bytes.readInt16LE(i)))
  return found
}

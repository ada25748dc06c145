/** The budgets of the Levels station, in a browser, as by one who looks for a moment before he clicks. */
import type { Browser } from 'playwright-core'
import { openBench, openPage, test } from '../e2e/browser'
import type { Nokta } from '../server/nokta'
import { middle, rowOf, seen, WINDOW_BUILT } from './benchRows'

/** Milliseconds. */
const LOOKS = 700

export async function levelsStation(browser: Browser, nokta: Nokta): Promise<void> {
  await everyKey(browser, nokta)
  await otherLevels(browser, nokta)
}

/** Every key and tuning, on a bench just opened. */
async function everyKey(browser: Browser, nokta: Nokta) {
  const searches: number[] = []
  for (let i = 0; i < 5; i++) {
    const fresh = await openPage(browser, [])
    await openBench(fresh.page, nokta, 'Four Corners of Ostrey', 'levels')
    await fresh.page.waitForTimeout(WINDOW_BUILT)
    await fresh.page.locator(test('with-tunings')).check()
    await fresh.page.waitForTimeout(LOOKS)
    const asked = performance.now()
    await fresh.page.click(test('search-keys'))
    await seen(fresh.page, test('best-keys'))
    searches.push(performance.now() - asked)
    await fresh.context.close()
  }
  rowOf('every key and tuning for four instruments, 32 measures', middle(searches), '2000 ms')
}

/**
 * From a click on a rung to the version drawn; from a click on Cancel to the question that can be asked
 * again.
 */
async function otherLevels(browser: Browser, nokta: Nokta) {
  const rungs: number[] = []
  const cancels: number[] = []
  const { page: levels, context } = await openPage(browser, [])
  await openBench(levels, nokta, 'Four Corners of Ostrey', 'levels')
  await levels.waitForTimeout(WINDOW_BUILT)
  await levels.evaluate(() => window.addEventListener('click', () => performance.mark('click'), true))
  for (let i = 0; i < 3; i++) {
    await levels.click(test('levels-asks'))
    await levels.waitForTimeout(LOOKS)
    const lower = levels.locator('[data-test^="make-"]')
    for (let left = await lower.count(); left > 0; left = await lower.count()) {
      await lower.first().click()
      await levels.waitForTimeout(LOOKS)
      rungs.push(
        await levels.evaluate(() => {
          const asked = performance.getEntriesByName('click').at(-1)!.startTime
          // Drawings in which nothing changed are free.
          const drawn = performance
            .getEntriesByName('nokta:draw')
            .filter(e => e.startTime > asked && e.duration > 2)
          return Math.max(...drawn.map(e => e.startTime + e.duration - asked))
        }),
      )
      await levels.click(test('levels-asks'))
    }
    for (let k = 0; k < 4; k++) await levels.keyboard.press('Control+z')
    await levels.waitForTimeout(LOOKS)
    await levels.click(test('search-keys'))
    await levels.waitForSelector(test('cancel-keys'))
    await levels.waitForTimeout(LOOKS / 2)
    cancels.push(
      await levels.evaluate(
        async ([cancel, search]) => {
          const asked = performance.now()
          document.querySelector<HTMLElement>(cancel)!.click()
          while (!document.querySelector(search)) await new Promise(requestAnimationFrame)
          return performance.now() - asked
        },
        [test('cancel-keys'), test('search-keys')] as const,
      ),
    )
  }
  await context.close()
  rowOf(`another level of a tune of 32 measures, ${rungs.length} times`, middle(rungs), '200 ms')
  rowOf('  the slowest of all', Math.max(...rungs), '–')
  rowOf('the search through keys cancelled', middle(cancels), '100 ms')
}

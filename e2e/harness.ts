/**
 * What the browser tests have in common: one Nokta and one browser a file, a fresh page a test, and no error
 * of the page unnoticed.
 */
import type { Browser, BrowserContext, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Nokta } from '#server/nokta'
import { launch, openPage, serve } from './browser'

export interface Driven {
  readonly nokta: Nokta
  readonly browser: Browser
  readonly page: Page
}

/** Calls `ready` before each test with what it drives. The player's clock runs, but nothing is heard. */
export function useBrowser(ready: (driven: Driven) => void) {
  const faults: string[] = []
  let nokta: Nokta
  let browser: Browser
  let context: BrowserContext
  beforeAll(async () => {
    ;[nokta, browser] = await Promise.all([serve(), launch()])
  })
  afterAll(async () => {
    await browser.close()
    await nokta.stop()
  })
  beforeEach(async () => {
    faults.length = 0
    const opened = await openPage(browser, faults)
    context = opened.context
    await context.addInitScript(() => localStorage.setItem('nokta.silent', '1'))
    ready({ nokta, browser, page: opened.page })
  })
  afterEach(async () => {
    await context.close()
    expect(faults).toEqual([])
  })
}

/** Waits until everything is on the server. */
export const saved = (page: Page) =>
  page.waitForFunction(
    () => document.querySelector('[data-test="save-state"]')?.textContent?.trim() === 'Saved',
  )

/** A whole Nokta with its browser: what the browser tests and the screenshots drive. */
import { fileURLToPath } from 'node:url'
import { chromium, type Browser, type BrowserContext, type Page } from 'playwright-core'
import { fillShelf } from '#demo/fillShelf'
import { startNokta, type Nokta } from '#server/nokta'

const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--font-render-hinting=none',
]

export const WEB = fileURLToPath(new URL('../dist/web', import.meta.url))
export const VIEWPORT = { width: 1280, height: 800 }

export const launch = (): Promise<Browser> =>
  chromium.launch({ executablePath: '/usr/bin/chromium', headless: true, args: FLAGS })

export const serve = (options: { data?: string; port?: number } = {}): Promise<Nokta> =>
  startNokta({
    port: options.port ?? 0,
    web: WEB,
    version: 'test',
    seed: fillShelf,
    ...(options.data && { data: options.data }),
  })

/** A fresh page whose errors end up in `faults`. */
export async function openPage(
  browser: Browser,
  faults: string[],
): Promise<{ page: Page; context: BrowserContext }> {
  const context = await browser.newContext({ viewport: VIEWPORT, acceptDownloads: true })
  const page = await context.newPage()
  page.setDefaultTimeout(20_000)
  page.on('pageerror', e => faults.push(e.message))
  page.on('console', m => {
    // A refused or unreachable request is shown by the browser itself; what the app makes of it is tested.
    if (m.type() === 'error' && !/Failed to load resource/.test(m.text())) faults.push(m.text())
  })
  return { page, context }
}

export const test = (name: string) => `[data-test="${name}"]`

export async function tuneId(nokta: Nokta, title: string): Promise<string> {
  const found = (await nokta.shelf.list()).find(t => t.title === title)
  if (!found) throw new Error(`no tune “${title}”`)
  return found.id
}

/** Opens a tune at a station and waits until it is drawn. */
export async function openBench(page: Page, nokta: Nokta, title: string, station: string) {
  await page.goto(`${nokta.url}/tunes/${await tuneId(nokta, title)}/${station}`)
  await page.waitForSelector(`${test('ribbon')} ${test('phrase')}`)
}

/** Puts a text that holds one tune on the shelf as a teacher does, and waits until it is drawn. */
export async function pasteTune(page: Page, nokta: Nokta, text: string) {
  await page.goto(nokta.url)
  await page.click(test('add'))
  await page
    .locator(`${test('paste')} textarea`)
    .first()
    .fill(text)
  await page.click(test('take'))
  await page.waitForSelector(`${test('score')} svg`)
}

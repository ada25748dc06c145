import type { Page } from 'playwright-core'
import { beforeEach, describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { composedAbc } from '#core/music/composed'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { newBooklet, type Booklet } from '#core/styles/booklet'
import { SHEET_KINDS, STYLES, type SheetStyle } from '#core/styles/sheetRecipe'
import type { StudioRecord } from '#contract/documents'
import { collisionsOn } from './collisions'
import { test } from './browser'
import { useBrowser, type Driven } from './harness'

let driven: Driven
let page: Page
useBrowser(d => (driven = d))
beforeEach(() => {
  page = driven.page
})

/** Millimetres that two boxes share in both directions before it is a collision. */
const LEAST = 0.35
const MADE = 100

const EVERYTHING: SheetStyle = {
  sheet: {
    ...STYLES[0]!.sheet,
    style: 'Everything',
    kinds: [...SHEET_KINDS],
    show: {
      positions: true,
      hand: true,
      phrases: true,
      chords: true,
      signs: true,
      numbers: true,
      legend: true,
    },
  },
  bowMarks: 'all',
}
const TAB: SheetStyle = {
  ...EVERYTHING,
  sheet: { ...EVERYTHING.sheet, style: 'Tab', kinds: ['music'], music: 'tab' },
}
const LARGE: SheetStyle = {
  ...EVERYTHING,
  sheet: { ...EVERYTHING.sheet, style: 'Large', kinds: ['music'], size: 'largest', contrast: true },
}

const ask = async <T>(path: string, method = 'GET', body?: unknown): Promise<T> => {
  const json = { 'Content-Type': 'application/json' }
  const answer = await fetch(`${driven.nokta.url}/api/v1${path}`, {
    method,
    ...(body !== undefined && { headers: json, body: JSON.stringify(body) }),
  })
  expect(answer.ok).toBe(true)
  return (await answer.json()) as T
}
async function keep(...booklets: Booklet[]) {
  const { versions } = await ask<StudioRecord>('/studio')
  await ask('/studio', 'PUT', { version: versions.booklets, doc: { part: 'booklets', booklets } })
}
async function collisions(booklet: string, pages: number) {
  await page.addInitScript(() => localStorage.setItem('nokta.booklet.zoom', 'width'))
  await page.goto(`${driven.nokta.url}/booklets/${booklet}`)
  const drawn = `${test('booklet-pages')} .paper > svg`
  await page.waitForFunction(
    ([at, n]) => document.querySelectorAll(at).length >= n && !document.querySelector('.working'),
    [drawn, pages] as const,
    { timeout: 90_000 },
  )
  await page.evaluate(() => document.fonts.ready)
  return page.evaluate(collisionsOn, { pages: drawn, least: LEAST })
}

describe('on paper nothing stands on anything else', () => {
  let demo: string[] | null = null
  beforeEach(async () => {
    demo ??= await laidOut()
  })
  async function laidOut() {
    const ids = (await ask<{ tunes: { id: string }[] }>('/tunes')).tunes.map(t => t.id)
    const looks = [null, ...STYLES, EVERYTHING, TAB, LARGE]
    await keep(...looks.map((style, i) => ({ ...newBooklet(`look${i}`, ids), style })))
    return ids
  }
  it.each([
    ['as it is set', 0],
    ['first year', 1],
    ['orchestra stand', 2],
    ['fiddle club', 3],
    ['every kind', 4],
    ['tab alone', 5],
    ['largest print', 6],
  ])('in any demo tune, %s', async (_name, i) =>
    expect(await collisions(`look${i}`, demo!.length)).toEqual([]),
  )

  it('in lines that begin with wide signs, or meet them on the way; grace notes stand behind their barline', async () => {
    const abc = (metre: string, key: string, music: string) =>
      `X:1\nT:Wide signs\nM:${metre}\nL:1/8\nK:${key}\n${music}\n`
    const tunes = [
      abc('4/4', 'C', '{A}G2 A2 {AB}G2 A2|{ABc}G2 A2 {^A}G2 A2|{^A^B}G4 ^A4|{c}^G4 A4|{A}G8|{AB}[GB]8|'),
      abc('12/8', 'A', 'c3 e2f a2f e2c|d2B GAB A3 A3|e2f fec BAF E3|A2c BGE A3 A3|'),
      abc('12/8', 'Gb', '|:C2E A2B c2e e2f|e2c A2c B3 BAF:|[M:9/8]E2A A2B c2e|[M:12/8]d2B GAB A3 A3|]'),
      abc('4/4', 'Cb', 'c2d2e2f2|[K:C#]g2f2e2d2|[M:12/8]c3 e2f a2f e2c|[K:F][M:2/2]^c2_e2=b2^g2|]'),
    ]
    const made = tunes.flatMap(text =>
      INSTRUMENT_IDS.map(instrument => ({
        source: null,
        tune: readAbc(text).tunes[0]!.tune,
        arrangements: [{ id: 'a', arrangement: newArrangement(instrument, sizeOf(instrument).name) }],
      })),
    )
    const { ids } = await ask<{ ids: string[] }>('/tunes/import', 'POST', { tunes: made })
    await keep({ ...newBooklet('wide', ids), style: STYLES[0]! })
    expect(await collisions('wide', ids.length)).toEqual([])
  })

  it(`in ${MADE} tunes made by the dozen, on all four instruments`, async () => {
    const made = Array.from({ length: MADE }, (_, i) => {
      const instrument = INSTRUMENT_IDS[i % INSTRUMENT_IDS.length]!
      const { tune } = readAbc(composedAbc(900 + i)).tunes[0]!
      const title =
        i % 10 === 0
          ? `${tune.title}, with a title that goes on until there is no room for it on any page`
          : tune.title
      return {
        source: null,
        tune: { ...tune, title },
        arrangements: [{ id: 'a', arrangement: newArrangement(instrument, sizeOf(instrument).name) }],
      }
    })
    const ids: string[] = []
    for (let i = 0; i < MADE; i += 25)
      ids.push(
        ...(await ask<{ ids: string[] }>('/tunes/import', 'POST', { tunes: made.slice(i, i + 25) })).ids,
      )
    await keep({ ...newBooklet('made', ids), style: STYLES[0]! })
    expect(await collisions('made', MADE)).toEqual([])
  })
})

import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import type { Nokta } from '#server/nokta'
import { pasteTune, test } from './browser'
import { useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

describe('signs before the notes', () => {
  it.each(['treble', 'alto', 'tenor', 'bass'])(
    'draws the signs of a key that changes where the %s clef has them, within a line and at its end',
    async clef => {
      const signs = () =>
        page
          .locator(`${test('score')} .vf-keysignature path`)
          .evaluateAll(paths => paths.map(p => Math.round(p.getBoundingClientRect().top)))
      // B flat and E flat at the beginning; taken back; and anew.
      await pasteTune(
        page,
        nokta,
        `X:1\nT:Signs in the ${clef} clef\nM:4/4\nL:1/4\nK:Bb clef=${clef}\nBcde|[K:C]cdef|[K:Bb]Bcde|fedc|\n`,
      )
      await expect.poll(async () => (await signs()).length).toBe(6)
      const [flat, second, natural, , again, secondAgain] = await signs()
      expect([again, secondAgain]).toEqual([flat, second])
      // A natural stands on the line of the flat it takes back: their glyphs differ by less than a step.
      expect(Math.abs(natural! - flat!)).toBeLessThan(5)
      // Two lines: the first says at its end what the second begins with.
      await pasteTune(
        page,
        nokta,
        `X:1\nT:More signs in the ${clef} clef\nM:4/4\nL:1/4\nK:Bb clef=${clef}\nBcde|fedc|BcdB|c4|[K:C]cdef|gfed|cdec|c4|[K:Bb]Bcde|fedc|BcdB|B4|\n`,
      )
      await expect.poll(async () => (await signs()).length).toBe(8)
      const [first, , back, , ahead, , own] = await signs()
      expect(Math.abs(back! - first!)).toBeLessThan(5)
      expect(ahead! - back!).toBeGreaterThan(30)
      expect(own! - ahead!).toBeGreaterThan(30)
    },
  )
})

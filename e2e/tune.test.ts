import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { formatFraction } from '#core/music/fraction'
import { formatPitch } from '#core/music/pitch'
import { placeEvents } from '#core/music/timeline'
import { transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import type { Nokta } from '#server/nokta'
import { openBench, test } from './browser'
import { saved, useBrowser } from './harness'

let nokta: Nokta
let page: Page
useBrowser(driven => ({ nokta, page } = driven))

/** Note heads in the score; a rest is drawn as one too. */
const heads = (count: number) =>
  page.waitForFunction(n => document.querySelectorAll('[data-test="score"] .vf-notehead').length === n, count)
/** The tune as the server has it. */
async function stored(): Promise<Tune> {
  await saved(page)
  const id = /tunes\/([^/]+)\//.exec(page.url())![1]!
  return (await nokta.shelf.get(id))!.tune
}
const notesOf = (t: Tune) =>
  placeEvents(t).map(
    p =>
      `${p.event.kind === 'note' ? p.event.heads.map(h => formatPitch(h.pitch)).join('+') : 'rest'}@${formatFraction(p.start)}:${formatFraction(p.event.duration)}`,
  )
/** A new page with nothing on it, in D and 4/4. */
async function emptyPage() {
  await page.goto(nokta.url)
  await page.click(test('empty'))
  await page.waitForSelector('text=No notes yet')
}
async function pane(name: string) {
  await page.click(test(`pane-${name}`))
}
const press = async (...keys: string[]) => {
  for (const k of keys) await page.keyboard.press(k)
}
/** Clicks the note of an event in the score. */
async function clickNote(index: number, options: { shift?: boolean } = {}) {
  const head = page.locator(`${test('score')} .vf-stavenote`).nth(index)
  const box = (await head.locator('.vf-notehead').first().boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  if (options.shift) await page.keyboard.down('Shift')
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
  if (options.shift) await page.keyboard.up('Shift')
}

/** Two bars of a demo tune’s opening, with a rest, a dotted note, an accidental and a tie. */
const WANTED = [
  'D4@0:1',
  'F#4@1:1/2',
  'A4@3/2:1/2',
  'C5@2:3/2',
  'B4@7/2:1/2',
  'A4@4:1',
  'rest@5:1',
  'D5@6:2',
  'D5@8:1',
  'E4@9:3',
]

describe('four ways in give the same tune', () => {
  it('typed as text', async () => {
    await emptyPage()
    await page.click('.cm-content')
    await press('Control+End')
    await page.keyboard.type('D2FA =c3B|A2z2d4-|d2E6|')
    await heads(10)
    await expect.poll(async () => notesOf(await stored())).toEqual(WANTED)
  })

  it('written on the score, by key', async () => {
    await emptyPage()
    await page.waitForSelector(`${test('write')}:has-text("Stop")`)
    await press(
      '2',
      'd',
      '1',
      'f',
      'a',
      '3',
      'c',
      '-',
      '1',
      'b',
      '2',
      'a',
      'z',
      '6',
      'd',
      '6',
      'e',
      'Shift+ArrowDown',
    )
    await heads(10)
    const { measures } = await stored()
    expect(measures).toHaveLength(3)
    await expect.poll(async () => notesOf(await stored())).toEqual(WANTED)
  })

  it('tapped on the fingerboard, with strings and fingers pinned', async () => {
    await emptyPage()
    await page.click(test('board'))
    const tap = (place: string) => page.click(`[data-place="${place}"]`)
    await press('2')
    await tap('2:0')
    await press('1')
    await tap('2:4')
    await tap('1:0')
    await press('3')
    await tap('1:3')
    await press('1')
    await tap('1:2')
    await press('2')
    await tap('1:0')
    await press('z', '6')
    await tap('1:5')
    await press('6')
    await tap('2:2')
    await heads(10)
    await expect.poll(async () => notesOf(await stored())).toEqual(WANTED)
    const id = /tunes\/([^/]+)\//.exec(page.url())![1]!
    const { fingers } = (await nokta.shelf.get(id))!.arrangements[0]!.arrangement.played.pins
    expect(Object.values(fingers).slice(0, 4)).toEqual([
      { string: 2, finger: 0 },
      { string: 2, finger: 2 },
      { string: 1, finger: 0 },
      { string: 1, finger: 2 },
    ])
  })

  it('said in strings and fingers', async () => {
    await emptyPage()
    await pane('spoken')
    await page.waitForSelector(`${test('spoken')} >> text=instrument: violin`)
    await page.click(test('spoken'))
    await press('Control+End')
    await page.keyboard.type('D 0 - 2 A 0 <2 - - 1 | 0 - r - 3 - - - | - - D 1:6 |')
    await heads(10)
    await expect.poll(async () => notesOf(await stored())).toEqual(WANTED)
    // The other ways show it too.
    await pane('source')
    await page.waitForSelector(`${test('source')} >> text=D2 FA =c3B`)
  })
})

describe('editing', () => {
  async function write(music: string) {
    await emptyPage()
    await page.click('.cm-content')
    await press('Control+End')
    await page.keyboard.type(music)
    await page.waitForSelector(`${test('score')} svg`)
    await saved(page)
  }
  const pitches = async () =>
    notesOf(await stored())
      .map(n => n.split('@')[0])
      .join(' ')

  it('corrects, lengthens, takes out, undoes and redoes', async () => {
    await write('DEFG ABcd|d8|')
    await heads(9)
    await clickNote(1)
    await page.click(test('correct'))
    await press('g', 'g')
    await expect.poll(pitches).toBe('D4 G4 G4 G4 A4 B4 C#5 D5 D5')
    await page.keyboard.press('Delete')
    await expect.poll(pitches).toBe('D4 G4 G4 A4 B4 C#5 D5 D5')
    await press('Control+z', 'Control+z')
    await expect.poll(pitches).toBe('D4 G4 F#4 G4 A4 B4 C#5 D5 D5')
    await press('Control+Shift+z')
    await expect.poll(pitches).toBe('D4 G4 G4 G4 A4 B4 C#5 D5 D5')
  })

  it('chooses a stretch, slurs it, moves it, copies it', async () => {
    await write('DEFG ABcd|')
    await heads(8)
    await clickNote(0)
    await clickNote(3, { shift: true })
    await page.waitForFunction(() => document.querySelectorAll('[data-test="stretch"]').length === 4)
    await press('s')
    await expect.poll(async () => (await stored()).slurs).toHaveLength(1)
    await clickNote(0)
    await press('m')
    await press('Control+c', 'Control+v')
    await heads(16)
    await expect.poll(async () => (await stored()).slurs).toHaveLength(2)
    await press('ArrowUp')
    await expect.poll(async () => (await pitches()).split(' ').at(-1)).toBe('E5')
  })

  it('says what a metre and a tempo that cannot be read should look like, and takes the groups of an uneven metre', async () => {
    await write('D2E2FGA|A2G2FED|')
    await heads(10)
    await pane('facts')
    const type = async (field: string, text: string) => {
      await page.fill(`${test(field)} input`, text)
      await page.press(`${test(field)} input`, 'Tab')
    }
    await type('fact-metre', 'seven')
    await page.waitForSelector(`${test('fact-metre')} >> text=2+2+3/8`)
    await type('fact-tempo', 'fast')
    await page.waitForSelector(`${test('fact-tempo')} >> text=1/4=96`)
    expect((await stored()).metre).toEqual({ beats: 4, unit: 4 })
    await type('fact-metre', '7/8')
    await page.waitForSelector(`${test('fact-metre')} >> text=felt as 2+2+3`)
    await type('fact-metre', '3+2+2/8')
    await type('fact-tempo', '1/8=200')
    const t = await stored()
    expect([t.metre, t.tempo?.perMinute]).toEqual([{ beats: 7, unit: 8, groups: [3, 2, 2] }, 200])
  })

  it('sets what hangs on a note and on its measure', async () => {
    await write('D2E2 F2G2|A8|')
    await heads(5)
    await clickNote(0)
    await pane('note')
    await page.click(`${test('note-panel')} >> text=staccato`)
    await page.fill(`${test('chord')} input`, 'Bm')
    await page.fill(`${test('words')} input`, 'one two three')
    await page.click(test('lay-words'))
    await page.fill(`${test('metre-from')} input`, '3/4')
    await page.press(`${test('metre-from')} input`, 'Tab')
    await page.click(test('rebar'))
    const t = await stored()
    expect(t.metre).toEqual({ beats: 3, unit: 4 })
    expect(t.measures.map(m => m.events.length)).toEqual([3, 2, 1])
    expect(t.measures[0]!.events[0]).toMatchObject({
      marks: ['staccato'],
      chord: 'Bm',
      syllables: [{ text: 'one' }],
    })
    await pane('source')
    await page.waitForSelector(`${test('source')} >> text=w: one two three`)
  })

  it('writes what one sees when the arrangement lies in another key', async () => {
    await write('D2E2 F2G2|')
    await page.click(test('key'))
    await page.getByRole('option', { name: 'G major', exact: true }).click()
    await page.waitForSelector('text=The score shows this arrangement')
    await page.locator(test('write')).click({ trial: true })
    await clickNote(3)
    await press('2', 'd')
    await heads(5)
    // D over G is A over D.
    await expect.poll(async () => (await pitches()).split(' ').at(-1)).toBe('A4')
  })
})

describe('knowing the tune', () => {
  it('names what to watch, and what is new to a learner', async () => {
    await openBench(page, nokta, 'The Heron on Saltmarsh Lane', 'tune')
    await pane('watch')
    await page.waitForSelector(`${test('watch')} >> text=E string: 1 and 2 touch`)
    for (const name of ['D4', 'E4', 'F♯4', 'G4'])
      await page.locator(`${test('watch')} .chips button`, { hasText: name }).click()
    await page.waitForFunction(() =>
      /New: A on D|New: A on A/.test(document.querySelector('[data-test="fresh"]')?.textContent ?? ''),
    )
    await saved(page)
    await page.click(`${test('watch')} >> text=to the shelf >> nth=0`)
    await page.waitForSelector('text=is on the shelf.')
  })

  it('strikes a repeat out, plays twice, and writes the repeats out', async () => {
    await openBench(page, nokta, 'Brindlewick Bridge', 'tune')
    await pane('facts')
    const before = await page.textContent(test('play-order'))
    const drawn = () => page.locator(`${test('score')} .vf-notehead`).count()
    const folded = await drawn()
    await page.click(test('unfolded'))
    await page.waitForFunction(
      n => document.querySelectorAll('[data-test="score"] .vf-notehead').length > n,
      folded,
    )
    await page.click(test('unfolded'))
    await page.waitForFunction(
      n => document.querySelectorAll('[data-test="score"] .vf-notehead').length === n,
      folded,
    )
    await page.locator(`[data-test^="repeat-"] input`).first().click()
    await page.waitForFunction(
      t => document.querySelector('[data-test="play-order"]')?.textContent !== t,
      before,
    )
    await expect.poll(async () => (await stored()).play.struck).toHaveLength(1)
    await press('Control+z')
    await page.click(test('unfold'))
    const t = await stored()
    expect(t.measures.some(m => m.repeatEnd || m.endings)).toBe(false)
    await press('Control+z')
  })

  it('sets key and metre of an empty page, and writes a melody with a pickup, a tie and an accidental from paper', async () => {
    await emptyPage()
    await pane('facts')
    await page.click(test('fact-key'))
    await press('Control+a')
    await page.keyboard.type('G minor')
    await page.getByRole('option', { name: 'G minor', exact: true }).click()
    await page.fill(`${test('fact-metre')} input`, '3/4')
    await press('Tab')
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await press(
      '2',
      'd',
      '|',
      '3',
      'g',
      '1',
      'a',
      '2',
      'b',
      '4',
      'd',
      '2',
      'c',
      '6',
      'd',
      '4',
      'd',
      't',
      '2',
      'f',
      '-',
      '+',
      '+',
    )
    const t = await stored()
    expect(
      notesOf(t)
        .map(n => n.split('@')[0])
        .join(' '),
    ).toBe('D4 G4 A4 Bb4 D5 C5 D5 D5 F#5')
    expect(t.measures.map(m => m.events.length)).toEqual([1, 3, 2, 1, 2])
    expect(t.measures[3]!.events[0]).toMatchObject({ heads: [{ tied: true }] })
    expect([t.key.mode, t.metre]).toEqual(['minor', { beats: 3, unit: 4 }])
  })

  it('keeps a version by name, shows what changed since, and brings it back', async () => {
    await openBench(page, nokta, 'Kiln Yard Polska', 'tune')
    await pane('versions')
    await page.fill(`${test('version-name')} input`, 'Before the ball')
    await page.click(test('keep-version'))
    await page.waitForSelector(test('version'))
    await clickNote(2)
    await page.click(test('write'))
    await press('ArrowUp')
    await saved(page)
    await page.locator(test('compare')).first().click()
    await page.waitForSelector(`${test('comparison')} >> text=measures are the same`)
    await expect.poll(() => page.locator(`${test('comparison')} tbody tr`).count()).toBe(1)
    const changed = notesOf(await stored())
    await page.click(test('restore'))
    await expect.poll(async () => notesOf(await stored())).not.toEqual(changed)
    await press('Control+z')
    await expect.poll(async () => notesOf(await stored())).toEqual(changed)
  })

  it('finds another setting by its melody and links the two', async () => {
    const { tune: stile } = readAbc(demoSource('crooked-stile.abc')).tunes[0]!
    const tune = transposeTune({ ...stile, title: 'Bent Gate' }, { letters: 1, semitones: 2 })
    const other = await nokta.shelf.create(null, tune, [newArrangement('violin', 'full')])
    await openBench(page, nokta, 'The Crooked Stile', 'tune')
    await pane('facts')
    await page.click(`${test('alike')} ${test('link-setting')}`)
    await page.waitForSelector('text=Bent Gate')
    await expect.poll(async () => (await stored()).settings).toBeTruthy()
    const mark = (await stored()).settings
    await expect.poll(async () => (await nokta.shelf.get(other.id))!.tune.settings).toBe(mark)
    await page.click('text=compare')
    await page.waitForSelector(test('comparison'))
  })
})

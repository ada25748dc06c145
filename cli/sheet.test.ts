import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { XMLValidator } from 'fast-xml-parser'
import { afterAll, describe, expect, it } from 'vitest'
import { pageMeasurer } from '#drawing/measurer'
import { run } from './testing'
import { drawingSurface } from './surface'

const folder = mkdtempSync(join(tmpdir(), 'nokta-sheet-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const tune = join(folder, 'tune.abc')
writeFileSync(
  tune,
  'X:1\nT:Eight Measures\nM:4/4\nL:1/4\nQ:1/4=88\nK:D\nDEFG|AAA2|BcdB|A4|GFED|EFG2|FEDC|D4|]\n',
)

interface Answer {
  readonly paper: string
  readonly space: number
  readonly pages: readonly { readonly width: number; readonly blocks: readonly { readonly kind: string }[] }[]
}
async function sheet(...args: string[]): Promise<Answer> {
  const { out, err, code } = await run(['sheet', tune, '--instrument', 'violin', ...args])
  expect([err, code]).toEqual(['', 0])
  return JSON.parse(out) as Answer
}
const kinds = (a: Answer) => a.pages.flatMap(p => p.blocks.map(b => b.kind))

describe('sheet', () => {
  it('lays pages out in millimetres, by style, kinds and paper', async () => {
    expect(await sheet()).toMatchObject({ paper: 'A4', pages: [{ width: 210 }] })
    const letter = await sheet('--style', 'first year', '--paper', 'letter')
    expect(letter.pages[0]!.width).toBe(215.9)
    expect(kinds(letter)).toContain('shapes')
    expect(kinds(await sheet('--kinds', 'tab'))).not.toContain('shapes')
  })
  it('sets eight measures larger than a whole book of them', async () => {
    expect((await sheet('--kinds', 'staff')).space).toBeGreaterThan(1.96)
  })
  it('writes the tablature as text, and pages as JSON', async () => {
    const [txt, json] = [join(folder, 'out.txt'), join(folder, 'out.json')]
    await run(['sheet', tune, '--instrument', 'cello', '-o', txt])
    expect(readFileSync(txt, 'utf8')).toMatch(/Eight Measures[\s\S]*# D \|/)
    await run(['sheet', tune, '-o', json])
    expect(JSON.parse(readFileSync(json, 'utf8'))).toHaveProperty('pages')
  })
  it('draws the same bytes, whatever was drawn before', async () => {
    const [out, other] = [join(folder, 'same.svg'), join(folder, 'beginning.abc')]
    writeFileSync(other, 'X:1\nT:Eight Measures\nM:4/4\nL:1/4\nQ:1/4=88\nK:D\n"D"d\'{e}f\'c\'"A7"e\'|\n')
    const drawn = async () => {
      await run(['sheet', tune, '--instrument', 'violin', '-o', out])
      return readFileSync(out, 'utf8')
    }
    const first = await drawn()
    await run(['sheet', other, '--instrument', 'violin', '-o', out])
    expect(await drawn()).toBe(first)
  })
  it('draws a page a file, with every note, its face inside, and no colour of the screen', async () => {
    const out = join(folder, 'drawn.svg')
    const { err, out: told } = await run(['sheet', tune, '--kinds', 'staff,tab,cards', '-o', out])
    expect(err).toBe('')
    const files = (JSON.parse(told) as { written: string }[]).map(w => w.written)
    expect(files).toEqual([out, join(folder, 'drawn-2.svg')])
    const drawn = files.map(f => readFileSync(f, 'utf8'))
    const count = (page: string, what: RegExp) => [...page.matchAll(what)].length
    // All notes of the eight measures; then again on the cards of their phrases.
    expect(count(drawn[0]!, /class="vf-notehead"/g)).toBe(24)
    expect(count(drawn[1]!, /class="vf-notehead"/g)).toBeGreaterThanOrEqual(24)
    for (const page of drawn) {
      expect(XMLValidator.validate(page)).toBe(true)
      expect(count(page, /@font-face/g)).toBe(3)
      expect(page).not.toMatch(/currentColor|var\(|NaN|undefined/)
    }
    expect(drawn[0]).toContain('>Eight Measures</text>')
  })
  it('puts remarks that have no room beside each other over each other', async () => {
    const from = join(folder, 'remarks.abc')
    writeFileSync(
      from,
      'X:1\nT:Remarks\nM:4/4\nL:1/4\nK:D\n"^like a question, softly"D"^not faster here"E"^let the bow fall"FG|A4|B4|A4|]\n',
    )
    const out = join(folder, 'remarks.svg')
    expect((await run(['sheet', from, '--instrument', 'violin', '-o', out])).err).toBe('')
    const drawn = readFileSync(out, 'utf8').matchAll(
      /<text x="([\d.]+)" y="([-\d.]+)"[^>]*font-size="11"[^>]*>([^<]*)<\/text>/g,
    )
    const said = [...drawn].map(([, x, y, t]) => ({
      x: Number(x),
      y: Number(y),
      t: t!,
      end: Number(x) + pageMeasurer.text(t!, { size: 11 }),
    }))
    const remarks = said.filter(s => /question|faster|fall/.test(s.t))
    expect(remarks).toHaveLength(3)
    for (const a of remarks)
      for (const b of remarks) if (a !== b && a.y === b.y) expect(a.end <= b.x || b.end <= a.x).toBe(true)
    expect(new Set(remarks.map(r => r.y)).size).toBeGreaterThan(1)
  })
  it('breaks a long remark into lines, none over the edge and none on another', async () => {
    const long =
      'as if the whole village were asleep and only the miller’s dog had heard you come down the lane; then, when the tune turns, let it wake one window after another until the last bar is as bright as noon'
    const from = join(folder, 'long.abc')
    writeFileSync(from, `X:1\nT:Remarks\nM:4/4\nL:1/4\nK:D\nDEFG|A2"^${long}"AA|"^here too"B4|A4|]\n`)
    const out = join(folder, 'long.svg')
    expect((await run(['sheet', from, '--instrument', 'violin', '-o', out])).err).toBe('')
    const svg = readFileSync(out, 'utf8')
    const said = [
      ...svg.matchAll(
        /<text x="([\d.]+)" y="([-\d.]+)"[^>]*font-size="11"[^>]*font-style="italic"[^>]*>([^<]*)<\/text>/g,
      ),
    ].map(([, x, y, t]) => ({
      x: Number(x),
      y: Number(y),
      t: t!,
      end: Number(x) + pageMeasurer.text(t!, { size: 11 }),
    }))
    const lines = said.filter(s => long.includes(s.t))
    expect(lines.length).toBeGreaterThan(1)
    // Read from top to bottom it is what was said.
    expect(
      lines
        .toSorted((a, b) => a.y - b.y)
        .map(l => l.t)
        .join(' '),
    ).toBe(long)
    const widest = Math.max(
      ...[...svg.matchAll(/d="M[\d.]+ [\d.]+L([\d.]+) [\d.]+"/g)].map(m => Number(m[1])),
    )
    for (const l of lines) expect(l.end).toBeLessThanOrEqual(widest + 1)
    const other = said.find(s => s.t === 'here too')!
    for (const l of lines) if (l.y === other.y) expect(l.end <= other.x || other.end <= l.x).toBe(true)
  })
  it('knows how wide a text is from the face itself', async () => {
    drawingSurface()
    const width = (content: string, bold = false) => pageMeasurer.text(content, { size: 10, bold })
    expect(width('mmmm') / width('llll')).toBeGreaterThan(2.5)
    expect(width('Eight', true)).toBeGreaterThan(width('Eight'))
    expect(width('Eight Measures')).toBeCloseTo(width('Eight') + width(' ') + width('Measures'), 0)
  })
  it.each(['violin', 'viola', 'cello', 'bass'])(
    'as text is read again with the same notes, strings and fingers: %s',
    async instrument => {
      const [from, txt] = [join(folder, 'rich.abc'), join(folder, `${instrument}.txt`)]
      writeFileSync(
        from,
        'X:1\nT:Rich\nM:4/4\nL:1/8\nQ:1/4=88\nK:G\n|:D2F2 A2d2|(gf)ed ^c2=c2|[DA]4 z2 (3ABc|1 d6 z2:|2 b2a2g4|]\n',
      )
      expect((await run(['sheet', from, '--instrument', instrument, '--key', 'Bb', '-o', txt])).code).toBe(0)
      type Fingered = { notes: { string: string; finger: number; sounding: string; measure: number }[] }
      const said = async (path: string, ...more: string[]) => {
        const { out, err } = await run(['finger', path, '--instrument', instrument, ...more])
        expect(err).toBe('')
        return (JSON.parse(out) as Fingered).notes.map(n => [n.measure, n.string, n.finger, n.sounding])
      }
      const first = await said(from, '--key', 'Bb')
      expect(first.length).toBeGreaterThan(15)
      expect(await said(txt)).toEqual(first)
    },
  )
  it.each([
    [['--style', 'Nobody'], /--style Nobody: there are First year/],
    [['--kinds', 'poster'], /--kinds poster: not known; there are staff, tab, music/],
    [['--paper', 'A7'], /--paper A7: A4 or letter/],
    [['-o', 'out.gif'], /a file that ends with \.pdf, \.svg, \.json, \.txt/],
  ])('refuses %j with what there is', async (args, message) => {
    const { err, code } = await run(['sheet', tune, ...args])
    expect(code).toBe(2)
    expect(err).toMatch(message)
  })
})

/** Tunes nobody plans for: still a decent page, with every note on it and nothing over its edge. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { XMLValidator } from 'fast-xml-parser'
import { afterAll, describe, expect, it } from 'vitest'
import { run } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'nokta-odd-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Model {
  readonly space: number
  readonly pages: readonly {
    readonly width: number
    readonly height: number
    readonly blocks: readonly {
      readonly kind: string
      readonly x: number
      readonly y: number
      readonly width: number
      readonly height: number
    }[]
  }[]
  readonly systems: readonly (readonly {
    readonly width: number
    readonly measures: readonly {
      readonly index: number
      readonly x: number
      readonly width: number
      readonly columns: readonly { readonly x: number }[]
    }[]
  }[])[]
}

const abc = (music: string, { title = 'Odd', metre = '4/4', key = 'D' } = {}) =>
  `X:1\nT:${title}\nM:${metre}\nL:1/8\nQ:1/4=80\nK:${key}\n${music}\n`
const endings = Array.from({ length: 9 }, (_, i) => `|${i + 1} A4 ${'ABcd'[i % 4]}4${i < 8 ? ':' : ''}`).join(
  '',
)

/** What a tune is, how many heads and rests it has, how it is asked for. */
const ODD: readonly (readonly [string, string, number, readonly string[]])[] = [
  [
    'a title of sixty letters and more',
    abc('DEFG A4|', { title: 'The Long Walk Home from the Upper Ferry Past Seven Gates and a Mill' }),
    5,
    [],
  ],
  [
    'words longer than their measures',
    abc(
      'D8|E8|F8|G8|\nw: incomprehensibilities counterrevolutionaries notwithstandingly unaccountablenesses',
    ),
    4,
    [],
  ],
  [
    'twelve notes in the time of eight',
    'title: Odd\nunit: 1/8\n{12:8 D 0 1 2 3 A 0 1 2 3 E 0 1 2 3} | D 0:8 |',
    13,
    [],
  ],
  ['nine endings', abc(`|:D4 E4${endings}|]`), 20, []],
  ['one note', abc('D|'), 1, []],
  ['four hundred measures', abc('DEFG ABcd|'.repeat(400)), 3200, ['--kinds', 'staff']],
  ['five strings', abc('C,D,E,F, G,A,B,C|DEFG ABcd|', { key: 'C' }), 16, ['--tuning', 'C3 G3 D4 A4 E5']],
  ['double stops with accidentals', abc('[^D^A]2[=F=c]2 [_E_B]4|[^G^d]4 [=A^e]4|', { key: 'A' }), 10, []],
  ['rests alone', abc('z8|z8|'), 2, []],
]

describe('a sheet of', () => {
  it.each(ODD)('%s', async (_what, source, heads, more) => {
    const from = join(folder, source.startsWith('X:') ? 'odd.abc' : 'odd.txt')
    const [json, svg] = [join(folder, 'odd.json'), join(folder, 'odd.svg')]
    writeFileSync(from, source)
    const sheet = async (to: string) => {
      const { out, err } = await run(['sheet', from, '--instrument', 'violin', ...more, '-o', to])
      expect(err).toBe('')
      return JSON.parse(out) as unknown
    }
    await sheet(json)
    const model = JSON.parse(readFileSync(json, 'utf8')) as Model
    for (const { width, height, blocks } of model.pages) {
      for (const b of blocks) {
        expect([b.x, b.y, b.x + b.width, b.y + b.height].every(Number.isFinite)).toBe(true)
        expect(b.x >= 0 && b.y >= 0 && b.x + b.width <= width && b.y + b.height <= height).toBe(true)
      }
    }
    for (const line of model.systems.flat()) {
      const last = line.measures.at(-1)!
      expect(last.x + last.width).toBeLessThanOrEqual(line.width + 1e-6)
      const xs = line.measures.flatMap(m => m.columns.map(c => c.x))
      expect(xs).toEqual([...xs].sort((a, b) => a - b))
    }
    const measures = model.systems[0]!.flatMap(l => l.measures.map(m => m.index))
    expect(measures).toEqual(measures.map((_, i) => i))
    const files = ((await sheet(svg)) as { written: string }[]).map(w => readFileSync(w.written, 'utf8'))
    expect(files).toHaveLength(model.pages.length)
    for (const page of files) {
      expect(XMLValidator.validate(page)).toBe(true)
      expect(page).not.toMatch(/NaN|undefined|Infinity/)
    }
    expect(files.join('').match(/class="vf-notehead"/g)?.length ?? 0).toBe(heads)
  })
})

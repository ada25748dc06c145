import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyTune } from '#core/music/tune'
import { bookletFoot } from '#core/paper/booklet'
import { fitted, headingLines, runningLines, type TextLine } from './heading'
import { PLAIN_MEASURER } from './measurer'

const WIDTH = 180
const tempo = { beat: { n: 1, d: 1 }, perMinute: 96 }
const long = fc.oneof(fc.string({ maxLength: 30 }), fc.string({ minLength: 60, maxLength: 400 }))
const wide = ({ text, size, bold }: TextLine) => PLAIN_MEASURER.text(text, { size, bold: bold === true })
const from = (l: TextLine) =>
  l.anchor === 'start' ? l.x : l.anchor === 'end' ? l.x - wide(l) : l.x - wide(l) / 2

/** All lie on the page, and none at one height over another. */
function apart(lines: readonly TextLine[]) {
  for (const l of lines) expect(from(l) >= -1e-6 && from(l) + wide(l) <= WIDTH + 1e-6).toBe(true)
  for (const [i, a] of lines.entries())
    for (const b of lines.slice(i + 1))
      if (a.y === b.y)
        expect(from(a) + wide(a) <= from(b) + 1e-6 || from(b) + wide(b) <= from(a) + 1e-6).toBe(true)
}

describe('the heading', () => {
  it('keeps its lines on the page and apart, whatever they say', () => {
    fc.assert(
      fc.property(long, long, long, long, long, (title, composer, learnedFrom, arrangement, kind) => {
        const tune = { ...emptyTune(), title, composer, learnedFrom, kind }
        apart(
          headingLines(
            tune,
            tempo,
            { arrangement, instrument: 'Double bass', tuning: 'A E A E' },
            WIDTH,
            PLAIN_MEASURER,
          ),
        )
        apart(runningLines(tune, WIDTH, PLAIN_MEASURER))
        apart(bookletFoot(title, 12, WIDTH, PLAIN_MEASURER))
      }),
    )
  })
  it('makes a title smaller before it cuts it', () => {
    const at = (letters: number) => fitted('M'.repeat(letters), { size: 6, least: 3 }, 100, PLAIN_MEASURER)
    expect(at(20)).toEqual({ text: 'M'.repeat(20), size: 6 })
    expect(at(40)).toMatchObject({ text: 'M'.repeat(40) })
    expect(at(40).size).toBeCloseTo(100 / (40 * 0.55))
    expect(at(200).size).toBe(3)
    expect(at(200).text).toMatch(/^M+…$/)
  })
  it('says in which order parts are played, where the tune tells', () => {
    const of = (parts: string[] | undefined) => {
      const tune = { ...emptyTune(), kind: 'song', play: { ...emptyTune().play, ...(parts && { parts }) } }
      return headingLines(
        tune,
        tempo,
        { arrangement: '', instrument: 'Viola', tuning: null },
        WIDTH,
        PLAIN_MEASURER,
      ).map(l => l.text)
    }
    expect(of(['A', 'B', 'A'])).toContain('song · D major · 4/4 · quarter = 96 · played A B A')
    expect(of(undefined)).toContain('song · D major · 4/4 · quarter = 96')
  })
  it('says everything where there is room', () => {
    const tune = {
      ...emptyTune(),
      title: 'Small Hill',
      composer: 'O. Venn',
      learnedFrom: 'the Tuesday group',
    }
    const texts = headingLines(
      tune,
      tempo,
      { arrangement: 'as written', instrument: 'Violin', tuning: null },
      WIDTH,
      PLAIN_MEASURER,
    ).map(l => l.text)
    expect(texts).toContain('Small Hill')
    expect(texts).toContain('O. Venn; learned from the Tuesday group')
    expect(texts.some(t => t.endsWith('quarter = 96'))).toBe(true)
  })
})

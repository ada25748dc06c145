import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import type { InstrumentId } from '#core/music/tune'
import { tabModel } from '#core/tablature/tabModel'
import { estimatedHeight } from './heights'
import { marksIn, rowsIn, ALL_MARKS } from './marks'
import { PLAIN_MEASURER } from './measurer'
import { notate } from './notation'
import { aligned, beginningOf, systemsOf, type PagePart, type System } from './systems'

const source = 'X:1\nT:t\nM:4/4\nL:1/4\nK:D\n|:DEFG|A2A2|BAGF|E2D2:|dcBA|G2F2|EFGE|D4|]'
const { tune } = readAbc(source).tunes[0]!
function partOf(instrument: InstrumentId, own: Partial<PagePart> = {}): PagePart {
  const recipe = newArrangement(instrument, 'full')
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return { notated: notate(d.tune), tab: tabModel(d, recipe), ...own }
}
const options = {
  width: 180,
  space: 2,
  measurer: PLAIN_MEASURER,
  rows: { fingers: true, bows: true, tab: true, chords: true },
}

describe('parts with names', () => {
  it('give up the room of the longest name, the same in every line', () => {
    const plain = systemsOf([partOf('violin'), partOf('cello')], options)
    const named = systemsOf(
      [partOf('violin', { label: 'Violin' }), partOf('cello', { label: 'Cello, two players' })],
      options,
    )
    expect(plain.map(s => s.indent)).toEqual(plain.map(() => 0))
    const [indent] = named.map(s => s.indent)
    expect(indent).toBeGreaterThan(20)
    for (const s of named) {
      expect(s.indent).toBe(indent)
      expect(s.indent + s.width).toBeLessThanOrEqual(options.width + 1e-9)
    }
    expect(named[0]!.measures.length).toBeLessThanOrEqual(plain[0]!.measures.length)
  })
  it('one without a name makes no room of its own', () => {
    const [named] = systemsOf([partOf('violin', { label: 'Violin' }), partOf('viola')], options)
    const [alone] = systemsOf([partOf('violin', { label: 'Violin' })], options)
    expect(named!.indent).toBe(alone!.indent)
  })
})

describe('what a part shows otherwise than the others', () => {
  it('is its marks, and whether it has lines of tablature', () => {
    expect(marksIn(ALL_MARKS, { fingers: false, tab: false })).toEqual({ ...ALL_MARKS, fingers: false })
    expect(rowsIn(options.rows, { fingers: false })).toEqual({ ...options.rows, fingers: false })
    expect(rowsIn(options.rows)).toEqual(options.rows)
  })
  it('takes room only for what it shows', () => {
    const full = partOf('violin')
    const bare = partOf('violin', { marks: { fingers: false, bows: false, tab: false } })
    const [system] = systemsOf([full], options)
    const height = (parts: readonly PagePart[]) => estimatedHeight(parts, system!, options.space, options)
    expect(height([bare])).toBeLessThan(height([full]) - 10)
    expect(height([full, bare])).toBeLessThan(height([full, full]))
  })
})

describe('parts that stand line under line', () => {
  it('have as many measures as the first; the others are told of', () => {
    const short = { ...tune, measures: tune.measures.slice(0, 4) }
    const [a, b, c] = [
      { tune, name: 'a' },
      { tune: short, name: 'b' },
      { tune, name: 'c' },
    ] as const
    const { together, apart } = aligned([a, b, c])
    expect([together, apart].map(l => l.map(p => p.name))).toEqual([['a', 'c'], ['b']])
  })
})

describe('lines', () => {
  const cut = (music: string, width: number) => {
    const line = readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}`).tunes[0]!.tune
    const recipe = newArrangement('violin', 'full')
    const d = derive(line, recipe, ASSUMED_HANDS)
    const part = { notated: notate(d.tune), tab: tabModel(d, recipe) }
    return systemsOf([part], { ...options, width }).map(s => s.measures.length)
  }
  it('leave no measure alone on the last of them, where another cut is as good', () => {
    for (const width of [120, 150, 180]) {
      const lines = cut('DEFG|A2A2|BAGF|E2D2|dcBA|G2F2|EFGE|FGAF|D4|]', width)
      expect(lines.reduce((a, b) => a + b)).toBe(9)
      expect(lines.at(-1), `at ${width}`).toBeGreaterThan(1)
    }
  })
})

describe('a line begins with a phrase', () => {
  /** The same part with one phrase, from a note on; and what a line begins with that starts at a measure. */
  const phraseFrom = (measure: number, event: number) => {
    const part = partOf('violin')
    const measures = part.tab.measures.map((m, i) => ({
      ...m,
      events: m.events.map(({ phrase: _, ...e }, k) =>
        i === measure && k === event ? { ...e, phrase: { name: 'x', part: null } as never } : e,
      ),
    }))
    const begins = beginningOf({ ...part, tab: { ...part.tab, measures } })
    return (index: number) => begins({ measures: [{ index }] } as unknown as System)
  }
  it('whose first note stands in the first half of its measure, its middle included', () => {
    for (const event of [0, 1, 2]) {
      const begins = phraseFrom(6, event)
      expect([begins(5), begins(6), begins(7)], `from note ${event}`).toEqual([null, 'phrase', null])
    }
  })
  it('or of which what stands at the end of the measure before leads into it', () => {
    const begins = phraseFrom(6, 3)
    expect([begins(6), begins(7)]).toEqual([null, 'phrase'])
  })
})

import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { beginsInstead, brokenAt, styled, withSheet, withTaught } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { composedAbc } from '#core/music/composed'
import type { InstrumentId, Tune } from '#core/music/tune'
import { COUNT_WORDS } from '#core/music/counting'
import { estimatedHeight } from '#core/page/heights'
import { PLAIN_MEASURER } from '#core/page/measurer'
import { sheetOf, type Sheet } from '#core/page/sheet'
import { SHEET_KINDS, STYLES, type SheetRecipe } from '#core/styles/sheetRecipe'
import { tabModel } from '#core/tablature/tabModel'
import { DEMO_TUNES } from '#demo/shelf'
import { demoSource } from '#demo/fillShelf'
import { contentOf } from './content'
import { sectionsOf } from './sections'

const plain = (i: InstrumentId = 'violin') => newArrangement(i, sizeOf(i).name, 'Class')
const withParts = (part: Partial<SheetRecipe>, r = plain()) => withSheet(r, part)
const tuneFrom = (music: string) =>
  readAbc(`X:1\nT:Eight\nM:4/4\nL:1/4\nQ:1/4=88\nK:D\n${music}\n`).tunes[0]!.tune
const EIGHT = tuneFrom('DEFG|AAA2|BcdB|A4|GFED|EFG2|FEDC|D4|]')

function made(tune: Tune, recipe: Arrangement): { sheet: Sheet; content: ReturnType<typeof contentOf> } {
  const d = derive(tune, recipe, ASSUMED_HANDS)
  const own = recipe.shown.sheet
  const content = contentOf(d, recipe, ASSUMED_HANDS, new DeriveMemory())
  const tab = tabModel(d, recipe)
  const sections = sectionsOf(own, content, {
    tune: d.tune,
    tab,
    under: null,
    countWords: COUNT_WORDS,
    board: { colours: {} },
  })
  const music = sections.flatMap(s => (s.kind === 'music' ? [s.music] : []))
  const rows = {
    fingers: own.fingers !== 'none',
    bows: true,
    tab: own.music !== 'staff',
    chords: own.show.chords,
  }
  const tabAlone = own.music === 'tab'
  const sheet = sheetOf(sections, {
    paper: own.paper,
    size: own.size,
    tempo: d.tempo,
    measurer: PLAIN_MEASURER,
    rows,
    tabAlone,
    beside: 2.4,
    words: { arrangement: recipe.name, instrument: 'violin', tuning: null },
    heightOf: (m, system, _i, space) => estimatedHeight(music[m]!.parts, system, space, { rows, tabAlone }),
  })
  return { sheet, content }
}
const linesOf = (s: Sheet) => s.systems[0]!.map(l => l.measures.map(m => m.index))

describe('a sheet', () => {
  it('of eight measures is as large as its page has room, its phrases whole', () => {
    const { sheet } = made(EIGHT, withParts({ kinds: ['music'], size: 'fit' }))
    expect(sheet.pages).toHaveLength(1)
    expect(sheet.space).toBeGreaterThan(made(EIGHT, withParts({ size: 'stand' })).sheet.space)
    expect(linesOf(sheet).every(l => l[0]! % 2 === 0)).toBe(true)
  })
  it('grows a little smaller where that saves a page', () => {
    const sheets = (bars: number) =>
      (['fit', 'stand'] as const).map(
        size =>
          made(
            tuneFrom('DEFG|AAA2|BcdB|A4|'.repeat(bars)),
            withParts({ kinds: ['music'], size, names: 'letters', counting: 'numbers' }),
          ).sheet,
      )
    // Of tunes longer and longer, one spills a little over its page.
    const spilt = Array.from({ length: 9 }, (_, i) => sheets(i + 1)).find(
      ([fit, stand]) => fit!.pages.length < stand!.pages.length,
    )
    expect(spilt).toBeDefined()
    expect(spilt![0]!.space).toBeLessThan(spilt![1]!.space)
  })
  it('breaks where the teacher says, and not where they say not', () => {
    const at = EIGHT.measures.map(m => m.id)
    const first = linesOf(made(EIGHT, withParts({ size: 'stand' })).sheet)
    const line = brokenAt(withParts({ size: 'stand' }), at[2]!, 'line')
    expect(linesOf(made(EIGHT, line).sheet).map(l => l[0])).toContain(2)
    const start = first[1]![0]!
    expect(
      linesOf(made(EIGHT, brokenAt(withParts({ size: 'stand' }), at[start]!, 'none')).sheet).map(l => l[0]),
    ).not.toContain(start)
    const page = made(EIGHT, brokenAt(withParts({ size: 'stand' }), at[4]!, 'page')).sheet
    expect(page.pages).toHaveLength(2)
    expect(brokenAt(line, at[2]!, null).shown.sheet.breaks).toEqual({})
    // The end of a line pulled back, and pulled further on.
    const back = beginsInstead(line, at[2]!, at[1]!, { how: 'line', later: false })
    expect(back.shown.sheet.breaks).toEqual({ [at[1]!]: 'line' })
    const on = beginsInstead(back, at[1]!, at[3]!, { how: 'line', later: true })
    expect(on.shown.sheet.breaks).toEqual({ [at[1]!]: 'none', [at[3]!]: 'line' })
    expect(
      linesOf(made(EIGHT, on).sheet)
        .map(l => l[0]!)
        .filter(i => i < 4),
    ).toEqual([0, 3])
    expect(beginsInstead(on, at[3]!, at[3]!, { how: 'page', later: true })).toBe(on)
  })
  it('leaves no single measure for the last line', () => {
    for (let n = 1; n <= 30; n++) {
      const { sheet } = made(readAbc(composedAbc(n)).tunes[0]!.tune, withParts({ kinds: ['music'] }))
      const lines = linesOf(sheet)
      if (lines.length > 1) expect(lines.at(-1)!.length).toBeGreaterThan(1)
    }
  })
  it('shows a phrase that comes again on one card, which says so', () => {
    const twice = tuneFrom('DEFG|AAA2|BcdB|A4|GFED|EFG2|FEDC|D4|DEFG|AAA2|BcdB|A4|AGFE|D2E2|FEDC|D4|]')
    const { content } = made(twice, withParts({ kinds: ['cards'] }))
    expect(content.cards!.some(c => /again as/.test(c.note))).toBe(true)
    expect(content.cards!.length).toBeLessThan(derive(twice, plain(), ASSUMED_HANDS).form.phrases.length)
  })
  it('has only the notes of its phrase on the fingerboard of a card', () => {
    const { content, sheet } = made(EIGHT, withParts({ kinds: ['board', 'cards'] }))
    const places = content.cards!.map(c => c.board!.places.map(p => `${p.string}:${p.offset}`))
    expect(places.length).toBeGreaterThan(1)
    const all = new Set(content.board!.places.map(p => `${p.string}:${p.offset}`))
    for (const own of places) expect(own.length < all.size && own.every(p => all.has(p))).toBe(true)
    expect(new Set(places.flat())).toEqual(all)
    // A frame holds its picture, and nothing of it stands over the next one.
    const shapes = sheet.pages.map(p => p.blocks.filter(b => b.kind === 'shapes'))
    for (const page of shapes) for (const b of page) expect(b.y + b.height).toBeLessThanOrEqual(297)
    expect(
      made(EIGHT, withParts({ kinds: ['cards'] })).content.cards!.every(c => c.board === undefined),
    ).toBe(true)
  })
  it('has only the notes of the tune on its fingerboard, rings what is new, and says only what it uses', () => {
    const known = withTaught(withParts({ kinds: ['board'] }), {
      known: ['C#4', 'D4', 'E4', 'F#4', 'G4', 'A4', 'B4', 'C#5'],
    })
    const { content } = made(EIGHT, known)
    expect(content.board!.places.filter(p => p.fresh).map(p => [p.string, p.offset])).toEqual([[1, 5]])
    // High 2 and 3 stand a half step apart on both strings: F# G, C# D.
    expect(content.board!.touching).toEqual([1, 2].map(string => ({ string, offset: 4 })))
    expect(content.legend).toContain('joined on the fingerboard: fingers that touch')
    expect(content.legend).toContain('0 open string')
    expect(content.legend.join()).not.toMatch(/thumb|reached|arrow/)
    const shifting = readAbc("X:1\nT:t\nM:4/4\nL:1/8\nK:D\ne2ab d'bab|a8|\n").tunes[0]!.tune
    const legend = (music: 'both' | 'staff') =>
      made(shifting, withParts({ kinds: ['music'], music })).content.legend.join()
    expect([legend('both'), legend('staff')].map(l => l.includes('small arrow'))).toEqual([true, false])
  })
  it('explains no sign that this sheet leaves out', () => {
    const low = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:F\nFGAB|cAFF|GABc|F4|\n').tunes[0]!.tune
    const legend = (part: Partial<SheetRecipe>) =>
      made(low, withParts({ kinds: ['music'], ...part })).content.legend.join()
    expect(legend({ music: 'both', fingers: 'none' })).toContain('0 open string')
    expect(legend({ music: 'staff', fingers: 'all' })).toContain('‹ towards the nut')
    expect(legend({ music: 'staff', fingers: 'none' })).not.toMatch(/open string|towards the nut/)
    expect(legend({ music: 'staff', fingers: 'none', kinds: ['music', 'board'] })).toContain('0 open string')
  })
  it('fits the names of phrases into the first column of the practice grid', () => {
    const long = 'the phrase that goes up like a lark and comes down again like a sack of turnips'
    const first = derive(EIGHT, plain(), ASSUMED_HANDS).form.phrases[0]!.events[0]!
    const named = withTaught(withParts({ kinds: ['grid'] }), { names: { [first]: long } })
    const { sheet } = made(EIGHT, named)
    const blocks = sheet.pages.flatMap(p => p.blocks.flatMap(b => (b.kind === 'shapes' ? b.shapes : [])))
    const columns = blocks.flatMap(s => (s.kind === 'line' && s.x1 === s.x2 ? [s.x1] : []))
    const rows = blocks.flatMap(s => (s.kind === 'text' && s.anchor === 'start' ? [s] : []))
    expect(rows.some(r => r.text.includes('the phrase that'))).toBe(true)
    for (const r of rows)
      expect(r.x + PLAIN_MEASURER.text(r.text, { size: r.size, bold: true })).toBeLessThan(
        Math.min(...columns),
      )
  })
  it('sets syllables on beats bold, and has no words where there are none', () => {
    const sung = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:D\nDEFG|A4|]\nw:One small duck goes home\n').tunes[0]!
      .tune
    const { content } = made(sung, withParts({ kinds: ['words'] }))
    expect(content.words![0]!.map(p => [p.text.trim(), p.bold === true])).toEqual([
      ['One', true],
      ['small', false],
      ['duck', true],
      ['goes', false],
      ['home', true],
    ])
    expect(made(EIGHT, withParts({ kinds: ['words'] })).content.words).toBeUndefined()
  })
})

describe('on every sheet', () => {
  const all = DEMO_TUNES.map(t => readAbc(demoSource(t.file)).tunes[0]!.tune)
  const book = Array.from({ length: 20 }, (_, i) => readAbc(composedAbc(100 + i)).tunes[0]!.tune)
  const music = ['both', 'staff', 'tab'] as const
  it.each([...STYLES.map(s => s.sheet.style), 'everything'])(
    'in the style “%s” all lies on the page, in order, nothing over another',
    name => {
      const style = STYLES.find(s => s.sheet.style === name)
      for (const [i, tune] of [...all, ...book].entries()) {
        const base = plain((['violin', 'viola', 'cello', 'bass'] as const)[i % 4])
        const recipe = style
          ? styled(base, style)
          : withParts(
              { kinds: [...SHEET_KINDS], music: music[i % 3]!, names: 'syllables', counting: 'syllables' },
              base,
            )
        const { sheet } = made(tune, recipe)
        const wanted = recipe.shown.sheet.kinds.includes('music') ? tune.measures.map((_, k) => k) : []
        expect(sheet.systems[0]!.flatMap(s => s.measures.map(m => m.index))).toEqual(wanted)
        for (const page of sheet.pages) {
          const systems = page.blocks.filter(
            b =>
              b.kind !== 'shapes' ||
              page.blocks.every(o => o === b || o.y >= b.y + b.height || o.y + o.height <= b.y),
          )
          systems.forEach((b, k) => {
            expect(b.y + b.height).toBeLessThanOrEqual(page.height + 0.01)
            const next = systems[k + 1]
            if (next && b.height < 200) expect(next.y).toBeGreaterThanOrEqual(b.y + b.height - 0.01)
          })
        }
      }
    },
  )
})

describe('styles', () => {
  it('that ship are three; what hangs on one tune stays when another is taken', () => {
    expect(STYLES).toHaveLength(3)
    const broken = brokenAt(plain(), 'm3', 'line')
    const taken = styled(broken, STYLES[1]!)
    expect(taken.shown).toMatchObject({
      bowMarks: 'all',
      sheet: { style: 'Orchestra stand', music: 'staff', breaks: { m3: 'line' } },
    })
    expect(withSheet(taken, { music: 'both' }).shown.sheet.style).toBe('')
  })
})

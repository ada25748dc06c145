import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { tuneOf } from '#core/fingering/testing'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import { keyName, type Key } from '#core/music/key'
import type { Tune } from '#core/music/tune'
import { tabModel } from '#core/tablature/tabModel'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { columnsOf, placesIn } from './columns'
import { PLAIN_MEASURER } from './measurer'
import { notate } from './notation'
import { MARGIN, PAPERS } from './paper'
import { sheetOf, type Section, type SheetOptions } from './sheet'
import { systemsOf, type PagePart, type System } from './systems'

const rows = { fingers: true, bows: true, tab: true, chords: true }
const scale = { space: 2, measurer: PLAIN_MEASURER, rows }

function partOf(tune: Tune): PagePart {
  const id = writtenFor(tune)
  const recipe = newArrangement(id, sizeOf(id).name)
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return { notated: notate(d.tune), tab: tabModel(d, recipe) }
}
const demo = (file: string) => partOf(readAbc(demoSource(file)).tunes[0]!.tune)
const leadsIn = (p: PagePart, i: number) => {
  const numbers = p.notated.measures.map(m => m.placed.number)
  return numbers[i] === 0 || numbers[i] === numbers[i - 1]
}
/** A second ending beside the first stands for the same place. */
const isOtherEnding = (p: PagePart, i: number) => {
  const [own, before] = [i, i - 1].map(k => p.notated.measures[k]?.placed.measure.endings?.join())
  return own !== undefined && before !== undefined && own !== before
}
const counted = (s: System, p: PagePart) =>
  s.measures.filter((m, k) => !leadsIn(p, m.index) && !(k > 0 && isOtherEnding(p, m.index))).length

/** Columns of a system with the width a digit or a head takes must not touch. */
function closest(system: System): number {
  const xs = system.measures.flatMap(m => m.columns.map(c => c.x))
  return Math.min(...xs.slice(1).map((x, i) => x - xs[i]!))
}

describe('notation', () => {
  const accidentals = (music: string, key = 'D') =>
    notate(tuneOf(`K:${key}\n${music}`)).measures.map(m =>
      m.events
        .flatMap(e => [...e.graces, ...e.accidentals])
        .map(a => (a === null ? '.' : String(a)))
        .join(''),
    )
  it('shows an accidental where neither key nor bar gives it, once a bar', () => {
    expect(accidentals('F=FF^F|F_BB=B|')).toEqual(['.0.1', '.-1.0'])
    expect(accidentals('B_BcB|', 'F')).toEqual(['....'])
  })
  it('in every octave for itself, grace notes first', () => {
    expect(accidentals('^Cc^c|', 'C')).toEqual(['1.1'])
    expect(accidentals('{^c}c2|', 'C')).toEqual(['1.'])
  })
  it('joins by the beat: halves of 4/4, beats of 6/8, never over a rest or a longer note', () => {
    const sizes = (abc: string) => notate(tuneOf(abc)).measures.map(m => m.beams.map(b => b.length))
    expect(sizes('M:4/4\nK:D\nDEFG ABcd|D2EF GAz2|')).toEqual([
      [4, 4],
      [2, 2],
    ])
    expect(sizes('M:6/8\nK:D\nDEF GAB|D3 E2F|')).toEqual([[3, 3], []])
    expect(sizes('M:3/4\nK:D\nDE FG AB|')).toEqual([[2, 2, 2]])
    // Four eighths read as one; what is shorter, dotted or of three shows the beat.
    expect(sizes('M:2/4\nL:1/16\nK:D\nD2E2 F2G2|DEFG ABcd|D2EF G2AB|D3E F2G2|')).toEqual([
      [4],
      [4, 4],
      [3, 3],
      [2, 2],
    ])
    expect(sizes('M:4/4\nL:1/8\nK:D\nD>E F<G (3ABc de|D>E F2 GABc|')).toEqual([
      [2, 2, 3, 2],
      [2, 4],
    ])
    expect(sizes('M:C|\nL:1/16\nK:D\nDEFGABcd d2c2B2A2|')).toEqual([[4, 4, 4]])
    expect(sizes('M:6/8\nL:1/16\nK:D\nDEFGAB c2d2e2|')).toEqual([[6, 3]])
    // Three eighths are one measure, and one beam.
    expect(sizes('M:3/8\nL:1/8\nK:D\nDEF|D/E/FG|D2E|(DE)F|D>EF|')).toEqual([[3], [4], [], [3], [3]])
    // Where beats are of two kinds, by the groups the tune tells.
    expect(sizes('M:7/8\nL:1/8\nK:D\nDE F2 GAB|d2 cB AGF|')).toEqual([
      [2, 3],
      [2, 3],
    ])
    expect(sizes('M:7/8\nL:1/8\nK:D\nGAB DE F2|AGF d2 cB|')).toEqual([
      [3, 2],
      [3, 2],
    ])
  })
})

describe('columns of a measure', () => {
  const columns = (abc: string) => {
    const p = partOf(tuneOf(abc))
    return columnsOf([{ notated: p.notated.measures[0]!, tab: p.tab.measures[0]!.events }], scale)
  }
  it('stand as near as what is drawn at them allows: accidentals, words and chords need room', () => {
    const plain = columns('K:C\nGABc|').least
    expect(columns('K:C\nG^A=Bc|').least).toBeGreaterThan(plain)
    expect(columns('K:C\nGABc|\nw:Splen-did-ly thoughtfully on').least).toBeGreaterThan(plain)
    expect(columns('K:C\n"Cmaj7/G"G"F#m7b5"A"Bb13"Bc|').least).toBeGreaterThan(plain)
    expect(columns('K:C\n{abc}G{abc}ABc|').least).toBeGreaterThan(plain)
  })
  it('in any width keep at least their distance, stay in order and in the measure', () => {
    const note = fc.constantFrom('D', '^G', 'e2', '_b', '[FA]', 'z', 'c/2', '{ef}a', '"Am7"d', 'B3')
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 1, maxLength: 14 }),
        fc.double({ min: 0, max: 150, noNaN: true }),
        (notes, more) => {
          const c = columns(`M:none\nL:1/8\nK:D\n${notes.join(' ')}|`)
          const at = placesIn(c, c.least + more)
          at.forEach((x, i) => {
            const own = i === 0 ? c.columns[0]!.least : c.columns[i]!.least - c.columns[i - 1]!.least
            expect(x - (at[i - 1] ?? 0)).toBeGreaterThanOrEqual(own - 1e-9)
          })
          expect(at.at(-1)!).toBeLessThanOrEqual(c.least + more)
        },
      ),
    )
  })
  it('leave room for what leads into a note', () => {
    const first = (music: string) => {
      const [m] = partOf(tuneOf(music)).notated.measures
      return columnsOf([{ notated: m!, tab: [] }], scale).columns[0]!.least
    }
    expect(first('K:D\n!slide!D4|') - first('K:D\nD4|')).toBeGreaterThan(0.5 * scale.space)
  })
  it('of two parts stand together where they begin together', () => {
    const [a, b] = [partOf(tuneOf('K:D\nD2 EF|')), partOf(tuneOf('K:D\nA A2 A|'))]
    const measure = (p: PagePart) => ({ notated: p.notated.measures[0]!, tab: p.tab.measures[0]!.events })
    const both = columnsOf([measure(a), measure(b)], scale)
    expect(both.columns.map(c => c.events.map(e => e !== null))).toEqual([
      [true, true],
      [false, true],
      [true, false],
      [true, true],
    ])
  })
})

describe('systems', () => {
  const widths = [90, 130, 182, 240, 300]
  it.each(DEMO_TUNES.map(t => t.file))('of %s hold every measure once, in order, none over-full', file => {
    const p = demo(file)
    for (const width of widths) {
      const systems = systemsOf([p], { ...scale, width })
      expect(systems.flatMap(s => s.measures.map(m => m.index))).toEqual(p.notated.measures.map((_, i) => i))
      for (const s of systems) {
        const last = s.measures.at(-1)!
        expect(last.x + last.width + (s.ahead?.width ?? 0)).toBeCloseTo(s.width, 6)
        expect(s.width).toBeLessThanOrEqual(width + 1e-9)
        expect(counted(s, p)).toBeLessThanOrEqual(4)
        // What can't be drawn in the width stands alone.
        if (closest(s) < 1.6 * scale.space - 1e-9) expect(counted(s, p)).toBe(1)
      }
    }
  })
  it('are as wide as the page, but for a short last one', () => {
    const p = demo('brindlewick-bridge.abc')
    const systems = systemsOf([p], { ...scale, width: 182 })
    for (const s of systems.slice(0, -1)) expect(s.width).toBe(182)
  })
  it('space the last line like the one before it', () => {
    const bars = 'D2EF G2AB|c2BA G2FE|'.repeat(4)
    const wide = (music: string) =>
      systemsOf([partOf(tuneOf(`M:4/4\nL:1/8\nK:D\n${music}`))], { ...scale, width: 182 })
    const even = wide(bars + bars)
    expect(even.map(s => s.measures.length)).toEqual([4, 4, 4, 4])
    expect(even.map(s => s.width)).toEqual([182, 182, 182, 182])
    // Half as much music: half as wide, and its notes as far apart.
    const half = wide(`${bars}D2EF G2AB|D8|`)
    const apart = (s: System) => s.measures[0]!.columns[1]!.x - s.measures[0]!.columns[0]!.x
    expect(half.map(s => s.measures.length)).toEqual([4, 4, 2])
    expect(half[2]!.width).toBeLessThan(120)
    expect(apart(half[2]!) / apart(half[1]!)).toBeCloseTo(1, 1)
  })
  it('keep a second ending beside the first, and leave no measure alone at the end of a part', () => {
    const tune = readAbc(
      'X:1\nT:t\nM:6/8\nL:1/8\nK:Ador\nE|A2B c2d|e2d B2G|A2B c2a|e2d B2G|A2B cde|faf gdB|c2A B2E|1 A3 A2:|2 A3 A2||\ne|a2e c2a|bgd g2b|a2f c2f|e2B e2g|a2e c2a|bgd gfd|c2f d2e|A3 A2||',
    ).tunes[0]!.tune
    const systems = systemsOf([partOf(tune)], { ...scale, width: 180 })
    expect(systems.map(s => s.measures.length)).toEqual([5, 5, 5, 4])
  })
  it('take a signature back with naturals where another begins: in the middle of a line there, else at the end of the line before', () => {
    const inWidth = (width: number) => {
      const systems = systemsOf(
        [partOf(tuneOf('M:4/4\nK:A\nABcd efga|[K:C]cdef gfed|[K:G][M:2/4]GABc|d2G2|'))],
        { ...scale, width },
      )
      const named = (key: Key | null) => key && keyName(key)
      return {
        heads: systems.flatMap(s => s.measures.map(m => named(m.head.cancels))),
        ahead: systems.map(
          s => s.ahead && [named(s.ahead.key), named(s.ahead.cancels), s.ahead.metre?.beats],
        ),
      }
    }
    expect(inWidth(600)).toEqual({ heads: [null, 'A major', null, null], ahead: [null] })
    expect(inWidth(60)).toEqual({
      heads: [null, null, null, null],
      ahead: [['C major', 'A major', undefined], ['G major', null, 2], null],
    })
  })
  it('announce nothing in tab alone, and leave room for what they do', () => {
    const part = partOf(tuneOf('K:A\nABcd efga|[K:C]cdef gfed|'))
    const [tab] = systemsOf([part], { ...scale, width: 60, tabAlone: true })
    const [staff] = systemsOf([part], { ...scale, width: 60 })
    expect(tab!.ahead).toBeNull()
    // Three naturals and the air round them.
    expect(staff!.ahead!.width / scale.space).toBeCloseTo(0.8 + 3 + 0.4 + 0.6)
    const last = staff!.measures.at(-1)!
    expect(last.x + last.width).toBeCloseTo(60 - staff!.ahead!.width)
  })
  it('begin with phrases where there is room, and hold fewer measures where there is not', () => {
    const p = demo('brindlewick-bridge.abc')
    const count = (width: number) => systemsOf([p], { ...scale, width }).map(s => counted(s, p))
    expect(count(182).slice(0, 2)).toEqual([4, 4])
    expect(count(110).slice(0, 3)).toEqual([2, 2, 2])
  })
  it('a measure fuller than the page stands alone and is squeezed into it', () => {
    const p = partOf(tuneOf(`M:none\nL:1/16\nK:D\n${'DEFGABcd'.repeat(8)}|D4|`))
    const [full] = systemsOf([p], { ...scale, width: 90 })
    expect(full!.measures).toHaveLength(1)
    expect(full!.measures[0]!.columns.at(-1)!.x).toBeLessThan(90)
  })
  it('of nothing are none', () => {
    expect(systemsOf([], { ...scale, width: 100 })).toEqual([])
    const empty = partOf({ ...tuneOf('K:D\nD|'), measures: [] })
    expect(systemsOf([empty], { ...scale, width: 100 })).toEqual([])
  })
})

const music = (p: PagePart): Section => ({ kind: 'music', music: { parts: [p] } })

describe('the sheet', () => {
  const options: SheetOptions = {
    paper: 'A4',
    measurer: PLAIN_MEASURER,
    rows,
    tempo: { beat: { n: 1, d: 1 }, perMinute: 96 },
    beside: 2,
    size: 'stand',
    heightOf: () => 38,
    words: { arrangement: 'Tuesday class', instrument: 'violin', tuning: null },
  }
  it('keeps every block on its page, in order, and none over another', () => {
    for (const { file } of DEMO_TUNES) {
      for (const paper of ['A4', 'Letter'] as const) {
        const sheet = sheetOf([music(demo(file))], { ...options, paper })
        const systems = sheet.pages.flatMap(p =>
          p.blocks.flatMap(b => (b.kind === 'system' ? [b.system] : [])),
        )
        expect(systems).toEqual(sheet.systems[0]!.map((_, i) => i))
        for (const page of sheet.pages) {
          expect([page.width, page.height]).toEqual([PAPERS[paper].width, PAPERS[paper].height])
          page.blocks.forEach((b, i) => {
            expect(b.x).toBe(MARGIN)
            expect(b.y + b.height).toBeLessThanOrEqual(page.height)
            const next = page.blocks[i + 1]
            if (next) expect(next.y).toBeGreaterThanOrEqual(b.y + b.height - 1e-9)
          })
        }
      }
    }
  })
  describe('turns the page', () => {
    // Where the lines of one page and of the next begin.
    const pagesOf = (music_: string, height: number) => {
      const p = partOf(tuneOf(`M:4/4\nL:1/8\nK:D\n${music_}`))
      const sheet = sheetOf([music(p)], { ...options, heightOf: () => height })
      return sheet.pages.map(page =>
        page.blocks.flatMap(b =>
          b.kind === 'system' ? [sheet.systems[b.music]![b.system]!.measures[0]!.index] : [],
        ),
      )
    }
    const line = 'D2EF G2AB|c2BA G2FE|D2FA d2cB|A2F2 D4|'
    const part = (lines: number) => `|:${line.repeat(lines)}`.replace(/\|$/, ':|')
    it('where a part ends, rather than in the middle of one', () => {
      // Six lines fit a page: four of the first part and two of the second would.
      const [first, second] = pagesOf(`${part(4)}${part(4)}`, 38)
      expect([first!.length, second!.length]).toEqual([4, 4])
      expect(second![0]).toBe(16)
    })
    it('but leaves no page half empty for it, and takes no page more', () => {
      const two = pagesOf(`${part(1)}${part(7)}`, 38)
      expect(two).toHaveLength(2)
      expect(two[0]!.length).toBeGreaterThan(3)
      expect(pagesOf(part(3), 38)).toHaveLength(1)
    })
    it('so that no line stands alone', () => {
      for (let lines = 7; lines <= 9; lines++) {
        const pages = pagesOf(part(lines), 38)
        for (const page of pages) expect(page.length).toBeGreaterThan(1)
      }
    })
    it('for what is too high for any, and for nothing, all the same', () => {
      expect(pagesOf(part(3), 300)).toHaveLength(3)
      expect(sheetOf([], options).pages).toHaveLength(1)
    })
  })
  it('says title, facts, for whom and from whom on the first page; the title on the others, and which page it is', () => {
    const sheet = sheetOf([music(demo('brindlewick-bridge.abc'))], { ...options, heightOf: () => 90 })
    const texts = sheet.pages.map(p =>
      p.blocks.flatMap(b => (b.kind === 'text' ? b.lines.map(l => l.text) : [])),
    )
    expect(texts[0]).toEqual(
      expect.arrayContaining([
        'Brindlewick Bridge',
        'violin',
        'Tuesday class',
        'reel · A major · 4/4 · quarter = 96',
      ]),
    )
    expect(texts[1]).toEqual(['Brindlewick Bridge', `2 of ${sheet.pages.length}`])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { tuneOf } from '#core/fingering/testing'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from '#core/music/composed'
import type { Tune } from '#core/music/tune'
import { tabModel } from '#core/tablature/tabModel'
import { columnsOf } from './columns'
import { PLAIN_MEASURER } from './measurer'
import { notate } from './notation'
import { passage } from './passage'
import type { PagePart } from './systems'

const scale = {
  space: 2,
  measurer: PLAIN_MEASURER,
  rows: { fingers: true, bows: true, tab: true, chords: true },
}
function partOf(tune: Tune): PagePart {
  const recipe = newArrangement('violin', '4/4')
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return { notated: notate(d.tune), tab: tabModel(d, recipe) }
}
const idsOf = (p: PagePart) => p.notated.measures.map(m => m.events.map(e => e.placed.event.id))
const cut = (p: PagePart, from: number, to: number) => passage([p], idsOf(p).flat().slice(from, to))[0]!
const shown = (p: PagePart) => p.notated.measures.map(m => m.events.flatMap(e => e.accidentals))

describe('a passage', () => {
  // The second phrase begins on the last eighth of the second measure.
  const jig = partOf(tuneOf('M:6/8\nL:1/8\nK:D\n|:D|DEF G2A|B2A F2d|f2d A2F|E3 D2:|'))
  it('has its own notes alone, at their times, and the same measures', () => {
    const second = cut(jig, 9, 16)
    expect(idsOf(second).map(m => m.length)).toEqual([0, 0, 1, 4, 2])
    expect(second.notated.measures).toHaveLength(5)
    const [late] = second.notated.measures[2]!.events
    expect(late!.placed.start).toEqual(jig.notated.measures[2]!.events.at(-1)!.placed.start)
    expect(second.tab.measures.map(m => m.events.map(e => e.id))).toEqual(idsOf(second))
  })
  it('keeps the repeat signs of its own edges only', () => {
    const signs = (p: PagePart) => [p.tab.measures[0]!.repeatStart, p.tab.measures.at(-1)!.repeatEnd]
    expect(signs(cut(jig, 0, 9))).toEqual([true, false])
    expect(signs(cut(jig, 9, 16))).toEqual([false, true])
    const inside = cut(jig, 1, 15)
    expect(signs(inside)).toEqual([false, false])
    const [first, last] = [inside.notated.measures[0]!, inside.notated.measures.at(-1)!]
    expect([first.placed.measure.repeatStart, last.placed.measure.repeatEnd]).toEqual([undefined, undefined])
  })
  it('that begins within an ending is no ending itself', () => {
    const part = partOf(tuneOf('K:D\n|:DEFG|1 A4:|2 A3 d|f4|]'))
    expect(cut(part, 0, 6).tab.measures.map(m => m.endings)).toEqual([undefined, [1], [2], undefined])
    expect(cut(part, 6, 8).tab.measures.map(m => m.endings)).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ])
  })
  it('shows an accidental that stood before a note which is gone', () => {
    const part = partOf(tuneOf('K:C\n^FGAF|'))
    expect(shown(part)).toEqual([[1, null, null, null]])
    expect(shown(cut(part, 2, 4))).toEqual([[null, 1]])
  })
  it('beams what is left by the beats of the whole measure', () => {
    const part = partOf(tuneOf('M:6/8\nL:1/8\nK:D\nDEF GAB|'))
    expect(cut(part, 2, 6).notated.measures[0]!.beams.map(b => b.length)).toEqual([3])
    expect(cut(part, 1, 6).notated.measures[0]!.beams.map(b => b.length)).toEqual([2, 3])
  })
  it('says where the hand stands, though it came there before', () => {
    const high = partOf(tuneOf("K:D\na2b2 c'2d'2|c'2b2 a2b2|"))
    const named = high.tab.measures.flatMap(m => m.events).map(e => e.position)
    expect(named.filter(Boolean)).toHaveLength(1)
    const second = cut(high, 4, 8).tab.measures[1]!.events
    expect(second.map(e => e.position)).toEqual([named.find(Boolean), undefined, undefined, undefined])
  })
  it('is cut out of what stands under it at the same times', () => {
    const [lead, other] = [
      partOf(tuneOf('L:1/8\nK:D\nDEFG ABcd|D8|')),
      partOf(tuneOf('L:1/8\nK:D\nD4 A2B2|D8|')),
    ]
    const [, under] = passage([lead, other], idsOf(lead).flat().slice(4, 9))
    expect(idsOf(under!).map(m => m.length)).toEqual([2, 1])
  })
  it('of any notes of any tune stands in columns like any other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(), fc.nat(), (seed, a, b) => {
        const part = partOf(readAbc(composedAbc(seed)).tunes[0]!.tune)
        const all = idsOf(part).flat()
        const [from, to] = [a % all.length, (a % all.length) + 1 + (b % 12)]
        const own = cut(part, from, to)
        expect(idsOf(own).flat()).toEqual(all.slice(from, to))
        own.notated.measures.forEach((notated, i) => {
          const { columns, least, good } = columnsOf([{ notated, tab: own.tab.measures[i]!.events }], scale)
          expect(columns.map(c => c.events[0])).toEqual(notated.events.map(e => e.placed.event.id))
          for (const c of columns) expect(c.weight).toBeGreaterThan(0.75)
          expect(good).toBeGreaterThanOrEqual(least)
        })
      }),
      { numRuns: 40 },
    )
  })
})

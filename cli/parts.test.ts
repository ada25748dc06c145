import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import type { InstrumentId } from '#core/music/tune'
import { notate } from '#core/page/notation'
import type { PagePart } from '#core/page/systems'
import { STYLES } from '#core/styles/sheetRecipe'
import { tabModel } from '#core/tablature/tabModel'
import { demoSource } from '#demo/fillShelf'
import { drawPages } from '#drawing/pages'
import { drawingSurface } from './surface'

const { tune } = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!
function partOf(instrument: InstrumentId, own: Partial<PagePart>): PagePart {
  const recipe = newArrangement(instrument, 'full')
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return { notated: notate(d.tune), tab: tabModel(d, recipe), ...own }
}
function drawn(parts: readonly PagePart[]) {
  drawingSurface()
  const sheet = { ...STYLES[0]!.sheet, music: 'staff' as const }
  const words = { arrangement: 'Score', instrument: 'All', tuning: null }
  const tempo = { beat: { n: 2, d: 1 }, perMinute: 72 }
  const music = { parts, breaks: {} }
  const { pages, sheet: made } = drawPages([{ kind: 'music', music }], { sheet, words, tempo })
  const texts = pages.flatMap(p => [...p.svg.querySelectorAll('text')].map(t => t.textContent))
  const brackets = pages.reduce((n, p) => n + p.svg.querySelectorAll('.bracket').length, 0)
  return { texts, brackets, lines: made.systems[0]!.length, spots: pages.flatMap(p => p.spots) }
}

describe('a score of several parts', () => {
  it('has their names and a bracket at every line, and each one its own marks', () => {
    const high = partOf('violin', { label: 'Violin' })
    const low = partOf('cello', { label: 'Cello', marks: { fingers: false, phrases: false } })
    const { texts, brackets, lines } = drawn([high, low])
    expect(lines).toBeGreaterThan(2)
    expect(brackets).toBe(lines)
    expect(texts.filter(t => t === 'Violin')).toHaveLength(lines)
    expect(texts.filter(t => t === 'Cello')).toHaveLength(lines)
    // The cello's extended fingers are not among what is said.
    expect(texts.filter(t => t?.startsWith('x'))).toEqual([])
    expect(drawn([high, partOf('cello', { label: 'Cello' })]).texts.some(t => t?.startsWith('x'))).toBe(true)
  })
  it('has neither where they have no names, and is as it was', () => {
    const { brackets } = drawn([partOf('violin', {}), partOf('cello', {})])
    expect(brackets).toBe(0)
  })
})

import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { readAbc } from '#core/formats/abc/readAbc'
import { notate } from '#core/page/notation'
import { tabModel } from '#core/tablature/tabModel'
import { drawRhythm } from './rhythm'
import { drawTab } from './tab'
import { drawnBy, type Drawn } from './testing'

const STEP = 30
const recipe = newArrangement('violin', 'full')
function read(music: string, metre = '4/4') {
  const { tune } = readAbc(`X:1\nT:t\nM:${metre}\nL:1/8\nQ:1/4=80\nK:D\n${music}\n`).tunes[0]!
  const { measures } = tabModel(derive(tune, recipe, ASSUMED_HANDS), recipe)
  return { measures, notated: notate(tune).measures }
}
function rhythm(music: string, metre?: string): Drawn {
  const { measures, notated } = read(music, metre)
  const events = measures.flatMap(m => m.events)
  const anchors = new Map(events.map((e, i) => [e.id, { x: (i + 1) * STEP }]))
  return drawnBy(g => drawRhythm(g, events, { beams: notated.flatMap(m => m.beams) }, anchors, 100))
}
const heads = (g: Drawn) => g.all('ellipse')
const stems = (g: Drawn) => g.all('line').filter(l => l.number('x1') === l.number('x2'))
const beams = (g: Drawn) =>
  g.all('line').filter(l => l.number('y1') === l.number('y2') && l.number('stroke-width') === 2.3)
const lengthOf = (l: Drawn) => Math.abs(l.number('x2') - l.number('x1'))

describe('the rhythm under the tab', () => {
  it('has a head for every note, filled below a half, and a stem below a whole', () => {
    const g = rhythm('D2E2F4|G8|')
    expect(heads(g).map(h => h.attributes.get('fill'))).toEqual([
      'currentColor',
      'currentColor',
      'none',
      'none',
    ])
    expect(stems(g)).toHaveLength(3)
    expect(beams(g)).toHaveLength(0)
  })
  it.each([
    ['4/4', 'DEFG A2B2|', [1, 2, 3], 'half a measure'],
    ['3/4', 'DEFGAB|', [1, 3, 5], 'a beat'],
    ['6/8', 'DEF GAB|', [1, 2, 4, 5], 'a beat of three'],
    ['4/4', 'DzEF A2B2|', [3], 'no rest, and no single eighth'],
  ])('%s: %s is beamed as on the staff', (metre, music, from) => {
    const joined = beams(rhythm(music, metre)).filter(b => lengthOf(b) === STEP + 1)
    expect(joined.map(b => Math.round((b.number('x1') + 3.5) / STEP))).toEqual(from)
  })
  it('has a second beam for sixteenths, a stub of one in a dotted pair', () => {
    expect(beams(rhythm('D/E/F/G/ A2B2c2|')).length).toBe(6)
    const pair = beams(rhythm('D>E F2G2A2|'))
    expect(pair.map(lengthOf).map(Math.round)).toEqual([STEP + 1, 6])
    // The stub points back at the note it shares the beat with.
    expect(pair[1]!.number('x2')).toBeLessThan(pair[1]!.number('x1'))
  })
  it('flags a single eighth', () => {
    const [flag, ...more] = beams(rhythm('Dz E2F2G2|'))
    expect(more).toEqual([])
    expect(lengthOf(flag!)).toBe(6)
  })
  it('dots what is dotted, and ties what no single note can say', () => {
    expect(rhythm('D3E F4|').all('circle')).toHaveLength(1)
    const five = rhythm('D5E3|')
    expect(heads(five)).toHaveLength(3)
    expect(five.all('path')).toHaveLength(1)
  })
  it('ties over a bar from the note before', () => {
    const [tie, ...more] = rhythm('D4E4-|E4F4|').all('path')
    expect(more).toEqual([])
    expect(tie!.attributes.get('d')).toMatch(new RegExp(`^M${2 * STEP + 3} .* ${3 * STEP - 3} `))
  })
  it('draws rests in their own shapes', () => {
    const g = rhythm('z8|z4 z2 z D|')
    // Whole and half are blocks, hanging and sitting; the quarter is a bent stroke; the eighth has one dot.
    const [whole, half] = g.all('rect')
    expect(whole!.number('y') - half!.number('y')).toBeCloseTo(3.4)
    expect(g.all('rect')).toHaveLength(2)
    expect(g.all('circle')).toHaveLength(1)
  })
  it('numbers tuplets in their middle', () => {
    const [three] = rhythm('(3DEF G2A4|').all('text')
    expect(three!.text).toBe('3')
    expect(three!.number('x')).toBe(2 * STEP - 3)
  })
  it('puts a bracket round them where no beam does: over quarters, and where the beam goes on', () => {
    const brackets = (music: string) =>
      rhythm(music)
        .all('path')
        .filter(p => p.attributes.get('stroke-width') === '0.8').length
    expect(brackets('(3DEF G2A4|')).toBe(0)
    expect(brackets('(3D2E2F2 G4|')).toBe(2)
    expect(brackets('(3D2E F2G2A2|')).toBe(2)
    expect(brackets('(3D/E/F/ G A2B4|')).toBe(2)
  })
  it('leaves out what has no place on the line', () => {
    const events = read('D2E2F4|').measures.flatMap(m => m.events)
    const g = drawnBy(group =>
      drawRhythm(group, events, { beams: [] }, new Map([[events[0]!.id, { x: 10 }]]), 0),
    )
    expect(heads(g)).toHaveLength(1)
  })
})

describe('tab lines', () => {
  function tab(music: string) {
    const { measures, notated } = read(music)
    const events = measures.flatMap(m => m.events)
    const anchors = new Map(events.map((e, i) => [e.id, { x: 40 + i * STEP }]))
    const bars = [20, ...measures.map((_, i) => 20 + (i + 1) * 200)]
    let height = 0
    const g = drawnBy(group => {
      height = drawTab(
        group,
        measures,
        notated,
        { bars, anchors, end: bars.at(-1) } as unknown as Parameters<typeof drawTab>[3],
        ['E', 'A', 'D', 'G'],
        50,
      ).height
    })
    return { g, height }
  }
  it('are one a string, with its name before it', () => {
    const { g } = tab('D2E2F2G2|')
    const lines = g.all('line').filter(l => l.attributes.get('opacity') === '0.75')
    expect(lines.map(l => l.number('y1'))).toEqual([50, 61, 72, 83])
    expect(
      g
        .all('text')
        .slice(0, 4)
        .map(t => t.text),
    ).toEqual(['E', 'A', 'D', 'G'])
  })
  it('have every digit knocked out of its line', () => {
    const { g } = tab('D2E2A2e2|')
    const cut = g.all('rect').filter(r => r.attributes.get('class') === 'knock-out')
    // Open D, first finger on D, open A, open E: strings from the highest down are 0 to 3.
    expect(cut.map(r => Math.round((r.number('y') + 5.5 - 50) / 11))).toEqual([2, 2, 1, 0])
  })
  it('have the bars of the music: repeats with their dots, two strokes at the end', () => {
    const plain = tab('D8|E8|').g.all('circle').length
    const { g } = tab('|:D8|E8:|')
    expect(g.all('circle').length - plain).toBe(4)
    expect(g.all('line').filter(l => l.number('stroke-width') === 3)).toHaveLength(2)
  })
  it('make room for numbers of tuplets only where there are some', () => {
    expect(tab('(3DEF G2A4|').height).toBeGreaterThan(tab('DEFG A4|').height)
  })
})

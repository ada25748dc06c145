import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { demoSource } from '#demo/fillShelf'
import { analyseForm, type Boundaries } from './form'
import { learningOrder, planOf } from './plan'

const tune = (music: string, metre = '4/4') =>
  readAbc(`X:1\nT:t\nM:${metre}\nL:1/4\nK:D\n${music}\n`).tunes[0]!.tune
const form = (music: string, boundaries: Boundaries = {}) => analyseForm(tune(music), { boundaries })
const outline = (f: ReturnType<typeof analyseForm>) =>
  f.parts.map(p => p.phrases.map(x => `${x.label}:${x.bars}`).join(' ')).join(' | ')

const BAR = { a: 'DEFG', b: 'AFDF', c: 'GBAG', d: 'F2D2', e: 'E2A2', f: 'dcBA', g: 'BGEG', h: 'A2F2' }
const bars = (s: string) => [...s].map(c => BAR[c as 'a']).join('|') + '|'

describe('parts and phrases', () => {
  it('eight bars are two phrases of four; the same eight again are the part again', () => {
    expect(outline(form(bars('abcdabce')))).toBe('A1:4 A2:4')
    const f = form(bars('abcdabceabcdabce'))
    expect(outline(f)).toBe('A1:4 A2:4 | A3:4 A4:4')
    expect(f.parts.map(p => [p.label, p.again])).toEqual([
      ['A', false],
      ['A', true],
    ])
  })
  it('a repeat sign, a double bar and a label begin a part', () => {
    expect(outline(form(`|:${bars('abcd')}:${bars('efgh')}|`.replace('|:efgh', ':|')))).toMatch(/^A1/)
    expect(outline(form('|:DEFG|AFDF|GBAG|F2D2:|dcBA|BGEG|A2F2|E2A2||DEFG|AFDF|]'))).toBe(
      'A1:4 | B1:4 | C1:2',
    )
  })
  it('the pickup belongs to the phrase it leads into', () => {
    const f = form('A|D2FE|D2F2|E2GF|E3A|D2FE|D2F2|G2E2|D3|')
    expect(outline(f)).toBe('A1:4 A2:4')
    expect(f.phrases[1]!.from).toEqual({ measure: 4, start: { n: 3, d: 1 } })
  })
  it('first and second endings belong to their part', () => {
    const f = analyseForm(readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune)
    expect(f.parts.map(p => [p.label, p.repeated, p.phrases.length])).toEqual([
      ['A', true, 2],
      ['B', true, 2],
    ])
  })
  it('nothing at all has no part; rests alone have one', () => {
    expect(analyseForm(tune('z4|')).phrases).toHaveLength(1)
    expect(analyseForm({ ...tune('D4|'), measures: [] }).parts).toEqual([])
  })
})

describe('kinship', () => {
  it('hears the same phrase, another ending and another start', () => {
    const f = form(bars('abcdabceabcdfbce'))
    expect(f.phrases.map(p => [p.kin[0]?.phrase, p.kin[0]?.relation])).toEqual([
      [undefined, undefined],
      ['A1', 'ending differs'],
      ['A1', 'same'],
      ['A2', 'start differs'],
    ])
    expect(f.phrases.map(p => p.family)).toEqual([0, 0, 0, 0])
    expect(f.phrases.map(p => p.variant)).toEqual([0, 1, 0, 2])
  })
  it('names the notes that differ', () => {
    const f = form(bars('abcdabce'))
    expect(f.phrases[1]!.kin[0]!.differences).toHaveLength(2)
  })
  it('hears a phrase moved to other notes', () => {
    const f = form('DEFD|GFED|DEFD|D4|ABcA|dcBA|ABcA|A4|')
    expect(f.phrases[1]!.kin[0]).toMatchObject({ phrase: 'A1', relation: 'transposed' })
  })
  it('tells what there is to learn', () => {
    const f = form(bars('abcdabceabcd'.padEnd(16, 'fghd')))
    expect(learningOrder(f)).toEqual(['A1', 'A2', 'A4'])
    const plan = planOf(f, { order: 'written', tempo: { beat: { n: 1, d: 1 }, perMinute: 96 } })
    expect(plan.phrases.map(n => n.newNotes)).toEqual([14, 2, 10])
  })
})

describe('the teacher’s boundaries', () => {
  const t = tune(bars('abcdabce'))
  const id = (measure: number, i: number) => t.measures[measure]!.events[i]!.id
  it('split a phrase at a note', () => {
    const f = analyseForm(t, { boundaries: { [id(2, 0)]: true } })
    expect(outline(f)).toBe('A1:2 A2:2 A3:4')
  })
  it('join a phrase to the one before', () =>
    expect(outline(analyseForm(t, { boundaries: { [id(4, 0)]: false } }))).toBe('A1:8'))
  it('move a boundary by a note', () => {
    const f = analyseForm(t, { boundaries: { [id(4, 0)]: false, [id(4, 1)]: true } })
    expect(f.phrases[1]!.from.start).toEqual({ n: 1, d: 1 })
  })
})

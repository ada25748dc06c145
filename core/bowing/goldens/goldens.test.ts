import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { bowedAs, marksDone } from './bowed'
import { INDEPENDENT_BOWINGS } from './independent'
import { agreement, marksOf, percent, strokesNamed, tuneOf, type Mark } from './marks'
import { OWN_BOWINGS } from './own'

const answers = (g: (typeof OWN_BOWINGS)[number]) => [g.want, ...(g.also ?? [])].map(marksOf)
const judged = OWN_BOWINGS.map(g => ({ g, a: agreement(marksDone(bowedAs(tuneOf(g), g)), answers(g)) }))

describe('bow marks of a teacher', () => {
  it('are at least forty, of every school and instrument, a third held back', () => {
    expect(OWN_BOWINGS.length).toBeGreaterThanOrEqual(40)
    expect(new Set(OWN_BOWINGS.map(g => g.school)).size).toBe(6)
    expect(new Set(OWN_BOWINGS.map(g => g.instrument)).size).toBe(4)
    expect(OWN_BOWINGS.filter(g => g.held).length).toBeGreaterThanOrEqual(OWN_BOWINGS.length / 3)
  })
  it.each(OWN_BOWINGS.map(g => [g.name, g] as const))('%s has a mark for every note', (_name, g) => {
    const notes = marksDone(bowedAs(tuneOf(g), g)).length
    for (const marks of answers(g)) expect(marks).toHaveLength(notes)
  })
  it('are met where the weights were tuned, and where they were not', () => {
    expect(percent(judged.filter(j => !j.g.held).map(j => j.a))).toBeGreaterThanOrEqual(98)
    expect(percent(judged.filter(j => j.g.held).map(j => j.a))).toBeGreaterThanOrEqual(96)
  })
  it('that others wrote are met in 93% at the least, in every school', () => {
    const all = INDEPENDENT_BOWINGS.map(g => {
      const got = marksDone(bowedAs(readAbc(g.abc).tunes[0]!.tune, g))
      return { school: g.school, a: agreement(got, [g.want, ...g.also]) }
    })
    for (const school of new Set(all.map(x => x.school)))
      expect(percent(all.filter(x => x.school === school).map(x => x.a)), school).toBeGreaterThanOrEqual(93)
  })
})

describe('marks as text', () => {
  const way = (m: readonly Mark[]) => m.map(x => `${x.direction[0]}:${x.way}`)
  it('bar by bar', () =>
    expect(way(marksOf('U|D-h|^DU'))).toEqual(['u:turn', 'd:turn', 'd:slur', 'd:hook', 'd:lift', 'u:turn']))
  it('and stroke by stroke', () =>
    expect(way(strokesNamed('u:1 d:2,3 d~:4 d^:5 u:6'))).toEqual(way(marksOf('UD-h^DU'))))
  it('agree with the nearest answer, never with two mixed', () => {
    const got = marksOf('DUDU')
    expect(percent([agreement(got, [marksOf('DUUU'), marksOf('UUDU')])])).toBe(87.5)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bowSkills } from './bowSkills'
import { latestSkill, missingSkill, type Level, type Place } from './levels'

const place = (finger: Place['finger'], more: Partial<Place> = {}): Place => ({
  finger,
  mark: 'home',
  shape: 'plain',
  anchor: 2,
  ...more,
})
const from = (id: Parameters<typeof latestSkill>[0], p: Place) => latestSkill(id, p)?.from ?? 1

describe('what the left hand has at each level', () => {
  it.each<[string, Place, number, number]>([
    ['an open string', place(0), 1, 1],
    ['first finger at home', place(1), 1, 1],
    ['low 2', place(2, { mark: 'low' }), 2, 2],
    ['the fourth finger', place(4), 3, 3],
    ['high 3', place(3, { mark: 'high' }), 3, 3],
    ['low 1', place(1, { mark: 'low' }), 4, 4],
    ['a reach past the frame', place(4, { mark: 'extended' }), 5, 5],
    ['a high 1', place(1, { mark: 'high' }), 5, 5],
    ['a high 2', place(2, { mark: 'high' }), 5, 5],
    ['a low 3', place(3, { mark: 'low' }), 5, 5],
    ['a low 4', place(4, { mark: 'low' }), 4, 4],
    ['third position', place(1, { anchor: 5 }), 5, 5],
    ['second position', place(1, { anchor: 3 }), 6, 6],
    ['half position', place(2, { anchor: 1 }), 6, 6],
    ['fourth position', place(1, { anchor: 7 }), 7, 7],
    ['beyond the fifth', place(1, { anchor: 10 }), 8, 8],
    ['a harmonic', place(4, { harmonic: true }), 6, 6],
  ])('violin and viola: %s', (_, p, violin, viola) =>
    expect([from('violin', p), from('viola', p)]).toEqual([violin, viola]),
  )
  it.each<[string, Place, number]>([
    ['the fourth finger, there from the start', place(4), 1],
    ['the second finger in the closed hand', place(2), 2],
    ['the second finger in the open hand', place(2, { shape: 'extended' }), 3],
    ['the hand opened backwards', place(1, { shape: 'back' }), 3],
    ['a harmonic', place(4, { harmonic: true }), 6],
    ['half position', place(1, { anchor: 1 }), 4],
    ['fourth position, before the ones between', place(1, { anchor: 7 }), 4],
    ['second position', place(1, { anchor: 4 }), 5],
    ['beyond the fourth', place(1, { anchor: 8 }), 6],
    ['the upper neck', place(1, { anchor: 10 }), 7],
    ['the thumb', place('T', { shape: 'thumb', anchor: 12 }), 8],
  ])('cello: %s', (_, p, level) => expect(from('cello', p)).toBe(level))
  it.each<[string, Place, number]>([
    ['the fourth finger', place(4), 1],
    ['half position', place(1, { anchor: 1 }), 2],
    ['second position', place(1, { anchor: 3 }), 3],
    ['fourth position', place(1, { anchor: 7 }), 5],
    ['beyond', place(1, { anchor: 9 }), 7],
    ['the thumb', place('T', { shape: 'thumb', anchor: 12 }), 8],
  ])('bass: %s', (_, p, level) => expect(from('bass', p)).toBe(level))

  it.each<[Parameters<typeof latestSkill>[0], string]>([
    ['violin', '1:6 2:1 3:6 4:6 5:5 6:5 7:7 8:7 9:7 10:8 11:8'],
    ['cello', '1:4 2:1 3:5 4:5 5:5 6:5 7:4 8:6 9:6 10:7 11:7'],
    ['bass', '1:2 2:1 3:3 4:3 5:3 6:5 7:5 8:5 9:7 10:7 11:7'],
  ])('%s: each place along the string has its level', (id, levels) => {
    const all = Array.from({ length: 11 }, (_, i) => `${i + 1}:${from(id, place(1, { anchor: i + 1 }))}`)
    expect(all.join(' ')).toBe(levels)
  })
  it('an open string needs no position, wherever the hand is', () => {
    for (const id of ['violin', 'viola', 'cello', 'bass'] as const)
      for (const anchor of [1, 3, 5, 8, 12]) expect(missingSkill(id, 1, place(0, { anchor }))).toBeNull()
  })
  it('gives the reason of what comes last, and none from the level on which has it', () => {
    expect(missingSkill('violin', 2, place(4))).toBe('the fourth finger comes at level 3')
    expect(missingSkill('violin', 4, place(4, { anchor: 5 }))).toBe('third position comes at level 5')
    const any = fc.record({
      finger: fc.constantFrom(0, 1, 2, 3, 4) as fc.Arbitrary<Place['finger']>,
      mark: fc.constantFrom<Place['mark']>('low', 'home', 'high', 'extended'),
      shape: fc.constantFrom<Place['shape']>('plain', 'extended', 'back', 'thumb'),
      anchor: fc.integer({ min: 1, max: 14 }),
      harmonic: fc.constantFrom(undefined, true as const),
    })
    fc.assert(
      fc.property(
        any,
        fc.constantFrom('violin', 'viola', 'cello', 'bass'),
        fc.integer({ min: 1, max: 8 }),
        (p, id, level) => {
          const latest = latestSkill(id, p)
          expect(missingSkill(id, level as Level, p)).toBe(latest && latest.from > level ? latest.why : null)
          if (latest) expect(latest.why).toMatch(new RegExp(`^[a-z].* comes? at level ${latest.from}$`))
        },
      ),
    )
  })
})

describe('what the bow may be offered', () => {
  const offered = (level: Level | null) =>
    Object.entries(bowSkills(level))
      .flatMap(([way, has]) => (has ? [way] : []))
      .sort()
  it('parts slurs from the start, slurs and lifts at 2, hooks at 3; everything where no level is said', () => {
    expect(offered(1)).toEqual(['part'])
    expect(offered(2)).toEqual(['lift', 'part', 'slur'])
    expect(offered(3)).toEqual(['hook', 'lift', 'part', 'slur'])
    expect(offered(8)).toEqual(offered(3))
    expect(offered(null)).toEqual(offered(3))
  })
})

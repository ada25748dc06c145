import { describe, expect, it } from 'vitest'
import { fingeringOf, fingered } from './testing'
import { mannersOf, mannerStretches } from './places'

const manners = (abc: string, o: Parameters<typeof fingeringOf>[1]) =>
  fingeringOf(abc, o).problem.around.map(a => a.manner)

describe('the school of places', () => {
  it('keeps a slow slurred turn in half position, one finger for every note, and not one finger sliding back and forth', () => {
    expect(
      fingered('K:Am\n(A,^G,A,B,) C2A,2 | (E^DEF) E2C2 |', { instrument: 'violin', tempo: '1/4=60' }),
    ).toMatch(/^G ‹?\d ‹?\d/)
    const f = fingeringOf('K:Am\n(A,^G,A,B,) C2A,2 | (E^DEF) E2C2 |', {
      instrument: 'violin',
      tempo: '1/4=60',
    })
    expect(f.notes.slice(0, 4).map(n => n.finger)).toEqual([2, 1, 2, 3])
    expect(f.notes.slice(6, 10).map(n => n.finger)).toEqual([2, 1, 2, 3])
  })
  it('lays a sung phrase that fills the third position there from its first note', () => {
    const air = "K:D\n(d2ef) g2 | (abc'd') b2 | (agfe) d2 | (e2f2) d2 |"
    const f = fingeringOf(air, { instrument: 'violin', tempo: '1/4=66' })
    expect(f.notes.slice(0, 4).map(n => n.finger)).toEqual([1, 2, 3, 4])
    expect(f.notes.every(n => n.finger !== 0)).toBe(true)
  })
  it('asked for home, begins it in first position all the same', () => {
    const f = fingeringOf('K:F\n(cfcd) e2c2 | (fedc) A2c2 |', {
      instrument: 'violin',
      tempo: '1/4=66',
      places: 'home',
    })
    expect(f.notes.slice(0, 4).map(n => n.finger)).toEqual([2, 1, 2, 3])
  })
  it('asked for home, goes up for the high measure alone and comes back for the next one', () => {
    const air = "K:D\n(d2ef) g2 | (abc'd') b2 | (agfe) d2 | (e2f2) d2 |"
    const { notes } = fingeringOf(air, { instrument: 'violin', tempo: '1/4=66', places: 'home' })
    expect(notes.slice(0, 4).map(n => n.finger)).toEqual([3, 0, 1, 2])
    expect(notes.slice(-2).map(n => n.anchor)).toEqual([2, 2])
    expect(notes.some(n => n.anchor > 2)).toBe(true)
  })
  it('quick and separate notes stay at home: the first finger reaches back, the fourth reaches up', () => {
    expect(
      new Set(manners('K:Em\nE^DE G2B | e2B G2E |', { instrument: 'violin', tempo: '3/8=112' })),
    ).toEqual(new Set(['home']))
    const f = fingeringOf("K:F\nc | fac' afc | Bdf dcB |", { instrument: 'violin', tempo: '3/8=110' })
    const high = f.notes.find(n => n.pitch.step === 'C' && n.pitch.octave === 6)!
    expect([high.finger, high.mark]).toEqual([4, 'extended'])
  })
  it('is a matter of violin and viola', () => {
    expect(
      new Set(manners('K:D clef=bass\n(D,E,F,G,) A,2 |', { instrument: 'cello', tempo: '1/4=60' })),
    ).toEqual(new Set(['plain']))
  })
  it('of a dance is home, however slurred; of what is sung one position, where its notes are slurred and unhurried', () => {
    const tones = Array.from({ length: 4 }, () => ({ seconds: 0.5 })) as never
    const of = (kind: string, slurred: boolean, school: 'auto' | 'position' = 'auto') =>
      mannersOf('violin', school, kind, tones, [slurred, slurred, false, false], ['0', '0', '0', '0'])[0]
    expect(of('reel', true)).toBe('home')
    expect(of('slow air', true)).toBe('position')
    expect(of('slow air', false)).toBe('home')
    expect(of('', true)).toBe('position')
    expect(of('reel', true, 'position')).toBe('position')
  })
  it('for a stretch is the teacher’s to say', () => {
    const abc = 'K:F\n(cfcd) e2c2 | (fedc) A2c2 |'
    const o = { instrument: 'violin', tempo: '1/4=66' } as const
    const ids = fingeringOf(abc, o).problem.tones.map(t => t.id)
    const home = {
      from: ids[0]!,
      to: ids.at(-1)!,
      rule: { kind: 'places' as const, school: 'home' as const },
    }
    expect(new Set(manners(abc, o))).toEqual(new Set(['position']))
    expect(new Set(manners(abc, { ...o, rules: [home] }))).toEqual(new Set(['stays']))
  })
  it('is told by stretches', () => {
    expect(mannerStretches(['home', 'home', 'position', 'home'])).toEqual([
      { manner: 'home', from: 0, to: 1 },
      { manner: 'position', from: 2, to: 2 },
      { manner: 'home', from: 3, to: 3 },
    ])
    expect(mannerStretches(['plain', 'plain'])).toEqual([])
  })
})

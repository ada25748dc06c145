import { describe, expect, it } from 'vitest'
import type { Habits } from './habits'
import { bowed, said, type LineOfMusic } from './testing'

const as = (music: string, habits: Partial<Habits>, o: LineOfMusic = {}) =>
  said(bowed(music, { ...o, habits: { dotted: 'written', triplets: 'written', ...habits } }))

describe('a dotted pair', () => {
  const march = 'D2>E2 F2>G2|A4 A4|'
  it('is two bows as it is written, one stopped bow hooked, one bow slurred', () => {
    expect(as(march, {})).toBe('DuDuDu')
    expect(as(march, { dotted: 'hooked' })).toBe('D=Du=uDu')
    expect(as(march, { dotted: 'slurred' })).toBe('D.u.Du')
  })
  it('is one in the eighths of a march, and in the lilt of a slow jig', () => {
    expect(as('d>c B>A d2 d2|', { dotted: 'hooked' })).toBe('D=Du=uDu')
    expect(as('D>EF G>AB|', { dotted: 'slurred' }, { metre: '6/8' })).toBe('D.uD.u')
  })
  it('is no pair over a rest, over the beat, or when the second is no shorter by so much', () => {
    expect(as('D3 z E3 z|', { dotted: 'hooked' })).toBe('Du')
    expect(as('E D3 E D3|', { dotted: 'slurred' })).toBe('DuDu')
    expect(as('D2E D2E|', { dotted: 'slurred' }, { metre: '6/8' })).toBe('DuDu')
  })
  it('is none within a triplet, nor where the long note is tied over from the measure before', () => {
    expect(as('(3D3/2E/2F G2 A4|', { dotted: 'slurred' }, { school: 'as-it-comes' })).toBe('DuDuD')
    expect(as('z4 z2 D2-|DE F2 G4|', { dotted: 'slurred' }, { school: 'as-it-comes' })).toBe('DuDu')
  })
  it('keeps what is written or pinned, whatever the habit', () => {
    expect(as('(D2>E2) F2>G2|', { dotted: 'hooked' })).toBe('D.u=u')
    const second = bowed('D2>E2').problem.tones[1]!.id
    expect(as('D2>E2 F2>G2|', { dotted: 'slurred' }, { joins: { [second]: false } })).toBe('DuD.')
    expect(as('D2>E2 F2>G2|', { dotted: 'hooked' }, { pins: { [second]: { direction: 'up' } } })).toBe(
      'DuD=D',
    )
  })
})

describe('a triplet', () => {
  const music = '(3DEF (3GFE (3DEF (3GFE|D4 D4|'
  it('is three bows as written, one bow by the group, or two groups to a bow', () => {
    expect(as(music, {})).toBe('DuDuDuDuDuDuDu')
    expect(as(music, { triplets: 'one' })).toBe('D..u..D..u..Du')
    expect(as(music, { triplets: 'two' })).toBe('D.....u.....Du')
  })
  it('keeps its bow even where first beats come up for it: they are told instead', () => {
    const triplets = { habits: { dotted: 'written', triplets: 'one' } } as const
    const b = bowed('|:d>e|f2f2 g>f e>g|f2d2 B2G2|(3cde (3edc B>A c>A|B6:|', triplets)
    expect(said(b).match(/\.\./g)).toHaveLength(2)
    expect(b.findings.map(f => f.code)).toContain('bow.firstBeatUp')
  })
  it('two to a bow begin on the first beat or the middle of the measure; one left over goes alone', () => {
    expect(as('(3DEF G2 (3DEF (3GFE|D8|', { triplets: 'two' })).toBe('D..uD.....u')
    expect(as('G2 (3DEF (3GFE G2|D8|', { triplets: 'two' }, { school: 'as-it-comes' })).toBe('Du..D..uD')
  })
  it('two to a bow stay within the measure', () => {
    expect(as('G4 (3D2E2F2|(3G2F2E2 G4|', { triplets: 'two' }, { school: 'as-it-comes' })).toBe('Du..D..u')
  })
  it('with a rest or a long note in it is joined as far as it touches', () => {
    expect(as('(3DzF (3:2:2G2E D4|', { triplets: 'one' }, { school: 'as-it-comes' })).toBe('DuD.u')
  })
})

it('schools that slur by themselves are not asked for habits', () => {
  const groove = { pattern: [1], unit: 0.5, offset: 0 }
  expect(as('D>E F>G A2 A2|', { dotted: 'slurred' }, { school: 'pattern', groove })).not.toContain('.')
})

it('says that the habit did it', () => {
  const b = bowed('D2>E2 F2>G2|', { habits: { dotted: 'hooked', triplets: 'written' } })
  expect(b.written.map(s => s.why)).toMatchObject([
    { is: 'start' },
    { is: 'habit', way: 'hook', of: 'dotted' },
    { is: 'turn' },
    { is: 'habit', way: 'hook', of: 'dotted' },
  ])
  const triplets = bowed('(3DEF (3GFE D4|', { habits: { dotted: 'written', triplets: 'two' } })
  expect(triplets.written[0]!.why).toEqual({ is: 'habit', way: 'slur', of: 'triplets' })
})

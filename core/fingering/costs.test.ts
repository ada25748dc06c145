import { describe, expect, it } from 'vitest'
import { COMPONENTS, type Component } from './costs'
import { costsAt } from './explain'
import { fingeringOf, type FingeredOptions } from './testing'
import type { FingerPins } from './fingerPin'

/** What one component costs over a whole line whose places are pinned: "A1" is string A, finger 1. */
function total(component: Component, abc: string, places: string, o: FingeredOptions): number {
  const strings = { violin: 'EADG', viola: 'ADGC', cello: 'ADGC', bass: 'GDAE' }[o.instrument]
  const pins: FingerPins = Object.fromEntries(
    places.split(' ').map((p, i) => {
      const finger = Number(p[1]) as 0
      return [
        `n${i + 2}`,
        { string: strings.indexOf(p[0]!), finger, ...(p[2] && { anchor: Number(p.slice(3)) }) },
      ]
    }),
  )
  const f = fingeringOf(abc, { ...o, pins })
  expect(f.findings.filter(x => x.code.startsWith('finger.pin'))).toEqual([])
  return f.problem.tones.reduce((t, _, i) => t + costsAt(f, i)[COMPONENTS.indexOf(component)]!, 0)
}
const violin = { instrument: 'violin' } as const
const cello = { instrument: 'cello' } as const
const bass = { instrument: 'bass' } as const

describe('a crossing', () => {
  const crossing = (abc: string, places: string, o: FingeredOptions = violin) =>
    total('crossing', abc, places, o)
  it('that comes right back costs more than two that go on', () => {
    const back = crossing('K:D\nGAGF|', 'D3 A0 D3 D2')
    const on = crossing('K:D\nEAef|', 'D1 A0 E0 E1')
    expect(back).toBeGreaterThan(on)
  })
  it('turns at repeated notes as at one', () =>
    expect(crossing('K:D\nGAAG|', 'D3 A0 A0 D3')).toBeCloseTo(crossing('K:D\nGAGG|', 'D3 A0 D3 D3'), 5))
  it('costs more when quick, more under a slur, and more again over a string', () => {
    const slow = crossing('K:D\nGABc|', 'D3 A0 A1 A2', { ...violin, tempo: '1/4=50' })
    const quick = crossing('K:D\nGABc|', 'D3 A0 A1 A2', { ...violin, tempo: '1/4=140' })
    expect(quick).toBeGreaterThan(slow)
    const slurred = crossing('K:D\n(GABc)|', 'D3 A0 A1 A2', { ...violin, tempo: '1/4=140' })
    expect(slurred).toBeGreaterThan(quick)
    const skip = crossing('K:D\nGefg|', 'D3 E0 E1 E2', { ...violin, tempo: '1/4=140' })
    expect(skip).toBeGreaterThan(quick)
  })
})

describe('a shift', () => {
  const shift = (abc: string, places: string, o: FingeredOptions) => total('shift', abc, places, o)
  it('from first finger to first finger is the surest', () => {
    const first = shift('K:E clef=bass\nB,E|', 'A1 A1', cello)
    const fourth = shift('K:E clef=bass\nB,E|', 'A1 A4', cello)
    expect(first).toBeLessThan(fourth + 0.5)
    // D and G with the same travel: 1 to 1 against 4 to 4.
    expect(shift('K:C clef=bass\nB,E|', 'A1 A1', cello)).toBeLessThan(
      shift('K:C clef=bass\nDG|', 'A4@2 A4@7', cello),
    )
  })
  it('that arrives in an open hand on another finger than the first costs more than in a closed one', () => {
    const closed = shift('K:C clef=bass\nB,E|', 'A1@2 A4@4', cello)
    const open = shift('K:C clef=bass\nB,E|', 'A1@2 A4@3', cello)
    expect(open).toBeGreaterThan(closed)
  })
  it('of the same finger grows with the tempo faster than one between fingers', () => {
    const at = (tempo: string, places: string) => shift('K:C clef=bass\nB,C|', places, { ...bass, tempo })
    const same = at('1/4=180', 'G4@2 G4@3') - at('1/4=60', 'G4@2 G4@3')
    const between = at('1/4=180', 'G4@2 G2@4') - at('1/4=60', 'G4@2 G2@4')
    expect(same).toBeGreaterThan(between)
  })
  it('is easier at a rest, over an open string, on a strong beat and on a half step', () => {
    const plain = shift('M:4/4\nK:C clef=bass\nB,E z2 z4|', 'A1 A1', cello)
    expect(shift('M:4/4\nK:C clef=bass\nB,zE z z4|', 'A1 A1', cello)).toBeLessThan(plain)
    expect(shift('M:4/4\nK:C clef=bass\nB,A,E z z4|', 'A1 A0 A1', cello)).toBeLessThan(plain)
    expect(shift('M:4/4\nK:C clef=bass\nz2 z B,E z z2|', 'A1 A1', cello)).toBeLessThan(plain)
    const [half, whole] = [
      shift('K:C clef=bass\nEF|', 'A4@4 A4@5', cello),
      shift('K:C clef=bass\nDE|', 'A4@2 A4@4', cello),
    ]
    expect(half).toBeLessThan(whole)
  })
  it('takes longer on a larger instrument: the same fingers cost more on a bass than on a violin', () => {
    const small = shift('K:D\ndf|', 'A1@5 A3@5', violin)
    expect(small).toBe(0)
    expect(shift('K:C clef=bass\nA,D|', 'G1@2 G1@7', bass)).toBeGreaterThan(
      shift('K:D\nBe|', 'A1@2 A1@7', violin),
    )
  })
})

describe('a finger', () => {
  it('that can stay down for the note to come counts for the way that leaves it there', () => {
    expect(total('hold', 'K:D\nFAF2|', 'D2 D4 D2', violin)).toBeLessThan(0)
    expect(total('hold', 'K:D\nFGE2|', 'D2 D3 D1', violin)).toBe(0)
  })
  it('laid over two strings costs less than one that hops', () => {
    const block = total('hop', 'K:D\nFc|', 'D2 A2', violin)
    const hop = total('hop', 'K:C\nF^c|', 'D2 A2', violin)
    expect(block).toBeLessThan(hop)
  })
  it('stands for its letter in a position: C sharp is no low 1 of the third', () => {
    const place = (abc: string) => total('place', abc, 'A1@5', violin)
    expect(place('K:D\n^c|')).toBeGreaterThan(place('K:Db\n_d|'))
  })
})

describe('a cello hand', () => {
  it('that reached back with the first finger does not reach forward with the next', () => {
    const shape = (places: string) => total('handShape', 'K:A clef=bass\nA,,G,,B,,|', places, cello)
    expect(shape('G1@2 G1@2 G2@2')).toBeGreaterThan(shape('G1@2 G1@2 G3@2') + 2)
  })
})

describe('a phrase that is all there in first position', () => {
  const viola = { instrument: 'viola', tempo: '1/4=96' } as const
  const place = (abc: string, o: FingeredOptions) =>
    total('place', `K:G clef=alto\n${abc}|`, 'D1@5 D3@5 D1@5', o)
  it('costs more away from it on violin and viola', () => {
    expect(place('GBG', viola)).toBeGreaterThan(place('GBG g4', { ...viola }) + 0.2)
  })
})

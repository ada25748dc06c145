import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { parseTuning } from '#core/instruments/tunings'
import { newArrangement } from './recipe'
import { tuningEffect } from './tuningEffect'

const tuneOf = (music: string, key = 'A') =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:${key}\n${music}\n`).tunes[0]!.tune
const effect = (music: string, to: string | null, key?: string) => {
  const read = to === null ? null : parseTuning('violin', to)
  return tuningEffect(
    tuneOf(music, key),
    newArrangement('violin', 'full'),
    read && 'tuning' in read ? read.tuning : null,
    ASSUMED_HANDS,
  )
}

describe('what a tuning does to a tune', () => {
  it('in A E A E a phrase on the upper strings falls an octave with the same fingers', () => {
    const e = effect('ABcd|efed|cBAB|A4|', 'A3 E4 A4 E5')
    expect(e.octaves[0]).toMatchObject({ by: -12, strings: 2 })
    expect(e.cannot).toEqual([])
  })
  it('but not when it touches both octaves, and says where', () => {
    const e = effect('A,EAe|eAEA,|', 'A3 E4 A4 E5')
    expect(e.octaves).toEqual([])
    expect(e.cannot[0]!.why).toMatch(/^it is in both octaves already: on [EA] and on [DG]$/)
  })
  it('at home no two strings are an octave apart', () =>
    expect(effect('ABcd|e4|', null).cannot[0]!.why).toBe('no two strings of this tuning are an octave apart'))
  it('names the drones of the key, and more open strings ring in a tuning made for it', () => {
    const [home, cross] = [effect('A,EAe|A,EAe|', null), effect('A,EAe|A,EAe|', 'A3 E4 A4 E5')]
    expect(cross.drones.map(x => x.degree)).toEqual(['fifth', 'tonic', 'fifth', 'tonic'])
    expect(home.drones.map(x => x.string)).toEqual([0, 1])
    expect(cross.open).toBeGreaterThan(home.open)
    expect(cross.open).toBeGreaterThanOrEqual(0.75)
  })
  it('tells when a note falls off the instrument', () => {
    expect(effect('G,ABc|', null, 'C').missing).toBe(0)
    expect(effect('G,ABc|', 'A3 E4 A4 E5', 'C').missing).toBe(1)
  })
  it('has nothing to say of a tune without notes', () =>
    expect(effect('z4|', null)).toMatchObject({ open: 0, octaves: [], cannot: [], missing: 0 }))
})

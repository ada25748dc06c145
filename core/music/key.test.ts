import { describe, expect, it } from 'vitest'
import { naturalsFor, parseKey, signature } from './key'

const key = (said: string) => parseKey(said)!

describe('a signature', () => {
  it('counts sharps up and flats down, by mode', () => {
    expect(['C', 'A', 'Em', 'Edor', 'Bb', 'Gmix', 'Fm'].map(k => signature(key(k)))).toEqual([
      0, 3, 1, 2, -2, 0, -4,
    ])
  })
  it('is taken back by as many naturals as it has signs the new one lacks', () => {
    const naturals = (old: string, now: string) => naturalsFor(key(old), key(now))
    expect(naturals('F', 'C')).toBe(1)
    expect(naturals('A', 'G')).toBe(2)
    expect(naturals('G', 'A')).toBe(0)
    expect(naturals('A', 'F')).toBe(3)
    expect(naturals('Eb', 'D')).toBe(3)
    expect(naturals('Am', 'C')).toBe(0)
    expect(naturals('D', 'Bm')).toBe(0)
  })
})

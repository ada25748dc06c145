import { describe, expect, it } from 'vitest'
import { THUMB_HOME } from '#core/instruments/hands'
import { HOME, lies, standsThere } from './home'
import { fingeringOf, type FingeredOptions } from './testing'

const where = (abc: string, o: FingeredOptions) => [
  ...new Set(fingeringOf(abc, o).problem.around.map(a => a.lies?.key ?? 'nowhere')),
]

describe('where a phrase lies', () => {
  it('is at home when everything in it is there, the fourth finger’s note with it', () =>
    expect(where('K:A\nEAce fecA|', { instrument: 'violin' })).toEqual(['home']))
  it('is the position that holds an octave on two strings', () => {
    expect(where("K:D\ndefg abc'd'|", { instrument: 'violin' })).toEqual(['5,6'])
    expect(where('K:F clef=alto\nFABc defA|', { instrument: 'viola' })).toEqual(['3,4'])
  })
  it('leaves out an open string before the rest, over which the hand gets there', () =>
    expect(
      fingeringOf('K:G clef=alto\nD2|GABc defg|', { instrument: 'viola' }).problem.around.map(
        a => a.lies?.key,
      ),
    ).toEqual([undefined, ...Array.from({ length: 8 }, () => '5,6')]))
  it('is one place for all phrases when the whole tune lies in it', () => {
    const abc = 'K:F clef=alto\nFABc defd|edcB AGFA|'
    const { problem } = fingeringOf(abc, { instrument: 'viola' })
    expect(new Set(problem.around.map(a => a.lies?.key))).toEqual(new Set(['3,4']))
    const second = new Set([problem.tones[8]!.id])
    expect(lies('viola', problem.tones, problem.states, second).every(l => l?.key === '3,4')).toBe(true)
    // By itself the second phrase is at home.
    expect(lies('viola', problem.tones.slice(8), problem.states.slice(8)).map(l => l?.key)).toEqual(
      Array.from({ length: 8 }, () => 'home'),
    )
  })
  describe('on the viola in flat keys, when the fourth finger is drawn back again and again', () => {
    const slow = { instrument: 'viola', tempo: '1/4=60' } as const
    const phrase = 'B,2C2D2E2|F2G2A2G2|A2B2c2B2|A2G2F2E2|'
    const flat = (notes: string, o: FingeredOptions = slow) => where(`K:Eb clef=alto\n${notes}`, o)
    it('is the second position, where every finger has its place', () => expect(flat(phrase)).toEqual(['3']))
    it('is at home in quick notes', () => {
      expect(flat(phrase, { ...slow, tempo: '1/4=132' })).toEqual(['3'])
      expect(flat(phrase, { ...slow, tempo: '1/4=134' })).toEqual(['home'])
    })
    it('is at home with one such note, or few of them', () => {
      expect(flat('F2G2A2G2|F2E2D2E2|')).toEqual(['home'])
      expect(flat('F2A2G2A2|F2G2F2E2|D2E2F2G2|F2E2D2C2|')).toEqual(['3'])
      expect(flat('F2A2G2A2|F2G2F2E2|D2E2F2G2|F2E2D2C2|B,2|')).toEqual(['home'])
    })
    it('is at home when a note lies under it', () => {
      expect(flat(`${phrase}G,8|`)).toEqual(['3'])
      expect(flat(`${phrase}D,8|`)).toEqual(['home'])
    })
    it('is at home on the violin, whose hand is narrower, and where the level knows no other place', () => {
      expect(where('K:Bb\nF2G2A2B2|c2d2e2d2|e2f2g2f2|e2d2c2B2|', { ...slow, instrument: 'violin' })).toEqual([
        'home',
      ])
      expect(flat(phrase, { ...slow, level: 2 })).not.toContain('3')
    })
  })
  it('is nowhere when the phrase needs a third string, or is one string’s matter', () => {
    expect(where("K:D\nDFAd fad'a|", { instrument: 'violin' })).toEqual(['nowhere'])
    expect(where("K:F\nfgab c'bag|", { instrument: 'violin' })).toEqual(['nowhere'])
  })
  it('is on the cello a place it fills, or under the thumb, which holds an octave', () => {
    expect(where('K:G clef=bass\nEFGE B,CB,A,|', { instrument: 'cello' })).toEqual(['7'])
    expect(where('K:D clef=tenor\nDFAd cBAF|', { instrument: 'cello' })).toEqual(['thumb'])
    expect(where('K:D clef=bass\nD,F,A,D CB,A,F,|', { instrument: 'cello' })).toEqual(['nowhere'])
  })
  it('holds notes together when both lie in it', () => {
    expect(where("K:D\n[fa]e[gb]d [eb]g[gd']d'|", { instrument: 'violin' })).toEqual(['5,6'])
    expect(where("K:D\n[Bg]e[gb]d [eb]g[gd']d'|", { instrument: 'violin' })).toEqual(['nowhere'])
  })
  it('is left by a hand elsewhere, and by one that lays the thumb or lifts it', () => {
    const { problem } = fingeringOf('K:D clef=tenor\nDFAd cBAF|', { instrument: 'cello' })
    const thumb = problem.around[0]!.lies!
    const states = problem.states.flat()
    const there = states.filter(s => standsThere(thumb, s))
    expect(there.length).toBeGreaterThan(0)
    expect(there.every(s => s.shape === 'thumb' && s.anchor === THUMB_HOME)).toBe(true)
    expect(states.some(s => s.anchor === THUMB_HOME && s.shape !== 'thumb')).toBe(true)
    const violin = fingeringOf('K:A\nEAce fecA|', { instrument: 'violin' }).problem
    const anchors = violin.states
      .flat()
      .filter(s => standsThere(HOME, s))
      .map(s => s.anchor)
    expect([...new Set(anchors)].sort()).toEqual([1, 2])
  })
})

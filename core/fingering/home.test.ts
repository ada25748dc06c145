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
    expect(fingeringOf('K:G clef=alto\nD2|GABc defg|', { instrument: 'viola' }).problem.around.map(a => a.lies?.key)).toEqual([undefined, ...Array.from({ length: 8 }, () => '5,6')])) // prettier-ignore
  it('is one place for all phrases when the whole tune lies in it', () => {
    const abc = 'K:F clef=alto\nFABc defd|edcB AGFA|'
    const { problem } = fingeringOf(abc, { instrument: 'viola' })
    expect(new Set(problem.around.map(a => a.lies?.key))).toEqual(new Set(['3,4']))
    const second = new Set([problem.tones[8]!.id])
    expect(lies('viola', problem.tones, problem.states, second).every(l => l?.key === '3,4')).toBe(true)
    // By itself the second phrase is at home.
    expect(lies('viola', problem.tones.slice(8), problem.states.slice(8)).map(l => l?.key)).toEqual(Array.from({ length: 8 }, () => 'home')) // prettier-ignore
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

import { describe, expect, it } from 'vitest'
import { whySentence } from '#core/words/why'
import { fingeringOf, type FingeredOptions } from './testing'

/** The reason at each note of a line. */
function reasons(abc: string, o: FingeredOptions): string[] {
  const f = fingeringOf(abc, o)
  return f.problem.tones.map((_, i) => whySentence(f, i))
}

describe('a reason', () => {
  it('says how often the bow would cross, and in what time', () =>
    expect(reasons('K:D\nFGAG FEDE|', { instrument: 'violin', tempo: '1/4=96' })[2]).toMatch(
      /^4 on D: the open A would cross strings twice, in an eighth note at 1\/4=96/,
    ))
  it('says that a long tone would ring open', () =>
    expect(
      reasons('K:D\nF2A4B2|', { instrument: 'violin', tempo: '1/4=54', unit: '1/4', long: 'stopped' })[1],
    ).toMatch(/^4 on D: the open A would leave a tone of 4\.4 s ringing open/))
  it('says how many shifts more, how far and in what time', () => {
    const all = reasons('K:D clef=bass\nA,B,CD EFG2|', { instrument: 'cello' })
    const shift = all.find(r => /would need (one|two|three) shifts? more/.test(r))
    expect(shift).toMatch(/\(\d+ mm in an eighth note at 1\/4=88\)/)
  })
  it('names the position a way would lead to', () => {
    const all = reasons("K:D\ne2ab d'bab|a4|", { instrument: 'violin' })
    expect(all.some(r => /would take the hand to (first|second|third|fourth|fifth) position/.test(r))).toBe(
      true,
    )
  })
  it('counts a time no single note has in seconds', () => {
    const triplets = reasons('M:4/4\nK:D\n(3FAF(3FAF (3FAF(3FAF|', { instrument: 'violin' })
    expect(triplets.filter(r => /cross strings/.test(r)).every(r => /in 0\.\d\d s/.test(r))).toBe(true)
    expect(triplets.some(r => /cross strings/.test(r))).toBe(true)
  })
  it('counts the rest between two notes as time for the hand', () =>
    expect(reasons('K:D\ne2z2 a2z2b2|', { instrument: 'violin' }).slice(1)).toEqual([
      expect.stringMatching(/1 on E would need one shift more \(46 mm in 1\.36 s\)/),
      expect.stringMatching(/2 on E would need one shift more \(46 mm in 1\.36 s\)/),
    ]))
  it('begins with the finger as it is written', () => {
    expect(reasons('K:Bb\nBcde|', { instrument: 'violin' })[0]).toMatch(/^‹1 on A: /)
    expect(reasons('K:A clef=bass\nE,F,G,A,|', { instrument: 'cello' })[2]).toMatch(/^x4 on D: /)
  })
})

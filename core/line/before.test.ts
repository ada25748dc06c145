import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { frac } from '#core/music/fraction'
import { heardBefore } from './before'
import { gapsOf } from './time'
import { tonesOf } from './tones'

const lineOf = (music: string, head = '') => {
  const { tune } = readAbc(`X:1\nT:t\n${head}M:2/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!
  const tones = tonesOf(tune, { tempo: { beat: frac(1), perMinute: 60 }, writtenAbove: 0 })
  return { tones, before: heardBefore(tune, tones) }
}
const before = (music: string, head?: string) => lineOf(music, head).before

describe('the tone a tone is heard after', () => {
  it('is the one written before it, over repeats too: the last time through the line goes on', () => {
    expect(before('DE|FG|')).toEqual([-1, 0, 1, 2])
    expect(before('|:DE|FG:|:AB|AF:|')).toEqual([-1, 0, 1, 2, 3, 4, 5, 6])
  })
  it('is at a second ending what came before the first', () => {
    expect(before('|:DE|1 FG:|2 AB|')).toEqual([-1, 0, 1, 2, 1, 4])
    expect(before('|:DE|1 FG|F2:|2 AB|AD|]')).toEqual([-1, 0, 1, 2, 3, 1, 5, 6, 7])
    expect(before('|:DE|1 FG:|2 AB:|3 DD|]')).toEqual([-1, 0, 1, 2, 1, 4, 1, 6])
  })
  it('is, where an ending is silent, the last that sounded', () => {
    expect(before('|:DE|1 z2:|2 AB|')).toEqual([-1, 0, 1, 2])
    expect(before('|:DE|1 FG:|2 z2|AB|')).toEqual([-1, 0, 1, 2, 1, 4])
  })
  it('is after a jump what it jumps from', () => {
    // The coda is reached from the second measure only.
    expect(before('DE|FG!coda!|AB|!D.C.!AA|!coda!DD|]').slice(-2)).toEqual([3, 8])
    expect(
      before('P:A\nDE|P:B\nFG|P:C\nAB|]'.replace(/P:/g, '[P:').replace(/:([ABC])\n/g, ':$1]'), 'P:ABAC\n'),
    ).toEqual([-1, 0, 1, 2, 1, 4])
  })
})

describe('what lies between', () => {
  it('does not reach over from one ending to the next', () => {
    const { tones, before } = lineOf('|:D2|1 EE:|2 DF|')
    const open = tones.map(t => t.heads[0]!.sounding === 62)
    const gaps = gapsOf(tones, open, before)
    // D, then the second ending's D: the same note again, with the time of the one before the endings.
    expect(gaps[2]).toMatchObject({ sameNotes: true, interval: 0, seconds: 2, free: 2 })
    // The open string lends its time on the way to F, with that of the D before it.
    expect(gaps[3]).toMatchObject({ interval: 4, seconds: 1, free: 3 })
    // The last E of the first ending leads to no F.
    expect(gaps[1]).toMatchObject({ turns: false, returns: false })
  })
})

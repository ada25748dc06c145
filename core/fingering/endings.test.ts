/**
 * Nobody plays from the end of one ending to the beginning of the next: the hand comes from the line before
 * both.
 */
import { describe, expect, it } from 'vitest'
import { HAND_MODEL } from '#core/instruments/handModel'
import { ceilingsOf } from '#core/teach/ceilings'
import { cuesOf } from '#core/teach/cues'
import { crossingsOf, shiftsOf } from './derived'
import { tallyOf } from './tally'
import { fingeringOf, spoken } from './testing'

const quick = { instrument: 'violin', tempo: '1/4=120' } as const

describe('endings', () => {
  it('begin with the finger the line before them asks for', () => {
    // After high 3 on D the first ending goes back to A; C is 3 on G as ever, not a finger that avoids the
    // hop from an F sharp nobody plays before it.
    const f = fingeringOf('K:C\n|:A2cA E2GE|1 F2A2 G2G^G:|2 CEGc c4|]', quick)
    expect(spoken(f, 'violin')).toMatch(/3 3 3› G 3 D 1 3 A ‹2 ‹2$/)
    expect(cuesOf(f).filter(c => c.kind === 'hop')).toEqual([])
  })
  it('take the hand where the line left it, and tell the way from there', () => {
    // The strain turns between D and high D: third position. The first ending ends at home.
    const f = fingeringOf("K:D\n|:d2fa d'2bg|a2fd' f2ab|1 A2E2 B,4:|2 d'2bg f2d2|]", {
      instrument: 'violin',
      tempo: '1/4=60',
    })
    const second = f.notes.filter(n => n.measure >= 4)
    expect(second.map(n => n.anchor)).toEqual(second.map(() => 5))
    const into = f.problem.tones[second[0]!.tone]!.id
    expect(shiftsOf(f, HAND_MODEL).filter(s => s.to === into)).toEqual([])
    // From B on the E string to D on it: no crossing, though the ending before it ends on the G string.
    expect(crossingsOf(f).filter(c => c.to === into)).toEqual([])
    expect(ceilingsOf(f).filter(c => c.to === into)).toEqual([])
  })
  it('are counted as they are heard', () => {
    const f = fingeringOf('K:D\n|:D2F2 E2D2|1 B2A2:|2 D4|]', quick)
    // D to B over one string and to A on the same; from D to D none.
    expect(tallyOf(f.problem, f.tables.path, HAND_MODEL).crossings).toBe(1)
  })
})

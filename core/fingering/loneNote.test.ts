import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { loneNoteFindings } from './loneNote'
import { fingeringOf, type FingeredOptions } from './testing'

const told = (abc: string, o: FingeredOptions = { instrument: 'violin' }) =>
  loneNoteFindings(fingeringOf(abc, o))
/** High D over and over in a tune that lies at home; open strings between give the hand its time. */
const TUNE = "K:D\nA4 D4|F2A2 d'4|A4 E4|D4 A4|F2A2 d'4|A4 D4|E4 A,4|"

describe('one note that keeps the hand on the move', () => {
  it('is told where it first stands, with how often the hand shifts for it, and may be moved', () => {
    const [f, ...more] = told(TUNE)
    expect(more).toEqual([])
    expect(f).toMatchObject({
      code: 'finger.loneNote',
      severity: 'note',
      values: { pitch: 'D6', times: 2, shifts: 4 },
      mends: [{ kind: 'moveNote', octaves: -1 }],
    })
    expect(f!.where.note).toBe((f!.mends![0] as { note: string }).note)
    expect(sentence(f!)).toBe(
      'D6 is the one note of this tune that does not lie at home: 4 shifts are made for it (it comes 2 times). With another note there the hand could stay.',
    )
  })
  it('is gone when it is an octave lower', () => expect(told(TUNE.replaceAll("d'", 'd'))).toEqual([]))
  it('is not told when it costs but one way up and back', () => {
    expect(told("K:D\nA4 D4|F2A2 d'4|A4 E4|D8|")).toEqual([])
  })
  it('is not told when other notes are away from home too', () => {
    expect(told(TUNE.replace("d'", "e'"))).toEqual([])
    expect(told(TUNE.replaceAll("d'4", "[fd']4"))).toEqual([])
  })
  it('counts no shift that is made elsewhere, and none over a tune at home', () => {
    expect(told('K:D\nA4 D4|F2A2 d4|')).toEqual([])
    expect(told('z8|')).toEqual([])
  })
  it('on the cello too', () => {
    const [f] = told('K:D clef=bass\nD,4 A,4|F,2A,2 G4|D,4 G,4|A,4 D,4|F,2A,2 G4|D,4 G,4|A,4 F,4|', {
      instrument: 'cello',
    })
    expect(f).toMatchObject({ values: { pitch: 'G4', times: 2 } })
  })
})

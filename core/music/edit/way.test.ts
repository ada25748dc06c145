import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { removeMeasure, setRepeatTimes, setWaySigns, waySignsOf } from './measures'
import { openMeasure } from './notes'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!.tune

describe('the way through', () => {
  const t = tuneOf('D4|E2E2|F4|G4|')
  it('is set sign by sign; of two jumps the new one counts', () => {
    const one = setWaySigns(t, 3, ['dc', 'fine']).tune
    expect(waySignsOf(one.measures[3]!)).toEqual(['fine', 'dc'])
    const two = setWaySigns(one, 3, ['dc', 'ds']).tune
    expect(waySignsOf(two.measures[3]!)).toEqual(['ds'])
    expect(setWaySigns(two, 3, []).tune).toEqual(t)
  })
  it('a repeat is played more than twice where somebody says so', () => {
    const three = setRepeatTimes(t, 1, 3).tune
    expect(three.measures[1]).toMatchObject({ repeatEnd: true, repeatTimes: 3 })
    expect(setRepeatTimes(three, 1, 2).tune.measures[1]).not.toHaveProperty('repeatTimes')
  })
  it('goes with the end of a measure that is cut, and to its neighbours when it is taken out', () => {
    const marked = setWaySigns(setWaySigns(t, 1, ['segno', 'ds']).tune, 2, ['coda']).tune
    const cut = openMeasure(marked, marked.measures[1]!.events[0]!.id).tune
    expect(cut.measures.slice(1, 3).map(waySignsOf)).toEqual([['segno'], ['ds']])
    const gone = removeMeasure(marked, 1).tune
    expect(gone.measures.map(waySignsOf)).toEqual([['ds'], ['segno', 'coda'], []])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ProgramClock } from './clock'
import type { Program, SoundEvent } from './program'

const note = (start: number): SoundEvent => ({
  kind: 'note',
  track: 'tune',
  start,
  length: 1,
  midi: 60,
  loudness: 1,
  legato: false,
  id: `n${start}`,
  event: `n${start}`,
})
const click = (start: number): SoundEvent => ({
  kind: 'click',
  track: 'clicks',
  start,
  strength: 1,
  count: '1',
})
const program: Program = {
  tracks: [],
  intro: { length: 2, events: [click(0), click(1)] },
  body: {
    length: 4,
    events: [
      { kind: 'drone', track: 'drone', start: 0, length: 4, midi: 50, loudness: 1 },
      note(0),
      note(1),
      note(2),
      note(3),
    ],
  },
  music: 4,
}
const starts = (c: ProgramClock, a: number, b: number) => c.between(a, b).map(e => `${e.event.kind}@${e.at}`)

describe('the clock of a program', () => {
  it('goes through the count-in, then the music, then it is over', () => {
    const c = new ProgramClock(program, false, 10, 2)
    expect(c.placeAt(10.5)).toEqual({ part: 'intro', at: 1, round: 0 })
    expect(c.placeAt(11.5)).toEqual({ part: 'body', at: 1, round: 0 })
    expect([c.placeAt(13).part, c.end]).toEqual(['over', 13])
    expect(starts(c, 0, 100)).toEqual([
      'click@0',
      'click@1',
      'drone@2',
      'note@2',
      'note@3',
      'note@4',
      'note@5',
    ])
  })

  it('loops the music without the count-in', () => {
    const c = new ProgramClock(program, true, 0, 1)
    expect(c.placeAt(7)).toEqual({ part: 'body', at: 1, round: 1 })
    expect(starts(c, 6, 8)).toEqual(['drone@6', 'note@6', 'note@7'])
    expect(c.end).toBe(Infinity)
  })

  it('begins in the middle, with the drone that sounds already', () => {
    const c = new ProgramClock(program, false, 0, 1, 2, false)
    expect(c.placeAt(0)).toEqual({ part: 'body', at: 2, round: 0 })
    expect(c.between(0, 10).map(e => [e.event.kind, e.at, e.length])).toEqual([
      ['drone', 0, 2],
      ['note', 0, 1],
      ['note', 1, 1],
    ])
  })

  it('changes the tempo from a moment on and leaves the past where it was', () => {
    const c = new ProgramClock(program, true, 0, 1)
    c.setRate(2, 3)
    expect([c.unrolledAt(3), c.unrolledAt(4), c.timeOf(5), c.timeOf(2)]).toEqual([3, 5, 4, 2])
    expect(c.lasting(2, 2)).toBeCloseTo(1.5)
  })

  it('never plays an event twice nor leaves one out, however the time is cut', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.01, max: 1.5, noNaN: true }), { minLength: 1, maxLength: 40 }),
        steps => {
          const c = new ProgramClock(program, true, 0, 1)
          let at = 0
          const pieces = steps.flatMap(s => {
            const got = starts(c, at, at + s)
            at += s
            return got
          })
          expect(pieces).toEqual(starts(c, 0, at))
        },
      ),
    )
  })

  it('a place and its time belong together, whatever the tempo did', () => {
    const change = fc.record({
      wait: fc.double({ min: 0.1, max: 5, noNaN: true }),
      rate: fc.double({ min: 0.2, max: 6, noNaN: true }),
    })
    fc.assert(
      fc.property(
        fc.array(change, { maxLength: 6 }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (changes, at) => {
          const c = new ProgramClock(program, true, 0, 1)
          let time = 0
          for (const { wait, rate } of changes) c.setRate(rate, (time += wait))
          expect(c.unrolledAt(c.timeOf(at))).toBeCloseTo(at, 6)
        },
      ),
    )
  })
})

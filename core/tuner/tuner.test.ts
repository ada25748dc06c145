import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { centsFrom, frequencyOf, hear, WINDOW } from './detect'
import { rest, samplesOf, soundingHertz, stringAt, turn } from './simulated'
import { tunerReading } from './tuner'

const RATE = 44_100

describe('hearing a string', () => {
  it('finds every open string of the four instruments within two cents', () => {
    for (const id of INSTRUMENT_IDS)
      for (const m of INSTRUMENTS[id].strings) {
        const heard = hear(samplesOf(stringAt(m), WINDOW, RATE, 0.3), RATE)!
        expect(Math.abs(centsFrom(heard.frequency, m))).toBeLessThan(2)
      }
  })
  it('finds any pitch between, whatever the phase', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 84, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (m, phase) => {
          const heard = hear(samplesOf(stringAt(m), WINDOW, RATE, phase), RATE)!
          expect(Math.abs(centsFrom(heard.frequency, m))).toBeLessThan(3)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('hears nothing in silence and nothing in noise', () => {
    expect(hear(new Float32Array(WINDOW), RATE)).toBeNull()
    let seed = 7
    const noise = Float32Array.from(
      { length: WINDOW },
      () => ((seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5) * 0.8,
    )
    expect(hear(noise, RATE)).toBeNull()
  })
  it('asks for the right number of samples', () =>
    expect(() => hear(new Float32Array(100), RATE)).toThrow('4096 samples are needed, not 100'))
})

describe('the simulated string', () => {
  it('shoots over when the peg is turned, and settles below where it was meant', () => {
    const raised = turn(stringAt(55), 2)
    const at = (s: typeof raised) => centsFrom(soundingHertz(s), 57)
    expect(at(raised)).toBeGreaterThan(0)
    expect(at(rest(raised, 10))).toBeLessThan(0)
  })
  it('can be tuned by following the advice', () => {
    let s = stringAt(55, -0.8)
    let turns = 0
    for (; turns < 60; turns++) {
      const { cents, advice } = tunerReading(soundingHertz(s), [55], 0)
      if (advice === 'right') break
      s = rest(turn(s, -cents / 150), 3)
    }
    expect(Math.abs(centsFrom(soundingHertz(s), 55))).toBeLessThanOrEqual(4)
    expect(turns).toBeLessThan(60)
  })
})

describe('what the tuner says', () => {
  const tuning = INSTRUMENTS.violin.strings
  it.each([
    [0, 'right'],
    [-3, 'right'],
    [12, 'a little down'],
    [-12, 'a little up'],
    [90, 'down'],
    [-300, 'up'],
    [200, 'stop'],
  ])('%i cents off: %s', (cents, advice) => {
    expect(tunerReading(frequencyOf(69 + cents / 100), tuning, 1)).toMatchObject({
      string: 1,
      target: 'A4',
      advice,
    })
  })
  it('takes the nearest string when nobody chose one', () =>
    expect(tunerReading(frequencyOf(61.7), tuning, null)).toMatchObject({ string: 2, target: 'D4' }))
  it('follows another A', () => expect(tunerReading(442, tuning, 1, 442).cents).toBe(0))
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  alterations,
  intervalBetweenKeys,
  keyCode,
  keyName,
  keyOfSignature,
  MODES,
  parseKey,
  signature,
} from './key'
import { beatStrength, formatTempo, parseTempo, secondsPerQuarter } from './metre'
import {
  diatonic,
  formatPitch,
  frequency,
  midi,
  parsePitch,
  pitchOfMidi,
  STEPS,
  transposePitch,
  type Pitch,
} from './pitch'
import { frac } from './fraction'

const pitch = fc.record({
  step: fc.constantFrom(...STEPS),
  alter: fc.integer({ min: -1, max: 1 }),
  octave: fc.integer({ min: 1, max: 7 }),
})

describe('pitch', () => {
  it('knows the strings of the four instruments by their numbers', () => {
    expect(['E5', 'A4', 'D4', 'G3', 'C3', 'C2', 'E1'].map(n => midi(parsePitch(n)!))).toEqual([
      76, 69, 62, 55, 48, 36, 28,
    ])
    expect(frequency(69)).toBe(440)
  })
  it('reads what it writes', () => {
    fc.assert(
      fc.property(pitch, p => {
        expect(parsePitch(formatPitch(p))).toEqual(p)
      }),
    )
    expect(parsePitch('H4')).toBeNull()
    expect(formatPitch(pitchOfMidi(70, true))).toBe('Bb4')
  })
  it('goes up and comes down to the same spelling', () => {
    const interval = fc
      .record({ letters: fc.integer({ min: -7, max: 7 }), semitones: fc.constant(0) })
      .map(i => {
        const scale = [0, 2, 4, 5, 7, 9, 11]
        const octave = Math.floor(i.letters / 7)
        return { letters: i.letters, semitones: 12 * octave + scale[i.letters - 7 * octave]! }
      })
    fc.assert(
      fc.property(pitch, interval, (p, by) => {
        const up = transposePitch(p, by)
        expect(midi(up)).toBe(midi(p) + by.semitones)
        const back: Pitch = transposePitch(up, { letters: -by.letters, semitones: -by.semitones })
        if (diatonic(up) === diatonic(p) + by.letters) expect(back).toEqual(p)
      }),
    )
  })
})

describe('key', () => {
  it('has the sharps and flats a musician expects', () => {
    const sharps = (t: string) => signature(parseKey(t)!)
    expect(['A', 'Edor', 'F', 'Bb', 'Dm', 'Amix', 'C#m', 'F# minor', 'B flat major'].map(sharps)).toEqual([
      3, 2, -1, -2, -1, 2, 4, 3, -2,
    ])
    expect(alterations(parseKey('Edor')!)).toMatchObject({ F: 1, C: 1, G: 0 })
    expect(keyName(parseKey('Bb')!)).toBe('B flat major')
  })
  it('does not take a clef for a mode, nor nonsense for a key', () => {
    expect(keyName(parseKey('C clef=alto')!)).toBe('C major')
    expect(keyName(parseKey('Dm bass')!)).toBe('D minor')
    for (const bad of ['Q', 'Dzz', '', '5']) expect(parseKey(bad)).toBeNull()
  })
  it('is found again from its signature, and reads its own code', () => {
    for (const mode of MODES) {
      for (let f = -6; f <= 6; f++) {
        const key = keyOfSignature(f, mode)
        expect(signature(key)).toBe(f)
        if (Math.abs(key.alter) <= 1) expect(parseKey(keyCode(key))).toEqual(key)
      }
    }
  })
  it('moves by the shorter way', () => {
    expect(intervalBetweenKeys(parseKey('A')!, parseKey('G')!)).toEqual({ letters: -1, semitones: -2 })
    expect(intervalBetweenKeys(parseKey('D')!, parseKey('Bb')!)).toEqual({ letters: -2, semitones: -4 })
  })
})

describe('metre and tempo', () => {
  it('weighs the beats: the first most, then the middle one', () => {
    const weigh = (beats: number, unit: 4 | 8, n: number, d = 1) => beatStrength({ beats, unit }, frac(n, d))
    expect([0, 1, 2, 3].map(n => weigh(4, 4, n))).toEqual([3, 1, 2, 1])
    expect([weigh(3, 4, 1), weigh(4, 4, 1, 2), weigh(6, 8, 3, 2), weigh(6, 8, 1, 2)]).toEqual([1, 0, 1, 0])
  })
  it('keeps the beat unit with the number', () => {
    const t = parseTempo('3/8=84')!
    expect(secondsPerQuarter(t)).toBeCloseTo(60 / 126)
    expect(formatTempo(t)).toBe('3/8=84')
    for (const bad of ['96', '1/0=90', '1/4=0', '0/4=60']) expect(parseTempo(bad)).toBeNull()
  })
})

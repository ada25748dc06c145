import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { intervalBetweenKeys, parseKey } from './key'
import { formatPitch } from './pitch'
import { transposeChord, transposeToKey, transposeTune } from './transpose'
import type { Tune } from './tune'

const tune = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
const pitches = (t: Tune) =>
  t.measures.flatMap(m => m.events).map(e => (e.kind === 'note' ? formatPitch(e.heads[0]!.pitch) : 'z'))

describe('the interval from key to key', () => {
  it.each([
    ['D', 'D', 0, 0],
    ['D', 'E', 1, 2],
    ['D', 'C', -1, -2],
    ['D', 'G', 3, 5],
    ['D', 'A', -3, -5],
    ['Bb', 'B', 0, 1],
    ['B', 'Bb', 0, -1],
    ['C', 'Db', 1, 1],
    ['E', 'Eb', 0, -1],
    ['A', 'Eb', -3, -6],
    ['C', 'F#', 3, 6],
    ['F#', 'C', -3, -6],
    ['B', 'F', -3, -6],
    ['F', 'B', 3, 6],
    ['Am', 'Em', -3, -5],
    ['Ab', 'D', -4, -6],
    ['Gb', 'A', 1, 3],
    ['A', 'Gb', -1, -3],
  ] as const)('%s to %s', (from, to, letters, semitones) => {
    const by = intervalBetweenKeys(parseKey(from)!, parseKey(to)!)
    expect(by).toEqual({ letters, semitones })
    expect(intervalBetweenKeys(parseKey(from)!, parseKey(to)!, -2)).toEqual({
      letters: by.letters - 14,
      semitones: by.semitones - 24,
    })
  })
})

it('from key to key and back again is nothing, by no more than a tritone', () => {
  const keys = ['C', 'C#', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B', 'Cb'].map(k =>
    parseKey(k)!,
  )
  for (const a of keys)
    for (const b of keys) {
      const [there, back] = [intervalBetweenKeys(a, b), intervalBetweenKeys(b, a)]
      expect([there.letters + back.letters, there.semitones + back.semitones]).toEqual([0, 0])
      expect(Math.abs(there.semitones)).toBeLessThanOrEqual(6)
    }
})

describe('transposition', () => {
  const t = tune('"A7"ABcd [DF]2 ^gz|{e}f8|')
  it('moves spelling, chords and key together', () => {
    const up = transposeToKey(t, parseKey('Bb')!)
    expect(pitches(up)).toEqual(['F4', 'G4', 'A4', 'Bb4', 'Bb3', 'E5', 'z', 'D5'])
    expect(up.measures[0]!.events[0]!.chord).toBe('F7')
    expect(transposeChord('Am7/G', { letters: 1, semitones: 2 })).toBe('Bm7/A')
  })
  it('up and down again is the same tune', () => {
    for (const by of [
      { letters: 1, semitones: 2 },
      { letters: 2, semitones: 3 },
      { letters: -3, semitones: -5 },
      { letters: 7, semitones: 12 },
    ]) {
      const back = transposeTune(transposeTune(t, by), { letters: -by.letters, semitones: -by.semitones })
      expect(back).toEqual(t)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { parseKey } from './key'
import { formatPitch } from './pitch'
import { keepIds } from './keepIds'
import { transposeChord, transposeToKey, transposeTune } from './transpose'
import type { Tune } from './tune'

const tune = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
const idsOf = (t: Tune) =>
  t.measures
    .flatMap(m => m.events)
    .map(e => [e.id, e.kind === 'note' ? formatPitch(e.heads[0]!.pitch) : 'z'] as const)

describe('ids when the source is typed anew', () => {
  const before = tune('ABcd efga|fedc BAGF|')
  const ids = new Map(idsOf(before).map(([id, p], i) => [i, { id, p }]))
  const after = (music: string) => idsOf(keepIds(before, tune(music)).tune).map(([id]) => id)
  const old = (...indices: number[]) => indices.map(i => ids.get(i)!.id)

  it('stay when nothing changed', () =>
    expect(after('ABcd efga|fedc BAGF|')).toEqual(old(...Array.from({ length: 16 }, (_, i) => i))))
  it('stay for every other note when one is inserted, and the new one gets a new id', () => {
    const list = after('ABcd eAfga|fedc BAGF|')
    expect(list.filter(id => !old(5).includes(id) && [...ids.values()].some(x => x.id === id))).toHaveLength(
      15,
    )
    expect(list).toHaveLength(17)
    expect([...ids.values()].map(x => x.id)).not.toContain(list[5])
  })
  it('stay when a note is taken out', () =>
    expect(after('ABcd ega|fedc BAGF|')).toEqual(old(0, 1, 2, 3, 4, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15)))
  it('stay on a note whose pitch is changed', () =>
    expect(after('ABcd eega|fedc BAGF|')).toEqual(old(...Array.from({ length: 16 }, (_, i) => i))))
  it('never come back once their note is gone', () => {
    const shorter = keepIds(before, tune('ABcd efga|')).tune
    const again = keepIds(shorter, tune('ABcd efga|fedc BAGF|')).tune
    const gone = new Set(old(8, 9, 10, 11, 12, 13, 14, 15))
    expect(idsOf(again).some(([id]) => gone.has(id))).toBe(false)
  })
  it('are unique, slurs follow them', () => {
    const t = keepIds(before, tune('(ABcd) efga|(3fed fc BAGF|')).tune
    const all = idsOf(t).map(([id]) => id)
    expect(new Set(all).size).toBe(all.length)
    expect(t.slurs).toEqual([{ from: old(0)[0], to: old(3)[0] }])
  })
})

describe('transposition', () => {
  const t = tune('"A7"ABcd [DF]2 ^gz|{e}f8|')
  it('moves spelling, chords and key together', () => {
    const up = transposeToKey(t, parseKey('Bb')!)
    expect(idsOf(up).map(([, p]) => p)).toEqual(['F4', 'G4', 'A4', 'Bb4', 'Bb3', 'E5', 'z', 'D5'])
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

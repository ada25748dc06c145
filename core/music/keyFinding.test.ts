import { describe, expect, it } from 'vitest'
import { keyName, parseKey } from './key'
import { findKey, inScale, rankKeys } from './keyFinding'
import { midi, parsePitch } from './pitch'

const notesOf = (names: string, lengths: readonly number[] = []) =>
  names.split(' ').map((n, i) => ({ sounding: midi(parsePitch(`${n}4`)!), length: lengths[i] ?? 1 }))

describe('the key of some notes', () => {
  it.each([
    ['D E F# G A B C# D', 'D major'],
    ['A B C D E F G# A', 'A minor'],
    ['G A Bb C D Eb F# G', 'G minor'],
    ['F A C F A G E F', 'F major'],
    ['E F# G A B C D# E', 'E minor'],
    ['Ab Bb C Db Eb F G Ab', 'A flat major'],
    ['B C# D# E F# G# A# B', 'B major'],
  ])('%s is %s', (names, key) => expect(keyName(findKey(notesOf(names))!)).toBe(key))
  it('long notes and the last one weigh more', () => {
    expect(keyName(findKey(notesOf('C E G A', [4, 2, 3, 1]))!)).toBe('C major')
    expect(keyName(findKey(notesOf('C E G A', [1, 2, 1, 4]))!)).toBe('A minor')
    expect(keyName(findKey(notesOf('D F# A B D F# A D'))!)).toBe('D major')
    expect(keyName(findKey(notesOf('D F# A B D F# A B'))!)).toBe('B minor')
  })
  it('every key has its place, the best first, from -1 to 1; none without notes, none better than another where all sound alike', () => {
    const all = rankKeys(notesOf('D F# A D'))
    expect(all).toHaveLength(24)
    expect(new Set(all.map(f => keyName(f.key))).size).toBe(24)
    expect(all.map(f => f.fit)).toEqual(all.map(f => f.fit).sort((a, b) => b - a))
    expect([all[0]!.fit > 0.8, all.at(-1)!.fit < -0.3, all.every(f => Math.abs(f.fit) <= 1)]).toEqual([
      true,
      true,
      true,
    ])
    expect([findKey([]), rankKeys([])]).toEqual([null, []])
  })
  it('a note is in its scale or not, however it is spelled', () => {
    const inKey = (key: string) =>
      ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B', 'E#', 'Cb']
        .filter(n => inScale(parsePitch(`${n}4`)!, parseKey(key)!))
        .join(' ')
    expect(inKey('D')).toBe('C# D E F# G A B Cb')
    expect(inKey('Gm')).toBe('C D Eb F G A Bb E#')
  })
})

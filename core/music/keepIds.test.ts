import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { intervalBetweenKeys, parseKey } from './key'
import { formatPitch } from './pitch'
import { keepIds, pairEvents } from './keepIds'
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

describe('which note of an edited line was which', () => {
  /** Letters are notes, each with its length: "A B2 C". */
  const line = (text: string, id: string) =>
    tune(text).measures.flatMap(m => m.events).map((e, i) => ({ ...e, id: `${id}${i}` })) // prettier-ignore
  const pairs = (before: string, after: string) => {
    const found = pairEvents(line(before, 'b'), line(after, 'a'))
    return line(after, 'a').map(e => found.get(e.id)?.slice(1) ?? '-').join(' ') // prettier-ignore
  }
  it.each([
    ['ABcd', 'ABcd', '0 1 2 3'],
    ['ABcd', 'ABecd', '0 1 - 2 3'],
    ['ABcd', 'Acd', '0 2 3'],
    ['ABcd', 'eABcd', '- 0 1 2 3'],
    ['ABcd', 'ABcde', '0 1 2 3 -'],
    ['ABcd', 'Bcd', '1 2 3'],
    ['ABcd', 'ABc', '0 1 2'],
    // One for one where equally many stand between two that stayed: other pitches, other lengths, a rest.
    ['ABcd', 'Aecd', '0 1 2 3'],
    ['ABcd', 'AB2c2d', '0 1 2 3'],
    ['ABcd', 'zBcd', '0 1 2 3'],
    ['ABcd', '[AC]Bcd', '0 1 2 3'],
    // More or fewer: by pitch, in order.
    ['ABcd', 'Aefcd', '0 - - 2 3'],
    ['AB2c2d', 'ABced', '0 1 2 - 3'],
    ['Ac2B2d', 'ABced', '0 - 1 - 3'],
    ['A B2 B3 d', 'A B d', '0 1 3'],
    // Moved or doubled: the longest that stayed in order.
    ['ABcdefg', 'efgABcd', '- - - 0 1 2 3'],
    ['ABc', 'ABcABc', '0 1 2 - - -'],
    ['eABcABf', 'ABcAB', '1 2 3 4 5'],
    ['AAB', 'AB', '0 2'],
    ['AB', 'cd', '0 1'],
  ])('%s as %s', (before, after, wanted) => expect(pairs(before, after)).toBe(wanted)) // prettier-ignore
  it('in a long line too: one note changed, one added, one gone', () => {
    const notes = Array.from({ length: 2400 }, (_, i) => 'ABcdefg'[(i * i + 3 * i) % 7]!)
    const changed = (edit: (list: string[]) => unknown) => {
      const list = [...notes]
      edit(list)
      return pairs(notes.join(''), list.join('')).split(' ')
    }
    const all = notes.map((_, i) => String(i))
    expect(changed(l => (l[1200] = "c'"))).toEqual(all)
    expect(changed(l => l.splice(1200, 0, "c'"))).toEqual(all.toSpliced(1200, 0, '-'))
    expect(changed(l => l.splice(1200, 2, "c'"))).toEqual(all.toSpliced(1200, 2, '-'))
    // Between two far changes the line is looked through by pitch alone: nothing is given to two.
    const far = changed(l => (l.unshift("c'"), l.push("c'"))).filter(x => x !== '-')
    expect(new Set(far).size).toBe(far.length)
  })
  it('measures keep their ids with their notes; a measure cut in two has one new', () => {
    const before = tune('ABcd efga|fedc BAGF|')
    const ids = before.measures.map(m => m.id)
    const now = (music: string) => keepIds(before, tune(music)).tune.measures.map(m => ids.indexOf(m.id))
    expect(now('ABcd efga|fedc BAGF|')).toEqual([0, 1])
    expect(now('fedc BAGF|')).toEqual([1])
    expect(now('ABcd|efga|fedc BAGF|')).toEqual([0, -1, 1])
    expect(now('ABcd efgafedc BAGF|')).toEqual([0])
    expect(now('D8|ABcd efga|fedc BAGF|')).toEqual([-1, 0, 1])
  })
})

describe('the interval from key to key', () => {
  it.each([
    ['D', 'D', 0, 0], ['D', 'E', 1, 2], ['D', 'C', -1, -2], ['D', 'G', 3, 5], ['D', 'A', -3, -5], ['Bb', 'B', 0, 1], ['B', 'Bb', 0, -1],
    ['C', 'Db', 1, 1], ['E', 'Eb', 0, -1], ['A', 'Eb', -3, -6], ['C', 'F#', 3, 6], ['F#', 'C', -3, -6], ['B', 'F', -3, -6], ['F', 'B', 3, 6],
    ['Am', 'Em', -3, -5], ['Ab', 'D', -4, -6], ['Gb', 'A', 1, 3], ['A', 'Gb', -1, -3],
  ] as const)('%s to %s', (from, to, letters, semitones) => {
    const by = intervalBetweenKeys(parseKey(from)!, parseKey(to)!)
    expect(by).toEqual({ letters, semitones })
    expect(intervalBetweenKeys(parseKey(from)!, parseKey(to)!, -2)).toEqual({ letters: by.letters - 14, semitones: by.semitones - 24 }) // prettier-ignore
  }) // prettier-ignore
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

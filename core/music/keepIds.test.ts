import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { formatPitch } from './pitch'
import { keepIds, pairEvents } from './keepIds'
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
    tune(text)
      .measures.flatMap(m => m.events)
      .map((e, i) => ({ ...e, id: `${id}${i}` }))
  const pairs = (before: string, after: string) => {
    const found = pairEvents(line(before, 'b'), line(after, 'a'))
    return line(after, 'a')
      .map(e => found.get(e.id)?.slice(1) ?? '-')
      .join(' ')
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
  ])('%s as %s', (before, after, wanted) => expect(pairs(before, after)).toBe(wanted))
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

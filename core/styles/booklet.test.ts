import { describe, expect, it } from 'vitest'
import { again, bookletSchema, hasRoomFor, MOST_TUNES, moved, newBooklet, withTunes } from './booklet'

const many = (n: number, from = 0) => Array.from({ length: n }, (_, i) => `t${from + i}`)
const names = (b: { tunes: readonly { tune: string; arrangement: string | null }[] }) =>
  b.tunes.map(t => t.tune + (t.arrangement ? `:${t.arrangement}` : ''))

describe('the tunes of a booklet', () => {
  it('come one after another, each once', () => {
    const b = withTunes(newBooklet('b', ['a', 'b']), ['b', 'c'])
    expect(names(b)).toEqual(['a', 'b', 'c'])
    expect(bookletSchema.safeParse(b).success).toBe(true)
  })
  it('are no more than it holds, and whether there is room is known before', () => {
    const b = newBooklet('b', many(MOST_TUNES - 2))
    expect(hasRoomFor(b, many(2, 900))).toBe(true)
    expect(hasRoomFor(b, many(3, 900))).toBe(false)
    // Those that are in it already take no room.
    expect(hasRoomFor(b, [...many(50), ...many(2, 900)])).toBe(true)
    expect(hasRoomFor({ tunes: [] }, many(MOST_TUNES + 1))).toBe(false)
    expect(withTunes(b, many(5, 900)).tunes).toHaveLength(MOST_TUNES)
    // One tune in two arrangements takes two places.
    expect(hasRoomFor({ tunes: [...b.tunes, { tune: 't0', arrangement: 'x' }] }, many(2, 900))).toBe(false)
  })
  it('stand again in another arrangement right after themselves, as long as there is one', () => {
    const b = newBooklet('b', ['a', 'b'])
    const twice = again(b, 0, ['v', 'c'])
    expect(names(twice)).toEqual(['a', 'a:c', 'b'])
    expect(names(again(twice, 0, ['v', 'c', 'w']))).toEqual(['a', 'a:w', 'a:c', 'b'])
    expect(again(b, 0, ['v'])).toBe(b)
    expect(again(b, 7, ['v', 'c'])).toBe(b)
    const full = newBooklet('b', many(MOST_TUNES))
    expect(again(full, 0, ['v', 'c'])).toBe(full)
  })
  it('move within the list and not out of it', () => {
    const b = newBooklet('b', ['a', 'b', 'c'])
    expect(names(moved(b, 0, 1))).toEqual(['b', 'a', 'c'])
    expect(names(moved(b, 0, -1))).toEqual(['a', 'b', 'c'])
    expect(names(moved(b, 1, 9))).toEqual(['a', 'c', 'b'])
  })
})

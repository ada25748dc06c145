import { describe, expect, it } from 'vitest'
import { melodyLikeness } from './melody'

/** One note after another, each of a quarter. */
const line = (middle: number, count = 8, overlap = 0) =>
  Array.from({ length: count }, (_, i) => ({ start: i, end: i + 1 + overlap, midi: middle + (i % 3) - 1 }))
const chords = (middle: number) =>
  line(middle).flatMap(n => [n, { ...n, midi: n.midi + 4 }, { ...n, midi: n.midi + 7 }])
const like = (notes: ReturnType<typeof line>, name = '', most = 8) => melodyLikeness(notes, name, most)

describe('a part is like a melody', () => {
  it('that has one note at a time, rather than chords', () => {
    expect(like(line(72))).toBeGreaterThan(like(chords(72)))
    // Notes bound a little into each other are still one at a time; held under the next ones they are not.
    expect(like(line(72, 8, 0.2))).toBe(like(line(72)))
    expect(like(line(72, 8, 0.9))).toBeLessThan(like(line(72)))
    // Short ones half under each other are together.
    const quick = line(72).map(n => ({ ...n, start: n.start / 8, end: n.start / 8 + 0.3 }))
    expect(like(quick)).toBeLessThan(like(quick.map(n => ({ ...n, end: n.start + 0.125 }))))
  })
  it('whatever the order its notes come in', () => {
    expect(like(line(72).toReversed())).toBe(like(line(72)))
    expect(like(chords(72).toReversed())).toBe(like(chords(72)))
  })
  it('that lies where one does: neither low nor above the highest fiddle', () => {
    expect(like(line(72))).toBeGreaterThan(like(line(52)))
    expect(like(line(52))).toBeGreaterThan(like(line(40)))
    expect(like(line(40))).toBe(like(line(30)))
    expect(like(line(90))).toBe(like(line(72)))
    expect(like(line(112))).toBeLessThan(like(line(72)))
    // The middle note counts, not the lowest or the highest one.
    const [first, ...rest] = line(72)
    expect(like([{ ...first!, midi: 20 }, ...rest])).toBe(like(line(72)))
  })
  it('that has many of the notes', () => {
    expect(like(line(72), '', 8)).toBeGreaterThan(like(line(72), '', 200))
  })
  it('that is called one; a name adds as much as another takes away', () => {
    const plain = like(line(72), 'Track 3')
    for (const name of ['Melody', 'Fiddle 1', 'Lead', 'VOCALS', 'right hand'])
      expect(like(line(72), name)).toBeCloseTo(plain + 1, 9)
    for (const name of ['Bass', 'pad', 'Strings', 'left hand', 'Click'])
      expect(like(line(72), name)).toBeCloseTo(plain - 1, 9)
    expect(like(line(72), 'lead guitar')).toBeCloseTo(plain, 9)
    // What is heard weighs more than a name.
    expect(like(line(72), 'Bass')).toBeGreaterThan(like(chords(45), 'Melody', 24))
  })
  it('by no means when it is empty', () => {
    expect(like([], 'Melody')).toBe(-Infinity)
  })
})

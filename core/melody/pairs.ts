/**
 * Pairs of alike melodies on a shelf of any size, without comparing every two. A mark's tunes stand in one list
 * (an inverted index), in the order of their sorted prints, so that settings of one tune are neighbours; each is
 * compared with the next few of each of its lists (the sorted neighbourhood of Hernández and Stolfo 1995, here
 * once for every mark). A pair that shares a rare mark is always found. In a crowd of like tunes, whose marks are
 * all frequent, each is told with its neighbours, not with all the others: the work grows with the marks.
 */
import { ALIKE, LEAST_MARKS, type MelodyPrint } from './print'

export interface AlikePair {
  readonly a: string
  readonly b: string
  /** How much of the smaller print is in the other, 0 to 1. */
  readonly likeness: number
}

/** Followers in each list that a tune is compared with. */
const NEIGHBOURS = 12

/** Marks that two prints share; both sorted upwards. */
function shared(a: Uint32Array, b: Uint32Array): number {
  let [i, j, both] = [0, 0, 0]
  while (i < a.length && j < b.length) {
    const [x, y] = [a[i]!, b[j]!]
    if (x === y) both++
    if (x <= y) i++
    if (y <= x) j++
  }
  return both
}

function bySortedMarks(a: Uint32Array, b: Uint32Array): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++) if (a[i] !== b[i]) return a[i]! - b[i]!
  return a.length - b.length
}

/** The likest pairs first, `most` of them; each two tunes once, the lesser id as `a`. */
export function alikePairs(prints: ReadonlyMap<string, MelodyPrint>, most: number): AlikePair[] {
  const tunes = [...prints]
    .filter(([, print]) => print.length >= LEAST_MARKS)
    .map(([id, print]) => ({ id, marks: Uint32Array.from(print).sort() }))
    .sort((a, b) => bySortedMarks(a.marks, b.marks) || (a.id < b.id ? -1 : 1))
  const byMark = new Map<number, number[]>()
  for (const [i, { marks }] of tunes.entries())
    for (const mark of marks) {
      const list = byMark.get(mark)
      if (list) list.push(i)
      else byMark.set(mark, [i])
    }
  const found: AlikePair[] = []
  /** Up to where in its list each mark's tunes were gone through: lists are in the order of `tunes`. */
  const passed = new Map<number, number>()
  /** The last tune that each was compared with. */
  const comparedWith = new Int32Array(tunes.length).fill(-1)
  for (const [i, own] of tunes.entries())
    for (const mark of own.marks) {
      const list = byMark.get(mark)!
      const next = (passed.get(mark) ?? 0) + 1
      passed.set(mark, next)
      for (const j of list.slice(next, next + NEIGHBOURS)) {
        if (comparedWith[j] === i) continue
        comparedWith[j] = i
        const other = tunes[j]!
        const likeness = shared(own.marks, other.marks) / Math.min(own.marks.length, other.marks.length)
        if (likeness < ALIKE) continue
        const [a, b] = own.id < other.id ? [own.id, other.id] : [other.id, own.id]
        found.push({ a, b, likeness })
      }
    }
  return found.sort((x, y) => y.likeness - x.likeness || (x.a < y.a ? -1 : 1)).slice(0, most)
}

/** Played times on a grid of written ones. */
import { finding, type Finding } from '#core/findings/finding'
import { add, compare, formatFraction, frac, max, toNumber, type Fraction } from '#core/music/fraction'
import type { Midi } from '#core/music/pitch'

/** A note as it was played, in quarters. */
export interface Raw {
  readonly start: number
  readonly end: number
  readonly midi: Midi
}

/** Notes that begin together, on the grid. */
export interface Slot {
  readonly start: Fraction
  readonly end: Fraction
  readonly notes: readonly Midi[]
  /** How far the furthest of its notes was moved, in quarters. */
  readonly moved: number
}

/** Further than this from its place on the grid (in quarters) a moved note is worth telling. */
const TELL = 0.02
/** A silence shorter than this before the next note is the player's articulation, not a rest. */
const ARTICULATION = 0.3

export interface Quantised {
  readonly slots: Slot[]
  readonly quantised: Finding | null
  /** Notes that sounded into the next one, and those that ended well before another they began with. */
  readonly cut: number
  readonly held: number
}

/**
 * Every quarter gets the grid its onsets lie closest to: sixteenths, triplet eighths, or the halves of either
 * where that is clearly nearer. A note lasts to the next one unless the silence between is a real one.
 */
export function quantise(raw: readonly Raw[]): Quantised {
  const sorted = [...raw].sort((a, b) => a.start - b.start)
  const grids = gridPerBeat(sorted)
  const place = (t: number): Fraction => {
    const beat = Math.floor(t + 1e-6)
    const parts = grids.get(beat) ?? 4
    return add(frac(beat), frac(Math.round((t - beat) * parts), parts))
  }
  let furthest = 0
  const groups = new Map<
    string,
    { start: Fraction; end: number; least: number; notes: Midi[]; moved: number }
  >()
  for (const n of sorted) {
    const start = place(n.start)
    const moved = Math.abs(toNumber(start) - n.start)
    furthest = Math.max(furthest, moved)
    const key = formatFraction(start)
    const g = groups.get(key) ?? { start, end: 0, least: Infinity, notes: [], moved: 0 }
    if (!g.notes.includes(n.midi)) g.notes.push(n.midi)
    groups.set(key, {
      ...g,
      end: Math.max(g.end, n.end),
      least: Math.min(g.least, n.end),
      moved: Math.max(g.moved, moved),
    })
  }
  const list = [...groups.values()].sort((a, b) => compare(a.start, b.start))
  let [cut, held] = [0, 0]
  const slots = list.map((g, i): Slot => {
    const next = list[i + 1]?.start
    let end = max(place(g.end), add(g.start, frac(1, grids.get(Math.floor(toNumber(g.start))) ?? 4)))
    if (next && compare(end, next) > 0) {
      if (g.end - toNumber(next) > ARTICULATION) cut++
      end = next
    }
    if (next && toNumber(next) - g.end < Math.min(ARTICULATION, (toNumber(next) - toNumber(g.start)) * 0.6))
      end = next
    if (toNumber(end) - g.least > ARTICULATION && g.end - g.least > ARTICULATION) held++
    return { start: g.start, end, notes: g.notes.sort((a, b) => a - b), moved: g.moved }
  })
  const has = (parts: number) => [...grids.values()].includes(parts)
  const names = [
    has(8) ? 'thirty-second' : 'sixteenth',
    has(6) ? 'triplet sixteenth' : has(3) ? 'triplet' : '',
  ].filter(Boolean)
  const values = { grid: names.join(' or '), furthest: `${Math.round(furthest * 100)}%` }
  return {
    slots,
    quantised: furthest > TELL ? finding('midi.quantised', 'note', {}, values) : null,
    cut,
    held,
  }
}

/** Grids of a quarter, the simpler ones first: a finer one must be nearer by so much of a quarter a note. */
const GRIDS: readonly (readonly [parts: number, handicap: number])[] = [
  [4, 0],
  [3, 0.02],
]
/**
 * Halves of these, only where two notes follow each other this closely: a single late note is late, and no
 * thirty-second.
 */
const FINER: readonly (readonly [parts: number, handicap: number])[] = [
  [8, 0.035],
  [6, 0.035],
]
const CLOSE = 0.19

function gridPerBeat(sorted: readonly Raw[]): Map<number, number> {
  const onsets = new Map<number, number[]>()
  for (const n of sorted) {
    const beat = Math.floor(n.start + 1e-6)
    const list = onsets.get(beat) ?? []
    if (list.length === 0) onsets.set(beat, list)
    list.push(n.start - beat)
  }
  const error = (list: readonly number[], parts: number) =>
    list.reduce((t, x) => t + Math.abs(x - Math.round(x * parts) / parts), 0) / list.length
  const best = (list: readonly number[]) =>
    [
      ...GRIDS,
      ...(list.some((x, i) => i > 0 && x - list[i - 1]! > 0.01 && x - list[i - 1]! < CLOSE) ? FINER : []),
    ]
      .map(([parts, handicap]) => ({ parts, cost: error(list, parts) + handicap }))
      .reduce((a, b) => (b.cost < a.cost - 1e-9 ? b : a)).parts
  return new Map([...onsets].map(([beat, list]) => [beat, best(list)]))
}

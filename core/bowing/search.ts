/**
 * The bow as one shortest path: directions, what is done before each stroke, and places on the bow together.
 * A stroke is a stretch of tones in one bow; its state at the end is the direction and the place on the hair.
 */
import { BLOCK, solveStretches, type Row, type StretchTables } from '#core/solver/stretches'
import { changedTones } from './changed'
import { BACK, enter, into, type Entry } from './forwards'
import { kernelFor } from './kernels'
import type { BowLine, Direction, Way } from './line'
import { leave, outOf } from './onwards'
import {
  AIR,
  beginningCost,
  beginningInset,
  END_COST,
  MOVE_REST,
  placeCost,
  PLACES,
  settingDown,
  SQUEEZED,
  STATES,
} from './places'
import { STEPS, wantedLength } from './travel'
import { WEIGHTS as W } from './weights'

/** At most so many slurs are added in one stroke; by the hair, more. */
const MOST_ADDED = 3
const MOST_BY_HAIR = 15

export interface BowSearch {
  readonly line: BowLine
  readonly tables: StretchTables<Entry>
  readonly strokes: readonly Found[]
  readonly total: number
}

/**
 * The searches behind one bowing: free, with measures of one rhythm alike, and with the second time through
 * marked as the first.
 */
export interface Searches {
  readonly free: BowSearch
  readonly alike: BowSearch
  readonly final: BowSearch
}

/** One stroke of the solution. */
export interface Found {
  /** Indices of its first tone, and of the one after its last. */
  readonly first: number
  readonly end: number
  readonly direction: Direction
  readonly way: Exclude<Way, 'slur'>
  readonly from: number
  readonly to: number
}

const WAYS = ['turn', 'lift', 'hook'] as const

export function searchBow(line: BowLine, before?: BowSearch): BowSearch {
  const n = line.tones.length
  const earliest = earliestStarts(line)
  const latest = latestEnds(earliest)
  const changed = before && changedTones(line, before.line)
  const newEntry = entryMaker()
  const problem = {
    boundaries: n + 1,
    states: STATES,
    enter: (i: number, row: Row | null) => enter(line, i, row, newEntry()),
    into: (j: number, entry: (i: number) => Entry | null, row: Row) =>
      into(line, j, earliest[j]!, entry, row),
    outOf: (i: number, leaving: (j: number) => Row, row: Row) =>
      outOf(line, i, earliest, latest[i]!, leaving, row),
    leave: (j: number, began: Row | null, row: Row) => leave(line, j, began, row),
    latest: (i: number) => latest[i]!,
  }
  const tables = solveStretches(problem, changed ? { ...changed, tables: before.tables } : undefined)
  if (n === 0) return { line, tables, strokes: [], total: 0 }
  return { line, tables, strokes: trace(line, tables), total: tables.best.total }
}

/**
 * Entries are parts of larger blocks, made as they are needed: many small ones would keep the collector busy.
 */
function entryMaker(): () => Entry {
  let cost = new Float64Array(0)
  let via = new Int16Array(0)
  let at = 0
  return () => {
    if (at === cost.length) {
      cost = new Float64Array(BLOCK * STATES).fill(Infinity)
      via = new Int16Array(BLOCK * STATES)
      at = 0
    }
    const [from, to] = [at, (at += STATES)]
    return { cost: cost.subarray(from, to), via: via.subarray(from, to) }
  }
}

/**
 * For each boundary the earliest tone a stroke that ends there may begin with. Where nothing but a slur is
 * possible, no limit cuts it.
 */
function earliestStarts({ tones, join, added, stroke, bearing, turn, hook, lift }: BowLine): Int32Array {
  const out = new Int32Array(tones.length + 1)
  for (let j = 1; j <= tones.length; j++) {
    let i = j - 1
    let count = 0
    let seconds = tones[i]!.seconds
    while (i > 0 && join[i] !== Infinity) {
      const free = turn[i] !== Infinity || hook[i] !== Infinity || lift[i] !== Infinity
      count += free && added[i]! && join[i]! > 0 ? 1 : 0
      seconds += tones[i - 1]!.seconds
      if (
        free &&
        (count > (stroke[i]! > 0 ? MOST_BY_HAIR : MOST_ADDED) || (count > 0 && seconds > 2 * bearing))
      )
        break
      i--
    }
    out[j] = i
  }
  return out
}

/** For each tone the latest boundary at which a stroke that begins there, or earlier, may end. */
function latestEnds(earliest: Int32Array): Int32Array {
  const out = new Int32Array(earliest.length)
  for (let j = 1; j < earliest.length; j++) out[earliest[j]!] = j
  for (let i = 1; i < out.length; i++) out[i] = Math.max(out[i]!, out[i - 1]!)
  return out
}

/** Up to the seam by what is known from the beginning, on from it by what is known from the end. */
function trace(line: BowLine, { rows, entries, begun, left, best }: StretchTables<Entry>): readonly Found[] {
  const n = line.tones.length
  const strokes: Found[] = []
  const stroke = (first: number, end: number, d: number, way: number, from: number, to: number) =>
    ({
      first,
      end,
      direction: d === 0 ? 'down' : 'up',
      way: WAYS[way]!,
      from: from / STEPS,
      to: to / STEPS,
    }) as const
  const wayAt = (i: number, state: number) => entries[i]!.via[state]!
  // To where a stroke ended, back to the beginning.
  let state = best.at === n ? best.state : wayAt(best.at, best.state) >> 2
  for (let j = best.at; j > 0;) {
    const back = rows[j]!.back[state]!
    const [first, from] = [Math.floor(back / BACK), back % BACK]
    const d = state >= PLACES ? 1 : 0
    const via = wayAt(first, d * PLACES + from)
    strokes.push(stroke(first, j, d, via & 3, from, state % PLACES))
    state = via >> 2
    j = first
  }
  strokes.reverse()
  // From where a stroke begins, on to the end.
  state = best.state
  let way = best.at === n ? 0 : wayAt(best.at, state) & 3
  for (let i = best.at; i < n;) {
    const on = begun[i]!.back[state]!
    const [end, to] = [Math.floor(on / BACK), on % BACK]
    const d = state >= PLACES ? 1 : 0
    strokes.push(stroke(i, end, d, way, state % PLACES, to))
    if (end < n) {
      const via = left[end]!.back[d * PLACES + to]!
      state = via >> 2
      way = via & 3
    }
    i = end
  }
  return strokes
}

/**
 * What a whole bowing costs, stroke by stroke, whoever found it; Infinity for one that can't be played. The
 * search finds the one where this is least.
 */
export function costOfBowing(line: BowLine, strokes: readonly Found[]): number {
  let total = 0
  strokes.forEach((s, i) => {
    const before = strokes[i - 1]
    const d = s.direction === 'down' ? 0 : 1
    const [from, end] = [Math.round(s.from * STEPS), Math.round(s.to * STEPS)]
    total += before ? wayCost(line, s, before) : beginningCost(d * PLACES + from, beginningInset(line))
    let [seconds, joins, count] = [0, 0, 0]
    for (let k = s.first; k < s.end; k++) {
      seconds += line.tones[k]!.seconds
      if (k === s.first) continue
      joins += line.join[k]! + line.inside[2 * k + d]!
      if (line.added[k] && line.join[k]! > 0) count++
    }
    const t = line.tones[s.first]!
    const tooLong = s.end - s.first > 1 ? line.over[s.first]! * Math.max(0, seconds / line.bearing - 1) : 0
    const kernel = kernelFor(wantedLength(seconds, t.loudness, t.accent))
    const steps = kernel.steps.indexOf((d === 0 ? 1 : -1) * (end - from))
    const squeezed = end === (d === 0 ? STEPS : 0) ? SQUEEZED : Infinity
    const length = end === from ? Infinity : Math.min(steps < 0 ? Infinity : kernel.costs[steps]!, squeezed)
    total +=
      joins +
      line.stroke[s.first]! +
      tooLong +
      line.more[s.first]! * Math.max(0, count - 1) +
      line.start[2 * s.first + d]! +
      length +
      END_COST[end]! +
      placeCost(line, s.first, d, from, end)
  })
  return total + (strokes.at(-1)?.direction === 'up' ? line.lastUp : 0)
}

function wayCost(line: BowLine, s: Found, before: Found): number {
  const turned = s.direction !== before.direction
  const [i, d] = [s.first, s.direction === 'down' ? 0 : 1]
  const [from, left] = [Math.round(s.from * STEPS), Math.round(before.to * STEPS)]
  const air = (Math.abs(from - left) / STEPS) * AIR + settingDown(d, from)
  if (s.way === 'hook') return turned || from !== left ? Infinity : line.hook[i]!
  if (s.way === 'lift') return turned ? Infinity : line.lift[i]! + (d === 1 ? W.liftUp : 0) + air
  if (!turned) return Infinity
  if (from === left) return line.turn[i]!
  return line.tones[i]!.restBefore >= MOVE_REST ? line.turn[i]! + air : Infinity
}

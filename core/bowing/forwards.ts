/**
 * The bow from the beginning: what may begin after each place the stroke before ended at, and where each
 * stroke may end.
 */
import type { Row } from '#core/solver/stretches'
import { kernelFor, type Kernel } from './kernels'
import type { BowLine } from './line'
import {
  beginningCost,
  beginningInset,
  END_COST,
  inTheAir,
  isPlaced,
  MOVE_REST,
  placeCost,
  PLACES,
  settingDown,
  SQUEEZED,
  STATES,
} from './places'
import { STEPS, wantedLength } from './travel'
import { WEIGHTS as W } from './weights'

/** A stroke's first tone and the place it begins at, in one number. */
export const BACK = 32

/**
 * What may begin at a boundary: best cost by place and direction; and the state it came from, four times,
 * plus the way it begins.
 */
export interface Entry {
  readonly cost: Float64Array
  readonly via: Int16Array
}

export function enter(line: BowLine, i: number, row: Row | null, e: Entry): Entry | null {
  if (i === 0) return beginnings(line, e)
  const [turn, hook, lift] = [line.turn[i]!, line.hook[i]!, line.lift[i]!]
  if (turn === Infinity && hook === Infinity && lift === Infinity) return null
  const cost = row!.cost
  const moves = line.tones[i]!.restBefore >= MOVE_REST
  for (let d = 0; d < 2; d++) {
    const [here, there] = [d * PLACES, (1 - d) * PLACES]
    // Turning comes from the other direction, a hook and a lift from the same.
    if (turn < Infinity) {
      onwards(cost, there, turn, e, here, 0)
      if (moves) throughAir(cost, there, turn, e, d, 0)
    }
    if (hook < Infinity) onwards(cost, here, hook, e, here, 2)
    if (lift < Infinity) throughAir(cost, here, lift + (d === 1 ? W.liftUp : 0), e, d, 1)
  }
  return e
}

/** From where the bow before ended. */
function onwards(cost: Float64Array, from: number, own: number, e: Entry, here: number, way: number) {
  for (let p = 0; p < PLACES; p++) {
    const c = cost[from + p]! + own
    if (c >= e.cost[here + p]!) continue
    e.cost[here + p] = c
    e.via[here + p] = 4 * (from + p) + way
  }
}

/** From wherever the bow before ended to anywhere. */
function throughAir(cost: Float64Array, from: number, own: number, e: Entry, d: number, way: number) {
  const { best, at } = inTheAir(p => cost[from + p]!)
  for (let p = 0; p < PLACES; p++) {
    const here = d * PLACES + p
    const c = best[p]! + own + settingDown(d, p)
    if (c >= e.cost[here]!) continue
    e.cost[here] = c
    e.via[here] = 4 * (from + at[p]!) + way
  }
}

/** A line begins near the frog going down, near the tip going up. */
function beginnings(line: BowLine, e: Entry): Entry {
  const inset = beginningInset(line)
  for (let s = 0; s < STATES; s++) e.cost[s] = beginningCost(s, inset)
  return e
}
export function into(
  line: BowLine,
  j: number,
  earliest: number,
  entry: (i: number) => Entry | null,
  row: Row,
) {
  const { tones, start, inside, join, added } = line
  let [seconds, joins, count] = [0, 0, 0]
  const within = [0, 0]
  for (let i = j - 1; i >= earliest; i--) {
    seconds += tones[i]!.seconds
    if (i < j - 1) {
      joins += join[i + 1]!
      if (added[i + 1] && join[i + 1]! > 0) count++
      within[0]! += inside[2 * (i + 1)]!
      within[1]! += inside[2 * (i + 1) + 1]!
    }
    const e = entry(i)
    if (!e) continue
    const t = tones[i]!
    const kernel = kernelFor(wantedLength(seconds, t.loudness, t.accent))
    const tooLong = i < j - 1 ? line.over[i]! * Math.max(0, seconds / line.bearing - 1) : 0
    const own = joins + line.stroke[i]! + tooLong + line.more[i]! * Math.max(0, count - 1)
    for (let d = 0; d < 2; d++) {
      const cost = own + start[2 * i + d]! + within[d]!
      if (cost >= Infinity) continue
      draw(row, e.cost, d, cost, kernel, i, line)
    }
  }
}

/** Draws one stroke from every place it may begin at to every place it may end at. */
function draw(
  row: Row,
  ways: Float64Array,
  d: number,
  own: number,
  kernel: Kernel,
  i: number,
  line: BowLine,
) {
  const special = isPlaced(line, i)
  const { cost, back } = row
  const to = d * PLACES
  const mark = i * BACK
  const { steps, costs } = kernel
  const rim = d === 0 ? STEPS : 0
  let least = Infinity
  for (let p = 0; p < PLACES; p++) least = Math.min(least, ways[to + p]!)
  dearestBeyond(cost, to, d)
  for (let k = 0; k <= steps.length; k++) {
    // After the lengths wanted comes what is left up to the end of the hair.
    const rest = k === steps.length
    const extra = own + (rest ? SQUEEZED : costs[k]!)
    const by = rest ? 0 : d === 0 ? steps[k]! : -steps[k]!
    const first = by < 0 ? -by : rest && d === 1 ? 1 : 0
    const last = by > 0 ? STEPS - by : rest && d === 0 ? STEPS - 1 : STEPS
    if (last < first || least + extra >= (rest ? cost[to + rim]! : BEYOND[d === 0 ? by : STEPS + by]!))
      continue
    for (let from = first; from <= last; from++) {
      const end = rest ? rim : from + by
      let c = ways[to + from]! + extra + END_COST[end]!
      if (c >= cost[to + end]!) continue
      if (special) c += placeCost(line, i, d, from, end)
      if (c >= cost[to + end]!) continue
      cost[to + end] = c
      back[to + end] = mark + from
    }
  }
}

/**
 * By place, the most any end from there on costs so far, in the direction of the stroke: what is dearer than
 * that need not be tried.
 */
const BEYOND = new Float64Array(PLACES)
function dearestBeyond(cost: Float64Array, to: number, d: number) {
  let most = 0
  if (d === 0) for (let p = STEPS; p >= 0; p--) BEYOND[p] = most = Math.max(most, cost[to + p]!)
  else for (let p = 0; p <= STEPS; p++) BEYOND[p] = most = Math.max(most, cost[to + p]!)
}

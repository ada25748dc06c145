/**
 * The bow as one shortest path: directions, what is done before each stroke, and places on the bow together. A stroke is a stretch of tones in one bow; its
 * state at the end is the direction and the place on the hair.
 */
import { BLOCK, solveStretches, type Row, type StretchTables } from '#core/solver/stretches'
import { changedTones } from './changed'
import { kernelFor, type Kernel } from './kernels'
import type { BowLine, Direction, Way } from './line'
import { STEPS, wantedLength } from './travel'
import { WEIGHTS as W } from './weights'

const PLACES = STEPS + 1
const STATES = 2 * PLACES
/** A stroke's first tone and the place it begins at, in one number. */
const BACK = 32
/** A rest this long, in seconds, leaves time to move the bow through the air. */
const MOVE_REST = 0.2

/** Taking whatever hair is left when no wanted length fits. */
const SQUEEZED = 3
/** Leaving the comfortable part costs: light tip, heavy frog. */
const END_COST = Float64Array.from({ length: PLACES }, (_, p) =>
  p <= 1 || p >= STEPS - 1 ? 0.25 : p <= 3 || p >= STEPS - 3 ? 0.06 : 0,
)
/** Moving the bow through the air, per whole bow. */
const AIR = 0.6
/** An accent has no weight out at the tip. */
const ACCENT_AT_TIP = 0.5
/** Away from the part of the bow that was asked for, per whole bow. */
const OFF_PART = 5
/** At most so many slurs are added in one stroke; by the hair, more. */
const MOST_ADDED = 3
const MOST_BY_HAIR = 15

export interface BowSearch {
  readonly line: BowLine
  readonly tables: StretchTables<Entry>
  readonly strokes: readonly Found[]
  readonly total: number
}

/** The searches behind one bowing: free, with measures of one rhythm alike, and with the second time through marked as the first. */
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

/** What may begin at a boundary: best cost by place and direction; and the state it came from, four times, plus the way it begins. */
interface Entry {
  readonly cost: Float64Array
  readonly via: Int16Array
}

const WAYS = ['turn', 'lift', 'hook'] as const

export function searchBow(line: BowLine, before?: BowSearch): BowSearch {
  const n = line.tones.length
  const earliest = earliestStarts(line)
  // From a boundary on no stroke reaches back further than this.
  const furthest = earliest.slice()
  for (let j = n - 1; j >= 0; j--) furthest[j] = Math.min(furthest[j]!, furthest[j + 1]!)
  const changed = before && changedTones(line, before.line)
  const kernels = new Map<number, Kernel>()
  const newEntry = entryMaker()
  const problem = {
    boundaries: n + 1,
    states: STATES,
    enter: (i: number, row: Row | null) => (i === n ? null : enter(line, i, row, newEntry())),
    into: (j: number, entry: (i: number) => Entry | null, row: Row) => into(line, j, earliest[j]!, entry, row, kernels), // prettier-ignore
    earliest: (j: number) => (j <= n ? furthest[j]! : n),
  }
  const tables = solveStretches(problem, changed ? { ...changed, tables: before.tables } : undefined)
  return { line, tables, ...trace(line, tables) }
}

/** Entries are parts of larger blocks, made as they are needed: many small ones would keep the collector busy. */
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

/** For each boundary the earliest tone a stroke that ends there may begin with. Where nothing but a slur is possible, no limit cuts it. */
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
      if (free && (count > (stroke[i]! > 0 ? MOST_BY_HAIR : MOST_ADDED) || (count > 0 && seconds > 2 * bearing))) break // prettier-ignore
      i--
    }
    out[j] = i
  }
  return out
}

function enter(line: BowLine, i: number, row: Row | null, e: Entry): Entry | null {
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

/** From wherever the bow before ended to anywhere, through the air: two sweeps along the bow (the cost grows evenly with the way). */
function throughAir(cost: Float64Array, from: number, own: number, e: Entry, d: number, way: number) {
  const step = AIR / STEPS
  const [best, at] = [AIR_BEST, AIR_AT]
  for (let p = 0; p < PLACES; p++) {
    at[p] = from + p
    best[p] = cost[from + p]!
  }
  for (let p = 1; p < PLACES; p++) {
    if (best[p - 1]! + step >= best[p]!) continue
    best[p] = best[p - 1]! + step
    at[p] = at[p - 1]!
  }
  for (let p = PLACES - 2; p >= 0; p--) {
    if (best[p + 1]! + step >= best[p]!) continue
    best[p] = best[p + 1]! + step
    at[p] = at[p + 1]!
  }
  for (let p = 0; p < PLACES; p++) {
    const here = d * PLACES + p
    const c = best[p]! + own + settingDown(d, p)
    if (c >= e.cost[here]!) continue
    e.cost[here] = c
    e.via[here] = 4 * at[p]! + way
  }
}

/** Used again at every call. */
const AIR_BEST = new Float64Array(PLACES)
const AIR_AT = new Int16Array(PLACES)

/** A bow set down anew goes near the frog for a down bow, near the tip for an up bow. */
const settingDown = (d: number, p: number) => Math.abs(p - (d === 0 ? 3 : STEPS - 3)) * 0.02

/** A line begins near the frog going down, near the tip going up; with short notes further in. */
function beginnings(line: BowLine, e: Entry): Entry {
  const inset = beginningInset(line)
  for (let s = 0; s < STATES; s++) e.cost[s] = beginningCost(s, inset)
  return e
}
function beginningInset(line: BowLine): number {
  const t = line.tones[0]!
  return Math.min(8, STEPS * (1 - wantedLength(t.seconds, t.loudness, t.accent)) * 0.5)
}
const beginningCost = (s: number, inset: number) =>
  Math.abs((s % PLACES) - (s < PLACES ? inset : STEPS - inset)) * 0.03

function into(line: BowLine, j: number, earliest: number, entry: (i: number) => Entry | null, row: Row, kernels: Map<number, Kernel>) {
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
    const kernel = kernelFor(wantedLength(seconds, t.loudness, t.accent), kernels)
    const tooLong = i < j - 1 ? line.over[i]! * Math.max(0, seconds / line.bearing - 1) : 0
    const own = joins + line.stroke[i]! + tooLong + line.more[i]! * Math.max(0, count - 1)
    for (let d = 0; d < 2; d++) {
      const cost = own + start[2 * i + d]! + within[d]!
      if (cost >= Infinity) continue
      draw(row, e.cost, d, cost, kernel, i, line)
    }
  }
} // prettier-ignore

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
  const special = line.low[i] === line.low[i] || line.tones[i]!.accent
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
    if (last < first || least + extra >= (rest ? cost[to + rim]! : BEYOND[d === 0 ? by : STEPS + by]!)) continue // prettier-ignore
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

/** By place, the most any end from there on costs so far, in the direction of the stroke: what is dearer than that need not be tried. */
const BEYOND = new Float64Array(PLACES)
function dearestBeyond(cost: Float64Array, to: number, d: number) {
  let most = 0
  if (d === 0) for (let p = STEPS; p >= 0; p--) BEYOND[p] = most = Math.max(most, cost[to + p]!)
  else for (let p = 0; p <= STEPS; p++) BEYOND[p] = most = Math.max(most, cost[to + p]!)
}

function placeCost(line: BowLine, i: number, d: number, from: number, end: number): number {
  const accent = line.tones[i]!.accent && d === 1 && from > STEPS * 0.8 ? ACCENT_AT_TIP : 0
  const [low, high] = [line.low[i]!, line.high[i]!]
  if (low !== low) return accent
  // A point is where the stroke begins; a part is where its middle lies.
  const at = low === high ? from / STEPS : (from + end) / 2 / STEPS
  return accent + OFF_PART * (low === high ? 4 : 1) * Math.max(0, low - at, at - high)
}

function trace(line: BowLine, { rows, entries, bases }: StretchTables<Entry>): Pick<BowSearch, 'strokes' | 'total'> {
  const n = line.tones.length
  if (n === 0) return { strokes: [], total: 0 }
  const last = rows[n]!.cost
  let state = 0
  const final = (s: number) => last[s]! + (s >= PLACES ? line.lastUp : 0)
  for (let s = 1; s < STATES; s++) if (final(s) < final(state)) state = s
  const total = final(state) + bases[n]!
  const strokes: Found[] = []
  for (let j = n; j > 0; ) {
    const row = rows[j]!
    const [first, from] = [Math.floor(row.back[state]! / BACK), row.back[state]! % BACK]
    const d = state >= PLACES ? 1 : 0
    const via = entries[first]!.via[d * PLACES + from]!
    const way = WAYS[via % 4]!
    strokes.push({ first, end: j, direction: d === 0 ? 'down' : 'up', way, from: from / STEPS, to: (state % PLACES) / STEPS }) // prettier-ignore
    state = Math.floor(via / 4)
    j = first
  }
  return { strokes: strokes.reverse(), total }
} // prettier-ignore

/** What a whole bowing costs, stroke by stroke, whoever found it; Infinity for one that can't be played. The search finds the one where this is least. */
export function costOfBowing(line: BowLine, strokes: readonly Found[]): number {
  const kernels = new Map<number, Kernel>()
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
    const kernel = kernelFor(wantedLength(seconds, t.loudness, t.accent), kernels)
    const steps = kernel.steps.indexOf((d === 0 ? 1 : -1) * (end - from))
    const squeezed = end === (d === 0 ? STEPS : 0) ? SQUEEZED : Infinity
    const length = end === from ? Infinity : Math.min(steps < 0 ? Infinity : kernel.costs[steps]!, squeezed)
    total += joins + line.stroke[s.first]! + tooLong + line.more[s.first]! * Math.max(0, count - 1) + line.start[2 * s.first + d]! + length + END_COST[end]! + placeCost(line, s.first, d, from, end) // prettier-ignore
  })
  return total + (strokes.at(-1)?.direction === 'up' ? line.lastUp : 0)
}

function wayCost(line: BowLine, s: Found, before: Found): number {
  const turned = s.direction !== before.direction
  const [i, d] = [s.first, s.direction === 'down' ? 0 : 1]
  const [from, left] = [Math.round(s.from * STEPS), Math.round(before.to * STEPS)]
  const air = (Math.abs(from - left) / STEPS) * AIR + settingDown(d, from)
  if (s.way === 'hook') return turned || from !== left ? Infinity : line.hook[i]! // prettier-ignore
  if (s.way === 'lift') return turned ? Infinity : line.lift[i]! + (d === 1 ? W.liftUp : 0) + air
  if (!turned) return Infinity
  if (from === left) return line.turn[i]!
  return line.tones[i]!.restBefore >= MOVE_REST ? line.turn[i]! + air : Infinity
}

/** The same from the end: what it costs on from each place a stroke begins at, and from each it ended at. */
import type { Row } from '#core/solver/stretches'
import { BACK } from './forwards'
import { kernelFor } from './kernels'
import type { BowLine } from './line'
import { END_COST, inTheAir, isPlaced, MOVE_REST, placeCost, PLACES, settingDown, SQUEEZED } from './places'
import { STEPS, wantedLength } from './travel'
import { WEIGHTS as W } from './weights'

/**
 * From every place and direction a stroke ended in, the best way to begin the next; at the end of the line
 * how it ends.
 */
export function leave(line: BowLine, j: number, began: Row | null, row: Row) {
  const { cost } = row
  if (j === line.tones.length) return cost.fill(0, 0, PLACES).fill(line.lastUp, PLACES)
  if (!began || j === 0) return
  const [turn, hook, lift] = [line.turn[j]!, line.hook[j]!, line.lift[j]!]
  const moves = line.tones[j]!.restBefore >= MOVE_REST
  for (let d = 0; d < 2; d++) {
    const [here, there] = [d * PLACES, (1 - d) * PLACES]
    if (turn < Infinity) {
      stays(began.cost, there, turn, row, here, 0)
      if (moves) throughAir(began.cost, there, turn, row, here, 1 - d, 0)
    }
    if (hook < Infinity) stays(began.cost, here, hook, row, here, 2)
    if (lift < Infinity) throughAir(began.cost, here, lift + (d === 1 ? W.liftUp : 0), row, here, d, 1)
  }
}

function stays(began: Float64Array, to: number, own: number, { cost, back }: Row, here: number, way: number) {
  for (let p = 0; p < PLACES; p++) {
    const c = began[to + p]! + own
    if (c >= cost[here + p]!) continue
    cost[here + p] = c
    back[here + p] = 4 * (to + p) + way
  }
}

/** From wherever the bow ended to anywhere. */
function throughAir(
  began: Float64Array,
  to: number,
  own: number,
  { cost, back }: Row,
  here: number,
  d: number,
  way: number,
) {
  const { best, at } = inTheAir(p => began[to + p]! + settingDown(d, p))
  for (let p = 0; p < PLACES; p++) {
    const c = best[p]! + own
    if (c >= cost[here + p]!) continue
    cost[here + p] = c
    back[here + p] = 4 * (to + at[p]!) + way
  }
}

/** The best stroke that begins at a tone, from every place and in both directions. */
export function outOf(
  line: BowLine,
  i: number,
  earliest: Int32Array,
  latest: number,
  leaving: (j: number) => Row,
  row: Row,
) {
  const { tones, start, inside, join, added } = line
  const t = tones[i]!
  let [seconds, joins, count, down, up] = [0, 0, 0, 0, 0]
  for (let j = i + 1; j <= latest; j++) {
    const k = j - 1
    seconds += tones[k]!.seconds
    if (k > i) {
      joins += join[k]!
      if (added[k] && join[k]! > 0) count++
      down += inside[2 * k]!
      up += inside[2 * k + 1]!
    }
    if (joins === Infinity) return
    if (earliest[j]! > i) continue
    const tooLong = k > i ? line.over[i]! * Math.max(0, seconds / line.bearing - 1) : 0
    const own = joins + line.stroke[i]! + tooLong + line.more[i]! * Math.max(0, count - 1)
    const kernel = kernelFor(wantedLength(seconds, t.loudness, t.accent))
    for (let d = 0; d < 2; d++) {
      const cost = own + start[2 * i + d]! + (d === 0 ? down : up)
      if (cost < Infinity) draw(line, i, j, d, cost, kernel.steps, kernel.costs, leaving(j).cost, row)
    }
  }
}

/** One stroke from every place it may begin at to every place it may end at. */
function draw(
  line: BowLine,
  i: number,
  j: number,
  d: number,
  own: number,
  steps: readonly number[],
  costs: readonly number[],
  left: Float64Array,
  { cost, back }: Row,
) {
  const special = isPlaced(line, i)
  const at = d * PLACES
  const mark = j * BACK
  const rim = d === 0 ? STEPS : 0
  for (let k = 0; k <= steps.length; k++) {
    // After the lengths wanted comes what is left up to the end of the hair.
    const rest = k === steps.length
    const extra = own + (rest ? SQUEEZED : costs[k]!)
    const by = rest ? 0 : d === 0 ? steps[k]! : -steps[k]!
    const first = by < 0 ? -by : rest && d === 1 ? 1 : 0
    const last = by > 0 ? STEPS - by : rest && d === 0 ? STEPS - 1 : STEPS
    for (let from = first; from <= last; from++) {
      const end = rest ? rim : from + by
      let c = left[at + end]! + extra + END_COST[end]!
      if (c >= cost[at + from]!) continue
      if (special) c += placeCost(line, i, d, from, end)
      if (c >= cost[at + from]!) continue
      cost[at + from] = c
      back[at + from] = mark + end
    }
  }
}

/**
 * Where phrases begin. Within a section the bars are divided by the least total of costs (dynamic programming
 * over bars, once for each usual length of a phrase, the cheapest wins): every phrase costs something,
 * unusual lengths cost more, and what speaks for a boundary pays for it: a line that begins as an earlier one
 * began, a long note or a rest before it. The bar line found, the pickup is looked for before it. After the
 * grouping preference rules of Lerdahl and Jackendoff (1983) and the boundary model of Cambouropoulos (2001),
 * in the minimum-description form of Temperley (2001).
 */
import type { Bar, Ticks, Tone } from './material'
import { overlap, sampled, type Heights } from './likeness'

/** The table of the division: what each thing is worth, in phrases. */
export const DIVISION = {
  /** A phrase more. */
  phrase: 1,
  /** It begins as an earlier one began. */
  recurs: 1.25,
  /** A long note, a rest or a breath before it. */
  closes: 1.1,
  /** A bar more or less than the usual length, and for being unusual at all. */
  bar: 0.45,
  unusual: 0.55,
  /** Half the usual length; twice is dearer than a boundary that nothing speaks for. */
  halved: 0.8,
  doubled: 1.7,
  /**
   * Each doubling by which a phrase of the usual length lasts longer or shorter than one sings in a breath or
   * two.
   */
  breath: 1.4,
  /** Seconds one sings in a breath or two. */
  shortest: 3,
  longest: 10,
}
/** Usual lengths in bars, each with what it costs to think of it: four is what one expects. */
const UNITS: readonly (readonly [bars: number, cost: number])[] = [
  [4, 0],
  [2, 0.9],
  [3, 1.1],
  [5, 1.2],
  [6, 1.4],
  [8, 2.4],
]
const LONGEST = 9
/**
 * Twelve bars are three lines of four, in a blues as in a hymn: so much less it costs to think of fours
 * there.
 */
const TWELVE = { bars: 12, unit: 4, gain: 1.6, otherCues: 0.5 }
/** What it costs to leave a part of four bars in one piece. */
const WHOLE = 0.45

export interface Section {
  readonly bars: readonly Bar[]
  readonly tones: readonly Tone[]
  readonly end: Ticks
  readonly secondsPerTick: number
  /** Mean length of a tone. */
  readonly mean: Ticks
}

export interface Opening {
  /** Its first two bars. */
  readonly bars: readonly Heights[]
  /** Tones before its downbeat. */
  readonly pickup: readonly Tone[]
}

/** The heights of a bar and of the one after it. */
export function twoBars({ bars, tones, end }: Section, b: number): Heights[] {
  return [b, b + 1].flatMap(i => {
    const bar = bars[i]
    const to = bars[i + 1]?.at ?? end
    return bar ? [sampled(tones.slice(firstAt(tones, bar.at), firstAt(tones, to)), bar.at, to)] : []
  })
}

/** Index of the first tone that begins at a place or after it. */
export function firstAt(tones: readonly Tone[], at: Ticks): number {
  let [low, high] = [0, tones.length]
  while (low < high) {
    const mid = (low + high) >> 1
    if (tones[mid]!.at < at) low = mid + 1
    else high = mid
  }
  return low
}

/**
 * The bars (by index in the section, 0 left out) with which a new phrase begins. `known` are the openings met
 * before.
 */
export function divide(section: Section, known: readonly Opening[]): number[] {
  const { bars } = section
  const n = bars.length
  if (n < 4) return []
  const pairs = bars.map((_, b) => twoBars(section, b))
  const openings = known.map(o => o.bars)
  const inTwelve = (b: number) => (n === TWELVE.bars && b % TWELVE.unit !== 0 ? TWELVE.otherCues : 1)
  const cues = bars.map((_, b) =>
    b === 0 ? 0 : inTwelve(b) * cueAt(section, b, openings, pairs[b]!, pairs[0]!),
  )
  let best: { cost: number; starts: number[] } = { cost: Infinity, starts: [] }
  for (const [unit, prior] of UNITS) {
    if (unit > n) continue
    const seconds = unit * bars[0]!.length * section.secondsPerTick
    const { shortest, longest, breath } = DIVISION
    const unsung = Math.max(0, Math.log2(shortest / seconds), Math.log2(seconds / longest)) * breath
    const found = divideBy(unit, n, cues)
    // A part of four bars is sooner two lines of two.
    const twelve = n === TWELVE.bars && unit === TWELVE.unit ? TWELVE.gain : 0
    const cost = found.cost + unsung - twelve + (n > 4 ? prior * Math.max(1, n / 16) : unit === 2 ? 0 : WHOLE)
    if (cost < best.cost - 1e-9) best = { cost, starts: found.starts }
  }
  return best.starts
}

function divideBy(unit: number, n: number, cues: readonly number[]) {
  const cost = new Array<number>(n + 1).fill(Infinity)
  const before = new Array<number>(n + 1).fill(0)
  cost[0] = 0
  for (let end = 1; end <= n; end++) {
    for (let length = 1; length <= Math.min(LONGEST, end); length++) {
      const start = end - length
      const c = cost[start]! + lengthCost(length, unit) + (start > 0 ? DIVISION.phrase - cues[start]! : 0)
      if (c < cost[end]! - 1e-9) [cost[end], before[end]] = [c, start]
    }
  }
  const starts: number[] = []
  for (let at = before[n]!; at > 0; at = before[at]!) starts.unshift(at)
  return { cost: cost[n]!, starts }
}

function lengthCost(length: number, unit: number): number {
  if (length === unit) return 0
  const { bar, unusual, halved, doubled } = DIVISION
  const free = length * 2 === unit ? halved : length === unit * 2 ? doubled : Infinity
  return Math.min(free, unusual + bar * Math.abs(length - unit)) + (length === 1 ? 0.8 : 0)
}

function cueAt(
  section: Section,
  b: number,
  openings: readonly (readonly Heights[])[],
  two: readonly Heights[],
  own: readonly Heights[],
): number {
  const first = b >= 2 ? alike(two, own) : 0
  const recurs = openings.reduce((best, o) => Math.max(best, alike(two, o)), first)
  return DIVISION.recurs * recurs + DIVISION.closes * closure(section, b)
}

/**
 * How much of the first two bars is the same, when it is enough to hear it; the first bar counts for most.
 */
function alike(here: readonly Heights[], there: readonly Heights[]): number {
  const first = here[0] && there[0] ? overlap(here[0], there[0], 0, 0.7) : 0
  if (first === 0) return 0
  return 0.55 * first + (here[1] && there[1] ? 0.45 * overlap(here[1], there[1]) : 0)
}

/** A note longer than the mean by so many times the mean closes as a rest does. */
const HELD = 1.8

/** No phrase begins while a note is held. */
const HELD_OVER = -1

/**
 * How much the music comes to rest before a bar (its pickup left out): 1 a long note, 1.5 a rest; less than
 * nothing where it is held over.
 */
function closure({ bars, tones, mean }: Section, b: number): number {
  const [from, to] = [bars[b - 1]!.at, bars[b]!.at]
  const before = tones.slice(firstAt(tones, from), firstAt(tones, to))
  const bar = to - from
  // A note held over the bar line closes nothing yet; one tied over at the last moment only comes early.
  const over = before.at(-1)
  if (over && over.midi !== null && over.at + over.length > to && to - over.at >= bar / 2) return HELD_OVER
  let best = 0
  before.forEach(t => {
    const after = to - (t.at + t.length)
    if (after > bar / 2) return
    // A rest of some length says more than any long note.
    const rest = t.breath ? (t.length * 6 >= bar ? 1.5 : 1) : 0
    const long = Math.max(0, Math.min(1, (t.length / mean - 1) / HELD))
    best = Math.max(best, Math.max(rest, long) * (after > 0 ? 0.9 : 1))
  })
  return best
}

/**
 * The first tone of the phrase whose first bar is given: the tones before the bar line that lead in. A pickup
 * comes after a longer note, a rest or a breath; one as long as the part's own pickup, or the same as an
 * earlier phrase's, is taken for one sooner, and so is one that leads into the second half of a tune.
 */
export function leadIn(
  section: Section,
  barAt: Ticks,
  usual: Ticks,
  known: readonly Opening[],
  opening: readonly Heights[],
  atHalf: boolean,
): number {
  const { tones } = section
  const at = firstAt(tones, barAt)
  const bar = section.bars.find(b => b.at >= barAt)?.length ?? section.bars[0]!.length
  const alikeOnes = known.filter(o => o.pickup.length > 0 && alike(o.bars, opening) >= 0.5)
  let best = { at, worth: 0.5 }
  for (let k = 1; at - k > 0; k++) {
    const first = tones[at - k]!
    const length = barAt - first.at
    if (length > Math.max(usual, bar / 2) || first.midi === null) break
    const pickup = tones.slice(at - k, at)
    const before = tones[at - k - 1]!
    const rest = before.midi === null || before.breath
    const gap = before.length / Math.max(...pickup.map(t => t.length))
    const same = alikeOnes.some(
      o => o.pickup.length === k && o.pickup.every((t, i) => t.midi === pickup[i]!.midi),
    )
    const worth =
      (rest ? 1.2 : gap >= 2 ? 1 : gap > 1 ? 0.6 : -1) +
      (usual > 0 ? (length === usual ? 0.8 : -0.4) : rest ? -0.3 : -0.6) +
      (atHalf ? 0.3 : 0) +
      (same ? 0.8 : 0)
    if (worth > best.worth) best = { at: at - k, worth }
  }
  return best.at
}

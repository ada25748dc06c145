/**
 * How two stretches of a tune are alike: laid over each other from their first downbeats, as a teacher would
 * lay two slips of paper. Stretches are compared as heights over time, so that a long note and the same note
 * played twice agree.
 */
import { TICKS_PER_QUARTER, type Ticks, type Tone } from './material'

/** Heights are read off so often: a twelfth of a quarter, a third of an eighth. */
const SAMPLE: Ticks = TICKS_PER_QUARTER / 12
const REST = -1

/** Tones with the place they are counted from: the first downbeat. Pickups lie before it. */
export interface Stretch {
  readonly tones: readonly Tone[]
  readonly downbeat: Ticks
  readonly end: Ticks
  /** Heights in samples, from the first tone on; the sample at the downbeat has the index `lead`. */
  readonly heights: Int16Array
  readonly lead: number
  /** Tones from the downbeat on, rests left out, and their rhythm and ups and downs as texts. */
  readonly body: readonly Tone[]
  readonly rhythm: string
  readonly contour: string
}

export function stretch(tones: readonly Tone[], downbeat: Ticks, end: Ticks): Stretch {
  const body = tones.filter(t => t.midi !== null && t.at >= downbeat)
  // The last may be held longer or shorter: a pickup may follow it.
  const rhythm = body.map((t, i) => `${t.at - downbeat}:${i === body.length - 1 ? '' : t.length}`).join(' ')
  const contour = body
    .slice(1)
    .map((t, i) => Math.sign(t.midi! - body[i]!.midi!))
    .join('')
  return { tones, downbeat, end, ...sampled(tones, downbeat, end), body, rhythm, contour }
}

/** Heights of some tones, by samples. */
export function sampled(tones: readonly Tone[], downbeat: Ticks, end: Ticks) {
  const begin = tones[0]?.at ?? end
  const lead = Math.round((downbeat - begin) / SAMPLE)
  const heights = new Int16Array(Math.max(0, Math.round((end - begin) / SAMPLE))).fill(REST)
  for (const t of tones) {
    const from = Math.round((t.at - begin) / SAMPLE)
    heights.fill(t.midi ?? REST, from, from + Math.round(t.length / SAMPLE))
  }
  return { heights, lead }
}

export type Heights = Pick<Stretch, 'heights' | 'lead'>

/**
 * Share of the time of both together in which both sound the same note; silence they share is not counted.
 * `shift` lays the second later. Under `least` the answer is 0: it is given up as soon as that is sure.
 */
export function overlap(a: Heights, b: Heights, shift: Ticks = 0, least = 0): number {
  const by = Math.round(shift / SAMPLE) + a.lead - b.lead
  const [from, to] = [Math.max(0, by), Math.min(a.heights.length, b.heights.length + by)]
  const span = Math.max(a.heights.length, b.heights.length + by) - Math.min(0, by)
  let [same, silent] = [0, 0]
  let left = Math.floor((1 - least) * span) - (span - Math.max(0, to - from))
  for (let i = from; i < to && left >= 0; i++) {
    if (a.heights[i] !== b.heights[i - by]) left--
    else if (a.heights[i] === REST) silent++
    else same++
  }
  const share = span > silent ? same / (span - silent) : 0
  return left < 0 || share < least ? 0 : share
}

/** The tones of `a` that `b` does not have at the same place. */
export function differing(a: Stretch, b: Stretch, shift: Ticks = 0): Tone[] {
  const there = new Map(b.tones.map(t => [t.at - b.downbeat + shift, t]))
  const last = a.tones.findLast(t => t.midi !== null)
  return a.tones.filter(t => {
    const other = there.get(t.at - a.downbeat)
    if (t.midi === null && (!other || other.midi === null)) return false
    return !other || other.midi !== t.midi || (t !== last && other.length !== t.length)
  })
}

export const sameRhythm = (a: Stretch, b: Stretch) => a.body.length >= 3 && a.rhythm === b.rhythm

/** The same ups and downs from tone to tone. */
export const sameContour = (a: Stretch, b: Stretch) => a.contour.length >= 4 && a.contour === b.contour

export interface Move {
  /** Steps of the scale. */
  readonly steps: number
  readonly semitones: number
  /** Every tone moved by the same number of semitones, not of steps only. */
  readonly exact: boolean
  /** Tones that do not follow. */
  readonly strays: readonly Tone[]
}

/** Share of the tones that must follow for a phrase to count as moved. */
const FOLLOWING = 0.8

/** The same rhythm with (nearly) all tones moved by as many steps of the scale; pickups need not follow. */
export function moved(a: Stretch, b: Stretch): Move | null {
  if (!sameRhythm(a, b)) return null
  const steps = stepsApart(a.body, b.body)
  if (steps === null || steps === 0) return null
  const strays = a.body.filter((t, i) => t.step - b.body[i]!.step !== steps)
  const halves = a.body.flatMap((t, i) =>
    t.step - b.body[i]!.step === steps ? [t.midi! - b.body[i]!.midi!] : [],
  )
  const semitones = commonest(halves)
  return { steps, semitones, exact: strays.length === 0 && halves.every(h => h === semitones), strays }
}

/** By how many steps most tones are apart; null when too few agree. Given up as soon as that is clear. */
function stepsApart(a: readonly Tone[], b: readonly Tone[]): number | null {
  const allowed = Math.floor(a.length * (1 - FOLLOWING))
  for (const probe of [0, a.length >> 1, a.length - 1]) {
    const steps = a[probe]!.step - b[probe]!.step
    let strays = 0
    for (let i = 0; i < a.length && strays <= allowed; i++) if (a[i]!.step - b[i]!.step !== steps) strays++
    if (strays <= allowed) return steps
  }
  return null
}

function commonest(list: readonly number[]): number {
  const counts = new Map<number, number>()
  let best = list[0]!
  for (const x of list) {
    counts.set(x, (counts.get(x) ?? 0) + 1)
    if (counts.get(x)! > counts.get(best)!) best = x
  }
  return best
}

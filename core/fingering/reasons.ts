/**
 * What another way would make worse, in a teacher's words and with the figures a teacher would check: how
 * often, how far, in what time.
 */
import { numberWord, timesText } from '#core/counts'
import { travel } from '#core/instruments/geometry'
import { lettersOf } from '#core/instruments/instruments'
import { formatTempo } from '#core/music/metre'
import { valueName } from '#core/music/valueName'
import type { Component } from './costs'
import { stringDistance } from './crossing'
import type { HandState } from './candidates'
import { positionAt } from './position'
import type { FingeringProblem } from './problem'

/** Two ways through the same tones. */
interface Ways {
  readonly problem: FingeringProblem
  readonly path: readonly number[]
  readonly other: readonly number[]
  /** The tone the reason is asked for. */
  readonly at: number
}

/** Something that happens, or does not, between two neighbouring tones. */
type Move = (a: HandState, b: HandState) => boolean

/** "once", "twice", "three times". */
const times = (n: number) => (n <= 2 ? timesText(n) : `${numberWord(n)} times`)

/** Gaps where the two ways are not the same, and `move` happens in one of them. */
function happening({ problem, path, other }: Ways, which: 'path' | 'other', move: Move): number[] {
  const way = which === 'path' ? path : other
  const out: number[] = []
  for (let i = 1; i < path.length; i++) {
    const b = problem.before[i]!
    if (path[i] === other[i] && path[b] === other[b]) continue
    if (move(problem.states[b]![way[b]!]!, problem.states[i]![way[i]!]!)) out.push(i)
  }
  return out
}

const shifts: Move = (a, b) => a.anchor !== b.anchor
const crosses: Move = (a, b) => stringDistance(a, b) > 0

/** "in an eighth note at 1/4=96": the time there is before tone `i`. */
function timeBefore({ problem }: Ways, i: number): string {
  const { tones, before, gaps, options } = problem
  const name = valueName(tones[before[i]!]!.duration)
  const { seconds, rest } = gaps[i - 1]!
  // What no single note lasts, and a note with the rest after it.
  if (/\d/.test(name) || rest > 0) return `in ${seconds.toFixed(2)} s`
  return `in ${/^[aeio]/.test(name) ? 'an' : 'a'} ${name} note at ${formatTempo(options.tempo)}`
}

/** The gap of the list that leaves the least time. */
const tightest = ({ problem }: Ways, list: readonly number[]) =>
  list.reduce((a, b) => (problem.gaps[b - 1]!.seconds < problem.gaps[a - 1]!.seconds ? b : a))

/** Millimetres by which one move is further than another. */
const NOTICED = 5

function shiftReason(w: Ways): string {
  const [own, its] = [happening(w, 'path', shifts), happening(w, 'other', shifts)]
  const { problem, path, other } = w
  const on = (way: readonly number[], i: number) => problem.states[i]![way[i]!]!
  const along = (way: readonly number[], i: number) =>
    travel(problem.options.length, on(way, i - 1).anchor, on(way, i).anchor)
  const mm = (i: number) => along(other, i)
  if (its.length === 0) return 'would put a shift at a worse place'
  const far = its.reduce((a, b) => (mm(b) > mm(a) ? b : a))
  const figures = `${Math.round(mm(far))} mm ${timeBefore(w, far)}`
  const more = its.length - own.length
  if (more > 0)
    return `would need ${more === 1 ? 'one shift more' : `${numberWord(more)} shifts more`} (${figures})`
  if (own.length > 0 && mm(far) > Math.max(...own.map(i => along(path, i))) + NOTICED)
    return `would shift further (${figures})`
  const { finger } = on(other, far).lead
  const lands = typeof finger === 'number' && finger > 1 && on(other, far).anchor > on(other, far - 1).anchor
  return `would ${lands ? `land on ${finger}` : 'shift at a worse moment'} (${figures})`
}

function crossingReason(w: Ways): string {
  const [own, its] = [happening(w, 'path', crosses), happening(w, 'other', crosses)]
  const more = its.length - own.length
  if (its.length === 0 || more <= 0) return 'would cross strings at a worse moment'
  const often = own.length === 0 ? times(more) : more === 1 ? 'once more' : `${times(more)} more`
  return `would cross strings ${often}, ${timeBefore(w, tightest(w, its))}`
}

/** The position the other way would take the hand to at this note. */
function placeReason(w: Ways): string {
  const { problem, path, other, at } = w
  const [own, its] = [problem.states[at]![path[at]!]!, problem.states[at]![other[at]!]!]
  if (own.anchor === its.anchor) return 'would keep the hand away from home longer'
  const name = positionAt(problem.options, its, its.lead, problem.tones[at]!.heads.at(-1)!.pitch)
  return `would take the hand to ${name} position`
}

function fingerReason({ problem, other, at }: Ways): string {
  const { lead } = problem.states[at]![other[at]!]!
  if (lead.mark === 'extended') return 'asks the hand to open further'
  if (lead.mark === 'low' && lead.finger !== 1) return 'asks the finger to be drawn back'
  if (lead.mark === 'high') return 'asks the finger to stretch up'
  return lead.finger === 4
    ? 'uses the fourth finger where nothing asks for it'
    : 'asks for a weaker or stretched finger'
}

function sustainedReason({ problem, at }: Ways): string {
  return `would leave a tone of ${problem.tones[at]!.seconds.toFixed(1)} s ringing open, where it can’t be warmed`
}

function hopReason(w: Ways): string {
  const { problem, other } = w
  const letters = lettersOf(problem.options.instrument, problem.options.tuning)
  const hops = happening(w, 'other', (a, b) => {
    const [p, q] = [a.lead, b.lead]
    return p.finger !== 0 && p.finger === q.finger && p.string !== q.string
  })
  if (hops.length === 0) return 'would make one finger jump between strings'
  const i = hops[0]!
  const from = problem.before[i]!
  const [p, q] = [problem.states[from]![other[from]!]!.lead, problem.states[i]![other[i]!]!.lead]
  const verb = p.offset === q.offset ? 'lie over' : 'hop between'
  return `would make finger ${q.finger} ${verb} ${letters[p.string]} and ${letters[q.string]}`
}

type Figured = 'shift' | 'crossing' | 'place' | 'finger' | 'sustained' | 'hop'
const PLAIN: Readonly<Record<Exclude<Component, Figured>, string>> = {
  open: 'goes against the open-string choice made for this passage',
  slide: 'would slide one finger from note to note',
  stretch: 'would stretch the hand',
  handShape: 'would open or close the hand again',
  hold: 'would lift a finger that can stay down',
  substitution: 'would change finger on the same note',
  consistency: 'would finger the same note otherwise than nearby',
  taste: 'would be against what you chose elsewhere',
  sound: 'would not have the sound wished for here',
}

/** What gets worse in the other way, by the component that weighs most. */
export function worse(component: Component, ways: Ways): string {
  switch (component) {
    case 'shift':
      return shiftReason(ways)
    case 'crossing':
      return crossingReason(ways)
    case 'place':
      return placeReason(ways)
    case 'finger':
      return fingerReason(ways)
    case 'sustained':
      return sustainedReason(ways)
    case 'hop':
      return hopReason(ways)
    default:
      return PLAIN[component]
  }
}

/**
 * What another way would make worse, with the figures a teacher would check: how often, how far, in what
 * time. `core/words/why` says it.
 */
import { travel } from '#core/instruments/geometry'
import { lettersOf, type Mm } from '#core/instruments/instruments'
import type { Fraction } from '#core/music/fraction'
import type { Tempo } from '#core/music/metre'
import type { Finger } from '#core/instruments/hands'
import type { Component } from './costs'
import { stringDistance } from './crossing'
import type { HandState } from './candidates'
import { positionAt } from './position'
import type { FingeringProblem } from './problem'

/** The time there is for a move: that of the note before it, and of a rest between. */
export interface MoveTime {
  readonly seconds: number
  readonly rest: boolean
  readonly duration: Fraction
  readonly tempo: Tempo
}

interface ShiftFigures {
  readonly mm: Mm
  readonly time: MoveTime
}

export type Reason =
  | { readonly kind: 'shiftElsewhere' | 'crossingElsewhere' | 'awayFromHome' | 'jumps' }
  | { readonly kind: 'opensFurther' | 'drawnBack' | 'stretchedUp' | 'fourthForNothing' | 'weakerFinger' }
  | ({ readonly kind: 'moreShifts'; readonly more: number } & ShiftFigures)
  | ({ readonly kind: 'furtherShift' | 'worseMoment' } & ShiftFigures)
  | ({ readonly kind: 'landsOn'; readonly finger: Finger } & ShiftFigures)
  /** `first`: without it nothing is crossed at all. */
  | {
      readonly kind: 'moreCrossings'
      readonly more: number
      readonly first: boolean
      readonly time: MoveTime
    }
  | { readonly kind: 'position'; readonly position: string }
  | { readonly kind: 'ringsOpen'; readonly seconds: number }
  | {
      readonly kind: 'liesOver' | 'hops'
      readonly finger: Finger
      readonly strings: readonly [from: string, to: string]
    }
  | { readonly kind: 'component'; readonly component: PlainComponent }

/** Components that have no figures of their own. */
export type PlainComponent = Exclude<
  Component,
  'shift' | 'crossing' | 'place' | 'finger' | 'sustained' | 'hop'
>

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

function timeBefore({ problem }: Ways, i: number): MoveTime {
  const { tones, before, gaps, options } = problem
  const { seconds, rest } = gaps[i - 1]!
  return { seconds, rest: rest > 0, duration: tones[before[i]!]!.duration, tempo: options.tempo }
}

/** The gap of the list that leaves the least time. */
const tightest = ({ problem }: Ways, list: readonly number[]) =>
  list.reduce((a, b) => (problem.gaps[b - 1]!.seconds < problem.gaps[a - 1]!.seconds ? b : a))

/** Millimetres by which one move is further than another. */
const NOTICED = 5

function shiftReason(w: Ways): Reason {
  const [own, its] = [happening(w, 'path', shifts), happening(w, 'other', shifts)]
  const { problem, path, other } = w
  const on = (way: readonly number[], i: number) => problem.states[i]![way[i]!]!
  const along = (way: readonly number[], i: number) =>
    travel(problem.options.length, on(way, i - 1).anchor, on(way, i).anchor)
  const length = (i: number) => along(other, i)
  if (its.length === 0) return { kind: 'shiftElsewhere' }
  const far = its.reduce((a, b) => (length(b) > length(a) ? b : a))
  const figures = { mm: length(far), time: timeBefore(w, far) }
  const more = its.length - own.length
  if (more > 0) return { kind: 'moreShifts', more, ...figures }
  if (own.length > 0 && length(far) > Math.max(...own.map(i => along(path, i))) + NOTICED)
    return { kind: 'furtherShift', ...figures }
  const { finger } = on(other, far).lead
  const lands = typeof finger === 'number' && finger > 1 && on(other, far).anchor > on(other, far - 1).anchor
  return lands ? { kind: 'landsOn', finger, ...figures } : { kind: 'worseMoment', ...figures }
}

function crossingReason(w: Ways): Reason {
  const [own, its] = [happening(w, 'path', crosses), happening(w, 'other', crosses)]
  const more = its.length - own.length
  if (its.length === 0 || more <= 0) return { kind: 'crossingElsewhere' }
  return { kind: 'moreCrossings', more, first: own.length === 0, time: timeBefore(w, tightest(w, its)) }
}

/** The position the other way would take the hand to at this note. */
function placeReason(w: Ways): Reason {
  const { problem, path, other, at } = w
  const [own, its] = [problem.states[at]![path[at]!]!, problem.states[at]![other[at]!]!]
  if (own.anchor === its.anchor) return { kind: 'awayFromHome' }
  const pitch = problem.tones[at]!.heads.at(-1)!.pitch
  return { kind: 'position', position: positionAt(problem.options, its, its.lead, pitch) }
}

function fingerReason({ problem, other, at }: Ways): Reason {
  const { lead } = problem.states[at]![other[at]!]!
  if (lead.mark === 'extended') return { kind: 'opensFurther' }
  if (lead.mark === 'low' && lead.finger !== 1) return { kind: 'drawnBack' }
  if (lead.mark === 'high') return { kind: 'stretchedUp' }
  return { kind: lead.finger === 4 ? 'fourthForNothing' : 'weakerFinger' }
}

function hopReason(w: Ways): Reason {
  const { problem, other } = w
  const letters = lettersOf(problem.options.instrument, problem.options.tuning)
  const hops = happening(w, 'other', (a, b) => {
    const [p, q] = [a.lead, b.lead]
    return p.finger !== 0 && p.finger === q.finger && p.string !== q.string
  })
  if (hops.length === 0) return { kind: 'jumps' }
  const i = hops[0]!
  const from = problem.before[i]!
  const [p, q] = [problem.states[from]![other[from]!]!.lead, problem.states[i]![other[i]!]!.lead]
  const strings = [letters[p.string]!, letters[q.string]!] as const
  return { kind: p.offset === q.offset ? 'liesOver' : 'hops', finger: q.finger, strings }
}

/** What gets worse in the other way, by the component that weighs most. */
export function worse(component: Component, ways: Ways): Reason {
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
      return { kind: 'ringsOpen', seconds: ways.problem.tones[ways.at]!.seconds }
    case 'hop':
      return hopReason(ways)
    default:
      return { kind: 'component', component }
  }
}

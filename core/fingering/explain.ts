/** Why this finger: the solution beside the best one that differs at the note, component by component. */
import type { Finger } from '#core/instruments/hands'
import { lettersOf } from '#core/instruments/instruments'
import type { HandState, HeadPlace } from './candidates'
import { AT, COMPONENTS, startCost, stateCost, transitionCost, type Component, type Costs } from './costs'
import type { Fingering } from './fingering'
import { differentAt } from '#core/solver/alternatives'
import { worse, type Reason } from './reasons'
import type { FingeringProblem } from './problem'

export interface Choice {
  /** 0 is the highest string. */
  readonly string: number
  readonly finger: Finger
  readonly anchor: number
}

export interface NoteAlternative extends Choice {
  /** How much more the whole line costs with it. */
  readonly extra: number
  /** What gets worse (positive) or better (negative), by component. */
  readonly difference: Readonly<Partial<Record<Component, number>>>
  /** Notes whose finger or string would change with it. */
  readonly changes: number
  /** The whole line with it: the state of each tone. */
  readonly path: readonly number[]
}

const choiceOf = (s: HandState): Choice => ({
  string: s.lead.string,
  finger: s.lead.finger,
  anchor: s.anchor,
})

/** The other ways to play tone `i`, best first, at most `count`: one for each string and finger. */
export function alternativesAt(f: Fingering, i: number, count = 3): NoteAlternative[] {
  const { problem, tables } = f
  return othersAt(f, i, count).map(({ state, extra, path }) => {
    const { difference, changes } = compare(problem, tables.path, path)
    return { ...choiceOf(problem.states[i]![state]!), extra, difference, changes, path }
  })
}

function othersAt({ problem, tables }: Fingering, i: number, count: number) {
  const states = problem.states[i]!
  return differentAt(problem.lattice, tables, i, k => placesKey(states[k]!), count)
}

/** Strings and fingers of a state, as a name. */
const placesKey = (s: HandState) => s.places.map(p => `${p.string}:${p.finger}`).join()

/** Components of `other` minus those of `path`, summed where the two differ. */
export function compare(problem: FingeringProblem, path: readonly number[], other: readonly number[]) {
  const [a, b]: [Costs, Costs] = [new Float64Array(COMPONENTS.length), new Float64Array(COMPONENTS.length)]
  let changes = 0
  for (let i = 0; i < path.length; i++) {
    const here = path[i] !== other[i]
    const from = problem.before[i]!
    if (here || (from >= 0 && path[from] !== other[from])) {
      costAt(problem, path, i, a)
      costAt(problem, other, i, b)
    }
    if (here) {
      const [x, y] = [problem.states[i]![path[i]!]!, problem.states[i]![other[i]!]!]
      if (x.lead.string !== y.lead.string || x.lead.finger !== y.lead.finger) changes++
    }
  }
  const difference: Partial<Record<Component, number>> = {}
  COMPONENTS.forEach((c, k) => {
    const d = b[k]! - a[k]!
    if (Math.abs(d) > 0.005) difference[c] = d
  })
  return { difference, changes }
}

/** The costs that arise at tone `i` of a path: the state itself and the way into it. */
export function costAt(problem: FingeringProblem, path: readonly number[], i: number, out: Costs): void {
  const { context, tones, states, before, gaps, around } = problem
  const s = states[i]![path[i]!]!
  stateCost(context, tones[i]!, around[i]!, s, out)
  out[AT.sound]! += problem.sound[i]?.[path[i]!] ?? 0
  out[AT.consistency]! += problem.consistency[i]?.[path[i]!] ?? 0
  const b = before[i]!
  if (b < 0) startCost(context.instrument, tones[0]!, around[0]!, s, out)
  else transitionCost(context, states[b]![path[b]!]!, s, gaps[i - 1]!, out)
}

export function costsAt(f: Fingering, i: number): Costs {
  const out: Costs = new Float64Array(COMPONENTS.length)
  costAt(f.problem, f.tables.path, i, out)
  return out
}

/** Beyond this much more an alternative is no real choice. */
const FAR_OFF = 2.2

/** A finger on a string, by the string's letter. */
export interface FingerOn {
  readonly finger: Finger
  readonly letter: string
}

/** Why a tone is played as it is. */
export interface Why {
  readonly chosen: FingerOn & Pick<HeadPlace, 'mark' | 'harmonic'>
  readonly because:
    | { readonly kind: 'pinned' | 'onlyPlace' | 'nothingNear' }
    /** It is in one hand with the highest note of its chord. */
    | { readonly kind: 'withLead'; readonly lead: FingerOn }
    /** The nearest other choice, and what it would make worse; `under`: of a note under this one. */
    | {
        readonly kind: 'other'
        readonly other: FingerOn & { readonly under: boolean }
        /** Null where it would do as well. */
        readonly reason: Reason | null
        /** It would be worse by little. */
        readonly slight: boolean
      }
}

/** What costs this much more or less is as good. */
const AS_GOOD = 0.02
const SLIGHT = 0.35

/**
 * The reason of tone `i`, in a chord of the note `head` of it, its highest when left out; `pinned` when the
 * teacher chose it. `core/words/why` says it.
 */
export function whyAt(f: Fingering, i: number, pinned = false, head?: number): Why {
  const { instrument, tuning } = f.problem.options
  const letters = lettersOf(instrument, tuning)
  const { places, lead, anchor } = f.problem.states[i]![f.tables.path[i]!]!
  const own = places.find(p => p.head === head) ?? lead
  const on = ({ finger, string }: Pick<HeadPlace, 'finger' | 'string'>) => ({
    finger,
    letter: letters[string]!,
  })
  const { mark, harmonic } = own
  const chosen = { ...on(own), mark, ...(harmonic && { harmonic }) }
  if (pinned) return { chosen, because: { kind: 'pinned' } }
  if (own !== lead) return { chosen, because: { kind: 'withLead', lead: on(lead) } }
  const all = othersAt(f, i, 8)
  if (all.length === 0) return { chosen, because: { kind: 'onlyPlace' } }
  // Another finger for the same place in the same hand is no choice a teacher weighs.
  const choice = (a: (typeof all)[number]) => choiceOf(f.problem.states[i]![a.state]!)
  // What lies elsewhere in the other hand; an open string is the same in every hand.
  const apart = (a: (typeof all)[number]) =>
    f.problem.states[i]![a.state]!.places.find(
      q => !places.some(p => p.head === q.head && p.string === q.string && p.finger === q.finger),
    )
  const other = all.find(a => {
    const its = choice(a)
    if (!apart(a)) return its.anchor !== anchor && its.finger !== 0
    return its.string !== own.string || its.anchor !== anchor || its.finger === 0
  })
  if (!other || other.extra > FAR_OFF) return { chosen, because: { kind: 'nothingNear' } }
  const its = choice(other)
  const under = its.finger === own.finger && its.string === own.string ? apart(other) : undefined
  const beside = { ...on(under ?? its), under: under !== undefined }
  const slight = other.extra < SLIGHT
  if (other.extra < AS_GOOD)
    return { chosen, because: { kind: 'other', other: beside, reason: null, slight } }
  const { difference } = compare(f.problem, f.tables.path, other.path)
  const [worst] = Object.entries(difference).reduce((a, b) => (b[1] > a[1] ? b : a))
  const ways = { problem: f.problem, path: f.tables.path, other: other.path, at: i }
  const reason = worse(worst as Component, ways)
  return { chosen, because: { kind: 'other', other: beside, reason, slight } }
}

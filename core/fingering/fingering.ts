/**
 * Fingers for a whole tune: candidates, costs and the lattice put together. A {@link FingeringProblem} is
 * built once for a tune on an instrument; solving it again with other pins reuses every cost.
 */
import { finding, type Finding } from '#core/findings/finding'
import { framesOf, type Finger, type MarkKind } from '#core/instruments/hands'
import { INSTRUMENTS } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import { formatPitch, type Pitch, type Semitones } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import type { HandState } from './candidates'
import { costContext, openCosts, startCost, stateCost, transitionCost } from './costs'
import { aroundKey, contextKey, gapKey, toneKey } from './costKeys'
import { makeRoom, newFingeringCache, type FingeringCache, type StateSet } from './cache'
import { inPhrases, lies, shared } from './home'
import { mannersByRule, mannersOf } from './places'
import { consistencyCosts } from './consistency'
import { pinFilter, ruleFilter } from './pins'
import { solveLattice } from '#core/solver/lattice'
import { playable, type Playable } from './states'
import { isTooBig, largestFor, NEAR_LIMIT, shareOfSpan } from './limits'
import { positionAt, soundingPitch } from './position'
import { ruled, soundCost, type Ruled } from './rules'
import type { FingeringOptions, FingeringProblem, Around, HandGap } from './problem'
import { type NoteId } from '#core/music/ids'
import { heardBefore } from '#core/line/before'
import { gapsOf } from '#core/line/time'
import { tonesOf, type Tone } from '#core/line/tones'
import type { CostContext } from './problem'
import type { Tables, Filter } from '#core/solver/tables'
import type { FingerPins } from './fingerPin'

export interface FingeredNote {
  readonly id: NoteId
  readonly measure: number
  readonly pitch: Pitch
  /** 0 is the highest string. */
  readonly string: number
  readonly finger: Finger
  readonly offset: Semitones
  readonly anchor: Semitones
  readonly mark: MarkKind
  /** Touched, not pressed; `offset` is where. */
  readonly harmonic?: true
  readonly position: string
  readonly sounding: Pitch
  /** Index of the tone in the problem. */
  readonly tone: number
  readonly tiedFrom?: NoteId
}

export interface Fingering {
  readonly problem: FingeringProblem
  readonly tables: Tables
  /** What the pins left of each tone's states. */
  readonly filter: Filter
  readonly notes: readonly FingeredNote[]
  readonly findings: readonly Finding[]
  readonly total: number
}

/** The tones of a tune with the places each has on the instrument. */
export function playableTones(tune: Tune, options: FingeringOptions, cache: FingeringCache): Playable {
  const { writtenAbove } = INSTRUMENTS[options.instrument]
  const all = tonesOf(tune, { tempo: options.tempo, writtenAbove, joined: options.joined })
  return playable(all, options, costContext(options), cache)
}

/**
 * Lays out the problem. Linear in the number of tones; costs between the same notes in the same rhythm are
 * computed once.
 */
export function fingeringProblem(
  tune: Tune,
  options: FingeringOptions,
  cache: FingeringCache = newFingeringCache(),
): FingeringProblem {
  const context = costContext(options)
  const { tones, sets, findings } = playableTones(tune, options, cache)
  const fourthInFrame = framesOf(options.instrument, options.hand).some(f =>
    f.reaches.some(r => r.finger === 4 && r.mark === 'home' && r.from === 5),
  )
  const before = heardBefore(tune, tones)
  const open = sets.map(s => s.open)
  const states = sets.map(s => s.states)
  const ids = tones.map(t => t.id)
  const phrases = inPhrases(ids, options.together?.phrases)
  const bound = tones.map((t, i) => t.slurredOn || tones[i - 1]?.slurredOn === true)
  const rules = ruled(options.rules ?? [], tones)
  const manners = mannersByRule(
    mannersOf(options.instrument, options.places ?? 'auto', tune.kind, tones, bound, phrases),
    rules,
  )
  const where = lies(options.instrument, tones, states, options.together?.phrases, manners)
  const gaps = gapsOf(tones, open, before).map((gap, i) => ({
    ...gap,
    manner: manners[i + 1]!,
    lies: shared(where[before[i + 1]!], where[i + 1]),
  }))
  const around = tones.map((_, i) => ({
    ...openCosts(tones, i, before, fourthInFrame),
    lies: where[i] ?? null,
    manner: manners[i]!,
    bound: bound[i]!,
  }))
  const sound = soundCosts(states, rules, options.tuning)
  const named = contextKey(context)
  const own = sets.map((set, i) => unaryCosts(context, named, set, tones[i]!, around[i]!, cache))
  if (own[0])
    own[0] = plus(
      own[0],
      Float64Array.from(states[0]!, s => startCost(options.instrument, tones[0]!, around[0]!, s)),
    )
  const plain = own.map((c, i) => plus(c, sound[i]))
  const edges = edgesBetween(context, sets, gaps, before, cache)
  const draft = { unary: plain, edges }
  const tables = solveLattice(draft, [], cache.before && { ...cache.before, allowed: [] })
  cache.before = { lattice: draft, tables }
  const consistency = consistencyCosts(ids, states, tables, options.together ?? {})
  const joins = joinCosts(context, states, gaps, before, tables.path)
  const unary = plain.map((c, i) => plus(plus(c, consistency[i]), joins[i]))
  return {
    options,
    context,
    tones,
    states,
    before,
    gaps,
    around,
    rules,
    sound,
    consistency,
    lattice: { unary, edges },
    findings,
  }
}

function soundCosts(
  states: FingeringProblem['states'],
  rules: readonly Ruled[],
  tuning: Tuning,
): (Float64Array | undefined)[] {
  const out: (Float64Array | undefined)[] = new Array(states.length)
  for (const { rule, from, to } of rules) {
    if (rule.kind !== 'sound') continue
    for (let i = from; i <= to; i++)
      out[i] = Float64Array.from(states[i]!, s => soundCost(rule.sound, s, tuning))
  }
  return out
}

/** The sum; the first itself when there is nothing to add, so that it is known again by identity. */
const plus = (a: Float64Array, b: Float64Array | undefined) => (b ? a.map((c, k) => c + b[k]!) : a)

/** Costs of a tone's states by themselves: the same under the same key (`named` is the context's part of it). */
function unaryCosts(
  context: CostContext,
  named: string,
  set: StateSet,
  tone: Tone,
  around: Around,
  cache: FingeringCache,
): Float64Array {
  const key = `${set.index}|${named}${toneKey(tone, context)}${aroundKey(around, context)}`
  let costs = cache.unary.get(key)
  if (!costs) {
    costs = Float64Array.from(set.states, s => stateCost(context, tone, around, s))
    cache.unary.set(key, costs)
  }
  return costs
}

/**
 * What the way into a tone costs from the one it is heard after, where that is not the one before it in the
 * line: against the place the first pass gave that one. The line itself has no cost there, for nobody plays
 * from the end of one ending to the beginning of the next.
 */
function joinCosts(
  context: CostContext,
  states: FingeringProblem['states'],
  gaps: readonly HandGap[],
  before: readonly number[],
  path: readonly number[],
): (Float64Array | undefined)[] {
  return before.map((b, i) => {
    if (b === i - 1) return undefined
    const from = states[b]![path[b]!]!
    return Float64Array.from(states[i]!, s => transitionCost(context, from, s, gaps[i - 1]!))
  })
}

/** Costs between two groups of states: the same for the same notes in the same rhythm. */
function edgesBetween(
  context: CostContext,
  sets: readonly StateSet[],
  gaps: readonly HandGap[],
  before: readonly number[],
  cache: FingeringCache,
): Float64Array[] {
  makeRoom(cache)
  const named = contextKey(context)
  return gaps.map((gap, i) => {
    const [from, to] = [sets[i]!, sets[i + 1]!]
    const parted = before[i + 1] !== i
    const key = parted
      ? `${from.index}|${to.index}`
      : `${from.index}|${to.index}|${named}${gapKey(gap, context)}`
    const found = cache.edges.get(key)
    if (found) return found
    const e = new Float64Array(from.states.length * to.states.length)
    let k = 0
    if (!parted)
      for (const a of from.states) for (const b of to.states) e[k++] = transitionCost(context, a, b, gap)
    cache.edges.set(key, e)
    return e
  })
}

/**
 * Solves with pins. A pin that nothing meets is left out of the search and comes back as a finding. With an
 * earlier solution at hand (`before`), of this problem or one it shares most notes with, only what differs is
 * computed; the result is the same.
 */
export function solveFingering(
  problem: FingeringProblem,
  pins: FingerPins = {},
  before?: Fingering,
): Fingering {
  const findings = [...problem.findings]
  const pinned = pinFilter(problem, pins, findings)
  const filter = ruleFilter(problem, pinned, findings)
  const known = before && { tables: before.tables, allowed: before.filter, lattice: before.problem.lattice }
  const tables = solveLattice(problem.lattice, filter, known)
  const notes = problem.tones.flatMap((tone, i) =>
    notesOfTone(problem, tone, i, problem.states[i]![tables.path[i]!]!),
  )
  const near = tooBig(problem) ?? nearSpan(problem, tables.path)
  if (near) findings.push(near)
  return { problem, tables, filter, notes, findings, total: tables.total }
}

/** Told once: which size would do. */
function tooBig({ tones, options }: FingeringProblem): Finding | null {
  if (!isTooBig(options) || !tones[0]) return null
  const { instrument, span } = options
  const fits = largestFor(instrument, span!)?.name ?? ''
  const where = { measure: tones[0].measure, note: tones[0].id }
  return finding('finger.tooBig', 'warning', where, {
    instrument: INSTRUMENTS[instrument].name,
    span: span!,
    fits,
  })
}

/** The places that ask for nearly all a learner's hand can span, told once with the caution. */
function nearSpan({ tones, states, options }: FingeringProblem, path: readonly number[]): Finding | null {
  if (!options.span) return null
  let [count, most, at] = [0, 0, 0]
  path.forEach((s, i) => {
    const share = shareOfSpan(states[i]![s]!, options)
    if (share > NEAR_LIMIT && share <= 1) count++
    if (share > most && share <= 1) [most, at] = [share, i]
  })
  if (count === 0) return null
  const tone = tones[at]!
  const values = { count, percent: Math.round(most * 100), pitch: formatPitch(tone.heads.at(-1)!.pitch) }
  return finding('finger.spanNear', 'warning', { measure: tone.measure, note: tone.id }, values)
}

function notesOfTone(
  { options }: FingeringProblem,
  tone: Tone,
  index: number,
  state: HandState,
): FingeredNote[] {
  return state.places.flatMap(p => {
    const head = tone.heads[p.head]!
    const sounding = soundingPitch(options.instrument, head.pitch)
    const position = positionAt(options, state, p, head.pitch)
    const note = {
      id: head.id,
      measure: tone.measure,
      pitch: head.pitch,
      string: p.string,
      finger: p.finger,
      offset: p.offset,
      anchor: state.anchor,
      mark: p.mark,
      ...(p.harmonic && { harmonic: true as const }),
      position,
      sounding,
      tone: index,
    }
    return [
      note,
      ...tone.held.flatMap(t => (t.head === p.head ? [{ ...note, id: t.id, tiedFrom: head.id }] : [])),
    ]
  })
}

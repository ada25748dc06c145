/**
 * Fingers for a whole tune: candidates, costs and the lattice put together. A {@link FingeringProblem} is built once for a tune on an
 * instrument; solving it again with other pins reuses every cost.
 */
import { finding, type Finding } from '#core/findings/finding'
import { framesOf, type Finger, type HandOptions, type MarkKind } from '#core/instruments/hands'
import { INSTRUMENTS, type Mm } from '#core/instruments/instruments'
import { positionName } from '#core/instruments/positions'
import type { Tuning } from '#core/instruments/tunings'
import { missingSkill, type Level } from '#core/levels/levels'
import type { Tempo } from '#core/music/metre'
import { formatPitch, pitchOfMidi, type Pitch, type Semitones } from '#core/music/pitch'
import type { InstrumentId, Tune } from '#core/music/tune'
import { candidates, type HandState, type HeadPlace } from './candidates'
import {
  COMPONENTS, gapBetween, openCosts, startCost, stateCost, transitionCost, type CostContext, type Costs, type Gap, type OpenCost,
  type OpenSchool,
} from './costs' // prettier-ignore
import { solveLattice, type Filter, type Lattice, type Tables } from './lattice'
import { tonesOf, type Tone } from './tones'

export interface FingeringOptions {
  readonly instrument: InstrumentId
  readonly length: Mm
  readonly tuning: Tuning
  readonly open: OpenSchool
  readonly tempo: Tempo
  readonly level?: Level
  readonly hand?: HandOptions
  /** Ids of events slurred to the one before; the tune's own slurs when absent. */
  readonly joined?: ReadonlySet<string>
}

/** What the teacher has fixed at a note: a string (0 is the highest), a finger, or both. */
export interface FingerPin {
  readonly string?: number
  readonly finger?: Finger
}
export type FingerPins = Readonly<Record<string, FingerPin>>

export interface FingeredNote {
  readonly id: string
  readonly measure: number
  readonly pitch: Pitch
  /** 0 is the highest string. */
  readonly string: number
  readonly finger: Finger
  readonly offset: Semitones
  readonly anchor: Semitones
  readonly mark: MarkKind
  readonly position: string
  readonly sounding: Pitch
  /** Index of the tone in the problem. */
  readonly tone: number
  readonly tiedFrom?: string
}

export interface FingeringProblem {
  readonly options: FingeringOptions
  readonly context: CostContext
  /** The tones that can be played, in order; a tone off the instrument is in the findings only. */
  readonly tones: readonly Tone[]
  readonly states: readonly (readonly HandState[])[]
  readonly gaps: readonly Gap[]
  readonly open: readonly OpenCost[]
  readonly lattice: Lattice
  readonly findings: readonly Finding[]
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

/** States kept for a tone; the cheapest of every string and finger is always among them, so that any pin finds its place. */
const STATES_KEPT = 26

/** Lays out the problem. Linear in the number of tones. */
export function fingeringProblem(tune: Tune, options: FingeringOptions): FingeringProblem {
  const instrument = INSTRUMENTS[options.instrument]
  const all = tonesOf(tune, {
    tempo: options.tempo,
    writtenAbove: instrument.writtenAbove,
    joined: options.joined,
  })
  const hand = { instrument: options.instrument, tuning: options.tuning, options: options.hand ?? {} }
  const findings: Finding[] = []
  const { tones, states } = playable(all, t => candidates(t, hand), options, findings)
  const context = { instrument: options.instrument, length: options.length, openSchool: options.open }
  const fourthInFrame = framesOf(options.instrument, options.hand).some(f =>
    f.reaches.some(r => r.finger === 4 && r.mark === 'home' && r.from === 5),
  )
  const open = tones.map((_, i) => openCosts(tones, i, fourthInFrame))
  const kept = states.map((list, i) => {
    const inLevel = withinLevel(list, tones[i]!, options, findings)
    return prune(inLevel, tones[i]!, context, open[i]!)
  })
  const gaps = tones.slice(1).map((t, i) => gapBetween(tones[i]!, t))
  return {
    options,
    context,
    tones,
    states: kept,
    gaps,
    open,
    lattice: latticeOf(context, tones, kept, gaps, open),
    findings,
  }
}

function latticeOf(
  context: CostContext,
  tones: readonly Tone[],
  states: readonly (readonly HandState[])[],
  gaps: readonly Gap[],
  open: readonly OpenCost[],
): Lattice {
  const scratch: Costs = new Float64Array(COMPONENTS.length)
  const unary = states.map((list, i) =>
    Float64Array.from(
      list,
      s => stateCost(context, tones[i]!, open[i]!, s, scratch) + (i === 0 ? startCost(s, scratch) : 0),
    ),
  )
  const edges = gaps.map((gap, i) => {
    const [from, to] = [states[i]!, states[i + 1]!]
    const e = new Float64Array(from.length * to.length)
    let k = 0
    for (const a of from) for (const b of to) e[k++] = transitionCost(context, a, b, gap, scratch)
    return e
  })
  return { unary, edges }
}

/** Drops tones that are off the instrument and takes the top note of chords no hand can hold; both are told. */
function playable(
  all: readonly Tone[],
  statesOf: (tones: readonly Tone[]) => HandState[][],
  options: FingeringOptions,
  findings: Finding[],
): { tones: Tone[]; states: HandState[][] } {
  const first = statesOf(all)
  const reduced = all.map((t, i) => {
    if (first[i]!.length > 0 || t.heads.length === 1) return t
    const pitches = t.heads
      .map(h => formatPitch(h.pitch))
      .slice(0, 6)
      .join(' ')
    const values = { pitches, instrument: INSTRUMENTS[options.instrument].name }
    findings.push(finding('finger.noDoubleStop', 'warning', { measure: t.measure, note: t.id }, values))
    return { ...t, heads: t.heads.slice(-1) }
  })
  const states = reduced.some((t, i) => t !== all[i]) ? statesOf(reduced) : first
  const keep = reduced.map((t, i) => {
    if (states[i]!.length > 0) return true
    findings.push(offTheInstrument(t, options))
    return false
  })
  return { tones: reduced.filter((_, i) => keep[i]), states: states.filter((_, i) => keep[i]) }
}

function offTheInstrument(t: Tone, { instrument, tuning }: FingeringOptions): Finding {
  const head = t.heads.at(-1)!
  const { name, highest, writtenAbove } = INSTRUMENTS[instrument]
  const where = { measure: t.measure, note: t.id }
  const values = { pitch: formatPitch(head.pitch), instrument: name }
  const lowest = Math.min(...tuning)
  const written = (m: number) => formatPitch(pitchOfMidi(m + writtenAbove))
  return head.sounding < lowest
    ? finding('finger.tooLow', 'error', where, { ...values, lowest: written(lowest) })
    : finding('finger.tooHigh', 'error', where, {
        ...values,
        highest: written(Math.max(...tuning) + highest),
      })
}

/** A level is a hard limit; where it leaves nothing, the tone keeps its places and the reason is told. */
function withinLevel(
  list: readonly HandState[],
  tone: Tone,
  { level, instrument }: FingeringOptions,
  findings: Finding[],
) {
  if (level === undefined) return list
  const reason = (s: HandState) =>
    s.places
      .map(p => missingSkill(instrument, level, { ...p, shape: s.shape, anchor: s.anchor }))
      .find(w => w !== null) ?? null
  const allowed = list.filter(s => reason(s) === null)
  if (allowed.length > 0) return allowed
  const nearest = list.reduce((a, b) =>
    b.cost + Math.abs(b.anchor - 2) < a.cost + Math.abs(a.anchor - 2) ? b : a,
  )
  const values = { pitch: formatPitch(tone.heads.at(-1)!.pitch), level, why: reason(nearest)! }
  findings.push(finding('finger.levelReach', 'warning', { measure: tone.measure, note: tone.id }, values))
  return list
}

function prune(list: readonly HandState[], tone: Tone, context: CostContext, open: OpenCost): HandState[] {
  const scratch: Costs = new Float64Array(COMPONENTS.length)
  const ranked = list
    .map(s => ({ s, cost: stateCost(context, tone, open, s, scratch) }))
    .sort((a, b) => a.cost - b.cost)
  const seen = new Set<string>()
  return ranked
    .filter(({ s }, rank) => {
      const key = s.places.map(p => `${p.string}:${p.finger}`).join()
      const fresh = !seen.has(key)
      seen.add(key)
      return rank < STATES_KEPT || fresh
    })
    .map(r => r.s)
}

/** Solves with pins. A pin that nothing meets is left out of the search and comes back as a finding. */
export function solveFingering(problem: FingeringProblem, pins: FingerPins = {}): Fingering {
  const findings = [...problem.findings]
  const filter = pinFilter(problem, pins, findings)
  const tables = solveLattice(problem.lattice, filter)
  const notes = problem.tones.flatMap((tone, i) =>
    notesOfTone(problem, tone, i, problem.states[i]![tables.path[i]!]!),
  )
  return { problem, tables, filter, notes, findings, total: tables.total }
}

export const meetsPin = (p: HeadPlace, pin: FingerPin) =>
  (pin.string === undefined || pin.string === p.string) &&
  (pin.finger === undefined || pin.finger === p.finger)

function pinFilter(problem: FingeringProblem, pins: FingerPins, findings: Finding[]): Filter {
  return problem.tones.map((tone, i) => {
    const own = tone.heads.map(h => pins[h.id])
    if (own.every(p => p === undefined)) return undefined
    const meets = (s: HandState) => s.places.every(p => meetsPin(p, own[p.head] ?? {}))
    const mask = Uint8Array.from(problem.states[i]!, s => (meets(s) ? 1 : 0))
    if (mask.includes(1)) return mask
    const pin = own.find(p => p !== undefined)!
    const mend = {
      kind: 'unpin',
      note: tone.heads[own.indexOf(pin)]!.id,
      what: 'finger',
      label: 'Take the pin off',
    } as const
    findings.push(
      finding(
        'finger.pinUnmet',
        'warning',
        { measure: tone.measure, note: tone.id },
        pinValues(problem, tone, pin),
        [mend],
      ),
    )
    return undefined
  })
}

function pinValues({ options }: FingeringProblem, tone: Tone, pin: FingerPin) {
  const { letters, name } = INSTRUMENTS[options.instrument]
  const letter = pin.string === undefined ? '' : (letters[pin.string] ?? '?')
  const head = tone.heads.at(-1)!
  const offset = pin.string === undefined ? null : head.sounding - (options.tuning[pin.string] ?? Infinity)
  const place = `${formatPitch(head.pitch)} is not there on this ${name}`
  const why =
    offset !== null && offset < 0
      ? `${formatPitch(head.pitch)} lies below the open string`
      : offset === 0 && pin.finger !== 0
        ? 'it is the open string'
        : options.level !== undefined
          ? `no hand position of level ${options.level} has it`
          : place
  return { pin: [letter, pin.finger ?? ''].join(' ').trim(), why }
}

function notesOfTone(
  { options }: FingeringProblem,
  tone: Tone,
  index: number,
  state: HandState,
): FingeredNote[] {
  return state.places.flatMap(p => {
    const head = tone.heads[p.head]!
    const sounding = {
      ...head.pitch,
      octave: head.pitch.octave - INSTRUMENTS[options.instrument].writtenAbove / 12,
    }
    const position = positionName({
      instrument: options.instrument,
      anchor: state.anchor,
      shape: state.shape,
      finger: p.finger,
      pitch: sounding,
      open: options.tuning[p.string]!,
    })
    const note = {
      id: head.id,
      measure: tone.measure,
      pitch: head.pitch,
      string: p.string,
      finger: p.finger,
      offset: p.offset,
      anchor: state.anchor,
      mark: p.mark,
      position,
      sounding,
      tone: index,
    }
    const suffix = head.id.slice(tone.id.length)
    return [note, ...tone.tied.map(id => ({ ...note, id: id + suffix, tiedFrom: head.id }))]
  })
}

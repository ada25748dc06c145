/** What the fingering solver is asked, and the problem as it is laid out. */
import type { HandModel } from '#core/instruments/handModel'
import type { Finding } from '#core/findings/finding'
import type { HandOptions } from '#core/instruments/hands'
import type { Mm } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import type { Level } from '#core/levels/levels'
import type { Gap } from '#core/line/time'
import type { Tone } from '#core/line/tones'
import type { Tempo } from '#core/music/metre'
import type { InstrumentId } from '#core/music/tune'
import type { HandState } from './candidates'
import type { Together } from './consistency'
import type { Lies } from './home'
import type { PassageRule } from './passageRule'
import type { Manner, PlaceSchool } from './places'
import type { Ruled } from './rules'
import type { HandTaste } from '#core/instruments/taste'
import type { Lattice } from '#core/solver/tables'

export type OpenSchool = 'first' | 'cost' | 'fourth'
export type LongSchool = 'open' | 'stopped'

/** A rule for a stretch; one that waits (its part is left out) is not missed. */
export type AskedRule = PassageRule & { readonly waits?: boolean }

export interface FingeringOptions {
  readonly instrument: InstrumentId
  readonly length: Mm
  readonly tuning: Tuning
  readonly open: OpenSchool
  readonly tempo: Tempo
  /** The least time a move of the hand takes. */
  readonly model: HandModel
  readonly level?: Level
  readonly hand?: HandOptions
  /** Long tones as they lie, or rather stopped. */
  readonly long?: LongSchool
  readonly harmonics?: boolean
  /**
   * Violin and viola: rather at home or rather in one position; by the kind of tune and its slurs where
   * nobody says.
   */
  readonly places?: PlaceSchool
  /** What the teacher has more or less taste for than our weights. */
  readonly taste?: HandTaste
  /** Ids of events slurred to the one before; the tune's own slurs when absent. */
  readonly joined?: ReadonlySet<string>
  /** The learner's reach from 1 to 4 in mm, where it was measured. */
  readonly span?: Mm
  /** The teacher's rules for stretches of the tune. */
  readonly rules?: readonly AskedRule[]
  /** Phrases and their kin, for the same fingers where the same notes return; one phrase when absent. */
  readonly together?: Together
}

export interface CostContext {
  readonly instrument: InstrumentId
  readonly tuning: Tuning
  readonly openSchool: OpenSchool
  readonly hand: HandOptions
  /** In a cross-tuning the open strings are meant to ring, long tones too. */
  readonly ringing: boolean
  /** Long tones are stopped where they can be, to be warmed. */
  readonly longStopped: boolean
  /** Natural harmonics are wished for; otherwise they are taken only where the hand is. */
  readonly harmonics: boolean
  readonly model: HandModel
  /** Null where nothing is known of it, with its name for what is kept. */
  readonly taste: HandTaste | null
  readonly tasteName: string
  /** Millimetres from the nut to each anchor, by semitones. */
  readonly nutToAnchor: readonly Mm[]
}

/** What an open string costs at a tone, by school: see {@link openCosts}. */
export interface OpenCost {
  readonly first: number
  readonly cost: number
  readonly fourth: number
}

/** What a tone's surroundings say of its places. */
export interface Around extends OpenCost {
  /** Where its phrase lies; null when it lies nowhere as a whole. */
  readonly lies: Lies | null
  /** How its phrase is played. */
  readonly manner: Manner
  /** It lies under a slur with a neighbour. */
  readonly bound: boolean
}

/** What lies between two tones, with what their phrase says of a move of the hand. */
export interface HandGap extends Gap {
  /** The place that holds them and all of their phrase: a move out of it or back is needless. */
  readonly lies: Lies | null
  readonly manner: Manner
}

export interface FingeringProblem {
  readonly options: FingeringOptions
  readonly context: CostContext
  /** The tones that can be played, in order; a tone off the instrument is in the findings only. */
  readonly tones: readonly Tone[]
  readonly states: readonly (readonly HandState[])[]
  /**
   * The tone each is heard after, by index; -1 for the first. Seldom another than the one before it in the
   * list: see `heardBefore`.
   */
  readonly before: readonly number[]
  /** What lies between each tone but the first and the one it is heard after. */
  readonly gaps: readonly HandGap[]
  readonly around: readonly Around[]
  readonly rules: readonly Ruled[]
  /** What each state costs for the sound wished for, where one is. */
  readonly sound: readonly (Float64Array | undefined)[]
  /** What each state costs for being fingered otherwise than its like; part of the lattice's own costs. */
  readonly consistency: readonly (Float64Array | undefined)[]
  readonly lattice: Lattice
  readonly findings: readonly Finding[]
}

/**
 * What it costs to join two tones, by what a player hears and feels: the reasons are in the table of weights.
 */
import { hurry } from '#core/line/time'
import type { BowTone } from './tones'
import { WEIGHTS as W } from './weights'

export interface Costs {
  readonly a: BowTone
  readonly b: BowTone
  /** How many strings apart they lie. */
  readonly strings: number
  /** A phrase begins with the second; the first leads into it. */
  readonly phrase: boolean
  readonly leadsIn: boolean
  /**
   * A shorter note stands beside them in the measure: that one is slurred, and long notes keep their bows.
   */
  readonly besideShorter?: boolean
  /** Written slurs the join would lengthen: none, one, or two that it would make one. */
  readonly lengthens?: 0 | 1 | 2
  /** Both lie in one triplet of a tune that has others in one bow. */
  readonly tripletsJoined?: boolean
}

export const sameBeat = (a: BowTone, b: BowTone) => a.beat === b.beat
export const isDotted = (a: BowTone, b: BowTone) => a.length >= 2.5 * b.length
/** The second fills up the beats the first began: a dotted pair, or the long and the short of a jig. */
const completes = ({ a, b }: Costs) => a.length > b.length && (sameBeat(a, b) || b.strength === 0)

/** A slur that is not written. */
export function slurCosts(c: Costs): number {
  const { a, b } = c
  return (
    W.slur +
    overBeat(b, W.slurOverBar, W.slurOverSecond, W.slurOverBeat) +
    (a.strength === 3 ? W.slurFromFirst : a.strength === 2 ? W.slurFromSecond : 0) +
    rhythm(c, W.slurLongShort, W.slurEqual, W.slurShortLong) +
    (b.pushed ? W.slurPushed : 0) +
    (a.tuplet !== null && a.tuplet === b.tuplet ? W.slurTriplet * (a.strength > 0 ? 1 : 0.5) : 0) +
    (a.midi === b.midi ? W.slurSamePitch : 0) +
    (c.besideShorter ? W.slurLonger : 0) +
    widthCosts(Math.abs(a.midi - b.midi)) +
    lengthened(c) +
    (c.tripletsJoined ? W.slurTripletAlike : 0) +
    crossing(c) +
    (c.phrase ? W.slurOverPhrase : 0) +
    W.slurEarly * (1 - place(b))
  )
}

/** Half steps. */
const [FIFTH, OCTAVE] = [7, 12]
const widthCosts = (wide: number) => (wide >= OCTAVE ? W.slurOctave : wide > FIFTH ? W.slurWide : 0)

/** What is written is not made longer: two slurs are joined only by a hook. */
export const lengthened = ({ lengthens = 0 }: Costs) => [0, W.slurOntoWritten, W.slurMerges][lengthens]!

/** A hooked bow. */
export function hookCosts(c: Costs): number {
  const { a, b } = c
  const fast = hurry(a.seconds + b.restBefore)
  return (
    W.hook +
    overBeat(b, W.hookOverBar, W.hookOverBeat * 2, W.hookOverBeat) +
    (completes(c) && isDotted(a, b) ? W.hookDotted : 0) +
    rhythm(c, W.hookLongShort, W.hookEqual, W.hookShortLong) +
    (a.pickup && b.pickup ? W.hookPickup : 0) +
    (b.pushed ? W.slurPushed : 0) +
    (c.phrase ? W.hookAtPhrase : 0) +
    fast * W.hookFast +
    W.slurEarly * (1 - place(b))
  )
}

/** The bow lifted and set anew. */
export function liftCosts({ a, b, phrase }: Costs): number {
  const room = b.restBefore + (b.lifted ? 0.4 : 0)
  const without = Math.max(0, 1 - room / LIFT_SECONDS)
  const breath = phrase && a.seconds >= LONG_SECONDS ? W.liftAtPhrase : 0
  return W.lift + without * (W.liftNoRest + breath)
}

/** Seconds a calm lift takes, and a note that can lend them. */
const LIFT_SECONDS = 0.3
const LONG_SECONDS = 0.9

const place = (b: BowTone) => b.at.n / b.at.d / (b.full.n / b.full.d)

const overBeat = (b: BowTone, bar: number, second: number, beat: number) =>
  b.strength === 3 ? bar : b.strength === 2 ? second : b.strength === 1 ? beat : 0

function rhythm(c: Costs, longShort: number, equal: number, shortLong: number): number {
  const { a, b } = c
  if (completes(c)) return longShort
  if (a.length < b.length * 0.99) return shortLong
  return sameBeat(a, b) && Math.abs(a.length - b.length) < 1e-6 ? equal : 0
}

function crossing({ a, strings }: Costs): number {
  if (strings === 0) return 0
  return (strings === 1 ? W.slurCrossing : W.slurSkip) * (0.5 + 0.5 * hurry(a.seconds))
}

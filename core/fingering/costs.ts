/**
 * What a state costs by itself and what it costs to go from one state to the next. One component for each
 * reason a teacher would name.
 */
import { fromNut } from '#core/instruments/geometry'
import { ANCHOR_COSTS, HOME_ANCHOR, THUMB_HOME, type HandOptions } from '#core/instruments/hands'
import { leastShift, type HandModel } from '#core/instruments/handModel'
import { nearestPosition } from '#core/instruments/positions'
import { INSTRUMENTS, isLow } from '#core/instruments/instruments'
import type { InstrumentId } from '#core/music/tune'
import type { Semitones } from '#core/music/pitch'
import { HOME, standsThere } from './home'
import { MANNERS } from './places'
import { isHome } from '#core/instruments/tunings'
import type { HandState, HeadPlace } from './candidates'
import type { CostContext, Around, FingeringOptions, OpenCost, HandGap } from './problem'
import { crossingCost, hopCost } from './crossing'
import { handShapeCost } from './handShape'
import { stretchCost } from './spacing'
import { tasteOfState, tasteOfStep } from './taste'
import { hurry, type Gap } from '#core/line/time'
import type { Tone } from '#core/line/tones'
import type { CostedTone } from './costKeys'
import { COMFORTABLE, LASTING, SUSTAINED, WEIGHTS as W } from './weights'

export const COMPONENTS = [
  'place',
  'finger',
  'open',
  'sustained',
  'shift',
  'crossing',
  'hop',
  'slide',
  'stretch',
  'handShape',
  'hold',
  'substitution',
  'consistency',
  'sound',
  'taste',
] as const
export type Component = (typeof COMPONENTS)[number]
/** Costs by component, in the order of {@link COMPONENTS}. */
export type Costs = Float64Array

export const AT = Object.fromEntries(COMPONENTS.map((c, i) => [c, i])) as Record<Component, number>

export const costContext = ({
  instrument,
  length,
  open,
  tuning,
  hand = {},
  long,
  model,
  harmonics = false,
  taste = {},
}: Pick<
  FingeringOptions,
  'instrument' | 'length' | 'open' | 'tuning' | 'hand' | 'long' | 'harmonics' | 'model' | 'taste'
>): CostContext => ({
  instrument,
  tuning,
  openSchool: open,
  hand,
  ringing: !isHome(instrument, tuning),
  longStopped: long === 'stopped',
  model,
  harmonics,
  taste: Object.keys(taste).length > 0 ? taste : null,
  tasteName: Object.keys(taste).length > 0 ? JSON.stringify(taste) : '',
  nutToAnchor: Array.from({ length: 40 }, (_, n) => fromNut(length, n)),
})

/**
 * How settled the hand is at an anchor. First position is home; a place costs a little for each note played
 * there, so that a hand away from home needs a reason but does not run back at once.
 */
function placeCost(instrument: InstrumentId, s: HandState, { run, seconds }: CostedTone): number {
  // Far up a lower string the tone is covered and the place hard to find: the next string has the note. Under
  // the thumb both strings lie alike.
  const far =
    s.lead.string > (s.shape === 'thumb' && instrument === 'cello' ? 1 : 0)
      ? (instrument === 'bass' ? W.farUpBass : W.farUp) * Math.max(0, s.lead.offset - farUp(instrument))
      : 0
  // Under the thumb the lower string is a second choice, and on the bass the whole place is.
  const lower = s.lead.string > 0 ? W.thumbLower : 0
  const thumb = s.shape === 'thumb' ? W.thumb + lower + (instrument === 'bass' ? W.thumbBass : 0) : 0
  const letters = run ? 0 : letterOfPosition(instrument, s)
  const drawn = run || isLow(instrument) || s.anchor >= HOME_ANCHOR ? 0 : W.halfQuick * hurry(seconds)
  return far + thumb + letters + drawn + W.stay * lasting(seconds) * anchorCost(instrument, s)
}

/** Away from home a hand tires by the time, not by the note: in quick notes it stays where it is. */
const lasting = (seconds: number) => Math.min(1, seconds / LASTING)

/**
 * Violin and viola: in a position every finger has its letter, so that C sharp under a low first finger of
 * the third position is odd, and D flat is not.
 */
function letterOfPosition(instrument: InstrumentId, { anchor, places }: HandState): number {
  if (isLow(instrument)) return 0
  const position = nearestPosition(anchor)
  const others = places.filter(p => p.finger !== 0 && !p.harmonic && p.letterPosition !== position)
  return W.otherLetter * others.length
}

/** How hard a place of the hand is to find; a laid thumb is found by the octave harmonic under it. */
function anchorCost(instrument: InstrumentId, { anchor, shape }: HandState): number {
  if (shape === 'thumb') return anchor === THUMB_HOME ? 0 : anchor < THUMB_HOME ? W.thumbBelow : W.thumbAway
  const { landmarks, between } = ANCHOR_COSTS[instrument]
  return (landmarks[anchor] ?? between) + 0.04 * Math.max(0, anchor - 7)
}

/**
 * Semitones up a string that is not the highest, beyond which the place is far: as far as the next string is
 * above.
 */
const farUp = (instrument: InstrumentId) => {
  const [upper, lower] = INSTRUMENTS[instrument].strings
  return upper! - lower!
}

/**
 * Open string or stopped on the string below? Decided for each tone from its surroundings: a neighbour below
 * the open pitch means the line touches the lower string; a higher tone within the same stretch means the
 * upper string is needed anyway.
 */
export function openCosts(
  tones: readonly Tone[],
  i: number,
  before: readonly number[],
  fourthInFrame: boolean,
): OpenCost {
  const top = (t: Tone | undefined) => t?.heads.at(-1)?.sounding
  const own = top(tones[i])!
  const beside = [tones[before[i]!], before[i + 1] === i ? tones[i + 1] : undefined]
  const below = beside.some(t => t && top(t)! < own)
  if (!below) return { first: W.openFirst, cost: 0, fourth: 0 }
  const needed = upperNeeded(tones, i, own)
  const fourth = fourthInFrame ? W.openFourth : needed ? W.openFourthShared : W.openFourthAlone
  return { first: W.openFirst, cost: needed ? 0 : W.openAlone, fourth }
}

/** How many tones either way still belong to the same stretch of the line. */
const STRETCH = 3

function upperNeeded(tones: readonly Tone[], i: number, own: number): boolean {
  for (let k = Math.max(0, i - STRETCH); k <= Math.min(tones.length - 1, i + STRETCH); k++) {
    if (tones[k]!.heads.some(h => h.sounding > own)) return true
  }
  return false
}

/**
 * Under a hand away from home an open string sounds of another place; the low hands, whose strings ring long,
 * mind it less.
 */
const openAway = (id: InstrumentId) => (isLow(id) ? W.openAwayLow : W.openAway)

const costInRun = ({ cost, lead }: HandState) =>
  lead.mark === 'low' ? Math.min(cost, W.closeInRun) : lead.mark === 'extended' ? cost + W.openInRun : cost

/**
 * A hand that is not where its phrase lies. In quick notes a position is worth less: what is not at home is
 * fetched and let go.
 */
function elsewhere({ lies }: Around, s: HandState, { seconds }: CostedTone): number {
  if (lies === null || standsThere(lies, s)) return 0
  return W.needless * (lies === HOME ? 1 : lasting(seconds))
}

/** The costs of a state by itself: their sum, and each added to `out` where it is given. */
export function stateCost(
  ctx: CostContext,
  tone: CostedTone,
  around: Around,
  s: HandState,
  out?: Costs,
): number {
  const allOpen = s.places.every(p => p.finger === 0)
  const manner = MANNERS[around.manner]
  const reach = opened(s) ? reachSchool(ctx.hand) + (s.anchor > HOME_ANCHOR ? W.openHandAway : 0) : 0
  const pressed = tone.harmonic && !s.lead.harmonic ? W.harmonicMarked : 0
  // In a chromatic run the fingers stand close, one a half step: low places are its own.
  const own =
    (tone.run ? costInRun(s) : s.cost) *
    (reachesFourth(s) ? 1 - (1 - manner.stretch) * hurry(tone.seconds) : 1)
  const finger =
    own + reach + pressed + harmonicBelow(ctx, tone, s) + (isLow(ctx.instrument) ? 0 : octaveFrame(s))
  const needless = elsewhere(around, s, tone)
  const place = allOpen ? 0 : placeCost(ctx.instrument, s, tone) * manner.away + needless * manner.lies
  let [openCost, sustained] = [0, 0]
  if (allOpen && s.places.length === 1) {
    openCost =
      around[ctx.openSchool] +
      (around.bound ? manner.openSlurred : manner.open) +
      (s.anchor > HOME_ANCHOR ? openAway(ctx.instrument) : 0)
    if (tone.seconds >= SUSTAINED && ctx.openSchool !== 'first' && !ctx.ringing)
      sustained = ctx.longStopped ? W.sustainedStopped : W.sustainedOpen
  }
  const liking = ctx.taste ? tasteOfState(ctx.taste, tone, s) : 0
  if (out) {
    out[AT.place]! += place
    out[AT.finger]! += finger
    out[AT.open]! += openCost
    out[AT.sustained]! += sustained
    out[AT.taste]! += liking
  }
  return place + finger + openCost + sustained + liking
}

/**
 * The fourth finger a half step above its place, in first position on the highest string: nothing else is
 * above it.
 */
const reachesFourth = ({ anchor, lead }: HandState) =>
  anchor === HOME_ANCHOR && lead.string === 0 && lead.finger === 4 && lead.mark === 'extended'

/** Semitones between the places of an octave on neighbouring strings tuned in fifths. */
const OCTAVE = 5

/** An octave harmonic nobody wished for on a string whose upper neighbour has the same note at home. */
function harmonicBelow(ctx: CostContext, tone: CostedTone, { lead }: HandState): number {
  if (!lead.harmonic || lead.string === 0 || lead.offset !== 12 || ctx.harmonics || tone.harmonic) return 0
  const { tuning } = ctx
  return 12 - (tuning[lead.string - 1]! - tuning[lead.string]!) <= OCTAVE ? W.harmonicBelow : 0
}

/**
 * An octave on two strings is framed by first and fourth finger, which is how the ear and the hand know it.
 */
function octaveFrame({ places }: HandState): number {
  if (places.length !== 2) return 0
  const [p, q] = places as readonly [HeadPlace, HeadPlace]
  const octave =
    p.finger !== 0 && q.finger !== 0 && p.string - q.string === 1 && q.offset - p.offset === OCTAVE
  return octave && !(p.finger === 1 && q.finger === 4) ? W.octaveFrame : 0
}

/** A cello hand with a tone between first and second finger. */
const opened = (s: HandState) => s.shape === 'extended' || s.shape === 'back'

/** What each note in an open hand costs more, or less, by the cello school. */
const reachSchool = ({ reach }: HandOptions) =>
  reach === 'shift' ? W.openHandShift : reach === 'extend' ? W.openHandExtend : 0

/** Half position is next door; everywhere else is away. */
const startAway = (h: Semitones) =>
  (h === 1 ? W.startHalf : W.startAway) + W.startFar * Math.abs(h - HOME_ANCHOR)

/**
 * The first state of a line: beginning away from home wants a reason; that all of it lies there is one, if it
 * is not gone in a moment.
 */
export function startCost(
  instrument: InstrumentId,
  tone: Tone,
  around: Around,
  s: HandState,
  out?: Costs,
): number {
  const there = s.anchor > HOME_ANCHOR && around.lies !== null && standsThere(around.lies, s)
  const away = startAway(s.anchor) * (there ? 1 - lasting(tone.seconds) : 1)
  const cost =
    s.anchor === HOME_ANCHOR
      ? 0
      : (away + W.arrival * anchorCost(instrument, s)) * MANNERS[around.manner].start
  if (out) out[AT.place]! += cost
  return cost
}

/** The costs of going from a to b: their sum, and each added to `out` where it is given. */
export function transitionCost(
  ctx: CostContext,
  a: HandState,
  b: HandState,
  gap: HandGap,
  out?: Costs,
): number {
  const { quick } = gap
  const manner = MANNERS[gap.manner]
  const shift = shiftCost(ctx, a, b, gap, quick) * manner.shift
  const crossing =
    crossingCost(a, b, gap, quick, isLow(ctx.instrument)) *
    (gap.slurred ? manner.crossingSlurred : manner.crossing)
  const hop = hopCost(a, b, quick)
  const still = a.anchor === b.anchor
  const slide = still ? slideCost(ctx.instrument, a, b, quick, gap) * manner.slide : 0
  const stretch = still ? stretchCost(ctx.instrument, a, b, quick, gap.run) : 0
  const shape = still ? handShapeCost(a, b) : 0
  const hold = gap.returns && still && staysDown(a.lead, b.lead) ? W.holdKept : 0
  const substitution = (gap.sameNotes ? repeatCost(a, b) : 0) + (gap.held.length > 0 ? letGo(a, b, gap) : 0)
  const liking = ctx.taste ? tasteOfStep(ctx.taste, a, b, gap) : 0
  if (out) {
    out[AT.taste]! += liking
    out[AT.shift]! += shift
    out[AT.crossing]! += crossing
    out[AT.hop]! += hop
    out[AT.slide]! += slide
    out[AT.stretch]! += stretch
    out[AT.handShape]! += shape
    out[AT.hold]! += hold
    out[AT.substitution]! += substitution
  }
  return shift + crossing + hop + slide + stretch + shape + hold + substitution + liking
}

/** A note that sounds on stays where it is. */
function letGo(a: HandState, b: HandState, { held }: Gap): number {
  const moved = held.filter(({ head, next }) => {
    const [p, q] = [a.places.find(x => x.head === head), b.places.find(x => x.head === next)]
    return p?.string !== q?.string || p?.finger !== q?.finger
  })
  return W.heldMoved * moved.length
}

const repeatCost = (a: HandState, b: HandState) => (samePlaces(a, b) ? -W.repeated * b.cost : W.substitution)

const samePlaces = (a: HandState, b: HandState) =>
  a.places.length === b.places.length &&
  a.places.every((p, i) => p.string === b.places[i]!.string && p.finger === b.places[i]!.finger)

/**
 * Semitones from which on a move is so far that a finger other than the first has no more neighbour to go by.
 */
const FAR = 3

function shiftCost(ctx: CostContext, a: HandState, b: HandState, gap: HandGap, quick: number): number {
  if (a.anchor === b.anchor) return 0
  // Another octave harmonic than the one under the hand is fetched only on wish.
  const fetched =
    !ctx.harmonics && !gap.harmonic && (a.lead.harmonic || b.lead.harmonic) ? W.harmonicFetched : 0
  const mm = Math.abs(ctx.nutToAnchor[b.anchor]! - ctx.nutToAnchor[a.anchor]!)
  const [from, to] = [a.lead.finger, b.lead.finger]
  // An open string keeps the anchor: the hand moves when it is next needed, in the time the open string
  // rings.
  if (to === 0)
    return W.shift + 0.3 + fetched + (b.shape === 'thumb' && a.shape !== 'thumb' ? W.thumbLaid : 0)
  const seconds = from === 0 ? gap.free : gap.seconds
  const speed = Math.min(4, Math.max(0, mm / Math.max(0.05, seconds) / COMFORTABLE - 1))
  let cost = W.shift + W.shiftDistance * (mm / 100) + W.shiftSpeed * speed
  // The first finger tells the hand where it is; another one lands on trust, the more the further it is.
  const far = Math.min(1, Math.abs(b.anchor - a.anchor) / FAR)
  const trust = far * (isLow(ctx.instrument) ? W.solidHand : 1)
  if (b.anchor > a.anchor && to !== 1 && to !== 'T') cost += W.landing * trust
  if (b.anchor < a.anchor && from !== 1 && from !== 0) cost += W.leaving * trust
  if (from === to)
    cost += from === 1 ? W.firstFinger : W.sameFinger + W.sameFingerQuick * quick + sameFingerLow(ctx, gap)
  cost += W.shiftBreaks * tooQuick(ctx.model, mm, seconds, from === to)
  if (b.shape === 'thumb') cost += a.shape === 'thumb' ? W.thumbMove : W.thumbLaid
  if (b.anchor === HOME_ANCHOR) cost += W.homing
  // An open hand forms round its first finger; another one arrives there on trust.
  if (opened(b) && to !== 1) cost += W.arriveOpen
  if (gap.run && from !== 0) {
    if (b.anchor > a.anchor ? to !== 1 : from !== 1) cost += W.runHand
    if (gap.strong) cost += W.runBeat
  }
  if (gap.slurred && from !== 0) cost += W.shiftSlurred
  if (Math.abs(gap.interval) === 1 && from !== 0) cost += W.halfStepShift
  if (gap.strong) cost += W.strongBeatShift
  if (gap.rest >= 0.25) cost *= W.restShift
  else if (from === 0) cost *= W.openShift
  // The open string it was left over is what such a string is for.
  const left = from === 0 && a.anchor > HOME_ANCHOR && !isLow(ctx.instrument) ? W.openAway : 0
  const needless =
    gap.lies && !(standsThere(gap.lies, a) && standsThere(gap.lies, b))
      ? W.needlessShift * MANNERS[gap.manner].lies
      : 0
  const half =
    isLow(ctx.instrument) || gap.run || Math.min(a.anchor, b.anchor) >= HOME_ANCHOR ? 0 : W.halfShift * quick
  return cost + fetched + needless + half + W.arrival * anchorCost(ctx.instrument, b) - left
}

/** 0 for a shift there is time for; up to 1 the less it can be made in this tempo. */
function tooQuick(model: HandModel, mm: number, seconds: number, sameFinger: boolean): number {
  const least = leastShift(model, mm, sameFinger)
  return least <= seconds ? 0 : Math.min(1, 0.5 + least / Math.max(0.05, seconds) - 1)
}

/** On the bass one finger does not slide by a half step in tempo: the hand moves between two fingers. */
const sameFingerLow = ({ instrument }: CostContext, { interval, rest }: Gap) =>
  instrument === 'bass' && Math.abs(interval) === 1 && rest === 0 ? W.sameFingerLow : 0

/** One finger, one string, two places, a still hand. */
function slideCost(id: InstrumentId, a: HandState, b: HandState, quick: number, gap: Gap): number {
  const [p, q] = [a.lead, b.lead]
  if (p.finger === 0 || p.finger !== q.finger || p.string !== q.string || p.offset === q.offset) return 0
  const low = isLow(id) ? W.slideLow : 0
  const far = Math.abs(p.offset - q.offset)
  // A half-step neighbour and back: the finger leans over and returns.
  const leans = !low && far === 1 && (gap.returns || gap.back)
  const run = gap.run ? W.slideRun : 0
  const cost =
    (leans ? W.slideNeighbour : W.slide) +
    low +
    run +
    W.slideQuick * quick * (leans ? 0.3 : 1) +
    0.4 * (far - 1)
  if (gap.slurred) return cost + W.slideSlurred
  return gap.rest >= 0.25 ? cost * 0.5 : cost
}

/**
 * Whether a finger can stay where it is while the next one plays: on its own string only higher fingers leave
 * it down, elsewhere any other.
 */
export const staysDown = (p: HeadPlace, q: HeadPlace): boolean =>
  p.finger !== 0 && (p.string === q.string ? q.offset > p.offset : q.finger !== p.finger)

/** Costs as a record without the zeros, rounded for reading. */
export function costRecord(costs: Costs): Record<string, number> {
  const out: Record<string, number> = {}
  let total = 0
  costs.forEach((c, i) => {
    total += c
    if (Math.abs(c) > 0.005) out[COMPONENTS[i]!] = Math.round(c * 100) / 100
  })
  return { total: Math.round(total * 100) / 100, ...out }
}

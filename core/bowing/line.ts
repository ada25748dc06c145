/**
 * What every way to begin or to join a tone costs, compiled from the tones, the school, what may be added and
 * the teacher's pins.
 */
import type { BowTaste } from '#core/instruments/taste'
import { hurry } from '#core/line/time'
import type { EventId } from '#core/music/ids'
import { hookCosts, lengthened, liftCosts, slurCosts, type Costs } from './costs'
import { habitsOf, type Habit, type Habits } from './habits'
import { patternJoins, type Groove } from './pattern'
import type { StrokePin } from './pins'
import { POLICIES, type BowSchool, type May, type Policy } from './schools'
import { tasteAt } from './taste'
import type { BowTone } from './tones'
import { WEIGHTS as W } from './weights'

export type Direction = 'down' | 'up'
export type Way = 'turn' | 'slur' | 'hook' | 'lift'

export interface LineOptions {
  /** The school a tone is bowed by, with its groove where it has one. */
  readonly planOf: (event: EventId) => BowPlan
  readonly may: May
  /** How some rhythms are bowed unasked, where the school has no slurs of its own. */
  readonly habits: Habits
  readonly pins: Readonly<Record<EventId, StrokePin>>
  /** By event: slurred to the event before, or never, at the teacher's word. */
  readonly joins: Readonly<Record<EventId, boolean>>
  /** First events of phrases. */
  readonly phrases: ReadonlySet<EventId>
  /** Strings a tone sounds on, 0 the highest. */
  readonly stringOf: (event: EventId) => number
  /** Seconds one bow bears when it sings. */
  readonly bearing: number
  /** What the teacher has more or less taste for than our weights. */
  readonly taste?: BowTaste
  /** What was decided the first time through: the same marks stand the second time. */
  readonly ways?: readonly (Way | undefined)[]
}

export interface BowPlan {
  readonly school: BowSchool
  readonly groove: Groove | null
}

/**
 * Costs by tone; `[2 * k]` for a down bow, `[2 * k + 1]` for an up bow where there are two. Infinity where it
 * can't be.
 */
export interface BowLine {
  readonly tones: readonly BowTone[]
  readonly start: Float64Array
  readonly inside: Float64Array
  readonly join: Float64Array
  readonly turn: Float64Array
  readonly hook: Float64Array
  readonly lift: Float64Array
  /** 1 where a join would be added. */
  readonly added: Float64Array
  /** What habit joins to the tone before. */
  readonly habits: readonly (Habit | undefined)[]
  /**
   * Where on the bow a stroke that begins here should: lowest and highest place of its part, NaN where nobody
   * said.
   */
  readonly low: Float64Array
  readonly high: Float64Array
  /**
   * What a stroke that begins here costs by itself, beyond what a bow bears, and for more than one slur
   * added.
   */
  readonly stroke: Float64Array
  readonly over: Float64Array
  readonly more: Float64Array
  readonly bearing: number
  readonly lastUp: number
  /** What it was compiled from. */
  readonly from: Compiled
}

interface Compiled {
  readonly options: LineOptions
  readonly policies: readonly Policy[]
  /** The groove slurs it to the tone before. */
  readonly grooved: readonly boolean[]
  readonly phraseBeats: ReadonlySet<number>
  /** Some triplet of the tune is written in one bow. */
  readonly tripletsJoined: boolean
}

const UP = 1

/**
 * With the line of the bowing before, where nothing but pins differs, only the tones whose pins do are
 * compiled anew.
 */
export function bowLine(tones: readonly BowTone[], o: LineOptions, before?: BowLine): BowLine {
  if (before && differsByPins(before, tones, o)) return withPins(before, o)
  const n = tones.length
  const plans = tones.map(t => o.planOf(t.id))
  const policies = plans.map(p => POLICIES[p.school])
  const last = policies.at(-1)
  const row = (width = 1, fill = 0) => new Float64Array(width * n).fill(fill)
  const habits = habitsOf(tones, o.habits).map((h, k) => (policies[k]!.slurs === 'none' ? h : undefined))
  const from: Compiled = {
    options: o,
    policies,
    grooved: groovesOf(tones, plans, o),
    phraseBeats: downbeatsOf(tones, o.phrases),
    tripletsJoined: hasJoinedTriplet(tones),
  }
  const line = {
    tones,
    start: row(2),
    inside: row(2),
    join: row(),
    turn: row(),
    hook: row(),
    lift: row(),
    added: row(),
    low: row(1, NaN),
    high: row(1, NaN),
    stroke: row(),
    over: row(),
    more: row(),
    habits,
    bearing: o.bearing,
    lastUp: last ? last.lastStroke * W.lastUp : 0,
    from,
  }
  for (let k = 0; k < n; k++) toneCosts(line, k)
  startCosts(line, tones, o.pins[tones[0]?.id ?? '']?.direction !== undefined)
  return line
}

/** Everything one tone costs, into its own place of each row: nothing may stand there yet. */
function toneCosts(line: BowLine, k: number) {
  const { options: o, policies, grooved, phraseBeats } = line.from
  const [t, policy] = [line.tones[k]!, policies[k]!]
  if (policy.slurs === 'phrase') [line.stroke[k], line.over[k]] = [W.phraseStroke, W.phraseOver]
  if (policy.slurs === 'none') line.more[k] = W.slurMore
  directionCosts(line, k, t, policy, o)
  if (endsPart(line.tones, k)) {
    const up = policy.lastStroke * W.partEndUp
    line.start[2 * k + UP]! += up
    line.inside[2 * k + UP]! += up
  }
  if (phraseBeats.has(k)) line.start[2 * k + UP]! += policy.phraseStart * W.phraseUp
  if (k > 0) wayCosts(line, k, line.tones[k - 1]!, t, policy, o, grooved[k]!)
}

/**
 * The same tones under the same options, but for pins after the first tone (on whose pin hangs how the line
 * begins).
 */
function differsByPins({ tones: own, from }: BowLine, tones: readonly BowTone[], o: LineOptions): boolean {
  const was = from.options
  if (
    own !== tones ||
    was.ways ||
    o.ways ||
    was.joins !== o.joins ||
    was.bearing !== o.bearing ||
    was.taste !== o.taste
  )
    return false
  const sameWords = (a: object, b: object) => a === b || JSON.stringify(a) === JSON.stringify(b)
  if (!sameWords(was.may, o.may) || !sameWords(was.habits, o.habits)) return false
  if (was.phrases.size !== o.phrases.size || [...o.phrases].some(id => !was.phrases.has(id))) return false
  const first = tones[0]?.id ?? ''
  if (was.pins[first] !== o.pins[first]) return false
  return tones.every(
    t => samePlan(was.planOf(t.id), o.planOf(t.id)) && was.stringOf(t.id) === o.stringOf(t.id),
  )
}

const samePlan = (a: BowPlan, b: BowPlan) =>
  a.school === b.school && (a.groove === b.groove || JSON.stringify(a.groove) === JSON.stringify(b.groove))

function withPins(before: BowLine, o: LineOptions): BowLine {
  const { start, inside, join, turn, hook, lift, added, low, high, stroke, over, more } = before
  const line: BowLine = {
    ...before,
    start: start.slice(),
    inside: inside.slice(),
    join: join.slice(),
    turn: turn.slice(),
    hook: hook.slice(),
    lift: lift.slice(),
    added: added.slice(),
    low: low.slice(),
    high: high.slice(),
    stroke: stroke.slice(),
    over: over.slice(),
    more: more.slice(),
    from: { ...before.from, options: o },
  }
  const was = before.from.options.pins
  line.tones.forEach(({ id }, k) => {
    if (was[id] === o.pins[id]) return
    line.start.fill(0, 2 * k, 2 * k + 2)
    line.inside.fill(0, 2 * k, 2 * k + 2)
    for (const row of [
      line.join,
      line.turn,
      line.hook,
      line.lift,
      line.added,
      line.stroke,
      line.over,
      line.more,
    ])
      row[k] = 0
    line.low[k] = line.high[k] = NaN
    toneCosts(line, k)
  })
  return line
}

/** The tone on each phrase's first downbeat: where it begins, or where its pickup leads. */
function downbeatsOf(tones: readonly BowTone[], phrases: ReadonlySet<EventId>): Set<number> {
  const out = new Set<number>()
  tones.forEach((t, k) => {
    if (!phrases.has(t.id)) return
    let i = k
    while (i < tones.length - 1 && tones[i]!.strength < 3 && i - k < LONGEST_PICKUP) i++
    out.add(tones[i]!.strength === 3 ? i : k)
  })
  return out
}

const LONGEST_PICKUP = 4

/** For each tone whether the groove it is bowed in slurs it to the one before. */
function groovesOf(tones: readonly BowTone[], plans: readonly BowPlan[], o: LineOptions): boolean[] {
  const out: boolean[] = tones.map(() => false)
  for (const groove of new Set(plans.map(p => p.groove))) {
    if (!groove) continue
    patternJoins(tones, groove, o.phrases).forEach((joined, k) => {
      if (plans[k]!.groove === groove) out[k] = joined
    })
  }
  return out
}

/** A stroke that begins here in either direction, and a tone that lies inside one. */
function directionCosts(line: BowLine, k: number, t: BowTone, policy: Policy, o: LineOptions) {
  const up = 2 * k + UP
  if (t.strength === 3) line.start[up]! += policy.firstBeat * W.upOnFirst * (t.pass === 1 ? 1 : W.laterTime)
  else if (t.strength === 2) line.start[up]! += policy.firstBeat * W.upOnSecond
  const pin = o.pins[t.id]
  if (t.marked && !pin?.direction) {
    const wrong = 2 * k + (t.marked === 'down' ? UP : 0)
    line.start[wrong]! += W.againstMark
    line.inside[wrong]! += W.againstMark
  }
  if (pin?.direction) {
    const wrong = 2 * k + (pin.direction === 'down' ? UP : 0)
    line.start[wrong]! += PINNED
    line.inside[wrong]! += PINNED
  }
  if (pin?.at !== undefined) line.low[k] = line.high[k] = pin.at
  else if (pin?.part) [line.low[k], line.high[k]] = PARTS[pin.part]
}

/** A pin is broken only where two contradict each other: dearer than anything, and still a number. */
export const PINNED = 1000

/** Parts of the bow, from the frog (0) to the tip (1). */
export const PARTS: Readonly<Record<NonNullable<StrokePin['part']>, [number, number]>> = {
  frog: [0, 0.2],
  lower: [0, 0.5],
  middle: [0.25, 0.75],
  upper: [0.5, 1],
  tip: [0.8, 1],
  whole: [0, 1],
}

/** The line starts down, or up when a pickup leads in; after the start all follows. */
function startCosts(line: BowLine, tones: readonly BowTone[], said: boolean) {
  const first = tones[0]
  if (!first || first.marked || said) return
  if (!first.pickup) line.start[UP]! += W.wrongStart
  else {
    // From the strokes of the pickup follows how it begins, so that the first beat comes down; rather with an
    // up.
    let strokes = 0
    let k = 0
    for (; k < tones.length && tones[k]!.pickup && tones[k]!.measureIndex === first.measureIndex; k++)
      if (!tones[k]!.slurred) strokes++
    line.start[strokes % 2 === 1 ? 0 : UP]! += line.more[0]! > 0 && strokes % 2 === 0 ? 0 : W.wrongStart / 2
    if (strokes % 2 === 0) line.start[0]! += W.downPickup
  }
}

/**
 * Two notes of one length with a note of half that length, or less, before or after them in their measure.
 */
function isBesideShorter(tones: readonly BowTone[], k: number): boolean {
  const [a, b] = [tones[k - 1]!, tones[k]!]
  if (Math.abs(a.length - b.length) > 1e-6) return false
  return [tones[k - 2], tones[k + 1]].some(
    t => t !== undefined && t.measureIndex === a.measureIndex && t.length <= a.length / 2 + 1e-6,
  )
}

/** How many written slurs a slur to the tone before would make longer. */
function lengthens(tones: readonly BowTone[], k: number): 0 | 1 | 2 {
  const before = tones[k - 1]!.slurred
  const after = tones[k + 1]?.slurred === true
  return before && after ? 2 : before || after ? 1 : 0
}

const inTriplet = (a: BowTone, b: BowTone) => a.tuplet !== null && a.tuplet === b.tuplet

/** Three notes of a group in one bow, as it is written. */
const hasJoinedTriplet = (tones: readonly BowTone[]) =>
  tones.some((c, k) => {
    const [a, b] = [tones[k - 2], tones[k - 1]]
    return a !== undefined && b !== undefined && b.slurred && c.slurred && inTriplet(a, b) && inTriplet(b, c)
  })

/** It lies in the measure a part, or the line, ends with. */
function inLastMeasure(tones: readonly BowTone[], k: number): boolean {
  let last = k
  while (tones[last + 1]?.measureIndex === tones[k]!.measureIndex && tones[last + 1]!.follows) last++
  return last === tones.length - 1 || endsPart(tones, last)
}

/** The last tone before a repeat. */
const endsPart = (tones: readonly BowTone[], k: number) => tones[k + 1]?.follows === false

function wayCosts(
  line: BowLine,
  k: number,
  a: BowTone,
  b: BowTone,
  policy: Policy,
  o: LineOptions,
  grooved: boolean,
) {
  const pin = o.pins[b.id]
  const costs: Costs = {
    a,
    b,
    strings: Math.abs(o.stringOf(a.id) - o.stringOf(b.id)),
    phrase: o.phrases.has(b.id),
    leadsIn: b.strength === 3 && (a.pickup || o.phrases.has(a.id)),
    besideShorter: isBesideShorter(line.tones, k),
    lengthens: lengthens(line.tones, k),
    tripletsJoined: line.from.tripletsJoined && inTriplet(a, b),
  }
  const touching = b.follows && b.restBefore === 0
  const named = o.joins[b.id]
  const written = b.slurred
  if (b.hooked && !pin?.way && named === undefined)
    return writtenHook(line, k, allowed(o.may, policy, 'part'))
  line.added[k] = written ? 0 : 1

  // Written or wished slurs stand; the school's own come with it; others where they may.
  if (written) line.join[k] = 0
  // A direction is written where a bow begins.
  else if (!touching || named === false || (b.marked && named === undefined)) line.join[k] = Infinity
  else line.join[k] = slurFor(costs, policy.slurs, grooved, allowed(o.may, policy, 'slur'))
  const habit = named === undefined && !written && !b.marked ? line.habits[k] : undefined
  if (habit?.way === 'slur') line.join[k] = 0

  const part = inLastMeasure(line.tones, k) ? W.partAtEnd : W.part
  if (written) line.turn[k] = allowed(o.may, policy, 'part') && named !== true ? part : Infinity
  else line.turn[k] = habit ? W.againstHabit : b.marked ? 0 : turnFor(costs, policy.slurs, grooved)

  line.hook[k] =
    habit?.way === 'hook' ? 0 : !written && allowed(o.may, policy, 'hook') ? hookCosts(costs) : Infinity
  const fresh = b.lifted || b.restBefore >= FRESH
  const liftable = policy.liftRest < Infinity && (allowed(o.may, policy, 'lift') || fresh) && !written
  const enough = b.restBefore >= policy.liftRest || b.lifted || policy.liftRest <= SHORT_REST
  // Where a direction is pinned or written a lift is always possible: two that contradict each other leave no
  // other way.
  const forced = pin?.direction !== undefined ? W.liftForced : b.marked !== null ? W.liftMarked : Infinity
  line.lift[k] = liftable && enough ? liftCosts(costs) : written ? Infinity : forced

  if (o.taste && !pin?.way) tasteAt(o.taste, line, k)
  const fixed = o.ways?.[k]
  const way = pin?.way ?? fixed
  if (way) only(line, k, way, b, pin?.way !== undefined)
}

const allowed = (may: May, policy: Policy, way: keyof May) => may[way] && policy.may[way]

/** A hook that is written stands, unless slurs may be parted. */
function writtenHook(line: BowLine, k: number, part: boolean) {
  line.join[k] = Infinity
  line.hook[k] = 0
  line.turn[k] = part ? W.part : Infinity
  line.lift[k] = Infinity
}

/** Seconds of rest in which the bow comes off the string anyway. */
const FRESH = 1
const SHORT_REST = 0.2

/** One way alone; a lift into a rest stays possible, because it changes no mark. */
function only(line: BowLine, k: number, way: Way, b: BowTone, pinned: boolean) {
  const keep = { slur: 'join', turn: 'turn', hook: 'hook', lift: 'lift' } as const
  for (const name of Object.values(keep)) {
    if (name === keep[way]) {
      // What was decided once is not paid for again at the repeat; a pin is not paid for at all.
      if (line[name][k] === Infinity || line[name][k] === W.liftForced) line[name][k] = pinned ? 0 : 0.2
      else if (pinned) line[name][k] = 0
    } else if (!(name === 'lift' && !pinned && b.restBefore >= SHORT_REST)) {
      line[name][k] = Infinity
    }
  }
}

function slurFor(c: Costs, own: Policy['slurs'], joined: boolean, free: boolean) {
  switch (own) {
    case 'syllable':
      return c.b.syllable === false ? 0 : Infinity
    case 'pattern':
      return joined ? 0 : free ? W.patternSlur + slurCosts(c) - W.slur : Infinity
    case 'phrase':
      return phraseJoin(c)
    case 'none':
      return free ? slurCosts(c) : Infinity
  }
}

const phraseJoin = (c: Costs) =>
  (c.b.strength === 3 ? W.phraseJoinBar : 0) +
  (c.phrase ? W.slurOverPhrase : 0) +
  (c.leadsIn ? W.phraseFromPickup : 0) +
  (c.a.midi === c.b.midi ? W.slurSamePitch : 0) +
  lengthened(c) +
  (c.strings > 1 ? W.slurSkip * hurry(c.a.seconds) : 0)

function turnFor(c: Costs, own: Policy['slurs'], joined: boolean) {
  if (own === 'syllable' && c.b.syllable === false && c.b.follows && c.b.restBefore === 0) return Infinity
  if (own === 'pattern' && joined) return W.patternPart
  if (own === 'phrase' && c.b.restBefore === 0 && !c.phrase) return W.phraseTurn[c.b.strength]!
  return 0
}

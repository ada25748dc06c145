/**
 * Directions, and where on the bow each stroke happens. The direction of every stroke follows from all before it; a retake is taken only where
 * the music gives time or a pin asks. The place on the bow is a shortest path over {@link STEPS} places, each stroke choosing its length near
 * the one it wants (dynamic programming, as for the left hand).
 */
import { finding, type Finding, type Mend } from '#core/findings/finding'
import type { Mm } from '#core/instruments/instruments'
import type { Tune } from '#core/music/tune'
import { strokesOf, type PlayedStroke, type StrokeOptions } from './strokes'

export type Direction = 'down' | 'up'
export type BowSchool = 'down' | 'as-it-comes'

export interface BowingOptions extends StrokeOptions {
  readonly school: BowSchool
  /** Playable hair. */
  readonly hair: Mm
  readonly pins?: Readonly<Record<string, Direction>>
  /** Name of the part a measure lies in. */
  readonly partOf?: (measureIndex: number) => string | undefined
}

export interface Stroke extends PlayedStroke {
  readonly direction: Direction
  /** Place on the bow at the start and the end: 0 the frog, 1 the tip. */
  readonly from: number
  readonly to: number
  /** The bow is lifted and set back before this stroke. */
  readonly lift: boolean
  readonly why: StrokeReason
}

export type StrokeReason = 'start' | 'turn' | 'retake' | 'pinned'

export interface Bowing {
  /** In playing order, repeats unfolded. */
  readonly strokes: readonly Stroke[]
  /** The strokes of the first time through each measure: what is written on the page. */
  readonly written: readonly Stroke[]
  readonly findings: readonly Finding[]
}

/** Places told apart on the bow. */
const STEPS = 24
/** Seconds in which a whole bow passes at an ordinary singing speed. */
const WHOLE_BOW_SECONDS = 1.6
const SHORTEST = 2 / STEPS
/** A rest this long, in seconds, leaves time to set the bow anew. */
const RETAKE_REST = 0.2

/** Share of the hair a stroke wants: by its length in time, fuller when loud or accented; never quite the whole bow. */
export function wantedLength(s: PlayedStroke): number {
  const wanted = (s.seconds / WHOLE_BOW_SECONDS) * 0.9 * s.loudness * (s.accent ? 1.25 : 1)
  return Math.max(SHORTEST, Math.min(0.92, wanted))
}

const other = (d: Direction): Direction => (d === 'down' ? 'up' : 'down')

export function bowTune(tune: Tune, options: BowingOptions): Bowing {
  const played = strokesOf(tune, options)
  const findings: Finding[] = []
  const directions = directionsOf(played, options, findings)
  const placed = placeOnBow(played, directions)
  const strokes = played.map((s, i): Stroke => {
    const { direction, lift, why } = directions[i]!
    const { from, to } = placed[i]!
    const { notes, seconds, restBefore, lifted, loudness, accent, strength, measure, measureIndex, pass } = s
    // Field by field: copying by spread took most of the time of the whole bowing.
    return { notes, seconds, restBefore, lifted, loudness, accent, strength, measure, measureIndex, pass, direction, lift, why, from, to } // prettier-ignore
  })
  findings.push(...hairFindings(strokes, options.hair), ...otherBow(tune, strokes, options.partOf))
  return { strokes, written: firstTimes(strokes), findings }
}

/** A slurred stroke over a repeat may differ the second time; the page shows the first. */
function firstTimes(strokes: readonly Stroke[]): Stroke[] {
  const seen = new Set<string>()
  return strokes.filter(s => {
    if (seen.has(s.notes[0]!)) return false
    s.notes.forEach(n => seen.add(n))
    return true
  })
}

type Directed = Pick<Stroke, 'direction' | 'lift' | 'why'>

function directionsOf(
  strokes: readonly PlayedStroke[],
  options: BowingOptions,
  findings: Finding[],
): Directed[] {
  const out: Directed[] = []
  strokes.forEach((s, i) => {
    const before = out[i - 1]
    const pin = pinOf(s, options.pins ?? {}, findings)
    const fresh = !before || s.lifted || s.restBefore >= RETAKE_REST
    const turned = before ? other(before.direction) : 'down'
    let direction: Direction = turned
    if (pin) direction = pin
    else if (fresh && options.school === 'down') direction = towardsDownbeat(strokes, i, options.pins ?? {})
    const lift = before !== undefined && direction === before.direction
    out.push({ direction, lift, why: pin ? 'pinned' : !before ? 'start' : lift ? 'retake' : 'turn' })
  })
  return out
}

function pinOf(
  s: PlayedStroke,
  pins: Readonly<Record<string, Direction>>,
  findings: Finding[],
): Direction | undefined {
  for (const id of s.notes.slice(1)) {
    const pin = pins[id]
    if (pin && pin !== pins[s.notes[0]!] && s.pass === 1) {
      const mends: Mend[] = [
        { kind: 'join', note: id, slurred: false },
        { kind: 'unpin', note: id, what: 'stroke' },
      ]
      findings.push(
        finding('bow.pinUnmet', 'warning', { measure: s.measure, note: id }, { direction: pin }, mends),
      )
    }
  }
  return pins[s.notes[0]!]
}

/** How far to look for the strong beat a fresh start should meet with a down bow. */
const LOOK_AHEAD = 8

/** The direction from which, bow by bow, the next first beat (or the next pin) comes out right. */
function towardsDownbeat(
  strokes: readonly PlayedStroke[],
  i: number,
  pins: Readonly<Record<string, Direction>>,
): Direction {
  for (let k = i; k < Math.min(strokes.length, i + LOOK_AHEAD); k++) {
    const even = (k - i) % 2 === 0
    const pin = pins[strokes[k]!.notes[0]!]
    if (pin) return even ? pin : other(pin)
    if (strokes[k]!.strength === 3) return even ? 'down' : 'up'
    if (k > i && (strokes[k]!.restBefore >= RETAKE_REST || strokes[k]!.lifted)) break
  }
  return strokes[i]!.strength >= 1 ? 'down' : 'up'
}

/** Lengths tried for a stroke, as shares of the one it wants, and what each costs. */
const LENGTHS: readonly (readonly [number, number])[] = [
  [1, 0], [0.8, 0.12], [0.6, 0.4], [0.4, 1.1], [1.25, 0.15], [1.6, 0.5], [2.2, 1.2],
] // prettier-ignore
/** Leaving the comfortable part costs: light tip, heavy frog. */
const END_COST: readonly number[] = Array.from({ length: STEPS + 1 }, (_, step) =>
  step <= 1 || step >= STEPS - 1 ? 0.25 : step <= 3 || step >= STEPS - 3 ? 0.06 : 0,
)
/** Moving the bow through the air, per whole bow. */
const AIR = 0.8

/** One layer of the search: for each place where a stroke may end, the best cost, where it began and where the one before ended. */
interface Layer {
  readonly cost: Float64Array
  readonly start: Int8Array
  readonly before: Int8Array
}

const PLACES = STEPS + 1
/** Every place after itself: a stroke that begins where the one before ended. */
const HERE: ArrayLike<number> = Array.from({ length: PLACES }, (_, p) => p)
/** Taking whatever hair is left when no wanted length fits. */
const SQUEEZED = 3

/** Shortest path over the places of the bow. */
function placeOnBow(
  strokes: readonly PlayedStroke[],
  directions: readonly Directed[],
): Pick<Stroke, 'from' | 'to'>[] {
  const layers: Layer[] = []
  strokes.forEach((s, i) => {
    const { direction, lift } = directions[i]!
    const free = lift || s.restBefore >= RETAKE_REST
    const ways = i === 0 ? beginnings(direction, wantedLength(s)) : starts(layers[i - 1]!, free)
    layers.push(drawn(ways, direction === 'down' ? 1 : -1, wantedLength(s)))
  })
  return trace(layers)
}

interface Starts {
  readonly cost: Float64Array
  readonly before: ArrayLike<number>
}

/** A line begins near the frog going down, near the tip going up; with short notes further in. */
function beginnings(direction: Direction, wanted: number): Starts {
  const inset = Math.min(8, STEPS * (1 - wanted) * 0.5)
  const wish = direction === 'down' ? inset : STEPS - inset
  return {
    cost: Float64Array.from({ length: PLACES }, (_, start) => Math.abs(start - wish) * 0.03),
    before: new Int8Array(PLACES).fill(-1),
  }
}

/** Where a stroke may begin: where the one before ended, or with time to move through the air, anywhere. */
function starts(last: Layer, free: boolean): Starts {
  if (!free) return { cost: last.cost, before: HERE }
  const cost = new Float64Array(PLACES).fill(Infinity)
  const before = new Int8Array(PLACES)
  for (let start = 0; start < PLACES; start++) {
    for (let b = 0; b < PLACES; b++) {
      const c = last.cost[b]! + (Math.abs(b - start) / STEPS) * AIR
      if (c >= cost[start]!) continue
      cost[start] = c
      before[start] = b
    }
  }
  return { cost, before }
}

function drawn(ways: Starts, sign: 1 | -1, wanted: number): Layer {
  const cost = new Float64Array(PLACES).fill(Infinity)
  const start = new Int8Array(PLACES)
  const before = new Int8Array(PLACES)
  for (let k = 0; k <= LENGTHS.length; k++) {
    const length = LENGTHS[k]
    const steps = length ? sign * Math.max(1, Math.round(wanted * length[0] * STEPS)) : 0
    const rim = sign > 0 ? STEPS : 0
    for (let from = 0; from < PLACES; from++) {
      // After the lengths wanted comes what is left up to the end of the hair.
      const end = length ? from + steps : rim
      if (end < 0 || end > STEPS || end === from) continue
      const extra = length ? length[1] + END_COST[end]! : SQUEEZED + Math.abs(rim - from) * 0.01
      const c = ways.cost[from]! + extra
      if (c >= cost[end]!) continue
      cost[end] = c
      start[end] = from
      before[end] = ways.before[from]!
    }
  }
  return { cost, start, before }
}

function trace(layers: readonly Layer[]): Pick<Stroke, 'from' | 'to'>[] {
  const out: Pick<Stroke, 'from' | 'to'>[] = []
  const last = layers.at(-1)
  let end = last ? last.cost.reduce((b, c, k, row) => (c < row[b]! ? k : b), 0) : 0
  for (let i = layers.length - 1; i >= 0; i--) {
    const { start, before } = layers[i]!
    out.push({ from: start[end]! / STEPS, to: end / STEPS })
    end = before[end]!
  }
  return out.reverse()
}

/** A stroke is short of hair when it gets less than this share of what it wants. */
const SHORT_OF_HAIR = 0.55

function hairFindings(strokes: readonly Stroke[], hair: Mm): Finding[] {
  const cm = (share: number) => Math.round((share * hair) / 10)
  return strokes.flatMap(s => {
    const [given, wanted] = [Math.abs(s.to - s.from), wantedLength(s)]
    if (s.pass > 1 || given >= SHORT_OF_HAIR * wanted) return []
    const values = {
      end: s.direction === 'down' ? ('tip' as const) : ('frog' as const),
      given: cm(given),
      wanted: cm(wanted),
    }
    return [finding('bow.hairRunsOut', 'warning', { measure: s.measure, note: s.notes[0]! }, values)]
  })
}

/** A repeated part that starts on the other bow the second time, with slurs, a lift or a pin that would mend it. */
function otherBow(
  tune: Tune,
  strokes: readonly Stroke[],
  partOf: BowingOptions['partOf'] = () => undefined,
): Finding[] {
  const out: Finding[] = []
  const first = new Map<string, Stroke>()
  let told = -2
  for (const s of strokes) {
    const key = s.notes[0]!
    const before = first.get(key)
    if (!before) first.set(key, s)
    else {
      const differs = before.direction !== s.direction
      const startsPass = s.pass > 1 && told !== repeatStartOf(tune, s.measureIndex)
      if (startsPass && differs) out.push(otherBowFinding(partOf(s.measureIndex), before, s))
      if (startsPass) told = repeatStartOf(tune, s.measureIndex)
    }
  }
  return out
}

/** The index of the measure where the repeat around a measure begins. */
function repeatStartOf(tune: Tune, index: number): number {
  let i = index
  while (
    i > 0 &&
    !tune.measures[i]!.repeatStart &&
    !(tune.measures[i - 1]!.repeatEnd && !tune.measures[i]!.endings)
  )
    i--
  return i
}

function otherBowFinding(name: string | undefined, before: Stroke, again: Stroke): Finding {
  const note = again.notes[0]!
  const mends: Mend[] = [{ kind: 'stroke', note, direction: before.direction }]
  const values = { part: name ?? null, first: before.direction, second: again.direction }
  return finding('bow.otherBow', 'warning', { measure: again.measure, note }, values, mends)
}

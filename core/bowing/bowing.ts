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
  const strokes = played.map((s, i) => ({ ...s, ...directions[i]!, ...placed[i]! }))
  findings.push(...endFindings(strokes), ...otherBow(tune, strokes, options.partOf))
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
        { kind: 'join', note: id, slurred: false, label: 'Part the slur here' },
        { kind: 'unpin', note: id, what: 'stroke', label: 'Take the pin off' },
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
const endCost = (step: number) =>
  step <= 1 || step >= STEPS - 1 ? 0.25 : step <= 3 || step >= STEPS - 3 ? 0.06 : 0
/** Moving the bow through the air, per whole bow. */
const AIR = 0.8

/** Shortest path over the places of the bow. */
function placeOnBow(
  strokes: readonly PlayedStroke[],
  directions: readonly Directed[],
): Pick<Stroke, 'from' | 'to'>[] {
  type Cell = { cost: number; before: number; start: number }
  const layers: Cell[][] = []
  strokes.forEach((s, i) => {
    const layer: Cell[] = Array.from({ length: STEPS + 1 }, () => ({ cost: Infinity, before: -1, start: -1 }))
    const sign = directions[i]!.direction === 'down' ? 1 : -1
    const free = i === 0 || directions[i]!.lift || s.restBefore >= RETAKE_REST
    const options = LENGTHS.map(
      ([share, cost]) => [Math.max(1, Math.round(wantedLength(s) * share * STEPS)), cost] as const,
    )
    const reach = (start: number, cost: number, before: number) => {
      for (const [steps, extra] of options) {
        const end = start + sign * steps
        if (end < 0 || end > STEPS) continue
        const total = cost + extra + endCost(end)
        if (total < layer[end]!.cost) layer[end] = { cost: total, before, start }
      }
      // Whatever is left of the hair, when nothing else fits.
      const end = sign > 0 ? STEPS : 0
      const total = cost + 3 + Math.abs(end - start) * 0.01
      if (end !== start && total < layer[end]!.cost) layer[end] = { cost: total, before, start }
    }
    for (let start = 0; start <= STEPS; start++) {
      if (i === 0) {
        // A line begins near the frog going down, near the tip going up; short notes in between.
        const wish =
          sign > 0
            ? Math.min(8, STEPS * (1 - wantedLength(s)) * 0.5)
            : STEPS - Math.min(8, STEPS * (1 - wantedLength(s)) * 0.5)
        reach(start, Math.abs(start - wish) * 0.03, -1)
        continue
      }
      const before = layers[i - 1]!
      if (!free) reach(start, before[start]!.cost, start)
      else before.forEach((c, b) => reach(start, c.cost + (Math.abs(b - start) / STEPS) * AIR, b))
    }
    layers.push(layer)
  })
  return trace(layers)
}

function trace(
  layers: readonly { cost: number; before: number; start: number }[][],
): Pick<Stroke, 'from' | 'to'>[] {
  const out: Pick<Stroke, 'from' | 'to'>[] = []
  let end = layers.length ? layers.at(-1)!.reduce((b, c, k, row) => (c.cost < row[b]!.cost ? k : b), 0) : 0
  for (let i = layers.length - 1; i >= 0; i--) {
    const cell = layers[i]![end]!
    out.unshift({ from: cell.start / STEPS, to: end / STEPS })
    end = cell.before
  }
  return out
}

/** Where a stroke gets much less hair than it wants, at an end of the bow. */
function endFindings(strokes: readonly Stroke[]): Finding[] {
  return strokes.flatMap(s => {
    const given = Math.abs(s.to - s.from)
    const atEnd = s.to >= 1 - 1 / STEPS || s.to <= 1 / STEPS
    if (s.pass > 1 || !atEnd || given >= 0.55 * wantedLength(s)) return []
    const end = s.to > 0.5 ? 'tip' : 'frog'
    return [finding('bow.hairRunsOut', 'warning', { measure: s.measure, note: s.notes[0]! }, { end })]
  })
}

/** A repeated part that starts on the other bow the second time, with slurs, a lift or a pin that would mend it. */
function otherBow(tune: Tune, strokes: readonly Stroke[], partOf: BowingOptions['partOf'] = () => undefined): Finding[] {
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
  const part = name ? `Part ${name}` : `The part at measure ${again.measure}`
  const mends: Mend[] = [
    {
      kind: 'stroke',
      note,
      direction: before.direction,
      label: `Lift before the repeat: ${before.direction} each time`,
    },
  ]
  const values = { part, first: before.direction, second: again.direction }
  return finding('bow.otherBow', 'warning', { measure: again.measure, note }, values, mends)
}

export const REASONS: Record<StrokeReason, string> = {
  start: 'The line starts so that the first beat comes down.',
  turn: 'In turn after the stroke before.',
  retake: 'Lifted and set anew: there is time for it.',
  pinned: 'Pinned by you.',
}

/** One sentence for a stroke. */
export const whyStroke = (s: Stroke, school: BowSchool) =>
  s.why === 'start' && school === 'as-it-comes'
    ? 'The line starts down and goes on as it comes.'
    : REASONS[s.why]

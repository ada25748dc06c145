/**
 * Where a phrase lies: at home, when everything in it is there; else in the one place of the hand that holds
 * it whole on two strings, which it fills from the first finger to the fourth, or on the cello under the laid
 * thumb. The hands of cello and bass, which move as one, go home and back for less.
 */
import { groupBy } from '#core/groupBy'
import { HOME_ANCHOR, THUMB_HOME } from '#core/instruments/hands'
import { isLow } from '#core/instruments/instruments'
import { QUICK } from '#core/line/time'
import type { Tone } from '#core/line/tones'
import type { InstrumentId } from '#core/music/tune'
import type { HandState, HeadPlace } from './candidates'
import type { Manner } from './places'

/** For each tone the number of its phrase; one phrase where nobody says where they begin. */
export function inPhrases(ids: readonly string[], starts?: ReadonlySet<string>): string[] {
  let phrase = 0
  return ids.map(id => {
    if (starts?.has(id)) phrase++
    return String(phrase)
  })
}

/** A place that holds a whole phrase: anchors of the hand, fingers or laid thumb. */
export interface Lies {
  readonly anchors: ReadonlySet<number>
  readonly thumb: boolean
  /** The place in short, for keys. */
  readonly key: string
}

export const HOME: Lies = { anchors: new Set([0, 1, HOME_ANCHOR]), thumb: false, key: 'home' }

/** Whether a hand stands where the phrase lies. */
export const standsThere = ({ anchors, thumb }: Lies, s: HandState) =>
  anchors.has(s.anchor) && (s.shape === 'thumb') === thumb

/** The place that holds two tones and all of their phrase. */
export const shared = (a: Lies | null | undefined, b: Lies | null | undefined): Lies | null =>
  a && b && a.key === b.key ? a : null

/** Whether a hand in first position has the tone without stretching for it. */
const atHome = (states: readonly HandState[]) =>
  states.some(s => s.anchor === HOME_ANCHOR && s.places.every(p => !p.harmonic && p.mark !== 'extended'))

/** From the second position to the fourth: further up a hand has to be looked for. */
const POSITIONS = [3, 4, 5, 6, 7]
/** Fewer tones make no passage. */
const LEAST_TONES = 6
/**
 * Semitones from the first finger on a string to the fourth on the next: what spans less is one string's
 * matter.
 */
const FRAME: Readonly<Record<InstrumentId, number>> = { violin: 12, viola: 12, cello: 10, bass: 7 }
/** What the laid thumb and the third finger span on two strings. */
const OCTAVE = 12

/**
 * For each tone where its phrase lies; null when it lies nowhere as a whole. A tune that lies whole in one
 * place has all its phrases there.
 */
export function lies(
  instrument: InstrumentId,
  tones: readonly Tone[],
  states: readonly (readonly HandState[])[],
  starts?: ReadonlySet<string>,
  manners: readonly Manner[] = [],
): (Lies | null)[] {
  const all = tones.map((tone, i): Stopped => ({
    tone,
    states: states[i]!,
    bound: tone.slurredOn || tones[i - 1]?.slurredOn === true,
    manner: manners[i] ?? 'plain',
  }))
  const whole = placesOf(instrument, all)
  if (whole.some(Boolean)) return whole
  const phrases = inPhrases(
    tones.map(t => t.id),
    starts,
  )
  const together = groupBy([...all.keys()], i => phrases[i]!)
  return [...together.values()].flatMap(own =>
    placesOf(
      instrument,
      own.map(i => all[i]!),
    ),
  )
}

/** A tone with all the ways to play it. */
interface Stopped {
  readonly tone: Tone
  readonly states: readonly HandState[]
  /** Under a slur with a neighbour; in a phrase that is kept in one position. */
  readonly bound: boolean
  readonly manner: Manner
}

/**
 * The place of tones that belong together; none for an open string before them, which gives the hand its time
 * to get there.
 */
function placesOf(instrument: InstrumentId, list: readonly Stopped[]): (Lies | null)[] {
  if (list.length > 0 && list.every(t => t.manner === 'stays'))
    return list.map(t => (atHome(t.states) ? HOME : null))
  if (list.length > 0 && list.every(t => t.manner === 'position')) {
    const flats = instrument === 'viola' && cramped(list) ? inSecond(list) : null
    const place = flats ?? keptInPosition(list)
    if (place) return list.map(() => place)
  }
  if (list.every(t => atHome(t.states))) {
    const instead = instrument === 'viola' && unhurried(list) && cramped(list) ? inSecond(list) : null
    return list.map(() => instead ?? (isLow(instrument) ? null : HOME))
  }
  const place = awayFrom(instrument, list)
  if (place || !list[0]?.states.some(s => s.lead.finger === 0)) return list.map(() => place)
  const later = awayFrom(instrument, list.slice(1))
  return list.map((_, i) => (i === 0 ? null : later))
}

/**
 * Half, first, second and third position by the first finger's anchors: the low place of each, then the high
 * one.
 */
const KEPT: readonly {
  readonly anchors: readonly number[]
  readonly away: 'first' | 'half' | 'second' | 'third'
}[] = [
  { anchors: [HOME_ANCHOR], away: 'first' },
  { anchors: [1], away: 'half' },
  { anchors: [3, 4], away: 'second' },
  { anchors: [5, 6], away: 'third' },
]

/** What a sung phrase pays to lie in a position, in crossings under a slur. */
export const POSITION_COSTS = {
  /** Not to be at home: the ear has to find it, and the pupil has to know it. */
  first: 0,
  half: 0.3,
  second: 2.25,
  third: 1.2,
  /** A finger drawn back or stretched. */
  drawn: 0.5,
  /** An open string under a slur sounds of another place; elsewhere it rings. */
  openBound: 0.8,
  open: 0.1,
  crossedBound: 1,
  crossed: 0.25,
  /** A finger has to slide: one note has one finger. */
  slides: 1.5,
}

/**
 * The position in which a sung phrase stays on its strings with one finger for every note; null where none
 * holds it, or first position does as well.
 */
function keptInPosition(list: readonly Stopped[]): Lies | null {
  const costs = KEPT.map(p => ({ ...p, total: POSITION_COSTS[p.away] + costIn(list, p.anchors) }))
  const best = costs.reduce((a, b) => (b.total < a.total ? b : a))
  if (!Number.isFinite(best.total)) return null
  return best.anchors[0] === HOME_ANCHOR
    ? HOME
    : { anchors: new Set(best.anchors), thumb: false, key: best.anchors.join() }
}

/** The least a line costs within one position: a shortest path over the strings. */
function costIn(list: readonly Stopped[], anchors: readonly number[]): number {
  let now = new Map<string, { string: number; finger: unknown; offset: number; cost: number }>()
  for (const [i, t] of list.entries()) {
    const next = new Map<string, { string: number; finger: unknown; offset: number; cost: number }>()
    const open = anchors.includes(HOME_ANCHOR)
    for (const s of t.states) {
      const p = s.lead
      if (p.harmonic || (p.finger === 0 ? !open && t.bound : !anchors.includes(s.anchor))) continue
      const own =
        s.places.filter(reached).length * POSITION_COSTS.drawn +
        (p.finger === 0 ? (t.bound ? POSITION_COSTS.openBound : POSITION_COSTS.open) : 0)
      let best = i === 0 ? 0 : Infinity
      for (const q of now.values()) {
        const slurred = list[i - 1]!.tone.slurredOn
        const crossed =
          q.string === p.string ? 0 : slurred ? POSITION_COSTS.crossedBound : POSITION_COSTS.crossed
        const slides =
          q.string === p.string && q.finger === p.finger && q.offset !== p.offset ? POSITION_COSTS.slides : 0
        best = Math.min(best, q.cost + crossed + slides)
      }
      const key = `${p.string} ${String(p.finger)} ${p.offset}`
      const cost = best + own
      if (cost < (next.get(key)?.cost ?? Infinity))
        next.set(key, { string: p.string, finger: p.finger, offset: p.offset, cost })
    }
    if (next.size === 0) return Infinity
    now = next
  }
  return Math.min(...[...now.values()].map(q => q.cost))
}

function awayFrom(instrument: InstrumentId, list: readonly Stopped[]): Lies | null {
  const span = list.length < LEAST_TONES ? 0 : spanOf(list.map(t => t.tone))
  if (span < FRAME[instrument]) return null
  const states = list.map(t => t.states)
  return inOnePosition(states) ?? (span < OCTAVE ? null : underThumb(states))
}

function spanOf(tones: readonly Tone[]): number {
  const sounding = tones.flatMap(t => t.heads.map(h => h.sounding))
  return (
    sounding.reduce((a, b) => Math.max(a, b), -Infinity) - sounding.reduce((a, b) => Math.min(a, b), Infinity)
  )
}

/** One note in so many drawn back, and more than one of them: then the hand is not at its ease. */
const CRAMPED = 8

/** In quick notes the hand draws it back and stays. */
const unhurried = (list: readonly Stopped[]) =>
  list.reduce((t, { tone }) => t + tone.seconds, 0) >= QUICK * list.length

/**
 * Whether at home the fourth finger is drawn back again and again: where a flat lies a half step below the
 * next string.
 */
function cramped(list: readonly Stopped[]): boolean {
  const drawn = list.filter(({ states }) => {
    const spelled = states.filter(s => s.anchor === HOME_ANCHOR && s.lead.letterPosition === 1)
    return spelled.length > 0 && spelled.every(s => s.lead.finger === 4 && s.lead.mark === 'low')
  })
  return drawn.length > 1 && drawn.length * CRAMPED >= list.length
}

/**
 * The second position, on whatever strings, when every finger has its place there: for the wide hand of the
 * viola in flat keys.
 */
function inSecond(list: readonly Stopped[]): Lies | null {
  const whole = list.every(t => t.states.some(s => s.anchor === SECOND && atEase(s)))
  return whole ? { anchors: new Set([SECOND]), thumb: false, key: String(SECOND) } : null
}
const SECOND = 3
const atEase = (s: HandState) => s.places.every(p => p.finger !== 0 && !p.harmonic && !reached(p))
/** Beyond the ordinary places of the hand, or with an outer finger drawn back. */
const reached = ({ finger, mark }: HeadPlace) =>
  mark === 'extended' || (mark === 'low' && (finger === 1 || finger === 4))

/** The nearest such place, with the half step above: fingers stand low or high there. */
function inOnePosition(tones: readonly (readonly HandState[])[]): Lies | null {
  const whole = POSITIONS.filter(anchor => onTwoStrings(tones, { anchor, thumb: false }))
  const near = whole.filter(a => a <= whole[0]! + 1)
  return near.length > 0 ? { anchors: new Set(near), thumb: false, key: near.join() } : null
}

const UNDER_THUMB: Lies = { anchors: new Set([THUMB_HOME]), thumb: true, key: 'thumb' }

const underThumb = (tones: readonly (readonly HandState[])[]): Lies | null =>
  onTwoStrings(tones, { anchor: THUMB_HOME, thumb: true }) ? UNDER_THUMB : null

/** One hand stopping every tone on the two highest strings: what does not lie at home lies above it. */
function onTwoStrings(
  tones: readonly (readonly HandState[])[],
  hand: { readonly anchor: number; readonly thumb: boolean },
): boolean {
  const stopped = (s: HandState) =>
    s.anchor === hand.anchor &&
    (s.shape === 'thumb') === hand.thumb &&
    s.places.every(p => p.string <= 1 && p.finger !== 0 && !p.harmonic && p.mark !== 'extended')
  return tones.every(states => states.some(stopped))
}

/** All the ways a tone can be played: states of the solver. */
import {
  framesOf,
  HARMONICS,
  OCTAVE_STRETCH,
  THUMB_HOME,
  type Finger,
  type HandOptions,
  type MarkKind,
  type Reach,
  type Shape,
} from '#core/instruments/hands'
import { INSTRUMENTS } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import { diatonic, midi, pitchOfMidi, type Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import type { Tone } from '#core/line/tones'

export interface HeadPlace {
  /** Index of the head in its tone. */
  readonly head: number
  /** 0 is the highest string. */
  readonly string: number
  readonly offset: Semitones
  readonly finger: Finger
  readonly mark: MarkKind
  readonly cost: number
  /**
   * Letter steps above the open string minus the finger plus one: which position the note belongs to by its
   * spelling.
   */
  readonly letterPosition: number
  /** The string is only touched: a natural harmonic. */
  readonly harmonic?: true
}

/**
 * A hand on the instrument: where it stands, how, and what each finger does. Open strings keep the anchor.
 */
export interface HandState {
  readonly anchor: Semitones
  readonly shape: Shape
  readonly places: readonly HeadPlace[]
  /** The place that leads: of the highest note. */
  readonly lead: HeadPlace
  /** Cost of the reaches themselves. */
  readonly cost: number
}

export interface Hand {
  readonly instrument: InstrumentId
  readonly tuning: Tuning
  readonly options: HandOptions
}

/** Anchors an open string may keep when nothing near tells more: half to fourth position. */
const NEAR_HOME: readonly Semitones[] = [1, 2, 3, 4, 5, 6, 7]

/** Every stopped place of one pitch on one string. */
function reachesAt(hand: Hand, offset: Semitones): { reach: Reach; anchor: Semitones }[] {
  if (offset < 1 || offset > INSTRUMENTS[hand.instrument].highest) return []
  return framesOf(hand.instrument, hand.options).flatMap(frame =>
    frame.reaches
      .map(reach => ({ reach, anchor: offset - reach.from }))
      .filter(c => c.anchor >= frame.lowest && c.anchor <= frame.highest),
  )
}

function place(head: number, string: number, offset: Semitones, reach: Reach, letters: number): HeadPlace {
  const { finger, mark, cost } = reach
  return {
    head,
    string,
    offset,
    finger,
    mark,
    cost,
    letterPosition: letters - (finger === 'T' ? 0 : finger) + 1,
  }
}

/** States with every stopped note of one head, and the strings on which it is open. */
function ofHead(hand: Hand, tone: Tone, head: number): { stopped: HandState[]; open: number[] } {
  const stopped: HandState[] = []
  const open: number[] = []
  hand.tuning.forEach((string, index) => {
    const offset = tone.heads[head]!.sounding - string
    if (offset === 0) open.push(index)
    const { pitch } = tone.heads[head]!
    // The open string under a stopped note is spelled the way the note is; only letters count.
    const letters =
      diatonic(pitch) -
      diatonic(pitchOfMidi(string + midi(pitch) - tone.heads[head]!.sounding, pitch.alter < 0))
    for (const { reach, anchor } of reachesAt(hand, offset)) {
      const p = place(head, index, offset, reach, letters)
      stopped.push({ anchor, shape: reach.shape, places: [p], lead: p, cost: p.cost })
    }
    stopped.push(...harmonicsAt(hand, head, index, offset))
  })
  return { stopped, open }
}

/** A natural harmonic stands for no letter of a position. */
const NO_LETTER = -1

/**
 * Harmonics that sound so many semitones above an open string: touched where a finger stands anyway, or
 * stretched to at the octave.
 */
function harmonicsAt(hand: Hand, head: number, string: number, above: Semitones): HandState[] {
  return HARMONICS.filter(h => h.sounds === above).flatMap(({ touch, cost }) => {
    const { finger, anchors } = OCTAVE_STRETCH[hand.instrument]
    // At the octave a finger that stands there presses just as well.
    const ways =
      touch === 12
        ? anchors.map(anchor => ({
            finger,
            mark: 'extended' as const,
            shape: 'plain' as const,
            anchor,
            own: 0,
          }))
        : reachesAt(hand, touch)
            .filter(({ reach }) => reach.mark === 'home')
            .map(({ reach, anchor }) => ({ ...reach, anchor, own: reach.cost }))
    return ways.map((w): HandState => {
      const p = {
        head,
        string,
        offset: touch,
        finger: w.finger,
        mark: w.mark,
        cost: cost + w.own,
        letterPosition: NO_LETTER,
        harmonic: true as const,
      }
      return { anchor: w.anchor, shape: w.shape, places: [p], lead: p, cost: p.cost }
    })
  })
}

const openPlace = (head: number, string: number): HeadPlace => ({
  head,
  string,
  offset: 0,
  finger: 0,
  mark: 'home',
  cost: 0,
  letterPosition: 1,
})

const openStates = (
  hand: Hand,
  head: number,
  strings: readonly number[],
  anchors: Iterable<Semitones>,
): HandState[] =>
  [...anchors].flatMap(anchor =>
    strings.map(s => {
      const p = openPlace(head, s)
      // The thumb lies on while an open string sounds.
      const shape = anchor === THUMB_HOME && hasThumb(hand) ? ('thumb' as const) : ('plain' as const)
      return { anchor, shape, places: [p], lead: p, cost: 0 }
    }),
  )

/**
 * The lowest anchor from which the top note of a tone is stopped; Infinity where it is not. It hangs on the
 * hand and the sounding pitch alone.
 */
export const lowestAnchor = (tone: Tone, hand: Hand): Semitones =>
  ofHead(hand, tone, tone.heads.length - 1).stopped.reduce((least, s) => Math.min(least, s.anchor), Infinity)

const hasThumb = ({ instrument, options }: Hand) =>
  framesOf(instrument, options).some(f => f.reaches.some(r => r.finger === 'T'))

/**
 * Anchors by which an open string may be kept in a line of these tones: those near home, and those its high
 * notes need.
 */
export function openAnchors(
  tones: readonly Tone[],
  hand: Hand,
  lowestOf = (t: Tone) => lowestAnchor(t, hand),
): readonly Semitones[] {
  const anchors = new Set(NEAR_HOME)
  const seen = new Set<number>()
  for (const tone of tones) {
    const { sounding } = tone.heads.at(-1)!
    if (seen.has(sounding) || tone.heads.length > hand.tuning.length) continue
    seen.add(sounding)
    const lowest = lowestOf(tone)
    if (lowest < Infinity && lowest > NEAR_HOME.at(-1)!)
      [lowest, lowest + 1, lowest + 2].forEach(h => anchors.add(h))
  }
  if (anchors.size > NEAR_HOME.length && hasThumb(hand)) anchors.add(THUMB_HOME)
  return [...anchors]
}

/**
 * States of a tone. An empty list means that it is off the instrument, or that its notes can't be held
 * together. Chords are combined head by head on different, neighbouring strings in one hand.
 */
export function candidates(tone: Tone, hand: Hand, anchors: readonly Semitones[]): HandState[] {
  if (tone.heads.length > hand.tuning.length) return []
  const heads = tone.heads.map((_, i) => ofHead(hand, tone, i))
  if (heads.length === 1) return [...heads[0]!.stopped, ...openStates(hand, 0, heads[0]!.open, anchors)]
  // An open string is held with whatever its neighbour stops.
  const all = new Set([...anchors, ...heads.flatMap(h => h.stopped.map(s => s.anchor))])
  return heads
    .map((h, k) => [...h.stopped, ...openStates(hand, k, h.open, all)])
    .reduce((a, b) => combine(a, b))
}

/**
 * Pairs of states in one hand: same anchor, shapes that agree, different neighbouring strings, fingers in
 * order.
 */
function combine(a: readonly HandState[], b: readonly HandState[]): HandState[] {
  const byAnchor = new Map<number, HandState[]>()
  for (const s of b) byAnchor.set(s.anchor, [...(byAnchor.get(s.anchor) ?? []), s])
  const out: HandState[] = []
  for (const x of a) {
    for (const y of byAnchor.get(x.anchor) ?? []) {
      const shape = agree(x, y)
      const added = y.places[0]!
      if (shape === null || !x.places.every(p => canHold(p, added))) continue
      const near = x.places.some(p => Math.abs(p.string - added.string) === 1)
      if (!near) continue
      const places = [...x.places, added]
      out.push({ anchor: x.anchor, shape, places, lead: added, cost: x.cost + y.cost })
    }
  }
  return out
}

const allOpen = (s: HandState) => s.places.every(p => p.finger === 0)

function agree(x: HandState, y: HandState): Shape | null {
  if (x.shape === y.shape || allOpen(y)) return x.shape
  if (allOpen(x)) return y.shape
  const [closed, opened] = x.shape === 'plain' ? [x, y] : [y, x]
  if (closed.shape !== 'plain' || (opened.shape !== 'back' && opened.shape !== 'extended')) return null
  // A hand opens between first and second finger: those on the other side stand as they do in a closed one.
  const stands = (p: HeadPlace) =>
    !p.harmonic && (p.finger === 0 || (p.finger === 1) === (opened.shape === 'extended'))
  return closed.places.every(stands) ? opened.shape : null
}

const ORDER: Record<string, number> = { T: 0, 1: 1, 2: 2, 3: 3, 4: 4 }

/**
 * Two places at once: other strings; fingers in order along the neck; one finger on both only as a block at
 * the same place.
 */
function canHold(p: HeadPlace, q: HeadPlace): boolean {
  if (p.string === q.string) return false
  if (p.finger === 0 || q.finger === 0) return true
  if (p.finger === q.finger) return p.offset === q.offset && Math.abs(p.string - q.string) === 1
  const [lower, upper] = ORDER[p.finger]! < ORDER[q.finger]! ? [p, q] : [q, p]
  return upper.offset - lower.offset >= 0 && upper.offset - lower.offset <= 6
}

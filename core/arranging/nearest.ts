/** Another note in the place of one that lies out of the hand: near, keeping the way of the line, a tone of the chord where one is near. */
import { diatonic, midi, type Pitch } from '#core/music/pitch'

/** Half steps beyond which a leap is one. */
const FAR = 16
/** Half steps from which a leap is hard to find, where the line had none: a seventh; beyond an octave it is harder still. */
const SEVENTH = 10
const WIDE = 1
const WIDER = 2

export interface Replaced {
  readonly own: Pitch
  readonly before: Pitch | undefined
  readonly after: Pitch | undefined
  /** On a strong beat the note carries the tune: rather its octave than another note. */
  readonly strong: boolean
  /** At the end of a phrase all the more. */
  readonly end: boolean
  /** Pitch classes of the chord over it. */
  readonly chord: readonly number[]
}
/** What it costs to put another note in the place of one that carries the tune. */
const OTHER_ON_STRONG = 4
const OTHER_AT_END = 6

/** A tone of the chord may lie so many steps further. */
const CHORDAL = 0.7
/** A third away is nearly two steps; in the chord it is better than a step that is not. */
const A_THIRD = 1.8
const THIRD_IN_CHORD = 1.6

/** The line turns the other way. */
const TURNED = 1.5

/** Steps that the same letter counts, raised or lowered. */
const SAME_LETTER = 0.2
/** And where it contradicts the chord. */
const WRONG = 2.5

/** The allowed pitch nearest to a note that keeps the way of the line. */
export function nearest({ own, before, after, strong, end, chord }: Replaced, allowed: readonly Pitch[]): Pitch | null {
  const way = (a: Pitch | undefined, b: Pitch | undefined) => (a && b ? Math.sign(midi(b) - midi(a)) : 0)
  const cost = (p: Pitch) => {
    const steps = Math.abs(diatonic(p) - diatonic(own))
    // An octave is the same note; its letter natural where it was raised is nearly so; a tone of the chord goes with what the others play.
    const octave = (midi(p) - midi(own)) % 12 === 0
    // But over a chord that has the note as it was, its letter without the sign is a wrong note.
    const wrong = steps === 0 && chord.includes(midi(own) % 12) && !chord.includes(midi(p) % 12)
    const inChord = chord.includes(midi(p) % 12)
    const third = inChord ? THIRD_IN_CHORD : A_THIRD
    const far = wrong ? WRONG : steps === 0 ? SAME_LETTER : steps === 2 ? third : steps
    const chordal = inChord ? CHORDAL : 0
    const carries = end ? OTHER_AT_END : strong ? OTHER_ON_STRONG : 0
    const interval = octave ? (carries > 0 ? 1.5 : 3) : far - chordal + carries
    const turned = TURNED * [way(before, p) !== way(before, own), way(p, after) !== way(own, after)].filter(Boolean).length
    const repeats = [before, after].some(q => q && midi(q) === midi(p)) ? 0.8 : 0
    // A leap over a tenth is no way to make it easier.
    const leap = [before, after].some(q => q && Math.abs(midi(q) - midi(p)) > FAR) ? 12 : 0
    const leaps = (q: Pitch | undefined, to: Pitch) => (q ? Math.abs(midi(q) - midi(to)) : 0)
    const wide = [before, after].reduce((t, q) => t + (leaps(q, p) < SEVENTH || leaps(q, own) >= SEVENTH ? 0 : leaps(q, p) > 12 ? WIDER : WIDE), 0)
    return interval + turned + repeats + leap + wide
  }
  return allowed.length === 0 ? null : allowed.reduce((a, b) => (cost(b) < cost(a) ? b : a))
} // prettier-ignore

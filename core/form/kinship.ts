/**
 * Kinship between phrases, with a named relation and the exact differences. "If you learn the answers you
 * have learned half the tune."
 */
import { differing, moved, overlap, sameContour, sameRhythm, type Stretch } from './likeness'
import type { Ticks, Tone } from './material'

/** Relations that make a family, then those worth telling only. */
export const RELATIONS = [
  'same',
  'ending differs',
  'start differs',
  'notes differ',
  'transposed',
  'octave',
  'declared',
  'same fingers',
  'same rhythm',
  'same contour',
] as const
export type Relation = (typeof RELATIONS)[number]

/** Only the rhythm or the ups and downs are shared: told, but no family. */
export const isLoose = (r: Relation) => r === 'same rhythm' || r === 'same contour' || r === 'same fingers'

export interface Kin {
  /** Label of the earlier phrase. */
  readonly phrase: string
  readonly relation: Relation
  /** Ids of the notes of this phrase that differ. */
  readonly differences: readonly string[]
  /** How far it is moved, when it is. */
  readonly moved?: { readonly steps: number; readonly semitones: number; readonly exact: boolean }
  /** The same notes, but with other dynamics. */
  readonly otherDynamics?: boolean
  /** The same notes, but the first stroke goes the other way. */
  readonly otherBow?: boolean
  /** The same fingers so many strings lower (positive) or higher. */
  readonly strings?: number
}
export type Related = Omit<Kin, 'phrase'> & { readonly worth: number }

/** Share of the time that must agree for two phrases to be kin. */
const KIN = 0.5
/**
 * Where the first difference may begin for it to be another ending, and where the last may end for another
 * start, as shares of the phrase.
 */
const LATE = 0.3
const EARLY = 0.7
/** So near to the start or the end is at it. */
const EDGE = 0.13

/**
 * How `a` is kin to the earlier `b`; null when it is not. `worth` ranks relations: 1 for the same, less with
 * every difference.
 */
export function relate(a: Stretch, b: Stretch): Related | null {
  if (a.tones.length === 0 || b.tones.length === 0 || silent(a) || silent(b)) return null
  const plain = related(a, b, 0)
  // Of unequal length: the ends may be what is shared.
  const atEnd = a.end - a.downbeat - (b.end - b.downbeat)
  const byEnd = atEnd === 0 ? null : related(a, b, atEnd)
  const direct = !plain || (byEnd && byEnd.worth > plain.worth) ? byEnd : plain
  if (direct && direct.worth > 0.8) return direct
  const move = moved(a, b)
  if (move) {
    const relation = move.steps % 7 === 0 ? 'octave' : 'transposed'
    const { steps, semitones, exact } = move
    const worth = 0.82 - 0.5 * (move.strays.length / a.tones.length)
    const found = {
      relation,
      differences: ids(move.strays),
      moved: { steps, semitones, exact },
      worth,
    } as const
    if (!direct || found.worth > direct.worth) return found
  }
  if (direct) return direct
  if (sameRhythm(a, b) && variety(a))
    return { relation: 'same rhythm', differences: ids(sounding(a)), worth: 0.2 }
  if (sameContour(a, b)) return { relation: 'same contour', differences: ids(sounding(a)), worth: 0.1 }
  return null
}

const silent = (s: Stretch) => s.body.length === 0 && s.tones.every(t => t.midi === null)
const sounding = (s: Stretch) => s.tones.filter(t => t.midi !== null)
const ids = (tones: readonly Tone[]) => tones.filter(t => t.midi !== null).map(t => t.id)

/** A rhythm of equal notes tells nothing. */
const variety = (s: Stretch) => new Set(s.body.slice(0, -1).map(t => t.length)).size > 1

function related(a: Stretch, b: Stretch, shift: Ticks): Related | null {
  const span = (s: Stretch) => s.end - s.tones[0]!.at
  // Half of the shorter is a quarter of both when one is twice as long: no less is worth counting.
  const share = overlap(a, b, shift, KIN / 2)
  // A shorter phrase may be all in a longer one.
  if (share * Math.max(span(a), span(b)) < KIN * Math.min(span(a), span(b)) - 1) return null
  const strays = differing(a, b, shift)
  const missing = differing(b, a, -shift)
  if (strays.length === 0 && missing.length === 0) {
    const plain = a.tones.every((t, i) => t.dynamic === b.tones[i]?.dynamic)
    return { relation: 'same', differences: [], worth: 1, ...(!plain && { otherDynamics: true }) }
  }
  // A pickup that one has and the other has not is no other start; where only that differs, it is.
  const inBody = (s: Stretch) => (t: Tone) => t.at >= s.downbeat
  const [own, others] = [strays.filter(inBody(a)), missing.filter(inBody(b))]
  if (own.length === 0 && others.length === 0) {
    if (strays.length === 0) return { relation: 'same', differences: [], worth: 0.99 }
    return { relation: 'start differs', differences: ids(strays), worth: 0.97 }
  }
  const [from, to] = [a.downbeat, a.end]
  const there = shift + a.downbeat - b.downbeat
  const places = [
    ...own.flatMap(t => [t.at, t.at + t.length]),
    // What the other has and this has not, where it would stand.
    ...others.flatMap(t => [t.at + there, t.at + t.length + there]),
  ].map(at => Math.max(0, Math.min(1, (at - from) / (to - from))))
  const [first, last] = [Math.min(...places), Math.max(...places)]
  const relation =
    shift !== 0 || (first <= EDGE && last <= EARLY)
      ? 'start differs'
      : first >= LATE && last >= 1 - EDGE
        ? 'ending differs'
        : 'notes differ'
  // One hears how a thing begins before how it ends.
  const heard = relation === 'ending differs' ? 0.1 : 0
  return { relation, differences: ids(strays), worth: Math.min(0.98, share * 0.95 + heard) }
}

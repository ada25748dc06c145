/** Chord names: which notes "Am7/G" asks for. */
import { midi, pitchOfMidi, parsePitch, type Semitones } from './pitch'

export interface Chord {
  /** Pitch class of the root, C = 0. */
  readonly root: number
  /** Semitones above the root, the root itself first. */
  readonly intervals: readonly Semitones[]
  /** Pitch class of the lowest note: the root unless another one is named after the slash. */
  readonly bass: number
}

/** Longest suffixes first, so that "maj7" is not read as "m". */
const KINDS: readonly (readonly [RegExp, readonly Semitones[]])[] = [
  [/^(maj7|M7)/, [0, 4, 7, 11]],
  [/^(m7b5|ø)/, [0, 3, 6, 10]],
  [/^(dim7|°7)/, [0, 3, 6, 9]],
  [/^(dim|°)/, [0, 3, 6]],
  [/^(aug|\+)/, [0, 4, 8]],
  [/^(m|min|-)(7|9)/, [0, 3, 7, 10]],
  [/^(m|min|-)6/, [0, 3, 7, 9]],
  [/^(m|min|-)(?!aj)/, [0, 3, 7]],
  [/^sus2/, [0, 2, 7]],
  [/^sus/, [0, 5, 7]],
  [/^5/, [0, 7]],
  [/^(7|9|11|13)/, [0, 4, 7, 10]],
  [/^6/, [0, 4, 7, 9]],
  [/^(maj)?/, [0, 4, 7]],
]

const classOf = (letter: string, sign: string | undefined) =>
  midi(parsePitch(`${letter}${sign ?? ''}4`)!) % 12

/** Null when the text is no chord name ("N.C.", "Fine"). */
export function parseChord(name: string): Chord | null {
  const m = /^([A-G])(#|b)?([^/\s]*)(?:\/([A-G])(#|b)?)?$/.exec(name.trim())
  if (!m || (m[3] && !/^(m|min|maj|M|dim|aug|sus|add|ø|°|\+|-|\d)/.test(m[3]))) return null
  const root = classOf(m[1]!, m[2])
  const intervals = KINDS.find(([pattern]) => pattern.test(m[3]!))![1]
  return { root, intervals, bass: m[4] ? classOf(m[4], m[5]) : root }
}

/** "A, C, E": the notes of a chord for reading, sharps or flats as its name has them. */
export const chordNotes = (c: Chord, flats: boolean): string[] =>
  c.intervals.map(i => {
    const p = pitchOfMidi(60 + ((c.root + i) % 12), flats)
    return p.step + (p.alter > 0 ? '♯' : p.alter < 0 ? '♭' : '')
  })

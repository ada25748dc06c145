/**
 * Spelled pitches: a letter, an alteration and an octave (scientific: C4 is middle C). MIDI numbers are
 * computed.
 */
import { z } from 'zod'

export const STEPS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const
/** Octaves anything is written in. */
export const OCTAVES = [0, 1, 2, 3, 4, 5, 6, 7, 8] as const
export type Step = (typeof STEPS)[number]
/** MIDI note number; 60 is middle C, 69 is A4. */
export type Midi = number
export type Semitones = number

export const pitchSchema = z
  .strictObject({
    step: z.enum(STEPS),
    /** Semitones of alteration: -2 double flat … 2 double sharp. */
    alter: z.int().min(-2).max(2),
    octave: z.int().min(-1).max(9),
  })
  .readonly()
export type Pitch = z.infer<typeof pitchSchema>

const SEMITONE_OF: Record<Step, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 }

export const stepIndex = (step: Step) => STEPS.indexOf(step)

/** `midi({ step: 'A', alter: 0, octave: 4 })` is 69. */
export const midi = (p: Pitch): Midi => 12 * (p.octave + 1) + SEMITONE_OF[p.step] + p.alter

/** Count of letters above C0, alterations ignored: the height on the staff. C4 is 28. */
export const diatonic = (p: Pitch) => p.octave * 7 + stepIndex(p.step)

const ALTER_TEXT: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' }

/** "F#4", "Bb3". */
export const formatPitch = (p: Pitch) => `${p.step}${ALTER_TEXT[p.alter] ?? ''}${p.octave}`

const PRETTY: Record<number, string> = { [-2]: '𝄫', [-1]: '♭', 0: '', 1: '♯', 2: '𝄪' }
/** For reading: "F♯", without the octave. */
export const prettyPitch = (p: Pitch) => `${p.step}${PRETTY[p.alter] ?? ''}`

/** Reads "F#4", "Bb3", "C##5"; null when it is no pitch. */
export function parsePitch(text: string): Pitch | null {
  const m = /^([A-Ga-g])(##|bb|#|b|x)?(-?\d)$/.exec(text.trim())
  if (!m) return null
  const alter = { '': 0, '#': 1, '##': 2, x: 2, b: -1, bb: -2 }[m[2] ?? '']!
  return { step: m[1]!.toUpperCase() as Step, alter, octave: Number(m[3]) }
}

/** The pitch with a given letter height (see {@link diatonic}) whose MIDI number is `target`. */
export function spelledAt(letterHeight: number, target: Midi): Pitch {
  const step = STEPS[((letterHeight % 7) + 7) % 7]!
  const octave = Math.floor(letterHeight / 7)
  return { step, octave, alter: target - midi({ step, alter: 0, octave }) }
}

const SHARP_SPELLING: readonly [Step, number][] = [
  ['C', 0],
  ['C', 1],
  ['D', 0],
  ['D', 1],
  ['E', 0],
  ['F', 0],
  ['F', 1],
  ['G', 0],
  ['G', 1],
  ['A', 0],
  ['A', 1],
  ['B', 0],
]
const FLAT_SPELLING: readonly [Step, number][] = [
  ['C', 0],
  ['D', -1],
  ['D', 0],
  ['E', -1],
  ['E', 0],
  ['F', 0],
  ['G', -1],
  ['G', 0],
  ['A', -1],
  ['A', 0],
  ['B', -1],
  ['B', 0],
]

/**
 * A plain spelling of a MIDI number, with sharps or flats. Used for strings and tunings, never for melody
 * notes.
 */
export function pitchOfMidi(m: Midi, flats = false): Pitch {
  const [step, alter] = (flats ? FLAT_SPELLING : SHARP_SPELLING)[((m % 12) + 12) % 12]!
  return { step, alter, octave: Math.floor(m / 12) - 1 }
}

/** Hertz at A4 = 440, equal temperament. */
export const frequency = (m: Midi, a4 = 440) => a4 * 2 ** ((m - 69) / 12)

/**
 * An interval with direction: letters moved and semitones moved. A fourth up is {letters: 3, semitones: 5}.
 */
export interface Interval {
  readonly letters: number
  readonly semitones: Semitones
}

export const intervalBetween = (a: Pitch, b: Pitch): Interval => ({
  letters: diatonic(b) - diatonic(a),
  semitones: midi(b) - midi(a),
})

export const inverse = (i: Interval): Interval => ({ letters: -i.letters, semitones: -i.semitones })

/**
 * Moves a pitch by an interval and keeps the spelling; where that would need more than a double sharp or
 * flat, the nearest letter is taken instead.
 */
export function transposePitch(p: Pitch, by: Interval): Pitch {
  const target = midi(p) + by.semitones
  const moved = spelledAt(diatonic(p) + by.letters, target)
  if (Math.abs(moved.alter) <= 2) return moved
  return spelledAt(diatonic(p) + by.letters + Math.sign(moved.alter), target)
}

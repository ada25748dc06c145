/**
 * Which letter a sound is written with, and which sound a letter means: as a musician would write it in a
 * key.
 */
import { alterations, type Key } from '../key'
import { diatonic, midi, spelledAt, stepIndex, STEPS, type Midi, type Pitch, type Step } from '../pitch'

const MINOR: ReadonlySet<string> = new Set(['minor', 'dorian', 'phrygian', 'locrian'])
const BY_FIFTHS: readonly Step[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B']
/** Pitch class of each place on the line of fifths, C = 0. */
const classAt = (fifths: number) => (((fifths * 7) % 12) + 12) % 12

/** Place of a tonic on the line of fifths, C = 0. */
const fifthsOf = (key: Key) => BY_FIFTHS.indexOf(key.step) - 1 + 7 * key.alter

/**
 * Spells a sound in a key: notes of the scale as the signature has them; outside it, in the modes with a
 * major third, the raised first, fourth and fifth and the lowered third and seventh; in those with a minor
 * third the leading tone, the raised third, fourth and sixth, and the lowered second. These are twelve
 * neighbours on the line of fifths around the tonic.
 */
export function spellInKey(sound: Midi, key: Key): Pitch {
  const pitchClass = ((sound % 12) + 12) % 12
  const lowest = fifthsOf(key) - (MINOR.has(key.mode) ? 5 : 3)
  for (let f = lowest; f < lowest + 12; f++) {
    if (classAt(f) !== pitchClass) continue
    const step = BY_FIFTHS[(((f + 1) % 7) + 7) % 7]!
    const alter = Math.floor((f + 1) / 7)
    const octave = Math.round((sound - alter - midi({ step, alter: 0, octave: 0 })) / 12)
    return { step, alter, octave }
  }
  throw new RangeError(`no spelling for ${sound}`)
}

/** The pitch of a letter nearest to another pitch (the lower of two as near), altered as the key has it. */
export function letterNear(step: Step, near: Pitch, key: Key): Pitch {
  const from = diatonic(near)
  const up = (stepIndex(step) - stepIndex(near.step) + 7) % 7
  const height = up <= 3 ? from + up : from + up - 7
  return { step, octave: Math.floor(height / 7), alter: alterations(key)[step] }
}

/** Up or down by letters, altered as the key has it. Null off the paper. */
export function byLetters(p: Pitch, letters: number, key: Key): Pitch | null {
  const height = diatonic(p) + letters
  const step = STEPS[((height % 7) + 7) % 7]!
  return onPaper({ step, octave: Math.floor(height / 7), alter: alterations(key)[step] })
}

/** Up or down by half steps: on the same letter where one accidental does it, else spelled in the key. */
export function byHalfSteps(p: Pitch, by: number, key: Key): Pitch | null {
  const alter = p.alter + by
  if (Math.abs(alter) <= 1) return { ...p, alter }
  return onPaper(spellInKey(midi(p) + by, key))
}

/**
 * The other usual way to write the same sound: G sharp for A flat and back. Null when there is none with one
 * accidental.
 */
export function respelled(p: Pitch): Pitch | null {
  const sound = midi(p)
  for (const letters of p.alter > 0 ? [1, -1] : [-1, 1]) {
    const other = spelledAt(diatonic(p) + letters, sound)
    if (Math.abs(other.alter) <= 1) return onPaper(other)
  }
  return null
}

const onPaper = (p: Pitch): Pitch | null => (p.octave >= 0 && p.octave <= 8 ? p : null)

import { z } from 'zod'
import { STEPS, stepIndex, type Interval, type Pitch, type Step, type Semitones } from './pitch'

export const MODES = ['major', 'minor', 'dorian', 'mixolydian', 'lydian', 'phrygian', 'locrian'] as const
export type Mode = (typeof MODES)[number]

export const keySchema = z
  .strictObject({ step: z.enum(STEPS), alter: z.int().min(-1).max(1), mode: z.enum(MODES) })
  .readonly()
export type Key = z.infer<typeof keySchema>

/** Position of each letter on the line of fifths, C = 0. */
const FIFTHS_OF: Record<Step, number> = { F: -1, C: 0, G: 1, D: 2, A: 3, E: 4, B: 5 }
/** How many fifths a mode lies from the major key on the same tonic. */
const MODE_SHIFT: Record<Mode, number> = {
  lydian: 1,
  major: 0,
  mixolydian: -1,
  dorian: -2,
  minor: -3,
  phrygian: -4,
  locrian: -5,
}
/** Semitones above the tonic of each scale degree. */
const SCALE: Record<Mode, readonly Semitones[]> = {
  lydian: [0, 2, 4, 6, 7, 9, 11],
  major: [0, 2, 4, 5, 7, 9, 11],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  minor: [0, 2, 3, 5, 7, 8, 10],
  phrygian: [0, 1, 3, 5, 7, 8, 10],
  locrian: [0, 1, 3, 5, 6, 8, 10],
}

/**
 * Sharps (positive) or flats (negative) in the signature. `signature({step:'E', alter:0, mode:'dorian'})` is
 * 2.
 */
export const signature = (k: Key) => FIFTHS_OF[k.step] + 7 * k.alter + MODE_SHIFT[k.mode]

/**
 * Naturals that take back the signature of one key where another begins: three sharps to one need two, three
 * sharps to a flat all three.
 */
export function naturalsFor(old: Key, now: Key): number {
  const [from, to] = [signature(old), signature(now)]
  return from * to < 0 ? Math.abs(from) : Math.max(0, Math.abs(from) - Math.abs(to))
}

const SHARP_ORDER: readonly Step[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B']

/** What a signature gives each letter, by its sharps (positive) or flats: asked for note by note. */
const ALTERATIONS = new Map<number, Readonly<Record<Step, number>>>()

/** The alteration the signature gives each letter. */
export function alterations(k: Key): Readonly<Record<Step, number>> {
  const fifths = signature(k)
  const known = ALTERATIONS.get(fifths)
  if (known) return known
  const out = Object.fromEntries(STEPS.map(s => [s, 0])) as Record<Step, number>
  for (let i = 0; i < Math.abs(fifths); i++) {
    const letter = fifths > 0 ? SHARP_ORDER[i % 7]! : SHARP_ORDER[6 - (i % 7)]!
    out[letter] += Math.sign(fifths)
  }
  ALTERATIONS.set(fifths, Object.freeze(out))
  return out
}

/** The key of a mode with a given signature: `keyOfSignature(3, 'major')` is A major. */
export function keyOfSignature(fifths: number, mode: Mode): Key {
  const onLine = fifths - MODE_SHIFT[mode]
  const alter = Math.floor((onLine + 1) / 7)
  const step = SHARP_ORDER[(((onLine + 1) % 7) + 7) % 7]!
  return { step, alter, mode }
}

/** "A major", "E dorian", "B flat major". */
export function keyName(k: Key): string {
  const accidental = k.alter === 0 ? '' : k.alter > 0 ? ' sharp' : ' flat'
  return `${k.step}${accidental} ${k.mode}`
}

/** Scale degree 1-7 of a pitch by its letter. */
export const degree = (k: Key, p: Pitch) => ((stepIndex(p.step) - stepIndex(k.step) + 7) % 7) + 1

export const scaleOf = (mode: Mode) => SCALE[mode]

const SEMITONE: Record<Step, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 }
export const tonicClass = (k: Key) => (((SEMITONE[k.step] + k.alter) % 12) + 12) % 12

/**
 * The interval that carries key `from` to key `to` by the shorter way, plus whole octaves. A tritone goes up
 * or down as the tonics lie from C to B, so that there and back is nothing.
 */
export function intervalBetweenKeys(from: Key, to: Key, octaves = 0): Interval {
  let letters = stepIndex(to.step) - stepIndex(from.step)
  let semitones = SEMITONE[to.step] + to.alter - SEMITONE[from.step] - from.alter
  if (semitones > 6) [letters, semitones] = [letters - 7, semitones - 12]
  if (semitones < -6) [letters, semitones] = [letters + 7, semitones + 12]
  return { letters: letters + 7 * octaves, semitones: semitones + 12 * octaves }
}

/** "Bb", "F#m", "Edor" style key text (the open ABC field), also "D major". Null when unreadable. */
export function parseKey(text: string): Key | null {
  // Clefs and extra accidentals may follow in the field; they say nothing of the key.
  const words = text.split(/\s+/).filter(w => !/=|^[\^_]|^(treble|alto|tenor|bass|exp|transpose)\b/.test(w))
  const m = /^([A-Ga-g])(#|b|♯|♭|sharp|flat)?([A-Za-z]*)$/.exec(words.join(''))
  if (!m) return null
  const alter = !m[2] ? 0 : /^(#|♯|sharp)/.test(m[2]) ? 1 : -1
  const mode = parseMode(m[3] ?? '')
  return mode && { step: m[1]!.toUpperCase() as Step, alter, mode }
}

/** Reads a mode name of which the first three letters count; empty is major, "m" is minor. */
export function parseMode(text: string): Mode | null {
  const t = text.toLowerCase()
  if (t === '' || t.startsWith('maj') || t.startsWith('ion')) return 'major'
  if (t === 'm' || t.startsWith('min') || t.startsWith('aeo')) return 'minor'
  return MODES.find(mode => t.length >= 3 && mode.startsWith(t.slice(0, 3))) ?? null
}

/** A key name short enough for a table and a file: "A", "Edor", "Bb". */
export function keyCode(k: Key): string {
  const accidental = k.alter === 0 ? '' : k.alter > 0 ? '#' : 'b'
  const mode = { major: '', minor: 'm' }[k.mode as string] ?? k.mode.slice(0, 3)
  return `${k.step}${accidental}${mode}`
}

/** The seven tones of a key from its tonic up: "F#", and its pitch class with C = 0. */
export function keyTones(k: Key): { readonly name: string; readonly pitchClass: number }[] {
  const alters = alterations(k)
  return STEPS.map((_, i) => {
    const step = STEPS[(stepIndex(k.step) + i) % 7]!
    const alter = alters[step]
    const name = step + (alter > 0 ? '#'.repeat(alter) : 'b'.repeat(-alter))
    return { name, pitchClass: (SCALE[k.mode][i]! + tonicClass(k)) % 12 }
  })
}

export const sameKey = (a: Key, b: Key) => a.step === b.step && a.alter === b.alter && a.mode === b.mode

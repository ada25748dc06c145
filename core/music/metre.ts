import { z } from 'zod'
import { add, compare, div, frac, fractionSchema, isZero, mod, mul, ZERO, type Fraction } from './fraction'

export const METRE_UNITS = [1, 2, 4, 8, 16, 32] as const

export const metreSchema = z
  .strictObject({
    beats: z.int().min(1).max(64),
    unit: z.literal(METRE_UNITS),
    /** How the units fall into groups, where that is said: 2, 2 and 3 of seven. */
    groups: z.array(z.int().min(1).max(64)).min(2).max(32).readonly().optional(),
  })
  .refine(m => !m.groups || sum(m.groups) === m.beats, 'groups that do not add up to the beats')
  .readonly()
export type Metre = z.infer<typeof metreSchema>

const sum = (numbers: readonly number[]) => numbers.reduce((a, b) => a + b, 0)

/** Length of a full measure in quarters: 6/8 is 3. */
export const measureLength = (m: Metre): Fraction => frac(4 * m.beats, m.unit)

export const isCompound = (m: Metre) =>
  m.unit >= 8 && m.beats % 3 === 0 && m.beats > 3 && (m.groups?.every(g => g === 3) ?? true)

/** Short notes in threes: a compound metre, and three eighths, whose measure is one such three. */
export const inThrees = (m: Metre) => isCompound(m) || (m.unit >= 8 && m.beats === 3 && !m.groups)

/**
 * Beats that differ in length, or too many short ones to be felt one by one: 5/8, 7/8, 8/8, 9/8 in twos and a
 * three.
 */
export const isUneven = (m: Metre) => m.unit >= 8 && m.beats >= 5 && !isCompound(m)

/**
 * The felt beat in quarters: a dotted quarter in 6/8, a half note in 2/2, a quarter in 4/4; in an uneven
 * metre what its beats are counted in.
 */
export const beatLength = (m: Metre): Fraction => (isCompound(m) ? frac(12, m.unit) : frac(4, m.unit))

export interface Beat {
  readonly index: number
  /** In quarters from the beginning of the measure. */
  readonly start: Fraction
  readonly length: Fraction
}

/** The felt beats of a measure: in an uneven metre its groups, where they are known. */
export function beatsOf(m: Metre): readonly Beat[] {
  const known = BEATS.get(m)
  if (known) return known
  const one = frac(4, m.unit)
  const beat = beatLength(m)
  const lengths =
    isUneven(m) && m.groups
      ? m.groups.map(g => mul(one, frac(g)))
      : Array.from({ length: div(measureLength(m), beat).n }, () => beat)
  let start = ZERO
  const found = lengths.map((length, index) => {
    const b = { index, start, length }
    start = add(start, length)
    return b
  })
  BEATS.set(m, found)
  return found
}
const BEATS = new WeakMap<Metre, readonly Beat[]>()

/** The beat a place of the measure lies in; places beyond the measure count on. */
export function beatAt(m: Metre, at: Fraction): Beat {
  const full = measureLength(m)
  const within = mod(at, full)
  return beatsOf(m).findLast(b => compare(b.start, within) <= 0)!
}

/** Where one of the felt beats begins. */
export const onBeat = (m: Metre, at: Fraction) =>
  compare(beatAt(m, at).start, mod(at, measureLength(m))) === 0

/**
 * Weight of a place in the measure: 3 on the first beat, 2 on a secondary strong beat (third of four, fourth
 * of six, the second group of five, the long group of seven), 1 on other beats, 0 between beats.
 */
export function beatStrength(m: Metre, at: Fraction): 0 | 1 | 2 | 3 {
  if (isZero(at)) return 3
  if (!onBeat(m, at)) return 0
  const { index, start } = beatAt(m, at)
  if (m.groups && new Set(m.groups).size > 1)
    return strongGroups(m.groups).some(s => compare(frac(4 * s, m.unit), start) === 0) ? 2 : 1
  const count = beatsOf(m).length
  return count % 2 === 0 && count > 2 && index === count / 2 ? 2 : 1
}

/**
 * Where groups begin, in units, that bear a second stress: the other one of two, else those longer than the
 * shortest.
 */
function strongGroups(groups: readonly number[]): number[] {
  const starts = groups.map((_, i) => sum(groups.slice(0, i)))
  const least = Math.min(...groups)
  return starts.filter((_, i) => i > 0 && (groups.length === 2 || groups[i]! > least))
}

/** Groups are said only where they are not what the metre has anyway. */
export function metreOf(beats: number, unit: Metre['unit'], groups: readonly number[] = []): Metre {
  const plain: Metre = { beats, unit }
  const usual = groups.length < 2 || groups.every(g => g === (isCompound(plain) ? 3 : 1))
  return usual ? plain : { ...plain, groups }
}

export const sameMetre = (a: Metre, b: Metre) =>
  a.beats === b.beats && a.unit === b.unit && a.groups?.join() === b.groups?.join()

/** Reads "3/4" and "2+2+3/8". Null when it is no metre we write. */
export function parseMetre(text: string): Metre | null {
  const m = /^\s*\(?(\d{1,2}(?:\s{0,3}\+\s{0,3}\d{1,2}){0,31})\)?\s*\/\s*(\d{1,2})\s*$/.exec(text)
  const unit = METRE_UNITS.find(u => u === Number(m?.[2]))
  const groups = m?.[1]!.split('+').map(Number) ?? []
  const beats = sum(groups)
  return m && unit && beats >= 1 && beats <= 64 && groups.every(g => g > 0)
    ? metreOf(beats, unit, groups)
    : null
}

export const metreName = (m: Metre) => `${m.groups?.join('+') ?? m.beats}/${m.unit}`

export const tempoSchema = z
  .strictObject({
    /** The note the number counts, in quarters: 3/2 is a dotted quarter. */
    beat: fractionSchema.refine(f => f.n > 0, 'a beat has a length'),
    /** Beats a minute. */
    perMinute: z.number().min(1).max(999),
  })
  .readonly()
export type Tempo = z.infer<typeof tempoSchema>

/** Seconds that one quarter lasts. */
export const secondsPerQuarter = (t: Tempo) => 60 / (t.perMinute * (t.beat.n / t.beat.d))

/** Reads "1/4=96" (part of a whole note, as the note is named). Null when unreadable. */
export function parseTempo(text: string): Tempo | null {
  const m = /^\s*(\d{1,3})\/(\d{1,3})\s*=\s*(\d{1,4}(?:\.\d+)?)\s*$/.exec(text)
  if (!m || Number(m[2]) === 0 || Number(m[1]) === 0 || Number(m[3]) < 1 || Number(m[3]) > 999) return null
  return { beat: mul(frac(4), frac(Number(m[1]), Number(m[2]))), perMinute: Number(m[3]) }
}

export function formatTempo(t: Tempo): string {
  const whole = mul(t.beat, frac(1, 4))
  return `${whole.n}/${whole.d}=${t.perMinute}`
}

/**
 * What to assume when a tune states no tempo: moderate, counted in the felt beat; in an uneven metre in what
 * two of its units make.
 */
export const defaultTempo = (m: Metre): Tempo =>
  isUneven(m)
    ? { beat: mul(beatLength(m), frac(2)), perMinute: 88 }
    : { beat: beatLength(m), perMinute: isCompound(m) ? 84 : 88 }

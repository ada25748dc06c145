import { div, frac, isZero, mod, mul, type Fraction } from './fraction'

export const METRE_UNITS = [1, 2, 4, 8, 16, 32] as const

export interface Metre {
  readonly beats: number
  readonly unit: (typeof METRE_UNITS)[number]
}

/** Length of a full measure in quarters: 6/8 is 3. */
export const measureLength = (m: Metre): Fraction => frac(4 * m.beats, m.unit)

export const isCompound = (m: Metre) => m.unit >= 8 && m.beats % 3 === 0 && m.beats > 3

/** The felt beat in quarters: a dotted quarter in 6/8, a half note in 2/2, a quarter in 4/4. */
export const beatLength = (m: Metre): Fraction => (isCompound(m) ? frac(12, m.unit) : frac(4, m.unit))

/**
 * Weight of a place in the measure: 3 on the first beat, 2 on a secondary strong beat (third of four, fourth of six), 1 on other
 * beats, 0 between beats.
 */
export function beatStrength(m: Metre, at: Fraction): 0 | 1 | 2 | 3 {
  if (isZero(at)) return 3
  const beat = beatLength(m)
  if (!isZero(mod(at, beat))) return 0
  const index = div(at, beat).n
  const count = div(measureLength(m), beat).n
  return count % 2 === 0 && count > 2 && index === count / 2 ? 2 : 1
}

/** Reads "3/4". Null when it is no metre we write. */
export function parseMetre(text: string): Metre | null {
  const m = /^\s*(\d{1,2})\/(\d{1,2})\s*$/.exec(text)
  const unit = METRE_UNITS.find(u => u === Number(m?.[2]))
  const beats = Number(m?.[1])
  return m && unit && beats >= 1 && beats <= 64 ? { beats, unit } : null
}

export const metreName = (m: Metre) => `${m.beats}/${m.unit}`

export interface Tempo {
  /** The note the number counts, in quarters: 3/2 is a dotted quarter. */
  readonly beat: Fraction
  /** Beats a minute. */
  readonly perMinute: number
}

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

/** What to assume when a tune states no tempo: moderate, counted in the felt beat. */
export const defaultTempo = (m: Metre): Tempo => ({ beat: beatLength(m), perMinute: isCompound(m) ? 84 : 88 })

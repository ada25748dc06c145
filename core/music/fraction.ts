/**
 * Exact rational numbers. All time in Nokta is measured in quarter notes with these; floats are never used
 * for time. Every value is reduced and its denominator is positive.
 */
import { z } from 'zod'

/**
 * What every length is a multiple of: 1/FINEST of a quarter note. It has room for double-dotted 256ths and for
 * tuplets of 3, 5, 7, 9, 11, 13, 17, 19, 25 and 27 within each other, so that sums of lengths never grow a
 * denominator beyond it: up to LONGEST quarters they stay exact in a double (LONGEST x FINEST < 2^53).
 */
export const FINEST = 2 ** 9 * 3 ** 3 * 5 ** 2 * 7 * 11 * 13 * 17 * 19
/** The most quarters that are counted: some ten hours. */
export const LONGEST = 80_000

/** An exact number as it is stored: within what can be counted exactly. */
export const fractionSchema = z
  .strictObject({ n: z.int(), d: z.int().min(1) })
  .refine(isCountable, 'a length that cannot be counted: too long, or too fine')
  .readonly()
  .describe('exact rational, in quarter notes')

export type Fraction = z.infer<typeof fractionSchema>

/** Whether a length can be counted exactly, whatever it is added to. */
export function isCountable({ n, d }: { readonly n: number; readonly d: number }): boolean {
  return Number.isSafeInteger(n) && d >= 1 && FINEST % d === 0 && Math.abs(n) <= LONGEST * d
}

/** The countable length next to a number: a multiple of 1/5040 of a quarter, which all usual lengths are. */
export const nearestCountable = (x: number): Fraction => frac(Math.round(x * 5040), 5040)

/** A number that cannot be counted exactly: input that got past its reader. */
export class Uncountable extends RangeError {}

const gcd = (a: number, b: number): number => {
  while (b !== 0) [a, b] = [b, a % b]
  return Math.abs(a)
}

/**
 * A reduced fraction. `frac(6, 4)` is 3/2. Throws {@link Uncountable} for a zero denominator or a part that is
 * no safe integer.
 */
export function frac(n: number, d = 1): Fraction {
  if (d === 0 || !Number.isSafeInteger(n) || !Number.isSafeInteger(d))
    throw new Uncountable(`frac expects integers and a denominator other than 0, got ${n}/${d}`)
  const g = gcd(n, d) || 1
  const s = d < 0 ? -1 : 1
  return { n: (s * n) / g + 0, d: (s * d) / g }
}

export const ZERO = frac(0)
/** By the least common denominator, so that nothing between is larger than it has to be. */
export function add(a: Fraction, b: Fraction): Fraction {
  if (a.d === b.d) return frac(a.n + b.n, a.d)
  const g = gcd(a.d, b.d)
  return frac(a.n * (b.d / g) + b.n * (a.d / g), (a.d / g) * b.d)
}
export const sub = (a: Fraction, b: Fraction) => add(a, { n: -b.n, d: b.d })
/** Reduced crosswise before, for the same reason. */
export function mul(a: Fraction, b: Fraction): Fraction {
  const [g, h] = [gcd(a.n, b.d) || 1, gcd(b.n, a.d) || 1]
  return frac((a.n / g) * (b.n / h), (a.d / h) * (b.d / g))
}
export const div = (a: Fraction, b: Fraction) => mul(a, b.n < 0 ? { n: -b.d, d: -b.n } : { n: b.d, d: b.n })
/** Negative, zero or positive as `a` is less than, equal to or greater than `b`: exact for all of them. */
export function compare(a: Fraction, b: Fraction): number {
  const [left, right] = [a.n * b.d, b.n * a.d]
  if (Number.isSafeInteger(left) && Number.isSafeInteger(right)) return left - right
  return Number(BigInt(a.n) * BigInt(b.d) - BigInt(b.n) * BigInt(a.d))
}
export const equal = (a: Fraction, b: Fraction) => a.n === b.n && a.d === b.d
export const isZero = (a: Fraction) => a.n === 0
export const toNumber = (a: Fraction) => a.n / a.d
export const sum = (list: readonly Fraction[]) => list.reduce(add, ZERO)
export const max = (a: Fraction, b: Fraction) => (compare(a, b) >= 0 ? a : b)
/** `a` modulo `b`, in the range 0 (included) to b (excluded), for positive b. */
export function mod(a: Fraction, b: Fraction): Fraction {
  const ratio = div(a, b)
  return sub(a, mul(frac(Math.floor(ratio.n / ratio.d)), b))
}

/** `formatFraction(frac(3, 2))` is "3/2"; whole numbers have no denominator: "2". */
export const formatFraction = (a: Fraction) => (a.d === 1 ? String(a.n) : `${a.n}/${a.d}`)

/** Reads "3/2" or "2"; null when the text is not a fraction of safe integers. */
export function parseFraction(text: string): Fraction | null {
  const m = /^(-?\d{1,9})(?:\/(\d{1,9}))?$/.exec(text.trim())
  if (!m) return null
  const d = m[2] === undefined ? 1 : Number(m[2])
  return d === 0 ? null : frac(Number(m[1]), d)
}

/**
 * The simplest fraction within 1e-7 of a float, by continued fractions (Stern-Brocot descent); used only
 * where a parser hands us a float. Null when no denominator up to `maxDenominator` fits.
 */
export function fromFloat(x: number, maxDenominator = 8192): Fraction | null {
  if (!Number.isFinite(x) || Math.abs(x) > 1e6) return null
  let [h0, h1, k0, k1] = [0, 1, 1, 0]
  let rest = x
  for (let i = 0; i < 32; i++) {
    const whole = Math.floor(rest)
    ;[h0, h1] = [h1, whole * h1 + h0]
    ;[k0, k1] = [k1, whole * k1 + k0]
    if (k1 > maxDenominator) return null
    if (Math.abs(h1 / k1 - x) < 1e-7) return frac(h1, k1)
    rest = 1 / (rest - whole)
  }
  return null
}

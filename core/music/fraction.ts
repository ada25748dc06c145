/**
 * Exact rational numbers. All time in Nokta is measured in quarter notes with these; floats are never used
 * for time. Every value is reduced and its denominator is positive.
 */
export interface Fraction {
  readonly n: number
  readonly d: number
}

const gcd = (a: number, b: number): number => {
  while (b !== 0) [a, b] = [b, a % b]
  return Math.abs(a)
}

/**
 * A reduced fraction. `frac(6, 4)` is 3/2. Throws a RangeError for a zero denominator or a non-integer part
 * (our own mistake: input is checked at the edge by {@link parseFraction}).
 */
export function frac(n: number, d = 1): Fraction {
  if (d === 0 || !Number.isSafeInteger(n) || !Number.isSafeInteger(d)) {
    throw new RangeError(`frac expects integers and a denominator other than 0, got ${n}/${d}`)
  }
  const g = gcd(n, d) || 1
  const s = d < 0 ? -1 : 1
  return { n: (s * n) / g + 0, d: (s * d) / g }
}

export const ZERO = frac(0)
export const add = (a: Fraction, b: Fraction) => frac(a.n * b.d + b.n * a.d, a.d * b.d)
export const sub = (a: Fraction, b: Fraction) => frac(a.n * b.d - b.n * a.d, a.d * b.d)
export const mul = (a: Fraction, b: Fraction) => frac(a.n * b.n, a.d * b.d)
export const div = (a: Fraction, b: Fraction) => frac(a.n * b.d, a.d * b.n)
/** Negative, zero or positive as `a` is less than, equal to or greater than `b`. */
export const compare = (a: Fraction, b: Fraction) => a.n * b.d - b.n * a.d
export const equal = (a: Fraction, b: Fraction) => a.n === b.n && a.d === b.d
export const isZero = (a: Fraction) => a.n === 0
export const toNumber = (a: Fraction) => a.n / a.d
export const sum = (list: readonly Fraction[]) => list.reduce(add, ZERO)
export const max = (a: Fraction, b: Fraction) => (compare(a, b) >= 0 ? a : b)
/** `a` modulo `b`, in the range 0 (included) to b (excluded), for positive b. */
export function mod(a: Fraction, b: Fraction): Fraction {
  const q = Math.floor((a.n * b.d) / (a.d * b.n))
  return sub(a, mul(frac(q), b))
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

import { toNumber, type Fraction } from '#core/music/fraction'

/** A printable note value: its undotted length in quarters (4 whole, 1/8 a thirty-second), and its dots. */
export interface NoteValue {
  readonly of: number
  readonly dots: number
  /** Length in quarters, dots and all. */
  readonly quarters: number
}

const PLAIN = [8, 4, 2, 1, 0.5, 0.25, 0.125, 0.0625, 0.03125]

const VALUES: readonly NoteValue[] = PLAIN.flatMap(of => [
  { of, dots: 2, quarters: of * 1.75 },
  { of, dots: 1, quarters: of * 1.5 },
  { of, dots: 0, quarters: of },
]).sort((a, b) => b.quarters - a.quarters)

/** Flags or beams a value has: an eighth one. */
export const flagsOf = (v: NoteValue) => Math.max(0, -Math.round(Math.log2(v.of)))

/**
 * The values that add up to a length, longest first: one for an ordinary note, more (tied together) for a
 * length such as five eighths. What is shorter than a 128th is not printed.
 */
export function valuesOf(length: Fraction): NoteValue[] {
  const out: NoteValue[] = []
  let rest = toNumber(length)
  while (rest > 0.03 && out.length < 12) {
    const fits = VALUES.find(v => v.quarters <= rest + 1e-9)
    if (!fits) break
    out.push(fits)
    rest -= fits.quarters
  }
  return out.length > 0 ? out : [{ of: 0.03125, dots: 0, quarters: toNumber(length) }]
}

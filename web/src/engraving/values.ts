import { frac, mul, toNumber, type Fraction } from '#core/music/fraction'
import type { TuneEvent } from '#core/music/tune'

/** A printable note value: VexFlow's name, dots, and length in quarters. */
export interface NoteValue {
  readonly name: string
  readonly dots: number
  readonly quarters: number
}

const NAMES: readonly (readonly [string, number])[] = [
  ['1/2', 8], ['w', 4], ['h', 2], ['q', 1], ['8', 0.5], ['16', 0.25], ['32', 0.125], ['64', 0.0625], ['128', 0.03125],
] // prettier-ignore

const VALUES: readonly NoteValue[] = NAMES.flatMap(([name, quarters]) => [
  { name, dots: 2, quarters: quarters * 1.75 },
  { name, dots: 1, quarters: quarters * 1.5 },
  { name, dots: 0, quarters },
]).sort((a, b) => b.quarters - a.quarters)

/** The length as it is written: a tuplet's sounding length times actual / normal. */
export const writtenLength = (e: Pick<TuneEvent, 'duration' | 'tuplet'>): Fraction =>
  e.tuplet ? mul(e.duration, frac(e.tuplet.actual, e.tuplet.normal)) : e.duration

/**
 * The values that add up to a length, longest first: one for an ordinary note, more (tied together) for a length such as five eighths. What is
 * shorter than a 128th is not printed.
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
  return out.length > 0 ? out : [{ name: '128', dots: 0, quarters: toNumber(length) }]
}

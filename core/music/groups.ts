/**
 * How the units of an uneven metre fall into twos and threes, heard from the tune: beats are where notes
 * begin, long ones rather than short, where the harmony changes and accents stand; a note that sounds on over
 * one speaks against it. Measures of one metre fall alike.
 */
import { add, compare, equal, frac, mul, toNumber, ZERO, type Fraction } from './fraction'
import { isUneven, type Metre } from './metre'
import type { TuneEvent } from './tune'

/** What speaks for a group that begins at a place, or against it. */
const BEGINS = 1
const SOUNDS_ON = -1.5
/** Its first note lasts as long as the group. */
const FILLS = 0.8
const ACCENT = 1
const HARMONY = 1
/**
 * Where nothing speaks, the long group stands at the end of seven, and at the beginning of five and eight.
 */
const USUAL = 1e-3

/**
 * The groups of a metre, from the full measures that stand in it; undefined where its beats are even, or
 * nothing could be told.
 */
export function feltGroups(
  metre: Metre,
  measures: readonly (readonly TuneEvent[])[],
): readonly number[] | undefined {
  if (metre.groups) return metre.groups
  if (!isUneven(metre) && !isFiveOrSeven(metre)) return undefined
  const { beats, unit } = metre
  const one = frac(4, unit)
  const gain = Array.from({ length: beats }, (_, k) =>
    [2, 3].map(g => (k + g <= beats ? spoken(measures, mul(one, frac(k)), mul(one, frac(g))) : -Infinity)),
  )
  const usual = (k: number, g: number) =>
    g === 3 ? (beats % 2 === 1 && beats > 5 ? k : beats - k) * USUAL : 0
  // The best way to cut the measure up to each unit.
  const best: { worth: number; groups: readonly number[] }[] = [{ worth: 0, groups: [] }]
  for (let end = 1; end <= beats; end++) {
    const ways = [2, 3].flatMap((g, i) => {
      const before = end >= g ? best[end - g]! : null
      return before && before.worth > -Infinity
        ? [{ worth: before.worth + gain[end - g]![i]! + usual(end - g, g), groups: [...before.groups, g] }]
        : []
    })
    best.push(
      ways.reduce((a, b) => (b.worth > a.worth ? b : a), {
        worth: -Infinity,
        groups: [] as readonly number[],
      }),
    )
  }
  return best[beats]!.groups
}

const isFiveOrSeven = ({ beats, unit }: Metre) => unit === 4 && (beats === 5 || beats === 7)

function spoken(measures: readonly (readonly TuneEvent[])[], start: Fraction, length: Fraction): number {
  let worth = 0
  for (const events of measures) {
    let at = ZERO
    for (const e of events) {
      const end = add(at, e.duration)
      if (equal(at, start))
        worth += BEGINS + (compare(e.duration, length) === 0 ? FILLS * toNumber(length) : 0) + signs(e)
      if (compare(at, start) < 0 && compare(start, end) < 0) worth += SOUNDS_ON
      at = end
    }
  }
  return worth
}

const signs = (e: TuneEvent) =>
  (e.chord ? HARMONY : 0) + (e.kind === 'note' && e.marks?.includes('accent') ? ACCENT : 0)

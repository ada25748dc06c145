/**
 * Groove patterns: how many units share each bow, over and over. A note longer than its place stands for what
 * it covers.
 */
import { numberWord } from '#core/counts'
import { toNumber } from '#core/music/fraction'
import type { BowTone } from './tones'

/** Units (of one note value) that share each bow, in order: [2, 1, 1] is two slurred, two separate. */
export type Pattern = readonly number[]

export interface Groove {
  readonly pattern: Pattern
  /** Length of a unit in quarters. */
  readonly unit: number
  /** Units after the barline at which the pattern begins. */
  readonly offset: number
}

/** Most units a pattern may span. */
export const LONGEST_PATTERN = 64

/** Reads "2 1 1" or "2,1,1". Null when it is no pattern: numbers of at least one unit, 64 units in all. */
export function parsePattern(text: string): Pattern | null {
  const numbers = text
    .trim()
    .split(/[\s,+]+/)
    .map(Number)
  const whole = numbers.every(n => Number.isInteger(n) && n >= 1 && n <= 16)
  const total = numbers.reduce((a, b) => a + b, 0)
  return text.trim() !== '' && whole && total <= LONGEST_PATTERN ? numbers : null
}

/** "one long, two short", to be read aloud. */
export function patternWords(p: Pattern): string {
  const runs: { units: number; times: number }[] = []
  for (const units of p) {
    const last = runs.at(-1)
    if (last?.units === units) last.times++
    else runs.push({ units, times: 1 })
  }
  const said = (r: { units: number; times: number }) =>
    r.units === 1
      ? `${numberWord(r.times)} separate`
      : `${r.times === 1 ? '' : `${numberWord(r.times)} times `}${numberWord(r.units)} slurred`
  return runs.map(said).join(', ')
}

/** Patterns to begin with, in plain words. */
export const GROOVES: readonly { readonly name: string; readonly pattern: Pattern; readonly what: string }[] =
  [
    { name: 'two and two', pattern: [2, 2], what: 'pairs from beat to beat' },
    {
      name: 'two slurred, two separate',
      pattern: [2, 1, 1],
      what: 'six strokes to a measure of eighths, so that each begins down',
    },
    { name: 'two separate, two slurred', pattern: [1, 1, 2], what: 'the slur leads into the next beat' },
    { name: 'over the half beat', pattern: [1, 2, 1], what: 'the slur lies across, the beats stay separate' },
    { name: 'one and three', pattern: [1, 3], what: 'one to start, three in the bow back' },
    { name: 'three and one', pattern: [3, 1], what: 'three slurred, one short to come back' },
    { name: 'across the beat', pattern: [1, 2, 2, 2, 1], what: 'pairs that push over every beat' },
    { name: 'threes', pattern: [3], what: 'a group of a jig to each bow' },
    { name: 'two and one', pattern: [2, 1], what: 'the long and the short of a jig' },
  ]

/**
 * For each tone, whether the pattern puts it in the bow of the tone before (true) or parts them; undefined
 * before the line begins.
 *
 * The pattern is counted from the barline; where it does not fit the measure a whole number of times, from
 * the barline where its phrase begins. In a round of the pattern where a tone covers more than its own bow,
 * the number of bows is kept: notes are slurred only where there are more of them than bows.
 */
export function patternJoins(
  tones: readonly BowTone[],
  groove: Groove,
  phrases: ReadonlySet<string>,
): boolean[] {
  const cycle = groove.pattern.reduce((a, b) => a + b, 0)
  const groups = groove.pattern.flatMap((n, g) => Array<number>(n).fill(g))
  const joins: boolean[] = tones.map(() => false)
  const placed = placesIn(tones, groove, cycle, phrases)
  for (let i = 0; i < tones.length;) {
    let end = i + 1
    while (end < tones.length && placed[end]!.round === placed[i]!.round) end++
    inRound(i, end)
    i = end
  }
  return joins

  function inRound(from: number, to: number) {
    const group = (k: number) => groups[Math.floor(placed[k]!.unit)]!
    const fits = (k: number) => {
      const last = placed[k]!.unit + tones[k]!.length / groove.unit - 1e-9
      return last >= cycle || groups[Math.floor(last)] === group(k)
    }
    let whole = true
    for (let k = from; k < to; k++) whole &&= fits(k)
    let over = whole ? Infinity : to - from - groove.pattern.length
    for (let k = from + 1; k < to; k++) {
      if (!tones[k]!.follows || tones[k]!.restBefore > 0 || group(k) !== group(k - 1)) continue
      if (over-- > 0) joins[k] = true
    }
  }
}

interface PlaceInPattern {
  readonly round: number
  readonly unit: number
}

function placesIn(
  tones: readonly BowTone[],
  { unit, offset }: Groove,
  cycle: number,
  phrases: ReadonlySet<string>,
): PlaceInPattern[] {
  let [round, measure, inPhrase, lastRound] = [0, -1, 0, '']
  return tones.map((t, i) => {
    const units = Math.round(toNumber(t.full) / unit)
    const fits = units % cycle === 0
    const newBar = t.measureIndex !== measure || (i > 0 && tones[i - 1]!.pass !== t.pass)
    if (newBar && measure !== -1) inPhrase += units
    if (phrases.has(t.id) && !t.pickup && toNumber(t.at) < toNumber(t.full) / 2) inPhrase = 0
    measure = t.measureIndex
    const at = toNumber(t.at) / unit - offset + (fits ? 0 : inPhrase)
    const name = `${fits ? `${t.measureIndex}.${t.pass}` : 'p'}:${Math.floor(at / cycle + 1e-9)}`
    if (name !== lastRound) round++
    lastRound = name
    return { round, unit: (((at % cycle) + cycle) % cycle) % cycle }
  })
}

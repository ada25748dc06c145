/**
 * The arm's plan: where the bow goes to another string, under a slur or with a turn, and where it swings to
 * and fro.
 */
import type { EventId } from '#core/music/ids'
import type { Stroke } from './stroke'

export interface BowCrossing {
  /** The note the bow arrives at. */
  readonly note: EventId
  readonly measure: number
  readonly pass: number
  /** String left and string reached, 0 the highest. */
  readonly from: number
  readonly to: number
  /** The bow goes on the same way while it crosses. */
  readonly slurred: boolean
  /** Seconds the note before leaves for it. */
  readonly seconds: number
}

export interface Swing {
  readonly note: EventId
  readonly measure: number
  /** Strokes from string to string and back, one after another. */
  readonly strokes: number
}

/** Each change of string, in playing order. */
export function bowCrossings(
  strokes: readonly Stroke[],
  stringOf: (event: EventId) => number,
): BowCrossing[] {
  const out: BowCrossing[] = []
  let last: number | null = null
  for (const s of strokes) {
    const each = s.seconds / s.tones.length
    s.tones.forEach((note, i) => {
      const to = stringOf(note)
      if (last !== null && last !== to)
        out.push({ note, measure: s.measure, pass: s.pass, from: last, to, slurred: i > 0, seconds: each })
      last = to
    })
  }
  return out
}

/** Fewer strokes to and fro are nothing to speak of. */
const LEAST_SWING = 8

/** Long alternations between two strings with separate bows. */
export function swings(strokes: readonly Stroke[], fastest: number): Swing[] {
  const out: Swing[] = []
  const level = (i: number) => (strokes[i]!.strings.length === 1 ? strokes[i]!.strings[0]! : -1)
  const isQuick = (i: number) => level(i) >= 0 && strokes[i]!.seconds < fastest
  /** A quick stroke on another string than the quick one before. */
  const turns = (i: number) => i < strokes.length && isQuick(i) && isQuick(i - 1) && level(i) !== level(i - 1)
  let from = 0
  for (let i = 1; i <= strokes.length; i++) {
    if (turns(i) && (i - from < 2 || level(i) === level(i - 2))) continue
    if (i - from >= LEAST_SWING && strokes[from]!.pass === 1)
      out.push({ note: strokes[from]!.notes[0]!, measure: strokes[from]!.measure, strokes: i - from })
    // The stroke that ends one swing may be the first of another.
    from = turns(i) ? i - 1 : i
  }
  return out
}

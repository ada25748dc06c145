/** From notes to strokes: what one bow takes. Slurs and ties join; a rest or a new note parts. */
import { add, compare, sub, toNumber, ZERO, type Fraction } from '#core/music/fraction'
import { beatStrength, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { playOrder } from '#core/music/playOrder'
import { isNote, placeEvents, tieOrigins, type Placed } from '#core/music/timeline'
import type { EventId } from '#core/music/ids'
import type { NoteEvent, Tune } from '#core/music/tune'
import { slurredToPrevious } from '#core/line/joins'

export interface PlayedStroke {
  /** Event ids under this bow, in order, ties included. */
  readonly notes: readonly EventId[]
  readonly seconds: number
  /** Seconds of rest before the stroke. */
  readonly restBefore: number
  /** A comma or lift mark before it invites a retake. */
  readonly lifted: boolean
  readonly loudness: number
  readonly accent: boolean
  /** Beat strength where the stroke begins. */
  readonly strength: number
  readonly measure: number
  /** Index of the measure, and which time through its repeat. */
  readonly measureIndex: number
  readonly pass: number
}

export interface StrokeOptions {
  readonly tempo: Tempo
  /** Ids of events that take the same bow as the event before; the tune's slurs when absent. */
  readonly joined?: ReadonlySet<string>
}

const LOUDNESS: Record<string, number> = {
  ppp: 0.5,
  pp: 0.6,
  p: 0.75,
  mp: 0.9,
  mf: 1,
  f: 1.2,
  ff: 1.35,
  fff: 1.5,
}

interface Played {
  readonly placed: Placed<NoteEvent>
  readonly pass: number
  readonly start: Fraction
  readonly end: Fraction
}

/** Strokes in the order they are played, repeats unfolded. */
export function strokesOf(tune: Tune, options: StrokeOptions): PlayedStroke[] {
  const placed = placeEvents(tune)
  const joined = new Set(options.joined ?? slurredToPrevious(tune))
  for (const id of tieOrigins(placed).keys()) joined.add(id)
  const previous = new Map(placed.map((p, i) => [p.event.id, placed[i - 1]?.event.id]))
  const seconds = secondsPerQuarter(options.tempo)
  const groups: Played[][] = []
  for (const p of played(tune, placed)) {
    const last = groups.at(-1)?.at(-1)
    const follows =
      last && last.placed.event.id === previous.get(p.placed.event.id) && compare(last.end, p.start) === 0
    if (follows && joined.has(p.placed.event.id)) groups.at(-1)!.push(p)
    else groups.push([p])
  }
  let loudness = 1
  return groups.map((group, i) => {
    const first = group[0]!
    const dynamic = group.map(g => g.placed.event.dynamic).find(d => d !== undefined)
    if (dynamic) loudness = LOUDNESS[dynamic]!
    const end = groups[i - 1]?.at(-1)
    const marks = [...(end?.placed.event.marks ?? [])]
    return {
      notes: group.map(g => g.placed.event.id),
      seconds: toNumber(sub(group.at(-1)!.end, first.start)) * seconds,
      restBefore: end ? toNumber(sub(first.start, end.end)) * seconds : 0,
      lifted: marks.includes('comma') || marks.includes('lift'),
      loudness,
      accent: first.placed.event.marks?.includes('accent') ?? false,
      strength: beatStrength(first.placed.measure.metre, first.placed.inMeasure),
      measure: first.placed.measure.number,
      measureIndex: first.placed.measure.index,
      pass: first.pass,
    }
  })
}

function played(tune: Tune, placed: readonly Placed[]): Played[] {
  const byMeasure = new Map<number, Placed[]>()
  for (const p of placed) byMeasure.set(p.measure.index, [...(byMeasure.get(p.measure.index) ?? []), p])
  const out: Played[] = []
  let at = ZERO
  for (const { index, pass } of playOrder(tune)) {
    for (const p of byMeasure.get(index) ?? []) {
      const end = add(at, p.event.duration)
      if (isNote(p)) out.push({ placed: p, pass, start: at, end })
      at = end
    }
  }
  return out
}

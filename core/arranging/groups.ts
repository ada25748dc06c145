/**
 * A measure cut where its beats begin: the pieces in which notes can give way to others without moving what
 * stands around them.
 */
import { add, compare, equal, frac, mod, sub, ZERO, type Fraction } from '#core/music/fraction'
import { beatsOf, inThrees, isUneven } from '#core/music/metre'
import { midi } from '#core/music/pitch'
import { leadsIn, placeMeasures, type PlacedMeasure } from '#core/music/timeline'
import type { Tune, TuneEvent } from '#core/music/tune'

export interface Group {
  /** Id of its first event: its name. */
  readonly id: string
  readonly events: readonly TuneEvent[]
  readonly measure: PlacedMeasure
  /** Where it begins in its measure, and how long it lasts, in quarters. */
  readonly at: Fraction
  readonly length: Fraction
  /**
   * The felt beats it covers, counted from its beginning; a group that begins or ends between beats has a
   * shorter one there.
   */
  readonly beats: readonly BeatPart[]
  readonly pickup: boolean
}

export interface BeatPart {
  readonly at: Fraction
  readonly length: Fraction
}

/**
 * From felt beat to felt beat, as short as can be: a note held over a beat keeps both together. Empty
 * measures have none.
 */
export function groupsOf(tune: Tune): Group[] {
  const measures = placeMeasures(tune)
  return measures.flatMap((measure, i) => {
    const pickup = leadsIn(measure, measures[i - 1])
    const offset = pickup ? sub(measure.full, measure.length) : ZERO
    const begins = beatBoundaries(measure)
    const out: Group[] = []
    let [at, from, events] = [offset, offset, [] as TuneEvent[]]
    const close = (end: Fraction) => {
      if (events.length > 0) {
        const beats = beatsWithin(begins, from, end)
        out.push({ id: events[0]!.id, events, measure, at: from, length: sub(end, from), beats, pickup })
      }
      events = []
      from = end
    }
    for (const e of measure.measure.events) {
      events.push(e)
      at = add(at, e.duration)
      if (begins.some(b => equal(b, mod(at, measure.full)))) close(at)
    }
    close(at)
    return out
  })
}

/**
 * Where beats begin, in quarters: the thirds' groups of a compound metre, the groups of an uneven one, else
 * every quarter.
 */
function beatBoundaries({ metre, felt, full }: PlacedMeasure): Fraction[] {
  if (isUneven(metre) && felt.groups) return beatsOf(felt).map(b => b.start)
  const beat = inThrees(metre) ? frac(3, 2) : frac(1)
  const out: Fraction[] = []
  for (let at = ZERO; compare(at, full) < 0; at = add(at, beat)) out.push(at)
  return out
}

/**
 * The beats a stretch of a measure covers, the first and last of them cut where it begins and ends; counted
 * from its beginning.
 */
function beatsWithin(begins: readonly Fraction[], from: Fraction, end: Fraction): BeatPart[] {
  const inner = begins.filter(b => compare(b, from) > 0 && compare(b, end) < 0)
  const edges = [from, ...inner, end]
  return edges.slice(1).map((to, i) => ({ at: sub(edges[i]!, from), length: sub(to, edges[i]!) }))
}

/**
 * What sounds at a place of the group, counted from its beginning: the event, and whether it begins just
 * there.
 */
export function soundingAt(g: Group, at: Fraction): { event: TuneEvent; begins: boolean } | null {
  let now = ZERO
  for (const event of g.events) {
    const end = add(now, event.duration)
    if (compare(now, at) <= 0 && compare(at, end) < 0) return { event, begins: compare(now, at) === 0 }
    now = end
  }
  return null
}

/** What a group and the measure around it are to the ear. */
export function contentOf(g: Group): string {
  const bar = g.measure.measure.events.map(
    e =>
      `${e.kind === 'note' ? e.heads.map(h => midi(h.pitch)).join('+') : 'z'}:${e.duration.n}/${e.duration.d}`,
  )
  return `${g.at.n}/${g.at.d} ${bar.join(' ')}`
}

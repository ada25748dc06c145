/** A measure cut where its beats begin: the pieces in which notes can give way to others without moving what stands around them. */
import { add, compare, frac, isZero, mod, sub, ZERO, type Fraction } from '#core/music/fraction'
import { inThrees } from '#core/music/metre'
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
  /** The felt beat: a quarter, or a dotted quarter where the beat has three parts. */
  readonly beat: Fraction
  readonly pickup: boolean
}

/** From beat to beat, as short as can be: a note held over a beat keeps both together. Empty measures have none. */
export function groupsOf(tune: Tune): Group[] {
  const measures = placeMeasures(tune)
  return measures.flatMap((measure, i) => {
    const pickup = leadsIn(measure, measures[i - 1])
    const offset = pickup ? sub(measure.full, measure.length) : ZERO
    const beat = inThrees(measure.metre) ? frac(3, 2) : frac(1)
    const out: Group[] = []
    let [at, from, events] = [offset, offset, [] as TuneEvent[]]
    const close = (end: Fraction) => {
      if (events.length > 0) out.push({ id: events[0]!.id, events, measure, at: from, length: sub(end, from), beat, pickup }) // prettier-ignore
      events = []
      from = end
    }
    for (const e of measure.measure.events) {
      events.push(e)
      at = add(at, e.duration)
      if (isZero(mod(at, beat))) close(at)
    }
    close(at)
    return out
  })
}

/** What sounds at a place of the group, counted from its beginning: the event, and whether it begins just there. */
export function soundingAt(g: Group, at: Fraction): { event: TuneEvent; begins: boolean } | null {
  let now = ZERO
  for (const event of g.events) {
    const end = add(now, event.duration)
    if (compare(now, at) <= 0 && compare(at, end) < 0) return { event, begins: compare(now, at) === 0 }
    now = end
  }
  return null
}

/**
 * Beginnings of equal parts of a group, each so many quarters long, where the measure's own lie: a group that begins between them has a shorter first part, one that
 * ends between them a shorter last.
 */
export function partsOf(g: Group, part: Fraction): { at: Fraction; length: Fraction }[] {
  const out: { at: Fraction; length: Fraction }[] = []
  let at = ZERO
  while (compare(at, g.length) < 0) {
    const next = sub(part, mod(add(g.at, at), part))
    const left = sub(g.length, at)
    const length = compare(left, next) < 0 ? left : next
    out.push({ at, length })
    at = add(at, length)
  }
  return out
}

/** What a group and the measure around it are to the ear. */
export function contentOf(g: Group): string {
  const bar = g.measure.measure.events.map(e => `${e.kind === 'note' ? e.heads.map(h => midi(h.pitch)).join('+') : 'z'}:${e.duration.n}/${e.duration.d}`) // prettier-ignore
  return `${g.at.n}/${g.at.d} ${bar.join(' ')}`
}

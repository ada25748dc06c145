/**
 * A passage cut out of its measures: what stands before its first note and after its last one is left out.
 */
import { add, compare } from '#core/music/fraction'
import type { Placed } from '#core/music/timeline'
import type { TabEvent, TabMeasure } from '#core/tablature/tabModel'
import { onlyEvents, type NotatedMeasure } from './notation'
import type { PagePart } from './systems'

/**
 * The parts with only what sounds while these events of the first one do, at their times. Measures keep their
 * places; what a cut one had at the edge that is gone, goes with it.
 */
export function passage(parts: readonly PagePart[], events: readonly string[]): PagePart[] {
  const own = new Set(events)
  const placed = (parts[0]?.notated.measures ?? [])
    .flatMap(m => m.events.map(e => e.placed))
    .filter(p => own.has(p.event.id))
  const [first, last] = [placed[0], placed.at(-1)]
  if (!first || !last) return [...parts]
  const end = add(last.start, last.event.duration)
  return parts.map(p => cutPart(p, e => compare(e.start, first.start) >= 0 && compare(e.start, end) < 0))
}

function cutPart(part: PagePart, within: (e: Placed) => boolean): PagePart {
  const { notated, tab } = part
  const kept = new Set<string>(
    notated.measures.flatMap(m => m.events.filter(e => within(e.placed)).map(e => e.placed.event.id)),
  )
  const cuts = notated.measures.map(m => cutOf(m, kept))
  const measures = notated.measures.map((m, i) => cutNotated(m, cuts[i]!, kept))
  return {
    ...part,
    notated: { ...notated, measures },
    tab: {
      ...tab,
      measures: withoutBegun(
        placeNamed(tab.measures, kept).map((m, i) => cutTab(m, cuts[i]!, kept)),
        cuts,
      ),
    },
  }
}

interface Cut {
  readonly start: boolean
  readonly end: boolean
}

function cutOf({ events }: NotatedMeasure, kept: ReadonlySet<string>): Cut {
  const has = (e: NotatedMeasure['events'][number] | undefined) => !e || kept.has(e.placed.event.id)
  return { start: !has(events[0]), end: !has(events.at(-1)) }
}

function cutNotated(m: NotatedMeasure, { start, end }: Cut, kept: ReadonlySet<string>): NotatedMeasure {
  const only = onlyEvents(m, e => kept.has(e.placed.event.id))
  const { repeatStart, repeatEnd, barline, ...measure } = m.placed.measure
  return {
    ...only,
    placed: {
      ...m.placed,
      measure: { ...measure, ...(!start && { repeatStart }), ...(!end && { repeatEnd, barline }) },
    },
  }
}

function cutTab(m: TabMeasure, { start, end }: Cut, kept: ReadonlySet<string>): TabMeasure {
  const { label, barline, way: _, ...rest } = m
  return {
    ...rest,
    ...(!start && { label }),
    ...(!end && { barline }),
    ...(!start && !end && { way: m.way }),
    repeatStart: m.repeatStart && !start,
    repeatEnd: m.repeatEnd && !end,
    // Its name stands over it already.
    events: m.events.filter(e => kept.has(e.id)).map(({ phrase: _, ...e }) => e),
  }
}

/** An ending that began before the passage is none of it, as far as it goes. */
function withoutBegun(measures: readonly TabMeasure[], cuts: readonly Cut[]): TabMeasure[] {
  let begun = ''
  return measures.map((m, i) => {
    const own = m.endings?.join() ?? ''
    begun = own !== '' && (cuts[i]!.start || own === begun) ? own : ''
    const { endings: _, ...rest } = m
    return begun === '' ? m : rest
  })
}

/** Where the hand stands when the passage begins is said at its first note, though it came there before. */
function placeNamed(measures: readonly TabMeasure[], kept: ReadonlySet<string>): readonly TabMeasure[] {
  const events = measures.flatMap(m => m.events)
  const at = events.findIndex(e => kept.has(e.id))
  const first = events[at]
  if (!first?.away || first.position !== undefined) return measures
  const position = events.slice(0, at).findLast(e => e.position !== undefined)?.position
  const named = (e: TabEvent): TabEvent => (e === first && position !== undefined ? { ...e, position } : e)
  return measures.map(m => ({ ...m, events: m.events.map(named) }))
}

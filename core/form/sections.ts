/** Parts as the page shows them: after a closed repeat, at an opened one, after a double bar, at a label. */
import { compare } from '#core/music/fraction'
import { midi } from '#core/music/pitch'
import { beatLength } from '#core/music/metre'
import { isNote, leadsIn, type Placed, type PlacedMeasure } from '#core/music/timeline'
import { ticks, type Material } from './material'

/** Stretches between signs; each is a part, or several that nothing marks. */
export function sectionsOf(measures: readonly PlacedMeasure[]): PlacedMeasure[][] {
  const groups: PlacedMeasure[][] = []
  measures.forEach((m, i) => {
    const before = measures[i - 1]?.measure
    const afterEnd = before?.repeatEnd === true && !m.measure.endings
    const leavesEndings = before?.endings !== undefined && !m.measure.endings
    const starts =
      !before ||
      m.measure.repeatStart ||
      afterEnd ||
      leavesEndings ||
      before.barline !== undefined ||
      !!m.measure.label
    const previous = groups.at(-1)
    // A bare pickup before the repeat sign belongs to the part it leads into.
    const onlyPickup =
      previous?.length === 1 &&
      compare(previous[0]!.length, previous[0]!.full) < 0 &&
      !previous[0]!.measure.repeatEnd
    if (starts && !(onlyPickup && previous)) groups.push([m])
    else previous!.push(m)
  })
  return groups
}

interface OwnEvents {
  readonly events: Placed[]
  readonly measures: readonly PlacedMeasure[]
  /** Repeated as a whole: it is one part, whatever returns inside it. */
  readonly marked: boolean
}

/** The events of each section; a pickup at the end of the one before goes to the one it leads into. */
export function ownEvents({ events, measures }: Material): OwnEvents[] {
  const out: OwnEvents[] = []
  let next = 0
  for (const section of sectionsOf(measures)) {
    const high = section.at(-1)!.index
    const own: Placed[] = []
    for (; next < events.length && events[next]!.measure.index <= high; next++) own.push(events[next]!)
    const before = out.at(-1)
    const begins = section[0]!
    if (before && own.length > 0 && !leadsIn(begins, measures[begins.index - 1])) {
      own.unshift(...before.events.splice(before.events.length - trailing(before.events, events)))
    }
    const marked = section.some(m => m.measure.repeatEnd === true || m.measure.endings !== undefined)
    if (own.length > 0) out.push({ events: own, measures: section, marked })
  }
  return out
}

/** The last note said again. */
const onOneNote = (events: readonly Placed[]) =>
  new Set(events.map(p => (isNote(p) ? midi(p.event.heads.at(-1)!.pitch) : null))).size === 1

/**
 * How many events at the end of a section lead into the next: as many as make the tune's own pickup; where it
 * has none, short notes after one that is held twice as long, from a third of a beat to half a measure. Never
 * before a repeat.
 */
function trailing(events: readonly Placed[], all: readonly Placed[]): number {
  const [first, last] = [all[0]!, events.at(-1)!]
  if (last.measure.measure.repeatEnd || last.measure.measure.endings?.includes(1) === true) return 0
  if (ticks(last.measure.length) !== ticks(last.measure.full)) return 0
  const usual = leadsIn(first.measure, undefined) ? ticks(first.measure.length) : null
  const most = usual ?? ticks(last.measure.full) / 2
  let [length, longest] = [0, 0]
  for (let k = 1; k < events.length; k++) {
    const p = events[events.length - k]!
    const before = events[events.length - k - 1]!
    length += ticks(p.event.duration)
    longest = Math.max(longest, ticks(p.event.duration))
    if (length > most || p.measure !== last.measure || before.measure !== last.measure) return 0
    if (usual === null) {
      if (!isNote(p)) return 0
      if (isNote(before) && ticks(before.event.duration) >= 2 * longest)
        return !onOneNote(events.slice(-k - 1)) && 3 * length >= ticks(beatLength(last.measure.felt)) ? k : 0
    } else if (length === usual) {
      return !isNote(before) || ticks(before.event.duration) > ticks(p.event.duration) ? k : 0
    }
  }
  return 0
}

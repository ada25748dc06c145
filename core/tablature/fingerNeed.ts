/**
 * Which fingers a reader needs over the staff: where the hand does what could not be guessed, and where
 * anything changes.
 */
import type { Derived } from '#core/arrangement/derive'
import { eventOf, type EventId } from '#core/music/ids'
import type { SheetRecipe } from '#core/styles/sheetRecipe'
import { placeEvents } from '#core/music/timeline'
import { shownMark, type Named } from './names'

/** 2: it is not obvious; 1: something changes; events that follow by themselves are absent. */
export type FingerNeed = 1 | 2

/** The need from which a finger is shown, by what a sheet marks; null where it marks none. */
export const LEAST_NEED = { all: 0, changes: 1, needed: 2, none: null } as const satisfies Record<
  SheetRecipe['fingers'],
  0 | FingerNeed | null
>

/** After so many notes without a finger one is shown again, so that the reader does not lose the place. */
const AGAIN = 8

/**
 * Not obvious: the first note of a phrase, a shift and where it leads, a finger off its home place, 4 or an
 * open string where the other would have done, double stops, harmonics, what the teacher pinned. Changes:
 * another string.
 */
export function fingerNeeds(
  d: Derived,
  named: Named,
  pinned: ReadonlySet<string>,
): ReadonlyMap<EventId, FingerNeed> {
  const out = new Map<EventId, FingerNeed>()
  const keys = new Map(placeEvents(d.tune).map(p => [p.event.id, p.measure.key]))
  const first = new Set(d.form.phrases.flatMap(p => p.events.find(e => keys.has(e)) ?? []))
  const shifts = new Set(d.shifts.map(s => s.to))
  const heads = new Map<EventId, number>()
  for (const n of d.fingering.notes) heads.set(eventOf(n.id), (heads.get(eventOf(n.id)) ?? 0) + 1)
  let since = 0
  let string: number | null = null
  for (const n of d.fingering.notes) {
    const event = eventOf(n.id)
    if (n.tiedFrom !== undefined || out.has(event)) continue
    since++
    const mark = shownMark(n, named, keys.get(event)!)
    const unclear =
      first.has(event) ||
      shifts.has(event) ||
      pinned.has(n.id) ||
      n.harmonic === true ||
      (n.finger !== 0 && mark !== 'home') ||
      heads.get(event)! > 1 ||
      n.finger === 4 ||
      (n.finger === 0 && string !== null && n.string < string)
    if (unclear || since >= AGAIN) {
      out.set(event, 2)
      since = 0
    } else if (string !== null && n.string !== string) out.set(event, 1)
    string = n.string
  }
  return out
}

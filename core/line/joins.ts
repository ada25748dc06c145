/** What is played in one bow: slurs as written, and as an arrangement changes them. */
import type { EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'

/** Ids of all events that lie under a slur together with the event before them. */
export function slurredToPrevious(tune: Tune): Set<EventId> {
  const ids = tune.measures.flatMap(m => m.events.map(e => e.id))
  const index = new Map(ids.map((id, i) => [id, i]))
  const out = new Set<EventId>()
  for (const s of tune.slurs) {
    const [from, to] = [index.get(s.from), index.get(s.to)]
    if (from === undefined || to === undefined) continue
    for (let i = from + 1; i <= to; i++) out.add(ids[i]!)
  }
  return out
}

/** The events that take the same bow as the one before: the tune's slurs, changed by the recipe. */
export function joinedEvents(tune: Tune, joins: Readonly<Record<string, boolean>>): Set<EventId> {
  const joined = slurredToPrevious(tune)
  for (const [id, on] of Object.entries(joins)) {
    if (on) joined.add(id)
    else joined.delete(id)
  }
  return joined
}

/** Slurs as runs of joined events: what the page shows when the recipe changed them. */
export function slursOf(tune: Tune, joined: ReadonlySet<EventId>): Tune['slurs'] {
  const slurs: { from: string; to: string }[] = []
  let [before, open] = ['', false]
  for (const { id } of tune.measures.flatMap(m => m.events)) {
    if (!joined.has(id) || before === '') open = false
    else if (open) slurs[slurs.length - 1]!.to = id
    else {
      slurs.push({ from: before, to: id })
      open = true
    }
    before = id
  }
  return slurs
}

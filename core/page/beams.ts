/** What each note under a beam has of it, line by line: the first from the eighths', the second the sixteenths'. */
import type { EventId } from '#core/music/ids'
import type { Notated, NotatedEvent } from './notation'
import { flagsOf } from './values'

export type BeamPart = 'begin' | 'continue' | 'end' | 'forward hook' | 'backward hook'

const linesOf = (e: NotatedEvent | undefined) => (e ? flagsOf(e.values[0]!) : 0)

/**
 * A line goes on where both neighbours have it; a note that has it alone gets a hook, towards the note it
 * belongs to: forwards from the first under its beam, else back.
 */
function partOf(before: NotatedEvent | undefined, after: NotatedEvent | undefined, line: number): BeamPart {
  const [from, to] = [linesOf(before) > line, linesOf(after) > line]
  if (from) return to ? 'continue' : 'end'
  if (to) return 'begin'
  return before ? 'backward hook' : 'forward hook'
}

/** By event, outermost line first. */
export function beamParts({ measures }: Notated): Map<EventId, BeamPart[]> {
  const out = new Map<EventId, BeamPart[]>()
  for (const { beams, events } of measures) {
    if (beams.length === 0) continue
    const byId = new Map(events.map(e => [e.placed.event.id, e]))
    for (const beam of beams) {
      const under = beam.map(id => byId.get(id)!)
      under.forEach((e, i) => {
        const parts = Array.from({ length: linesOf(e) }, (_, line) =>
          partOf(under[i - 1], under[i + 1], line),
        )
        out.set(e.placed.event.id, parts)
      })
    }
  }
  return out
}

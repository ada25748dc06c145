/** Which bow marks stand on the page, and what is slurred once Nokta's own marks count. */
import type { Derived } from '#core/arrangement/derive'
import type { Shown } from '#core/arrangement/recipe'
import type { EventId } from '#core/music/ids'

/**
 * First events of the strokes whose direction is shown: of all; of those where it does not follow from the
 * mark before (the first, after a lift or a hook, after a rest, at a repeat, and where it was pinned or
 * written); of the first in each phrase; or of none.
 */
export function bowMarksOf({ bowing, form }: Derived, marks: Shown['bowMarks']): Set<EventId> {
  const { written, problem } = bowing
  if (marks === 'none') return new Set()
  if (marks === 'all') return new Set(written.map(s => s.notes[0]!))
  if (marks === 'phrases') {
    const phrases = form.phrases.map(p => new Set(p.events))
    return new Set(phrases.flatMap(p => written.find(s => p.has(s.notes[0]!))?.notes[0] ?? []))
  }
  const marked = new Set(
    problem.tones.flatMap(t => (t.marked || problem.options.pins[t.id]?.direction ? [t.id] : [])),
  )
  return new Set(
    written.flatMap((s, i) => {
      const before = written[i - 1]
      const follows =
        before &&
        before.direction !== s.direction &&
        s.restBefore === 0 &&
        before.measureIndex <= s.measureIndex
      return follows && !marked.has(s.notes[0]!) ? [] : [s.notes[0]!]
    }),
  )
}

/** Events in the bow of the event before: written and wished slurs, those added, without those parted. */
export function joinedAsBowed({ joined, bowing }: Pick<Derived, 'joined' | 'bowing'>): Set<EventId> {
  const out = new Set(joined)
  for (const { note, way } of bowing.written.flatMap(s => s.added)) {
    if (way === 'slur') out.add(note)
    if (way === 'part') out.delete(note)
  }
  return out
}

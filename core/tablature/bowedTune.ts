/** A tune with the bow marks of its arrangement written into it, as files carry them. */
import type { Derived } from '#core/arrangement/derive'
import { slursOf } from '#core/line/joins'
import type { EventId } from '#core/music/ids'
import type { Mark, Tune } from '#core/music/tune'
import type { Shown } from '#core/arrangement/recipe'
import { bowMarksOf, joinedAsBowed } from './bowMarks'

/**
 * Directions stand on the first note of each stroke that shows one on the page; a lift on the note before it; a
 * hook is a slur whose second note is held apart (tenuto), which is also how it is read.
 */
export function bowedTune(d: Derived, shown: Shown['bowMarks']): Tune {
  const marked = bowMarksOf(d, shown)
  const marks = new Map<EventId, Mark[]>()
  const put = (id: EventId, mark: Mark) => marks.set(id, [...(marks.get(id) ?? []), mark])
  const joined = joinedAsBowed(d)
  d.bowing.written.forEach((s, i) => {
    const first = s.notes[0]!
    const last = d.bowing.written[i - 1]?.notes.at(-1)
    if (s.hook) {
      joined.add(first)
      put(first, 'tenuto')
    } else if (marked.has(first)) put(first, s.direction === 'down' ? 'downbow' : 'upbow')
    if (s.lift && last !== undefined) put(last, 'lift')
  })
  const BOWS: readonly Mark[] = ['downbow', 'upbow']
  const measures = d.tune.measures.map(m => ({
    ...m,
    events: m.events.map(e => {
      if (e.kind !== 'note') return e
      const own = (e.marks ?? []).filter(k => !BOWS.includes(k))
      const all = [...new Set([...own, ...(marks.get(e.id) ?? [])])]
      const { marks: _, ...rest } = e
      return all.length > 0 ? { ...rest, marks: all } : rest
    }),
  }))
  return { ...d.tune, measures, slurs: slursOf(d.tune, joined) }
}

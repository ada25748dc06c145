/** Changing how long notes last: values, dots, tuplets, ties. */
import { add, compare, div, equal, frac, mul, ZERO, type Fraction } from '../fraction'
import type { Tune, TuneEvent } from '../tune'
import { eventsOf, findEvent, FreshIds, mapEvents, mapNotes, tidy, unchanged, type Edited } from './edited'

/** The length as written: a tuplet's sounding length times actual / normal. */
export const writtenLength = (e: Pick<TuneEvent, 'duration' | 'tuplet'>): Fraction =>
  e.tuplet ? mul(e.duration, frac(e.tuplet.actual, e.tuplet.normal)) : e.duration

const SHORTEST = frac(1, 16)
const LONGEST = frac(16)
const sounding = (e: TuneEvent, written: Fraction) =>
  e.tuplet ? mul(written, frac(e.tuplet.normal, e.tuplet.actual)) : written

/**
 * Gives events a written length, in quarters. Shorter than a sixty-fourth or longer than four whole notes
 * changes nothing.
 */
export function setLength(tune: Tune, ids: readonly string[], length: Fraction): Edited {
  const chosen = ids.at(-1) ?? null
  if (compare(length, SHORTEST) < 0 || compare(length, LONGEST) > 0) return unchanged(tune, chosen)
  return {
    tune: mapEvents(tune, ids, e =>
      equal(writtenLength(e), length) ? e : { ...e, duration: sounding(e, length) },
    ),
    chosen,
  }
}

/** Half or twice as long, or with a dot put on and taken off. */
export function scaleLength(tune: Tune, ids: readonly string[], how: 'half' | 'double' | 'dot'): Edited {
  const factor = (e: TuneEvent) => {
    if (how !== 'dot') return how === 'half' ? frac(1, 2) : frac(2)
    // A dotted value has a 3 on top: 3/2, 3/4.
    return writtenLength(e).n % 3 === 0 ? frac(2, 3) : frac(3, 2)
  }
  const next = mapEvents(tune, ids, e => {
    const length = mul(writtenLength(e), factor(e))
    if (compare(length, SHORTEST) < 0 || compare(length, LONGEST) > 0) return e
    return { ...e, duration: sounding(e, length) }
  })
  return { tune: next, chosen: ids.at(-1) ?? null }
}

/**
 * Makes some neighbouring events of one measure a tuplet (three in the time of two, five in the time of four
 * …) or, when they are one, makes them plain again.
 */
export function toggleTuplet(tune: Tune, ids: readonly string[]): Edited {
  const chosen = ids.at(-1) ?? null
  const found = ids.map(id => findEvent(tune, id))
  if (ids.length === 0 || found.some(f => !f || f.at !== found[0]!.at)) return unchanged(tune, chosen)
  const events = found.map(f => f!.event)
  if (events.some(e => e.tuplet)) {
    const groups = new Set(events.map(e => e.tuplet?.group))
    const all = eventsOf(tune).filter(e => e.tuplet && groups.has(e.tuplet.group))
    const plain = mapEvents(
      tune,
      all.map(e => e.id),
      e => tidy({ ...e, duration: writtenLength(e), tuplet: undefined }),
    )
    return { tune: plain, chosen }
  }
  const unit = events.map(e => e.duration).reduce((a, b) => (compare(a, b) <= 0 ? a : b))
  const count = div(events.map(e => e.duration).reduce(add, ZERO), unit)
  if (count.d !== 1 || count.n < 2 || count.n > 12) return unchanged(tune, chosen)
  // Two in the time of three; else the largest power of two below.
  const normal = count.n === 2 ? 3 : 2 ** Math.floor(Math.log2(count.n - 1))
  const freshIds = new FreshIds(tune.lastId)
  const tuplet = { group: freshIds.next('t'), actual: count.n, normal }
  const made = mapEvents(tune, ids, e => ({ ...e, tuplet, duration: mul(e.duration, frac(normal, count.n)) }))
  return { tune: { ...made, lastId: freshIds.lastId }, chosen }
}

/** Ties a note to the next, or unties it. Only equal pitches are tied. */
export function toggleTie(tune: Tune, id: string): Edited {
  const all = eventsOf(tune)
  const at = all.findIndex(e => e.id === id)
  const [here, next] = [all[at], all[at + 1]]
  if (here?.kind !== 'note') return unchanged(tune, id)
  const tied = here.heads.some(h => h.tied)
  const meets = (h: (typeof here.heads)[number]) =>
    next?.kind === 'note' &&
    next.heads.some(
      n =>
        n.pitch.step === h.pitch.step && n.pitch.octave === h.pitch.octave && n.pitch.alter === h.pitch.alter,
    )
  if (!tied && !here.heads.some(meets)) return unchanged(tune, id)
  const edited = mapNotes(tune, [id], e => ({
    ...e,
    heads: e.heads.map(h => ({ pitch: h.pitch, ...(!tied && meets(h) && { tied: true }) })),
  }))
  return { tune: edited, chosen: id }
}

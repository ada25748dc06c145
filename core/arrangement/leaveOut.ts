/**
 * Measures of a tune left out, and the way back: what is played without them, and what an edit of that means
 * for all of it.
 */
import { sameKey } from '#core/music/key'
import { sameMetre } from '#core/music/metre'
import { placeMeasures, type PlacedMeasure } from '#core/music/timeline'
import type { Measure, Tune, TuneEvent } from '#core/music/tune'

const WAY = ['segno', 'coda', 'fine', 'toCoda', 'jump'] as const

/**
 * The tune without some of its measures (by id). What they brought (key, metre) is said where it goes on;
 * jumps go where a sign of theirs goes, and so do ties, slurs and names in the order of parts that lead into
 * them. Linear in the measures.
 */
export function withoutMeasures(tune: Tune, left: ReadonlySet<string>): Tune {
  const placed = placeMeasures(tune)
  const goes = (p: PlacedMeasure | undefined) => p !== undefined && left.has(p.measure.id)
  if (!placed.some(goes)) return tune
  const noWay = placed.some(p => goes(p) && WAY.some(w => p.measure[w]))
  let before: Pick<PlacedMeasure, 'key' | 'metre'> = tune
  const measures = placed.flatMap((p, i) => {
    if (goes(p)) return []
    const measure = seam(p, before, { after: goes(placed[i - 1]), upTo: goes(placed[i + 1]), noWay })
    before = p
    return [measure]
  })
  const last = measures.at(-1)
  const ends = tune.measures.at(-1)!
  if (last && ends.barline === 'final' && left.has(ends.id) && !last.repeatEnd)
    measures[measures.length - 1] = { ...last, barline: 'final' }
  const events = new Set(measures.flatMap(m => m.events.map(e => e.id)))
  const labels = new Set(measures.map(m => m.label))
  const parts = tune.play.parts?.filter(p => labels.has(p))
  const { parts: _, ...play } = tune.play
  return {
    ...tune,
    measures,
    slurs: tune.slurs.filter(s => events.has(s.from) && events.has(s.to)),
    play: { ...play, ...(parts && parts.length > 0 && { parts }) },
  }
}

interface Seam {
  readonly after: boolean
  readonly upTo: boolean
  readonly noWay: boolean
}

function seam(p: PlacedMeasure, before: Pick<PlacedMeasure, 'key' | 'metre'>, s: Seam): Measure {
  let m = p.measure
  if (s.after) {
    const { key: _k, metre: _m, ...rest } = m
    m = {
      ...rest,
      ...(!sameKey(p.key, before.key) && { key: p.key }),
      ...(!sameMetre(p.metre, before.metre) && { metre: p.metre }),
    }
  }
  if (s.upTo && m.events.length > 0)
    m = { ...m, events: [...m.events.slice(0, -1), untied(m.events.at(-1)!)] }
  if (s.noWay && WAY.some(w => m[w])) {
    const { segno: _s, coda: _c, fine: _f, toCoda: _t, jump: _j, ...rest } = m
    m = rest
  }
  return m
}

const untied = (e: TuneEvent): TuneEvent =>
  e.kind === 'note' && e.heads.some(h => h.tied) ? { ...e, heads: e.heads.map(({ tied: _, ...h }) => h) } : e

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/**
 * An edit of the tune without some measures as an edit of all of it: these come back to their places, and
 * with them what only their going had changed.
 */
export function withMeasuresBack(written: Tune, left: ReadonlySet<string>, edited: Tune): Tune {
  const played = withoutMeasures(written, left)
  if (played === written) return edited
  const own = new Map(written.measures.map(m => [m.id, m]))
  const shown = new Map(played.measures.map(m => [m.id, m]))
  const measures = edited.measures.map(m => unseamed(m, shown.get(m.id), own.get(m.id)))
  written.measures.forEach((m, i) => {
    if (!left.has(m.id)) return
    const before =
      written.measures
        .slice(0, i)
        .map(b => measures.findIndex(x => x.id === b.id))
        .findLast(at => at >= 0) ?? -1
    measures.splice(before + 1, 0, m)
  })
  const events = new Set(measures.flatMap(m => m.events.map(e => e.id)))
  const dropped = written.slurs.filter(
    s => !played.slurs.includes(s) && events.has(s.from) && events.has(s.to),
  )
  const play = same(edited.play, played.play) ? written.play : edited.play
  return { ...edited, measures, play, slurs: [...edited.slurs, ...dropped] }
}

/** What stands in an edited measure only because its neighbours were left out is as it is written. */
function unseamed(m: Measure, shown: Measure | undefined, own: Measure | undefined): Measure {
  if (!shown || !own || shown === own) return m
  const { events, ...fields } = m
  const { events: shownEvents, ...shownFields } = shown
  const { events: ownEvents, ...ownFields } = own
  const back = same(fields, shownFields) ? ownFields : fields
  const [last, shownLast, ownLast] = [events.at(-1), shownEvents.at(-1), ownEvents.at(-1)]
  const tie = last !== undefined && shownLast !== ownLast && same(last, shownLast)
  return { ...back, events: tie ? [...events.slice(0, -1), ownLast!] : events }
}

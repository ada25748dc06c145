/**
 * Looks a tune over for what a careful copyist would mark: bars that do not add up, repeats that do not pair,
 * measures no way leads to.
 */
import { finding, type Finding } from '#core/findings/finding'
import { add, compare, equal, formatFraction, isZero } from '#core/music/fraction'
import { playOrder } from '#core/music/playOrder'
import { placeMeasures, tiedOn, type PlacedMeasure } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'

export function checkTune(tune: Tune, options: { freeMetre?: boolean } = {}): Finding[] {
  const placed = placeMeasures(tune)
  const bars = options.freeMetre ? [] : placed.flatMap((m, i) => checkBar(placed, m, i))
  return [...bars, ...checkRepeats(placed), ...checkWay(tune, placed), ...checkTies(tune)]
}

const firstNote = (m: PlacedMeasure) => m.measure.events[0]?.id
const at = (m: PlacedMeasure) => ({ measure: m.number, note: firstNote(m) })

function checkBar(all: readonly PlacedMeasure[], m: PlacedMeasure, i: number): Finding[] {
  const order = compare(m.length, m.full)
  if (order === 0 || isZero(m.length)) return []
  const values = { length: formatFraction(m.length), expected: formatFraction(m.full) }
  if (order > 0) return [finding('tune.barLong', 'error', at(m), values)]
  return shortBarIsFine(all, m, i) ? [] : [finding('tune.barShort', 'error', at(m), values)]
}

/**
 * A pickup is fine; so is a short bar at the end of a part, when some pickup completes it; so are two that
 * share a repeat sign.
 */
function shortBarIsFine(all: readonly PlacedMeasure[], m: PlacedMeasure, i: number): boolean {
  const [before, after] = [all[i - 1], all[i + 1]]
  const startsPart =
    !before || m.measure.repeatStart || before.measure.repeatEnd || before.measure.barline !== undefined
  const endsPart =
    !after ||
    m.measure.repeatEnd ||
    m.measure.barline !== undefined ||
    after.measure.repeatStart ||
    !!m.measure.endings
  const completed = (other: PlacedMeasure | undefined) =>
    !!other && equal(add(m.length, other.length), m.full)
  if (!before) return true
  if (endsPart)
    return completed(after) || all.some(p => compare(p.length, p.full) < 0 && p !== m && completed(p))
  return startsPart && (completed(before) || all.some(p => p !== m && completed(p)))
}

function checkRepeats(all: readonly PlacedMeasure[]): Finding[] {
  const out: Finding[] = []
  let open: PlacedMeasure | null = null
  let lastEnd = -1
  for (const m of all) {
    if (m.measure.repeatStart) {
      if (open) out.push(finding('tune.repeatNotEnded', 'warning', at(open)))
      open = m
    }
    if (m.measure.repeatEnd) {
      if (!open && lastEnd >= 0 && !m.measure.endings)
        out.push(finding('tune.repeatNotStarted', 'note', at(m)))
      open = null
      lastEnd = m.index
    }
  }
  if (open) out.push(finding('tune.repeatNotEnded', 'warning', at(open)))
  return out
}

/** Measures that are written and never heard, a stretch at a time. */
function checkWay(tune: Tune, all: readonly PlacedMeasure[]): Finding[] {
  const played = new Set(playOrder(tune).map(m => m.index))
  const stretches: [first: PlacedMeasure, last: PlacedMeasure][] = []
  for (const m of all) {
    if (played.has(m.index) || m.measure.events.length === 0) continue
    const open = stretches.at(-1)
    if (open && open[1].index === m.index - 1) open[1] = m
    else stretches.push([m, m])
  }
  return stretches.map(([m, last]) =>
    finding('tune.neverPlayed', 'note', at(m), { from: m.number, to: last.number }),
  )
}

function checkTies(tune: Tune): Finding[] {
  const events = tune.measures.flatMap(m => m.events)
  return events.flatMap((e, i) => {
    const next = events[i + 1]
    if (e.kind !== 'note' || !e.heads.some(h => h.tied)) return []
    return tiedOn(e, next).length > 0 ? [] : [finding('tune.tieToNothing', 'warning', { note: e.id })]
  })
}

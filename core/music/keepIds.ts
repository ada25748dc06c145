/**
 * When a source text is read anew every event gets a new id. This carries the ids of an older reading over to
 * the events that are still there, so that pins keep hanging on their notes while others are edited.
 */
import { formatFraction } from './fraction'
import { formatPitch } from './pitch'
import type { Measure, Tune, TuneEvent } from './tune'

const signatureOf = (e: TuneEvent) =>
  formatFraction(e.duration) + (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'z')

const pitchesOf = (e: TuneEvent) =>
  e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'z'

/**
 * Pairs two event lists: the common start and end first, then the longest common subsequence of what lies
 * between (Hunt and McIlroy's idea behind diff), then what is left one for one where equally many stand
 * between two pairs. Quadratic only in the changed middle; a middle of more than 1,500 events on both sides
 * is paired from its ends alone.
 */
export function pairEvents(before: readonly TuneEvent[], after: readonly TuneEvent[]): Map<string, string> {
  const a = before.map(signatureOf)
  const b = after.map(signatureOf)
  const pairs: [number, number][] = []
  let from = 0
  while (from < a.length && from < b.length && a[from] === b[from]) pairs.push([from, from++])
  let [endA, endB] = [a.length, b.length]
  const tail: [number, number][] = []
  while (endA > from && endB > from && a[endA - 1] === b[endB - 1]) tail.unshift([--endA, --endB])
  if (endA - from <= 1500 && endB - from <= 1500) pairs.push(...commonSubsequence(a, b, from, endA, endB))
  pairs.push(...tail, [a.length, b.length])
  const out = new Map<string, string>()
  let [i, j] = [0, 0]
  for (const [x, y] of pairs) {
    // An edited note stands for the note it replaces when nothing was added or taken away around it.
    if (x - i === y - j) for (let k = 0; i + k < x; k++) out.set(after[j + k]!.id, before[i + k]!.id)
    else pairByPitch(before.slice(i, x), after.slice(j, y), out)
    if (x < a.length) out.set(after[y]!.id, before[x]!.id)
    ;[i, j] = [x + 1, y + 1]
  }
  return out
}

/** In a stretch with notes added or removed: same pitch in order, whatever its length. */
function pairByPitch(before: readonly TuneEvent[], after: readonly TuneEvent[], out: Map<string, string>) {
  let j = 0
  for (const old of before) {
    const k = after.findIndex((e, n) => n >= j && pitchesOf(e) === pitchesOf(old))
    if (k < 0) continue
    out.set(after[k]!.id, old.id)
    j = k + 1
  }
}

function commonSubsequence(
  a: string[],
  b: string[],
  from: number,
  endA: number,
  endB: number,
): [number, number][] {
  const [rows, cols] = [endA - from, endB - from]
  if (rows === 0 || cols === 0) return []
  const best = Array.from({ length: rows + 1 }, () => new Uint16Array(cols + 1))
  for (let i = rows - 1; i >= 0; i--) {
    for (let j = cols - 1; j >= 0; j--) {
      best[i]![j] =
        a[from + i] === b[from + j] ? best[i + 1]![j + 1]! + 1 : Math.max(best[i + 1]![j]!, best[i]![j + 1]!)
    }
  }
  const pairs: [number, number][] = []
  let [i, j] = [0, 0]
  while (i < rows && j < cols) {
    if (a[from + i] === b[from + j]) pairs.push([from + i++, from + j++])
    else if (best[i + 1]![j]! >= best[i]![j + 1]!) i++
    else j++
  }
  return pairs
}

/**
 * The new reading with the old ids wherever the music stayed; new events get ids never used before in this
 * tune.
 */
export function keepIds(before: Tune, after: Tune): { tune: Tune; renamed: ReadonlyMap<string, string> } {
  const eventsOf = (t: Tune) => t.measures.flatMap(m => m.events)
  const renamed = pairEvents(eventsOf(before), eventsOf(after))
  let last = before.lastId
  const fresh = (kind: string) => `${kind}${++last}`
  const groups = new Map<string, string>()
  const owner = new Map<string, string>()
  before.measures.forEach(m => m.events.forEach(e => owner.set(e.id, m.id)))
  const usedMeasures = new Set<string>()
  const measureId = (m: Measure) => {
    const old = m.events
      .map(e => owner.get(renamed.get(e.id) ?? ''))
      .find(x => x !== undefined && !usedMeasures.has(x))
    const id = old ?? fresh('m')
    usedMeasures.add(id)
    return id
  }
  const mapEvent = (e: TuneEvent): TuneEvent => {
    const id = renamed.get(e.id) ?? fresh('n')
    renamed.set(e.id, id)
    if (!e.tuplet) return { ...e, id }
    const group = groups.get(e.tuplet.group) ?? fresh('t')
    groups.set(e.tuplet.group, group)
    return { ...e, id, tuplet: { ...e.tuplet, group } }
  }
  const measures = after.measures.map(m => ({ ...m, id: measureId(m), events: m.events.map(mapEvent) }))
  const slurs = after.slurs.map(s => ({ from: renamed.get(s.from)!, to: renamed.get(s.to)! }))
  return { tune: { ...after, measures, slurs, lastId: last }, renamed }
}

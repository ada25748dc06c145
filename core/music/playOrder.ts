/** The order in which measures sound: repeats, endings, jumps and orders of parts unfolded. */
import type { Measure, Tune } from './tune'

export interface PlayedMeasure {
  readonly index: number
  /** 1 the first time through its repeat, 2 the second … */
  readonly pass: number
}

const lastPass = (measures: readonly Measure[], from: number, to: number) => {
  let most = measures[to]!.repeatTimes ?? 2
  for (let i = from; i < measures.length; i++) {
    const endings = measures[i]!.endings
    if (i > to && !endings) break
    endings?.forEach(n => (most = Math.max(most, n)))
  }
  return most
}

/**
 * Unfolds repeats (twice, or as often as the endings or the repeat ask) and endings. A repeat with no start
 * goes back to the previous repeat's end or to the beginning; one the teacher has struck out is not taken. Of
 * jumps (da capo, dal segno) the first is taken, once: after it repeats are not taken, of endings the last
 * is, and the way ends at the fine or leaves for the coda. An order of parts counts instead of the order they
 * are written in. Linear in the number of measures played.
 */
export function playOrder(tune: Tune): PlayedMeasure[] {
  const stretches = inOrder(tune)
  if (!stretches) return walk(tune, 0, tune.measures.length)
  const seen = new Map<number, number>()
  return stretches.flatMap(([from, to]) =>
    walk(tune, from, to).map(({ index }) => {
      const pass = (seen.get(index) ?? 0) + 1
      seen.set(index, pass)
      return { index, pass }
    }),
  )
}

/**
 * The stretches the parts name, from a measure up to another; null where no order is told, or it names what
 * is not there.
 */
function inOrder({ measures, play }: Tune): [number, number][] | null {
  if (!play.parts) return null
  const begins = measures.flatMap((m, i) => (m.label === undefined ? [] : [i]))
  const stretches = play.parts.map(label => {
    const at = begins.findIndex(i => measures[i]!.label === label)
    return at < 0 ? null : ([begins[at]!, begins[at + 1] ?? measures.length] as [number, number])
  })
  return stretches.every(s => s !== null) ? stretches : null
}

/** Measures from one up to another, the jumps and repeats among them taken. */
function walk({ measures, play }: Tune, first: number, end: number): PlayedMeasure[] {
  const struck = new Set(play.struck)
  const order: PlayedMeasure[] = []
  const times = new Map<number, number>()
  const repeats = repeatEnds(measures, struck)
  /** How often the repeat is played that ends somewhere, looked for once. */
  const lasts = new Map<number, number>()
  const last = (from: number, to: number) => {
    if (to < 0) return 1
    const known = lasts.get(to) ?? lastPass(measures, from, to)
    lasts.set(to, known)
    return known
  }
  let [start, pass, i, jumped] = [first, 1, first, false]
  while (i < end) {
    const m = measures[i]!
    if (m.repeatStart && i !== start) [start, pass] = [i, 1]
    const now = jumped && m.endings ? lastPass(measures, start, i) : pass
    if (m.endings && !m.endings.includes(now)) {
      // Another time's ending: skip it. After the last ending the way goes on.
      i++
      continue
    }
    times.set(i, jumped ? (times.get(i) ?? 0) + 1 : pass)
    order.push({ index: i, pass: times.get(i)! })
    if (m.repeatEnd && !jumped && !struck.has(m.id) && pass < lastPass(measures, start, i)) {
      pass++
      i = start
      continue
    }
    if (jumped && m.fine) break
    const coda = jumped && m.toCoda ? measures.findIndex((n, k) => k > i && k < end && n.coda) : -1
    // Within a repeat a jump waits for the last time through.
    const again = !m.endings && pass < last(start, repeats[i]!)
    const back = m.jump && !jumped && !again ? backTo(measures, m.jump, first, i) : -1
    if (back >= 0) [start, pass, jumped] = [back, 1, true]
    else if (leavesRepeat(measures, i)) [start, pass] = [i + 1, 1]
    i = back >= 0 ? back : coda >= 0 ? coda : i + 1
  }
  return order
}

/** For each measure the end of the repeat it lies in; -1 where none follows before another begins. */
function repeatEnds(measures: readonly Measure[], struck: ReadonlySet<string>): number[] {
  const out: number[] = []
  let end = -1
  for (let i = measures.length - 1; i >= 0; i--) {
    const m = measures[i]!
    if (m.repeatEnd && !struck.has(m.id)) end = i
    out[i] = end
    if (m.repeatStart) end = -1
  }
  return out
}

/** Where a jump leads: to the beginning, or to the last segno before it. */
const backTo = (measures: readonly Measure[], jump: 'dc' | 'ds', first: number, at: number) =>
  jump === 'dc' ? first : measures.findLastIndex((m, k) => k >= first && k <= at && m.segno === true)

/** After the last pass: the repeat is over when no further ending of it follows. */
function leavesRepeat(measures: readonly Measure[], i: number): boolean {
  const [here, next] = [measures[i]!, measures[i + 1]]
  if (here.endings) return !next?.endings
  return here.repeatEnd === true && !next?.endings
}

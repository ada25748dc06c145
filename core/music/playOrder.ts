/** The order in which measures sound: repeats and endings unfolded. */
import type { Measure, Tune } from './tune'

export interface PlayedMeasure {
  readonly index: number
  /** 1 the first time through its repeat, 2 the second … */
  readonly pass: number
}

const lastPass = (measures: readonly Measure[], from: number, to: number) => {
  let most = 2
  for (let i = from; i < measures.length; i++) {
    const endings = measures[i]!.endings
    if (i > to && !endings) break
    endings?.forEach(n => (most = Math.max(most, n)))
  }
  return most
}

/**
 * Unfolds repeats (twice, or as often as the endings ask) and endings. A repeat with no start goes back to the previous repeat's end or
 * to the beginning; one the teacher has struck out is not taken. Linear in the number of measures played.
 */
export function playOrder(tune: Tune): PlayedMeasure[] {
  const { measures, play } = tune
  const struck = new Set(play.struck)
  const order: PlayedMeasure[] = []
  let [start, pass, i] = [0, 1, 0]
  while (i < measures.length) {
    const m = measures[i]!
    if (m.repeatStart && i !== start) [start, pass] = [i, 1]
    if (m.endings && !m.endings.includes(pass)) {
      // Another time's ending: skip it. After the last ending the way goes on.
      i++
      continue
    }
    order.push({ index: i, pass })
    const goBack = m.repeatEnd && !struck.has(m.id) && pass < lastPass(measures, start, i)
    if (goBack) {
      pass++
      i = start
    } else {
      if (leavesRepeat(measures, i)) [start, pass] = [i + 1, 1]
      i++
    }
  }
  return order
}

/** After the last pass: the repeat is over when no further ending of it follows. */
function leavesRepeat(measures: readonly Measure[], i: number): boolean {
  const [here, next] = [measures[i]!, measures[i + 1]]
  if (here.endings) return !next?.endings
  return here.repeatEnd === true && !next?.endings
}

/** Phrases bar by bar: what a bar is, whether it is known already, and how it follows from the bar before. */
import type { Stretch } from './likeness'
import type { Tone } from './material'

/** The tones of one bar, as far as they lie in the phrase. */
export interface BarOf {
  readonly measure: number
  readonly tones: readonly Tone[]
}

export function barsOf(stretch: Stretch): BarOf[] {
  const bars: { measure: number; index: number; tones: Tone[] }[] = []
  for (const t of stretch.tones) {
    const { index, number } = t.placed.measure
    if (bars.at(-1)?.index !== index) bars.push({ measure: number, index, tones: [] })
    bars.at(-1)!.tones.push(t)
  }
  return bars
}

const inBar = (t: Tone) => `${t.placed.inMeasure.n}/${t.placed.inMeasure.d}`

/** What a bar is to ear and hand: places, lengths and pitches. */
export const barKey = ({ tones }: BarOf) =>
  tones.map(t => `${inBar(t)}:${t.length}:${t.midi ?? 'z'}`).join(' ')

export interface BarAfter {
  readonly measure: number
  /** Scale steps from the bar before: 0 is the same again. */
  readonly steps: number
}

/** So many notes make a bar worth comparing. */
const LEAST = 3

/** The bars that are the bar before again, or the same moved by some steps of the scale. */
export function barsAfter(stretch: Stretch): BarAfter[] {
  const bars = barsOf(stretch)
  return bars.slice(1).flatMap((b, i) => {
    const steps = movedFrom(bars[i]!, b)
    return steps === null ? [] : [{ measure: b.measure, steps }]
  })
}

function movedFrom(a: BarOf, b: BarOf): number | null {
  const [x, y] = [a.tones, b.tones]
  if (x.length !== y.length || x.filter(t => t.midi !== null).length < LEAST) return null
  const alike = x.every(
    (t, i) =>
      inBar(t) === inBar(y[i]!) && t.length === y[i]!.length && (t.midi === null) === (y[i]!.midi === null),
  )
  if (!alike) return null
  const sounding = x.flatMap((t, i) => (t.midi === null ? [] : [[t, y[i]!] as const]))
  const steps = sounding[0]![1].step - sounding[0]![0].step
  if (!sounding.every(([p, q]) => q.step - p.step === steps)) return null
  return steps === 0 && !sounding.every(([p, q]) => p.midi === q.midi) ? null : steps
}

/** The same bowing at another tempo: how far the bow travels, and which slurs no bow bears any more. */
import type { EventId } from '#core/music/ids'
import { bearingOf, type Bowing } from './stroke'
import { partingOf } from './findings'
import { inCm, wantedLength } from './travel'

export interface SlowReading {
  /** Share of the tempo: 0.5 is half. */
  readonly share: number
  /** Mean hair of a stroke now and then, in cm. */
  readonly cmNow: number
  readonly cmThen: number
  /** Slurs to part for it: the note the second bow begins with. */
  readonly part: readonly { readonly note: EventId; readonly measure: number }[]
}

/** A slur may last so many singing bows before it must be parted. */
const TOO_LONG = 1.35

export function readAt({ written, problem }: Bowing, share: number): SlowReading {
  const { hair } = problem.options
  const bears = bearingOf(problem.options)
  const mean = (at: number) => {
    const all = written.map(s => wantedLength(s.seconds / at, s.loudness, s.accent))
    return inCm(all.reduce((a, b) => a + b, 0) / Math.max(1, all.length), hair)
  }
  const part = written
    .filter(s => s.tones.length > 1 && s.seconds / share > TOO_LONG * bears)
    .map(s => ({ note: partingOf(s, problem.tones), measure: s.measure }))
  return { share, cmNow: mean(1), cmThen: mean(share), part }
}

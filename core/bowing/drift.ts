/** The natural drift: where the bow goes when every stroke takes the hair it wants, with nobody minding. */
import type { Mm } from '#core/instruments/instruments'
import type { Stroke } from './stroke'
import { inCm, wantedLength } from './travel'

export interface DriftPoint {
  /** Place on the bow at the beginning and the end of the stroke; below 0 and above 1 there is no hair. */
  readonly from: number
  readonly to: number
}

export interface MeasureDrift {
  readonly measure: number
  readonly measureIndex: number
  readonly part: string | null
  readonly pass: number
  /** How far the bow ends from where it began: towards the tip is positive. */
  readonly cm: number
}

/** A rest this long sets the bow anew. */
const RESET_REST = 0.2
/** So much beyond the hair is not felt. */
const SLACK = 0.04

/**
 * By stroke. A lift and a rest set the bow anew; there it begins where most of what follows fits on the hair,
 * the nearer the solved place the better. So what runs off the hair would run off wherever one begins.
 */
export function naturalDrift(strokes: readonly Stroke[]): DriftPoint[] {
  const out: DriftPoint[] = []
  for (let first = 0; first < strokes.length;) {
    let end = first + 1
    while (end < strokes.length && !setAnew(strokes[end]!)) end++
    let at = beginning(strokes.slice(first, end))
    for (const s of strokes.slice(first, end)) {
      const from = at
      at += moved(s)
      out.push({ from, to: at })
    }
    first = end
  }
  return out
}

export const setAnew = (s: Stroke) => s.lift || s.restBefore >= RESET_REST

const moved = (s: Stroke) => (s.direction === 'down' ? 1 : -1) * wantedLength(s.seconds, s.loudness, s.accent)

/** Where a run of strokes begins so that as many of them as can be lie on the hair. */
function beginning(run: readonly Stroke[]): number {
  let [at, low, high] = [0, 0, 0]
  for (const s of run) {
    at += moved(s)
    if (Math.max(high, at) - Math.min(low, at) > 1 + SLACK) break
    low = Math.min(low, at)
    high = Math.max(high, at)
  }
  return Math.max(-low, Math.min(1 - high, run[0]!.from))
}

export const offTheHair = (d: DriftPoint) => d.to > 1 + SLACK + 0.01 || d.to < -SLACK - 0.01

export function driftByMeasure(
  strokes: readonly Stroke[],
  hair: Mm,
  partOf: (measureIndex: number) => string | undefined,
): MeasureDrift[] {
  const out: (MeasureDrift & { share: number })[] = []
  for (const s of strokes) {
    const wanted = wantedLength(s.seconds, s.loudness, s.accent)
    const by = s.direction === 'down' ? wanted : -wanted
    const last = out.at(-1)
    const same = last && last.measureIndex === s.measureIndex && last.pass === s.pass
    const share = (same ? last.share : 0) + by
    const { measure, measureIndex, pass } = s
    const now = {
      measure,
      measureIndex,
      part: partOf(measureIndex) ?? null,
      pass,
      share,
      cm: inCm(share, hair),
    }
    if (same) out[out.length - 1] = now
    else out.push(now)
  }
  return out.map(({ share: _, ...d }) => d)
}

/** A part's drift: its measures summed up, each time through. */
export function driftByPart(
  drift: readonly MeasureDrift[],
): Omit<MeasureDrift, 'measure' | 'measureIndex'>[] {
  const out: { part: string | null; pass: number; cm: number }[] = []
  for (const { part, pass, cm } of drift) {
    const last = out.at(-1)
    if (last && last.part === part && last.pass === pass) last.cm = Math.round((last.cm + cm) * 10) / 10
    else out.push({ part, pass, cm })
  }
  return out
}

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

/** By stroke; a lift and a rest take it back to where the solved stroke begins. */
export function naturalDrift(strokes: readonly Stroke[]): DriftPoint[] {
  let at = strokes[0]?.from ?? 0
  return strokes.map(s => {
    if (s.lift || s.restBefore >= RESET_REST) at = s.from
    const wanted = wantedLength(s.seconds, s.loudness, s.accent)
    const from = at
    at += s.direction === 'down' ? wanted : -wanted
    return { from, to: at }
  })
}

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

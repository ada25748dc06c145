/** How a finger is written: our marks for its place. */
import type { Finger, MarkKind } from './hands'

/**
 * "2", "‹2" low, "3›" high (chevrons point along a string whose nut is on the left), "x4" reached out, "3°"
 * touched, "0" open, "T" thumb.
 */
export function digitText(finger: Finger, mark: MarkKind, harmonic = false): string {
  if (harmonic) return `${finger}°`
  if (finger === 0) return '0'
  if (mark === 'low') return `‹${finger}`
  if (mark === 'high') return `${finger}›`
  return mark === 'extended' ? `x${finger}` : String(finger)
}

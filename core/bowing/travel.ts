/** How much hair a stroke wants, and where the bow drifts when every stroke takes what it wants. */
import type { Mm } from '#core/instruments/instruments'

/** Seconds in which a whole bow passes at an ordinary singing speed. */
const WHOLE_BOW_SECONDS = 1.6
/** Places told apart on the bow, and the least a stroke takes. */
export const STEPS = 24
export const SHORTEST = 2 / STEPS

/**
 * Share of the hair a stroke wants: by its length in time, fuller when loud or accented; never quite the
 * whole bow.
 */
export function wantedLength(seconds: number, loudness: number, accent: boolean): number {
  const wanted = (seconds / WHOLE_BOW_SECONDS) * 0.9 * loudness * (accent ? 1.25 : 1)
  return Math.max(SHORTEST, Math.min(0.92, wanted))
}

export const inCm = (share: number, hair: Mm) => Math.round(share * hair) / 10

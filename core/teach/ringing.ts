/**
 * Ringing notes: a stopped note in unison or at the octave with an open string makes that string sound along,
 * and tells the ear where the finger belongs. Thirds and sixths over a drone sit pure a little beside the
 * tempered place (5:4, 6:5, 5:3, 8:5; Helmholtz).
 */
import { fromNut } from '#core/instruments/geometry'
import type { Mm } from '#core/instruments/instruments'
import type { Tuning } from '#core/instruments/tunings'
import type { Midi } from '#core/music/pitch'

export interface Ringing {
  /** Open strings (0 the highest) in unison or octaves with the note, other than its own. */
  readonly with: readonly number[]
  /** Where the note wants to sit over the drone; null when the tempered place is right. */
  readonly pure: { readonly interval: string; readonly cents: number; readonly mm: Mm } | null
}

/** Cents by which a pure interval lies beside the tempered one, by semitones above the drone. */
const PURE: Readonly<Record<number, readonly [name: string, ratio: number]>> = {
  3: ['minor third', 6 / 5],
  4: ['major third', 5 / 4],
  8: ['minor sixth', 8 / 5],
  9: ['major sixth', 5 / 3],
}
const cents = (ratio: number) => 1200 * Math.log2(ratio)
const pitchClass = (m: Midi) => ((m % 12) + 12) % 12

/** @param drone sounding pitch of the drone; null when there is none */
export function ringing(
  place: { readonly string: number; readonly offset: number },
  tuning: Tuning,
  length: Mm,
  drone: Midi | null,
): Ringing {
  const pitch = tuning[place.string]! + place.offset
  const strings = tuning.flatMap((t, i) => (i !== place.string && pitchClass(t - pitch) === 0 ? [i] : []))
  const above = drone === null ? 0 : pitchClass(pitch - drone)
  const pure = PURE[above]
  if (place.offset === 0 || !pure || drone === null)
    return { with: place.offset === 0 ? [] : strings, pure: null }
  const off = cents(pure[1]) - 100 * above
  return {
    with: strings,
    pure: {
      interval: pure[0],
      cents: Math.round(off * 10) / 10,
      mm: Math.round((fromNut(length, place.offset + off / 100) - fromNut(length, place.offset)) * 10) / 10,
    },
  }
}

/**
 * Pitch of a bowed or plucked string from samples, by McLeod's method ("A smarter way to find pitch", 2005;
 * the package pitchy).
 */
import { PitchDetector } from 'pitchy'
import type { Midi } from '#core/music/pitch'

export interface Heard {
  /** Hertz. */
  readonly frequency: number
  /** 0 to 1: how plainly the sound has one pitch. */
  readonly clarity: number
}

/** Below this the sound is noise, speech or two strings at once. */
export const CLEAR = 0.9

/** So many samples are listened to at once: nearly four periods of the lowest bass string at 44.1 kHz. */
export const WINDOW = 4096

let detector: ReturnType<typeof PitchDetector.forFloat32Array> | null = null

/** Null when nothing with a plain pitch sounds. `samples` holds {@link WINDOW} values from −1 to 1. */
export function hear(samples: Float32Array, sampleRate: number): Heard | null {
  if (samples.length !== WINDOW) throw new RangeError(`${WINDOW} samples are needed, not ${samples.length}`)
  detector ??= PitchDetector.forFloat32Array(WINDOW)
  detector.minVolumeDecibels = -45
  const [frequency, clarity] = detector.findPitch(samples, sampleRate)
  return frequency > 0 && clarity >= CLEAR ? { frequency, clarity } : null
}

export const frequencyOf = (m: Midi, a4 = 440) => a4 * 2 ** ((m - 69) / 12)
/** Cents from a wished pitch; positive is too high. */
export const centsFrom = (frequency: number, target: Midi, a4 = 440) =>
  1200 * Math.log2(frequency / frequencyOf(target, a4))

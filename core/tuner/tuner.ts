/** What a tuner says: which string is meant, how far it is off, what to do next. */
import { formatPitch, pitchOfMidi, type Midi } from '#core/music/pitch'
import type { Tuning } from '#core/instruments/tunings'
import { centsFrom } from './detect'

export interface TunerReading {
  /** 0 is the highest string. */
  readonly string: number
  readonly target: string
  /** From the target, positive is high. */
  readonly cents: number
  readonly advice: 'right' | 'a little up' | 'a little down' | 'up' | 'down' | 'stop'
}

/** Cents within which a string is in tune, and beyond which it is turned in larger steps. */
export const IN_TUNE = 4
const NEAR = 40
/** A string that is more than this above its target must not be turned on: probably another one is meant. */
const TOO_HIGH = 150

/** The reading for one string, or for the string of the tuning that lies nearest. */
export function tunerReading(
  frequency: number,
  tuning: Tuning,
  wanted: number | null,
  a4 = 440,
): TunerReading {
  const off = tuning.map(t => Math.abs(centsFrom(frequency, t, a4)))
  const string = wanted ?? off.indexOf(Math.min(...off))
  const target: Midi = tuning[string]!
  const cents = Math.round(centsFrom(frequency, target, a4) * 10) / 10
  return { string, target: formatPitch(pitchOfMidi(target)), cents, advice: adviceFor(cents) }
}

function adviceFor(cents: number): TunerReading['advice'] {
  if (Math.abs(cents) <= IN_TUNE) return 'right'
  if (cents > TOO_HIGH) return 'stop'
  if (cents > 0) return cents > NEAR ? 'down' : 'a little down'
  return cents < -NEAR ? 'up' : 'a little up'
}

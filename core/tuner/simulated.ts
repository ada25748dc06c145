/**
 * A simulated string, so that the tuner works and is tested without a microphone: a peg that turns in small
 * steps and sticks a little, a string that goes on stretching after it was raised (drift down) and settles a
 * little beyond where the peg was left (overshoot).
 */
import { frequencyOf } from './detect'
import type { Midi } from '#core/music/pitch'

export interface SimulatedString {
  /** Semitones above the pitch it began at, as the peg stands. */
  readonly peg: number
  /** Semitones the string itself lies beside the peg: it gives, and creeps back. */
  readonly give: number
  /** Pitch it began at. */
  readonly start: number
}

/** A turn of the peg moves the string by a little more than the turn at first. */
const OVERSHOOT = 0.12
/** Share of a raise that new string gives back while it settles. */
const DRIFT = 0.06
/** Seconds in which overshoot dies away to a third. */
const SETTLE = 1.5

export const stringAt = (start: Midi, off = 0): SimulatedString => ({ peg: off, give: 0, start })

/** The peg is turned by so many semitones. */
export const turn = (s: SimulatedString, by: number): SimulatedString => ({
  ...s,
  peg: s.peg + by * (by > 0 ? 1 - DRIFT : 1),
  give: s.give + by * OVERSHOOT,
})

/** So many seconds pass. */
export const rest = (s: SimulatedString, seconds: number): SimulatedString => ({
  ...s,
  give: s.give * Math.exp(-seconds / SETTLE),
})

export const soundingHertz = (s: SimulatedString, a4 = 440) => frequencyOf(s.start + s.peg + s.give, a4)

/**
 * What a microphone would give: a bowed string's spectrum of falling partials. `phase` in periods of the
 * fundamental.
 */
export function samplesOf(s: SimulatedString, count: number, sampleRate: number, phase = 0): Float32Array {
  const hertz = soundingHertz(s)
  const partials = Math.min(12, Math.floor(sampleRate / 2 / hertz))
  return Float32Array.from({ length: count }, (_, i) => {
    const turns = phase + (i * hertz) / sampleRate
    let y = 0
    for (let n = 1; n <= partials; n++) y += Math.sin(2 * Math.PI * n * turns) / n
    return 0.4 * y
  })
}

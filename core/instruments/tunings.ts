/** Home tunings, cross-tunings (scordatura) and what retuning does to a string. */
import { finding, type Finding } from '#core/findings/finding'
import { formatPitch, midi, parsePitch, pitchOfMidi, type Midi, type Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { tensionRatio } from './geometry'
import { INSTRUMENTS } from './instruments'

/** Sounding pitch of each string, highest string first, as the rest of the core counts strings. */
export type Tuning = readonly Midi[]

/** Cross-tunings that ship, low to high as players name them; bass strings as they sound. */
export const CROSS_TUNINGS: Readonly<Record<InstrumentId, readonly string[]>> = {
  violin: [
    'A3 E4 A4 E5', 'A3 D4 A4 E5', 'A3 E4 A4 C#5', 'G3 D4 G4 D5', 'D3 D4 A4 D5', 'G3 D4 G4 B4', 'F3 C4 G4 D5',
  ],
  viola: ['B2 G3 D4 A4', 'Bb2 G3 D4 A4', 'C3 G3 D4 G4', 'C3 G3 D4 G#4'],
  cello: ['B1 G2 D3 A3', 'Bb1 G2 D3 A3', 'C2 G2 D3 G3', 'C2 G2 D3 G#3'],
  bass: ['D1 A1 D2 G2', 'F#1 B1 E2 A2'],
} // prettier-ignore

/** A string more than this many semitones from home is refused. */
export const FURTHEST_RETUNE: Semitones = 7

export const homeTuning = (id: InstrumentId): Tuning => INSTRUMENTS[id].strings
export const isHome = (id: InstrumentId, t: Tuning) => t.join() === homeTuning(id).join()

/** "G3 D4 A4 E5": low to high. */
export const formatTuning = (t: Tuning) =>
  [...t]
    .reverse()
    .map(m => formatPitch(pitchOfMidi(m)))
    .join(' ')

export type TuningError = { code: 'count' | 'pitch' | 'far' | 'order'; value: string }

/** Reads "A3 E4 A4 E5" (low to high). Refuses a wrong number of strings, unreadable pitches, strings over {@link FURTHEST_RETUNE} from home. */
export function parseTuning(id: InstrumentId, text: string): { tuning: Tuning } | { error: TuningError } {
  const names = text.trim().split(/\s+/)
  const home = homeTuning(id)
  if (names.length !== home.length) return { error: { code: 'count', value: String(names.length) } }
  const tuning: Midi[] = []
  for (const [i, name] of [...names].reverse().entries()) {
    const p = parsePitch(name)
    if (!p) return { error: { code: 'pitch', value: name } }
    if (Math.abs(midi(p) - home[i]!) > FURTHEST_RETUNE) return { error: { code: 'far', value: name } }
    tuning.push(midi(p))
  }
  const crossing = tuning.findIndex((m, i) => i > 0 && m > tuning[i - 1]!)
  return crossing >= 0
    ? { error: { code: 'order', value: formatPitch(pitchOfMidi(tuning[crossing]!)) } }
    : { tuning }
}

export interface RetuneStep {
  /** The home letter of the string. */
  readonly string: string
  readonly from: string
  readonly to: string
  readonly semitones: Semitones
  /** Change of tension in per cent, rounded: a tone up is 26. */
  readonly tensionPercent: number
}

/** What each string must do, lowest string first. */
export function retuneSteps(id: InstrumentId, to: Tuning): RetuneStep[] {
  const { letters, strings } = INSTRUMENTS[id]
  return strings
    .map((from, i) => ({
      string: letters[i]!,
      from: formatPitch(pitchOfMidi(from)),
      to: formatPitch(pitchOfMidi(to[i]!)),
      semitones: to[i]! - from,
      tensionPercent: Math.round((tensionRatio(to[i]! - from) - 1) * 100),
    }))
    .reverse()
}

/** The caution for every string that goes up. */
export function tuningFindings(id: InstrumentId, to: Tuning): Finding[] {
  return retuneSteps(id, to)
    .filter(s => s.semitones > 0)
    .map(s => finding('tuning.up', 'warning', {}, { string: s.string, percent: s.tensionPercent }))
}

/** Home tunings, cross-tunings (scordatura) and what retuning does to a string. */
import { finding, type Finding } from '#core/findings/finding'
import { formatPitch, midi, parsePitch, pitchOfMidi, type Midi, type Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { tensionRatio } from './geometry'
import { INSTRUMENTS, lettersOf, stringsFor } from './instruments'

/** Sounding pitch of each string, highest string first, as the rest of the core counts strings. */
export type Tuning = readonly Midi[]

/** Cross-tunings that ship, low to high as players name them; bass strings as they sound. */
export const CROSS_TUNINGS: Readonly<Record<InstrumentId, readonly string[]>> = {
  violin: [
    'A3 E4 A4 E5',
    'A3 D4 A4 E5',
    'A3 E4 A4 C#5',
    'G3 D4 G4 D5',
    'D3 D4 A4 D5',
    'G3 D4 G4 B4',
    'F3 C4 G4 D5',
  ],
  viola: ['B2 G3 D4 A4', 'Bb2 G3 D4 A4', 'C3 G3 D4 G4', 'C3 G3 D4 G#4'],
  cello: ['B1 G2 D3 A3', 'Bb1 G2 D3 A3', 'C2 G2 D3 G3', 'C2 G2 D3 G#3'],
  bass: ['D1 A1 D2 G2', 'F#1 B1 E2 A2'],
}

/** A string more than this many semitones from home is refused. */
export const FURTHEST_RETUNE: Semitones = 7

/** Home strings; those of a five-stringed instrument when a tuning of five is given. */
export const homeTuning = (id: InstrumentId, like: Tuning | null = null): Tuning =>
  stringsFor(id, like).strings
export const isHome = (id: InstrumentId, t: Tuning) => t.join() === homeTuning(id, t).join()

/** Home tunings with a fifth string, low to high. */
export const fiveStrings = (id: InstrumentId): string[] =>
  INSTRUMENTS[id].fifth.map(({ sounds, end }) =>
    formatTuning(end === 'top' ? [sounds, ...INSTRUMENTS[id].strings] : [...INSTRUMENTS[id].strings, sounds]),
  )

/** "G3 D4 A4 E5": low to high. */
export const formatTuning = (t: Tuning) =>
  [...t]
    .reverse()
    .map(m => formatPitch(pitchOfMidi(m)))
    .join(' ')

export type TuningError =
  | { code: 'count' | 'pitch' | 'order'; value: string }
  | {
      code: 'far'
      value: string
      /** From the home string. */ semitones: Semitones
      /** Change of tension. */ tensionPercent: number
    }

/** What is wrong with a tuning somebody wrote, in a sentence. */
export function tuningProblem(id: InstrumentId, e: TuningError): string {
  if (e.code === 'count')
    return `${INSTRUMENTS[id].letters.length} or ${INSTRUMENTS[id].letters.length + 1} strings are needed, low to high, not ${e.value}`
  if (e.code === 'pitch') return `“${e.value}” is no pitch; write "A3 E4 A4 E5"`
  if (e.code !== 'far') return `the strings cross at ${e.value}; name them low to high`
  const way = e.semitones > 0 ? 'up' : 'down'
  const why =
    e.semitones > 0 ? 'it would break the string or harm the instrument' : 'the string would hang loose'
  return `${e.value} is ${Math.abs(e.semitones)} semitones ${way} from the home string, ${e.tensionPercent > 0 ? '+' : '−'}${Math.abs(e.tensionPercent)}% tension: ${why}`
}

/**
 * Reads "A3 E4 A4 E5" (low to high). Refuses a wrong number of strings, unreadable pitches, strings over
 * {@link FURTHEST_RETUNE} from home.
 */
export function parseTuning(id: InstrumentId, text: string): { tuning: Tuning } | { error: TuningError } {
  const names = text.trim().split(/\s+/)
  const read = [...names].reverse().map(n => parsePitch(n))
  const home = homeTuning(id, read.every(p => p !== null) ? read.map(p => midi(p)) : null)
  if (names.length !== home.length) return { error: { code: 'count', value: String(names.length) } }
  const tuning: Midi[] = []
  for (const [i, name] of [...names].reverse().entries()) {
    const p = parsePitch(name)
    if (!p) return { error: { code: 'pitch', value: name } }
    const semitones = midi(p) - home[i]!
    if (Math.abs(semitones) > FURTHEST_RETUNE) {
      const tensionPercent = Math.round((tensionRatio(semitones) - 1) * 100)
      return { error: { code: 'far', value: name, semitones, tensionPercent } }
    }
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
  /** 0 is the highest. */
  readonly index: number
  readonly from: string
  readonly to: string
  readonly semitones: Semitones
  readonly cents: number
  /** Change of tension in per cent, rounded: a tone up is 26. */
  readonly tensionPercent: number
  /** Tension before and after, where the studio entered it. */
  readonly newtons: { readonly from: number; readonly to: number } | null
}

/**
 * What each string must do, lowest string first. `tensions`: newtons of the strings as they are now, highest
 * first.
 */
export function retuneSteps(
  id: InstrumentId,
  to: Tuning,
  from: Tuning = homeTuning(id, to),
  tensions: readonly (number | null)[] = [],
): RetuneStep[] {
  const letters = lettersOf(id, to)
  return from
    .map((was, i) => {
      const semitones = to[i]! - was
      const ratio = tensionRatio(semitones)
      const now = tensions[i] ?? null
      return {
        string: letters[i]!,
        index: i,
        from: formatPitch(pitchOfMidi(was)),
        to: formatPitch(pitchOfMidi(to[i]!)),
        semitones,
        cents: semitones * 100,
        tensionPercent: Math.round((ratio - 1) * 100),
        newtons: now === null ? null : { from: now, to: Math.round(now * ratio * 10) / 10 },
      }
    })
    .reverse()
}

/**
 * The order in which it is safe to retune: strings that go down first, so that the bridge is never loaded
 * more than at the end; then those that go up, the smallest step first. Strings that stay are left out.
 */
export const retuneOrder = (steps: readonly RetuneStep[]): RetuneStep[] =>
  steps
    .filter(s => s.semitones !== 0)
    .sort(
      (a, b) =>
        Number(a.semitones > 0) - Number(b.semitones > 0) || Math.abs(a.semitones) - Math.abs(b.semitones),
    )

/** Change of all tensions together, in newtons; null unless the studio entered every string. */
export function totalChange(steps: readonly RetuneStep[]): number | null {
  if (steps.some(s => s.newtons === null)) return null
  return Math.round(steps.reduce((sum, s) => sum + s.newtons!.to - s.newtons!.from, 0) * 10) / 10
}

/** The caution for every string that goes up. */
export function tuningFindings(id: InstrumentId, to: Tuning, from: Tuning = homeTuning(id, to)): Finding[] {
  return retuneSteps(id, to, from)
    .filter(s => s.semitones > 0)
    .map(s => finding('tuning.up', 'warning', {}, { string: s.string, percent: s.tensionPercent }))
}

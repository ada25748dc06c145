/**
 * What a studio calls strings, places of fingers and positions: the same fingering under the names of each
 * school.
 */
import type { Played, Shown } from '#core/arrangement/recipe'
import type { FingeredNote } from '#core/fingering/fingering'
import { HOME_ANCHOR, type MarkKind } from '#core/instruments/hands'
import { isLow, lettersOf } from '#core/instruments/instruments'
import { numberedPosition } from '#core/instruments/positions'
import { homeTuning } from '#core/instruments/tunings'
import { alterations, signature, type Key } from '#core/music/key'
import { formatPitch, pitchOfMidi, type Midi } from '#core/music/pitch'

/** What naming asks of a recipe. */
export interface Named {
  readonly played: Pick<Played, 'instrument' | 'tuning'>
  readonly shown: Omit<Shown, 'ossia'>
}

const withoutOctave = (m: Midi, flats = false) => formatPitch(pitchOfMidi(m, flats)).replace(/-?\d+$/, '')

const ROMAN = ['I', 'II', 'III', 'IV', 'V']

/**
 * What a recipe calls its strings, the highest first: letters, numbers, or in a cross-tuning what they sound.
 */
export function stringLabels({ played: { instrument, tuning }, shown }: Named): readonly string[] {
  const letters = lettersOf(instrument, tuning)
  if (shown.strings === 'numbers') return ROMAN.slice(0, letters.length)
  return tuning && shown.crossNames === 'sounding' ? tuning.map(m => withoutOctave(m)) : letters
}

/**
 * How the place of a finger is marked under a school. What is reached out of the hand stays marked under
 * every school but "none".
 *
 * @param key the key where the note stands
 */
export function shownMark(n: FingeredNote, { played: { instrument }, shown }: Named, key: Key): MarkKind {
  if (shown.places === 'none') return 'home'
  if (n.mark === 'extended' || n.finger === 0 || isLow(instrument)) return n.mark
  if (shown.places === 'key') {
    const away = n.pitch.alter - alterations(key)[n.pitch.step]
    return away === 0 ? 'home' : away < 0 ? 'low' : 'high'
  }
  if (shown.places === 'both') return n.finger === 2 && n.mark === 'home' ? 'high' : n.mark
  return n.anchor <= HOME_ANCHOR ? n.mark : 'home'
}

/**
 * Whether two notes in a row are neighbouring fingers a half step apart, where the school marks half steps
 * instead of places.
 */
export function marksHalfStep(
  a: FingeredNote,
  b: FingeredNote,
  { played: { instrument }, shown }: Named,
): boolean {
  if (shown.places !== 'home' || isLow(instrument)) return false
  const still = a.anchor === b.anchor && a.anchor > HOME_ANCHOR && a.string === b.string
  return (
    still && a.finger !== b.finger && a.finger !== 0 && b.finger !== 0 && Math.abs(a.offset - b.offset) === 1
  )
}

/** "third pos.", "upper third pos.", "1 on F#": where the hand stands, under a school. */
export function positionText(
  n: FingeredNote,
  { played: { instrument, tuning }, shown }: Named,
  key: Key,
): string {
  if (n.position === 'thumb') return 'thumb pos.'
  if (shown.positions === 'note') {
    const open = (tuning ?? homeTuning(instrument))[n.string]!
    return `1 on ${withoutOctave(open + n.anchor, signature(key) < 0)}`
  }
  const numbered = shown.positions === 'numbers' && instrument === 'bass' ? numberedPosition(n.anchor) : null
  return `${numbered ?? n.position} pos.`
}

/** The tab line of a string, 0 on top, under a school. */
export const tabLine = (string: number, strings: number, order: Shown['tabLines']): number =>
  order === 'highest' ? string : strings - 1 - string

/** Which part of a file is the melody: by what it sounds like, and what it is called. */
import type { Raw } from './grid'

/** Drums sound on this channel (General MIDI), numbered from 0. */
export const DRUM_CHANNEL = 9

const MELODY =
  /melod|lead|solo|fiddle|violin|geige|vocal|voice|sing|tune|flute|oboe|whistle|treble|soprano|upper|right/i
const OTHER = /bass|chord|pad|drum|perc|guitar|accomp|harmon|string(s| ens)|left|organ|choir|lower|click/i

/**
 * How much a part is like a melody: one note at a time, in the range of one, with many notes, and a name that
 * says so. The weights are set so that a name decides between parts alike, and not against what is heard.
 * @param most notes of the fullest part
 */
export function melodyLikeness(notes: readonly Raw[], name: string, most: number): number {
  if (notes.length === 0) return -Infinity
  const sorted = [...notes].sort((a, b) => a.start - b.start || b.midi - a.midi)
  const together = sorted.filter(
    (n, i) =>
      i > 0 && n.start < sorted[i - 1]!.end - Math.min(0.25, (sorted[i - 1]!.end - sorted[i - 1]!.start) / 2),
  )
  const middle = [...notes].sort((a, b) => a.midi - b.midi)[Math.floor(notes.length / 2)]!.midi
  const range = Math.max(0, Math.min(1, (middle - 45) / 20)) - Math.max(0, (middle - 92) / 20)
  const named = (MELODY.test(name) ? 1 : 0) - (OTHER.test(name) ? 1 : 0)
  return (
    2.5 * (1 - together.length / notes.length) + 1.5 * range + 1.2 * Math.sqrt(notes.length / most) + named
  )
}

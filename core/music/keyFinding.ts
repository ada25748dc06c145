/**
 * Which key some notes are in. Durations of the twelve pitch classes are correlated with the major and minor
 * profiles of Krumhansl and Kessler (1982), as in Krumhansl, "Cognitive Foundations of Musical Pitch" (1990);
 * the note a passage ends on weighs a little more.
 */
import { keyOfSignature, scaleOf, signature, tonicClass, type Key } from './key'
import { midi, type Midi, type Pitch } from './pitch'

const MAJOR = [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88]
const MINOR = [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17]
/** How much a last note counts beside the length it has, as a share of the whole. */
const LAST = 0.15

export interface Weighed {
  readonly sounding: Midi
  /** Any unit, as long as it is the same for all. */
  readonly length: number
}

export interface FoundKey {
  readonly key: Key
  /** Correlation with the key's profile, -1 to 1. */
  readonly fit: number
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (x: readonly number[]) => x.reduce((s, v) => s + v, 0) / x.length
  const [ma, mb] = [mean(a), mean(b)]
  let [ab, aa, bb] = [0, 0, 0]
  a.forEach((v, i) => {
    ab += (v - ma) * (b[i]! - mb)
    aa += (v - ma) ** 2
    bb += (b[i]! - mb) ** 2
  })
  return aa === 0 || bb === 0 ? 0 : ab / Math.sqrt(aa * bb)
}

/**
 * Keys by how well they fit, best first: majors and minors of at most six sharps or flats. Empty without
 * notes.
 */
export function rankKeys(notes: readonly Weighed[]): FoundKey[] {
  if (notes.length === 0) return []
  const total = notes.reduce((t, n) => t + n.length, 0)
  const weights = Array.from({ length: 12 }, () => 0)
  for (const n of notes) weights[n.sounding % 12]! += n.length
  weights[notes.at(-1)!.sounding % 12]! += LAST * total
  const found: FoundKey[] = []
  for (let fifths = -5; fifths <= 6; fifths++)
    for (const mode of ['major', 'minor'] as const) {
      const key = keyOfSignature(fifths, mode)
      const tonic = tonicClass(key)
      const turned = weights.map((_, i) => weights[(i + tonic) % 12]!)
      found.push({ key, fit: correlation(turned, mode === 'major' ? MAJOR : MINOR) })
    }
  return found.sort((a, b) => b.fit - a.fit || Math.abs(signature(a.key)) - Math.abs(signature(b.key)))
}

export const findKey = (notes: readonly Weighed[]): Key | null => rankKeys(notes)[0]?.key ?? null

/** True when a pitch belongs to the scale of a key. */
export const inScale = (p: Pitch, key: Key) =>
  scaleOf(key.mode).includes((((midi(p) - tonicClass(key)) % 12) + 12) % 12)

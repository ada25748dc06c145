/**
 * Parts that nothing marks: groups of phrases that come back, or nearly, are what a teacher would pencil A
 * and B over.
 */
import { overlap, type Stretch } from './likeness'

/** Share of the time that must agree for one group to be another played again. */
const AGAIN = 0.72
/** A longer stretch without sign or return is cut after so many phrases. */
const MOST = 4

/** A group is compared with so many before it: more than any tune one would teach has. */
const COMPARED = 80

/** Sizes, in phrases, of the parts of a stretch; its sum is the number of phrases. */
export function groupParts(phrases: readonly Stretch[]): number[] {
  const n = phrases.length
  if (n < 4) return [n]
  for (const size of [2, 4]) {
    if (size * 2 > n || n % size !== 0) continue
    const groups = Array.from({ length: n / size }, (_, i) => phrases.slice(i * size, (i + 1) * size))
    const returns = groups.filter((g, i) =>
      groups.slice(Math.max(0, i - COMPARED), i).some(h => likeGroups(g, h) >= AGAIN),
    )
    // At once, or often enough to carry the form.
    const adjacent = groups.some((g, i) => i > 0 && likeGroups(g, groups[i - 1]!) >= AGAIN)
    if (adjacent || returns.length * 3 >= groups.length) return groups.map(g => g.length)
  }
  if (n % 2 === 0 && hasOwnPickup(phrases, n / 2)) return [n / 2, n / 2]
  if (n < 2 * MOST) return [n]
  const whole = Math.floor(n / MOST)
  return Array.from({ length: whole }, (_, i) => (i === whole - 1 ? n - MOST * (whole - 1) : MOST))
}

/** A half that leads in where no other phrase but the first does. */
const hasOwnPickup = (phrases: readonly Stretch[], half: number) =>
  phrases.every((p, i) => i === 0 || leadsIn(p) === (i === half))
const leadsIn = ({ tones, downbeat }: Stretch) => (tones[0]?.at ?? downbeat) < downbeat

/** How much of two groups of phrases is the same, phrase by phrase. */
export function likeGroups(a: readonly Stretch[], b: readonly Stretch[]): number {
  if (a.length !== b.length || a.length === 0) return 0
  return a.reduce((sum, s, i) => sum + overlap(s, b[i]!), 0) / a.length
}

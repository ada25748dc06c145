/** Changes of the notes in words: what, where, and what was there before. */
import type { Change } from '#core/arrangement/change'
import type { Kept } from '#core/arranging/kept'
import { formatPitch } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import type { EventBody, Tune } from '#core/music/tune'

const KINDS: Readonly<Record<string, (before: string, after: string) => string>> = {
  thin: (b, a) => `${b} thinned to ${a}: one note to the beat`,
  even: (b, a) => `${b} evened out to ${a}`,
  plain: (_, a) => `${a} without ornament`,
  single: (b, a) => `${a} alone instead of ${b}`,
  pickup: b => `the pickup (${b}) is left out`,
  replace: (b, a) => `${a} instead of ${b}`,
}

const names = (events: readonly EventBody[]) =>
  events.flatMap(e => (e.kind === 'note' ? [e.heads.map(h => formatPitch(h.pitch)).join('+')] : [])).join(' ') || 'a rest' // prettier-ignore

export interface ChangeView {
  readonly id: string
  readonly kind: string
  readonly measure: number
  readonly accepted: boolean
  /** "measure 3: G4 A4 thinned to G4: one note to the beat". */
  readonly sentence: string
  readonly before: string
  readonly after: string
  /** First written event it speaks of, to go there. */
  readonly at: string
}

/** The changes of a recipe, as the written tune has their notes; one whose notes are gone says so. */
export function changeViews(tune: Tune, changes: readonly Change[]): ChangeView[] {
  const events = new Map(placeMeasures(tune).flatMap(m => m.measure.events.map(e => [e.id, { e, measure: m.number }] as const))) // prettier-ignore
  return changes.map(c => {
    const old = c.edit.events.flatMap(id => events.get(id) ?? [])
    const [before, after] = [names(old.map(o => o.e)), names(c.edit.by)]
    const say = KINDS[c.kind] ?? ((b: string, a: string) => `${a} instead of ${b}`)
    const measure = old[0]?.measure ?? 0
    const sentence = old.length === 0 ? 'its notes are not in the tune now' : say(before, after)
    return { id: c.id, kind: c.kind, measure, accepted: c.accepted, sentence, before, after, at: c.edit.events[0]! } // prettier-ignore
  })
}

const percent = (x: number) => `${Math.round(100 * x)} %`

/** "Kept: 94 % of the strong beats, every phrase ending, 90 % of the contour, 55 % of the rhythm." */
export function keptWords(k: Kept): string {
  const ends = k.phraseEnds === 1 ? 'every phrase ending' : `${percent(k.phraseEnds)} of the phrase endings`
  return `Kept: ${percent(k.strongBeats)} of the strong beats, ${ends}, ${percent(k.contour)} of the contour, ${percent(k.rhythm)} of the rhythm.` // prettier-ignore
}

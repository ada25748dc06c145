/**
 * A fingering in the figures teachers read: shifts and how far they go, crossings, open strings, the tempo it
 * holds to.
 */
import { travel } from '#core/instruments/geometry'
import type { HandModel } from '#core/instruments/handModel'
import type { Mm } from '#core/instruments/instruments'
import type { Tempo } from '#core/music/metre'
import { leastSeconds, secondsFor } from './derived'
import type { FingeringProblem } from './problem'

export interface Tally {
  readonly shifts: number
  /** How far the hand goes in all. */
  readonly way: Mm
  readonly crossings: number
  readonly open: number
  readonly fourth: number
  /** Notes reached out of the hand. */
  readonly reached: number
  /** One finger sliding to another place in a still hand, or jumping to another string. */
  readonly slides: number
  /** The tempo its shifts hold to; null without shifts. */
  readonly holdsTo: Tempo | null
}

/** @param path the state of each tone */
export function tallyOf(
  { states, before, gaps, options }: FingeringProblem,
  path: readonly number[],
  model: HandModel,
): Tally {
  const t = { shifts: 0, way: 0, crossings: 0, open: 0, fourth: 0, reached: 0, slides: 0 }
  let slowest = Infinity
  path.forEach((s, i) => {
    const b = states[i]![s]!
    for (const p of b.places) {
      if (p.finger === 0) t.open++
      if (p.finger === 4) t.fourth++
      if (p.mark === 'extended') t.reached++
    }
    const from = before[i]!
    if (from < 0) return
    const a = states[from]![path[from]!]!
    if (a.lead.string !== b.lead.string) t.crossings++
    if (a.anchor !== b.anchor) {
      t.shifts++
      t.way += travel(options.length, a.anchor, b.anchor)
      slowest = Math.min(slowest, secondsFor(a, gaps[i - 1]!) / leastSeconds(a, b, options.length, model))
    } else if (a.lead.finger !== 0 && a.lead.finger === b.lead.finger && a.lead.offset !== b.lead.offset)
      t.slides++
  })
  const { beat, perMinute } = options.tempo
  const holdsTo = t.shifts > 0 ? { beat, perMinute: Math.max(1, Math.floor(perMinute * slowest)) } : null
  return { ...t, way: Math.round(t.way), holdsTo }
}

/**
 * What a finger that a teacher sets says of taste: the whole line with it, against the best line that was not
 * taken.
 */
import { differentAt } from '#core/solver/alternatives'
import { fingeringProblem, solveFingering } from '#core/fingering/fingering'
import type { FingerPins } from '#core/fingering/fingerPin'
import type { FingeringCache } from '#core/fingering/cache'
import type { FingeringOptions, FingeringProblem } from '#core/fingering/problem'
import { countState, countStep, noTraits, type TraitCounts } from '#core/fingering/taste'
import { eventOf } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import { MOST_KEPT, TRAITS, type TasteDecision, type TastePair } from '#core/instruments/taste'

/**
 * One line with all the fingers the teacher set in it, against the same line with none; null where it can't
 * be had so. What was left as it was is told by the nearest other ways for each of its notes. Linear in the
 * tones.
 */
export function decisionOf(
  tune: Tune,
  { taste: _, ...options }: FingeringOptions,
  id: string,
  pins: FingerPins,
  cache?: FingeringCache,
): TasteDecision | null {
  const problem = fingeringProblem(tune, options, cache)
  const free = solveFingering(problem)
  const pinned = solveFingering(problem, pins)
  if (pinned.findings.some(f => f.code === 'finger.pinUnmet')) return null
  const own = traitsOf(problem, pinned.tables.path)
  const set = pairOf(problem, own, free.tables.path, pinned.total - free.total)
  const kept = problem.tones.flatMap((_, i) =>
    differentAt(problem.lattice, pinned.tables, i, nameAt(problem, i), 1).flatMap(
      d => pairOf(problem, own, d.path, -d.extra) ?? [],
    ),
  )
  return { id, set, kept: kept.sort((a, b) => b.dearer - a.dearer).slice(0, MOST_KEPT) }
}

const nameAt =
  ({ states }: FingeringProblem, i: number) =>
  (state: number) =>
    `${states[i]![state]!.lead.string} ${String(states[i]![state]!.lead.finger)}`

const within = (n: number, most: number) => Math.max(-most, Math.min(most, n))

/** Null where they differ in nothing a taste could tell. */
function pairOf(
  problem: FingeringProblem,
  own: TraitCounts,
  other: readonly number[],
  dearer: number,
): TastePair | null {
  const counts = traitsOf(problem, other)
  const more = TRAITS.map((_, k) => within(own[k]! - counts[k]!, 200))
  return more.every(n => n === 0) ? null : { more, dearer: within(Math.round(dearer * 1000) / 1000, 100) }
}

/** How often each trait is met on a way through a line. */
export function traitsOf(
  { tones, states, gaps, before }: FingeringProblem,
  path: readonly number[],
): TraitCounts {
  const out = noTraits()
  tones.forEach((tone, i) => {
    const s = states[i]![path[i]!]!
    countState(out, tone, s)
    if (i > 0 && before[i] === i - 1) countStep(out, states[i - 1]![path[i - 1]!]!, s, gaps[i - 1]!)
  })
  return out
}

/** The fingers a teacher set: those the source gives are not among them. */
export function ownPins(written: Tune, pins: FingerPins): FingerPins {
  const given = new Map(
    written.measures.flatMap(m =>
      m.events.flatMap(e => (e.kind === 'note' && e.finger !== undefined ? [[e.id, e.finger] as const] : [])),
    ),
  )
  return Object.fromEntries(
    Object.entries(pins).filter(([note, pin]) => given.get(eventOf(note)) !== pin.finger),
  )
}

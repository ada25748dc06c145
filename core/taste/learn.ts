/**
 * A teacher's taste out of the teacher's own decisions. A decision is a finger the teacher set and the best
 * that was not taken; what is learned makes the one cheaper than the other by a margin, and keeps what was
 * left as it was: a ranking hinge loss held near our weights (Joachims 2002), by subgradient steps
 * (Shalev-Shwartz and others 2007).
 */
import { MOST_DECISIONS, type TasteDecision, type TasteOf, type TastePair } from '#core/instruments/taste'
import type { TasteKind } from './kinds'

/**
 * By so much what was set should be cheaper than what was not taken, and what was left as it was than what is
 * nearest to it.
 */
const SET_MARGIN = 0.1
const KEPT_MARGIN = 0.05
/** How dear it is to be far from our weights, for each decision. */
const NEAR = 0.6
const ROUNDS = 40
/** What is smaller than this is no taste. */
const LEAST = 0.03
/** So many decisions speak of a trait before it counts. */
const ENOUGH = 3

/**
 * Traits come in one by one, the one first that foretells most of the decisions it was not learned on
 * (fivefold cross-validation); one that foretells none is no taste. Linear in the decisions. Traits that are
 * switched off stay at our weights.
 */
export function learnedTaste<T extends string>(
  kind: TasteKind<T>,
  { decisions, off }: Pick<TasteOf<T>, 'decisions' | 'off'>,
): Partial<Record<T, number>> {
  const { traits } = kind
  const open = traits
    .map((_, i) => i)
    .filter(
      i => !off.includes(traits[i]!) && decisions.filter(d => d.set && d.set.more[i] !== 0).length >= ENOUGH,
    )
  const chosen: number[] = []
  let least = missedUnseen(kind, decisions, [])
  while (chosen.length < open.length) {
    const tried = open
      .filter(i => !chosen.includes(i))
      .map(i => ({ i, missed: missedUnseen(kind, decisions, [...chosen, i]) }))
    const best = tried.reduce((a, b) => (b.missed < a.missed ? b : a))
    if (best.missed > least - Math.max(FORETELLS, FORETELLS_OF * decisions.length)) break
    chosen.push(best.i)
    least = best.missed
  }
  const w = weighed(kind, decisions, chosen)
  return Object.fromEntries(
    chosen.flatMap(i => (Math.abs(w[i]!) >= LEAST ? [[traits[i]!, Math.round(w[i]! * 1000) / 1000]] : [])),
  ) as Partial<Record<T, number>>
}

const FOLDS = 5
/** A trait must foretell so many decisions, or so large a share of them, that were missed without it. */
const FORETELLS = 3
const FORETELLS_OF = 0.1
/** What was set counts as so much that was left. */
const SET_WORTH = 2

/** What weights learned on the others miss of each fifth of the decisions. */
function missedUnseen<T extends string>(
  kind: TasteKind<T>,
  decisions: readonly TasteDecision[],
  traits: readonly number[],
): number {
  let missed = 0
  for (let fold = 0; fold < FOLDS; fold++) {
    const w =
      traits.length > 0
        ? weighed(
            kind,
            decisions.filter((_, i) => i % FOLDS !== fold),
            traits,
          )
        : kind.traits.map(() => 0)
    const wrong = ({ more, dearer }: TastePair) =>
      dearer + more.reduce((sum, n, i) => sum + n * w[i]!, 0) > 1e-6
    decisions.forEach((d, i) => {
      if (i % FOLDS !== fold) return
      missed += (d.set && wrong(d.set) ? SET_WORTH : 0) + d.kept.filter(wrong).length
    })
  }
  return missed
}

function weighed<T extends string>(
  kind: TasteKind<T>,
  decisions: readonly TasteDecision[],
  traits: readonly number[],
): number[] {
  const w = kind.traits.map(() => 0)
  for (let round = 0; round < ROUNDS; round++) {
    const slope = w.map(x => NEAR * x * (decisions.length + 1))
    for (const d of decisions) {
      if (d.set) addSlope(slope, w, d.set, SET_MARGIN)
      for (const k of d.kept) addSlope(slope, w, k, KEPT_MARGIN)
    }
    const by = 0.4 / ((1 + round / 20) * (decisions.length + 1))
    for (const i of traits) {
      const [least, most] = kind.range[kind.traits[i]!]
      w[i] = Math.max(least, Math.min(most, w[i]! - by * slope[i]!))
    }
  }
  return w
}

/** The subgradient of one hinge. */
function addSlope(slope: number[], w: readonly number[], { more, dearer }: TastePair, margin: number) {
  const loss = margin + dearer + more.reduce((sum, n, i) => sum + n * w[i]!, 0)
  if (loss > 0) more.forEach((n, i) => (slope[i]! += n))
}

/**
 * What was learned of one trait, with the evidence: rather (true) or rather not, so many times of so many.
 */
export interface Evidence<T extends string> {
  readonly trait: T
  readonly rather: boolean
  readonly times: number
  readonly of: number
  readonly off: boolean
}

/** The traits the decisions speak of, those learned and those switched off; the clearest first. */
export function evidenceOf<T extends string>({ traits }: TasteKind<T>, document: TasteOf<T>): Evidence<T>[] {
  const { learned } = document
  return traits
    .flatMap((trait, i): Evidence<T>[] => {
      const off = document.off.includes(trait)
      const by = learned[trait] ?? 0
      if (by === 0 && !off) return []
      const said = document.decisions.flatMap(d => (d.set && d.set.more[i] !== 0 ? [d.set.more[i]!] : []))
      const more = said.filter(n => n > 0).length
      const rather = off ? more * 2 >= said.length : by < 0
      return said.length === 0
        ? []
        : [{ trait, rather, times: rather ? more : said.length - more, of: said.length, off }]
    })
    .sort((a, b) => b.times / b.of - a.times / a.of)
}

/** With what its decisions teach, anew. */
export const relearned = <T extends string>(
  kind: TasteKind<T>,
  t: Pick<TasteOf<T>, 'decisions' | 'off'>,
): TasteOf<T> => ({
  decisions: t.decisions,
  off: t.off,
  learned: learnedTaste(kind, t),
})

/** With a decision, the last word on its line (null takes it back), and what follows from it. */
export function decidedOn<T extends string>(
  kind: TasteKind<T>,
  t: TasteOf<T>,
  id: string,
  decision: TasteDecision | null,
): TasteOf<T> {
  const others = t.decisions.filter(d => d.id !== id)
  const decisions = (decision ? [...others, decision] : others).slice(-MOST_DECISIONS)
  return relearned(kind, { ...t, decisions })
}

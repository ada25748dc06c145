/**
 * Whole fingerings a teacher would call different, named by what they do; for the tune or for a stretch of
 * it.
 */
import { HOME_ANCHOR } from '#core/instruments/hands'
import { lettersOf } from '#core/instruments/instruments'
import { placeName } from '#core/instruments/positions'
import type { HandState } from './candidates'
import type { Component } from './costs'
import { compare } from './explain'
import type { Fingering } from './fingering'
import { solveLattice } from '#core/solver/lattice'
import { anchorsFor } from './rules'
import type { Filter } from '#core/solver/tables'

/** Tones by index, both included. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

/** What another way of playing does, as data; its words are in core/words. */
export type Way =
  | { readonly id: 'firstPosition' | 'noOpen' | 'noFourth' | 'openWherever' }
  /** All on one string, 0 the highest. */
  | { readonly id: 'string'; readonly string: number; readonly letter: string }
  /** Without moving the hand: its anchor, and the name of the position. */
  | { readonly id: 'still'; readonly anchor: number; readonly position: string }

/** The same for two ways a teacher would call by one name. */
export function wayKey(w: Way): string {
  if (w.id === 'string') return `string:${w.string}`
  return w.id === 'still' ? `still:${w.position}` : w.id
}

export interface WholeAlternative {
  readonly way: Way
  /** How much more the line costs. */
  readonly extra: number
  /** What gets worse (positive) or better (negative), by component. */
  readonly difference: Readonly<Partial<Record<Component, number>>>
  /** The state of each tone. */
  readonly path: readonly number[]
  /** Indices of the tones that change. */
  readonly changed: readonly number[]
  /** Tones at which the rule can't be kept; there it is waived. */
  readonly waived: number
}

interface Kind {
  readonly way: Way
  readonly allows: (s: HandState) => boolean
  /** Wanted for every tone of the stretch, or not at all. */
  readonly strict?: boolean
}

const KINDS: readonly Kind[] = [
  { way: { id: 'firstPosition' }, allows: s => s.anchor === HOME_ANCHOR && s.shape !== 'thumb' },
  { way: { id: 'noOpen' }, allows: s => s.places.every(p => p.finger !== 0) },
  { way: { id: 'noFourth' }, allows: s => s.places.every(p => p.finger !== 4) },
  { way: { id: 'openWherever' }, allows: s => s.places.some(p => p.finger === 0) },
]

/** Where a rule must be waived at more than this share of the tones it is no solution of its kind. */
const MOST_WAIVED = 0.25

/** A whole line is played on one string, or in one place, only when it is this short. */
const SHORT = 40

function kindsFor(f: Fingering, { from, to }: Stretch): Kind[] {
  const { states, options } = f.problem
  if (to - from >= SHORT) return [...KINDS]
  const letters = lettersOf(options.instrument, options.tuning)
  const strings = letters.map((letter, string) => ({
    way: { id: 'string' as const, string, letter },
    allows: (s: HandState) => s.places.some(p => p.string === string),
    strict: true,
  }))
  const away = anchorsFor(states, { from, to }).filter(anchor => anchor !== HOME_ANCHOR)
  const places = away.map(anchor => ({
    way: { id: 'still' as const, anchor, position: placeName(options.instrument, anchor) },
    allows: (s: HandState) => s.anchor === anchor,
    strict: true,
  }))
  return [...KINDS, ...strings, ...places]
}

/**
 * Up to `count` other solutions, the cheapest first and one for each name. Pins stay; outside `stretch` every
 * state is free.
 */
export function wholeAlternatives(f: Fingering, count = 3, stretch?: Stretch): WholeAlternative[] {
  const { problem, tables } = f
  if (problem.tones.length === 0) return []
  const at = stretch ?? { from: 0, to: problem.tones.length - 1 }
  const said = (path: readonly number[]) => path.map((s, i) => placesOf(problem.states[i]![s]!))
  const own = said(tables.path)
  const best = new Map<string, WholeAlternative>()
  for (const kind of kindsFor(f, at)) {
    const filter = filterFor(f, kind, at)
    if (!filter) continue
    const { path, total } = solveLattice(problem.lattice, filter.masks, { tables, allowed: f.filter })
    const other = said(path)
    const changed = other.flatMap((k, i) => (k === own[i] ? [] : [i]))
    const extra = total - tables.total
    if (changed.length === 0 || extra >= (best.get(wayKey(kind.way))?.extra ?? Infinity)) continue
    const { difference } = compare(problem, tables.path, path)
    best.set(wayKey(kind.way), { way: kind.way, extra, difference, path, changed, waived: filter.waived })
  }
  const seen = new Set<string>()
  return [...best.values()]
    .sort((a, b) => a.extra - b.extra)
    .filter(a => {
      const key = said(a.path).join(' ')
      return !seen.has(key) && seen.add(key)
    })
    .slice(0, count)
}

const placesOf = (s: HandState) => s.places.map(p => `${p.string}:${p.finger}`).join()

function filterFor(
  f: Fingering,
  { allows, strict }: Kind,
  { from, to }: Stretch,
): { masks: Filter; waived: number } | null {
  let waived = 0
  const masks = f.problem.states.map((list, i) => {
    const pinned = f.filter[i]
    if (i < from || i > to) return pinned
    const mask = Uint8Array.from(list, (s, k) => (allows(s) && (!pinned || pinned[k]) ? 1 : 0))
    if (mask.includes(1)) return mask
    waived++
    return pinned
  })
  return waived > (strict ? 0 : MOST_WAIVED * (to - from + 1)) ? null : { masks, waived }
}

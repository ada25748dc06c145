/**
 * What an edited tune shares with the one before: states of notes, their costs, the costs between them, the
 * last solution. Saves time only.
 */
import type { HandState } from './candidates'
import type { OutOfBounds } from './limits'
import type { Lattice, Tables } from '#core/solver/tables'

/** States of one group of notes. */
export interface StateSet {
  readonly index: number
  readonly states: readonly HandState[]
  /** May be played on open strings alone. */
  readonly open: boolean
  /** Why the level has none of them; they are kept all the same. */
  readonly missing: OutOfBounds | null
}

export interface FingeringCache {
  /**
   * Places of notes by what they depend on but the note, then by the note: all of an instrument's, before a
   * level or a reach leaves any out.
   */
  readonly places: Map<string, Map<string, readonly HandState[]>>
  /** States by what they depend on but the note, then by the note. */
  readonly sets: Map<string, Map<string, StateSet>>
  /**
   * The lowest anchor at which a note is stopped, by hand, then by the sounding pitch; Infinity where it is
   * not.
   */
  readonly lowest: Map<string, Map<string, number>>
  /** Costs of states by themselves, and from states to states. */
  readonly unary: Map<string, Float64Array>
  readonly edges: Map<string, Float64Array>
  /** Numbers given to groups of states. */
  count: number
  /** The first pass of the last problem. */
  before?: { readonly lattice: Lattice; readonly tables: Tables }
}

export const newFingeringCache = (): FingeringCache => ({
  places: new Map(),
  sets: new Map(),
  lowest: new Map(),
  unary: new Map(),
  edges: new Map(),
  count: 0,
})

/** So many costs, and so many groups of states, are kept before it starts anew. */
const MOST_COSTS = 20_000
const MOST_GROUPS = 40

export function makeRoom(c: FingeringCache): void {
  if (c.edges.size > MOST_COSTS) c.edges.clear()
  if (c.unary.size > MOST_COSTS) c.unary.clear()
  if (c.sets.size > MOST_GROUPS) c.sets.clear()
  if (c.places.size > MOST_GROUPS) c.places.clear()
  if (c.lowest.size > MOST_GROUPS) c.lowest.clear()
}

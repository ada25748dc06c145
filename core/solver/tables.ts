/** A layered graph and what a search through it leaves behind. */
export interface Lattice {
  /** Cost of each state by itself, a list per layer; no layer is empty. */
  readonly unary: readonly Float64Array[]
  /** Edge costs from layer i to i + 1, row by row: `edges[i][a * next + b]`. */
  readonly edges: readonly Float64Array[]
}

export interface Tables {
  /** Best cost from the start up to and including a state. */
  readonly forward: readonly Float64Array[]
  /** Best cost after a state to the end, the state itself not included. */
  readonly backward: readonly Float64Array[]
  /** The state of the layer before on the best way into each state. */
  readonly via: readonly Int32Array[]
  readonly path: readonly number[]
  readonly total: number
}

/**
 * A solution to start from, of this lattice or of another: only what differs, and as far as that is felt, is
 * computed again.
 */
export interface Solved {
  readonly tables: Tables
  readonly allowed: Filter
  /** The lattice it was found for, when it is another one. */
  readonly lattice?: Lattice
}

/** `allowed[i]`, where present, says which states of layer i may be used; at least one must be. */
export type Filter = readonly (Uint8Array | undefined)[]

/** A change a version makes, as it is told. */
import type { EventId } from '#core/music/ids'

export interface MadeChange {
  /** Stays the same for the same place and means: a refusal finds it again. */
  readonly id: string
  readonly kind: string
  readonly measure: number
  /** Written events it speaks of. */
  readonly notes: readonly EventId[]
}

/** What an easier version does to a group of notes, told by the most that is done. */
export type EasedKind =
  | 'thin'
  | 'lighten'
  | 'even'
  | 'onBeat'
  | 'plain'
  | 'single'
  | 'pickup'
  | 'words'
  | 'fill'
  | 'fold'
  | 'replace'

export interface EasedChange extends MadeChange {
  readonly kind: EasedKind | 'unslur' | 'slur'
}

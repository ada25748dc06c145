/** What is to be drawn of a line, and where it came to stand. */
import type { Ahead } from '#core/page/heads'
import type { NotatedMeasure } from '#core/page/notation'
import type { SystemMeasure } from '#core/page/systems'
import type { V } from './vex'

export interface Anchor {
  readonly x: number
  /** Top and bottom of the note with its stem. */
  readonly top: number
  readonly bottom: number
  /** Its highest and lowest head. */
  readonly headTop: number
  readonly headBottom: number
  /** Top of the accidentals before it. */
  readonly signTop?: number
  /** Its grace notes, in order. */
  readonly graces?: readonly { readonly x: number; readonly top: number }[]
}

/**
 * A line to be drawn: its measures as they are notated, and as the page model places them (in the units of
 * the drawing).
 */
export interface StaffSystem {
  readonly measures: readonly NotatedMeasure[]
  readonly placed: readonly SystemMeasure[]
  readonly ahead: Ahead | null
  /** From the page's measure to the units of the drawing. */
  readonly scale: number
}

export interface DrawnStaff {
  readonly anchors: ReadonlyMap<string, Anchor>
  /** x of the left edge of every measure, and of the right edge of the last. */
  readonly bars: readonly number[]
  /** x where the lines end: beyond the last bar where it announces the next line. */
  readonly end: number
  readonly top: number
  readonly bottom: number
  /** y of the first line of words, below the staff. */
  readonly wordsTop: number
  readonly wordLines: number
}

export type Ctx = ReturnType<InstanceType<typeof V.Renderer>['getContext']>
export type VexNote = InstanceType<typeof V.StaveNote> | InstanceType<typeof V.GhostNote>

/** Geometry shared by the lanes: time across, one quarter so many pixels. */
import type { NoteView } from '#core/desk/views'

/** Pixels. */
export const HAND_LANE_HEIGHT = 226

export const QUARTER = 46
export const LEFT = 54

/** Room between the scale and the first note's dot. */
const INSET = 14

export const timeX = (quarters: number) => LEFT + INSET + quarters * QUARTER

export interface HandRun {
  readonly anchor: number
  readonly from: number
  readonly to: number
}

/** Stretches over which the hand keeps its anchor. */
export function handRuns(notes: readonly NoteView[]): HandRun[] {
  const runs: { anchor: number; from: number; to: number }[] = []
  for (const n of notes) {
    const last = runs.at(-1)
    if (last?.anchor === n.anchor) last.to = n.start + n.length
    else runs.push({ anchor: n.anchor, from: n.start, to: n.start + n.length })
  }
  return runs
}

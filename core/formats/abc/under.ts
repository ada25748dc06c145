/** The notes a line of words or symbols stands under. */
import type { Measure, TuneEvent } from '#core/music/tune'
import { lastUpTo } from './places'
import type { LineUnder } from './prepare'

export type Draft = { events: TuneEvent[] } & Pick<Measure, 'id'>

/** Where a note stands among the measures. */
export interface Spot {
  readonly measure: number
  readonly index: number
}

/** For each line the notes of the line of music above it. */
export type NotesOver = (line: LineUnder) => readonly Spot[]

/** Notes stand in the order of the text. */
export function notesOver(
  measures: readonly Draft[],
  spans: ReadonlyMap<string, { readonly from: number }>,
): NotesOver {
  const notes = measures.flatMap((m, measure) =>
    m.events.flatMap((e, index) =>
      e.kind === 'note' ? [{ measure, index, at: spans.get(e.id)?.from ?? -1 }] : [],
    ),
  )
  return ({ from, to }) => notes.slice(lastUpTo(notes, from - 1) + 1, lastUpTo(notes, to - 1) + 1)
}

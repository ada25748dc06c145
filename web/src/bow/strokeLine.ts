/** Strokes as lines of the bow lane: time across, frog to tip down. */
import type { NoteView, StrokeView } from '#core/desk/views'

export interface StrokeLine extends StrokeView {
  readonly id: string
  /** In quarters from the start of the tune as it is written. */
  readonly start: number
  readonly end: number
  /** Notes slurred on: where they begin. */
  readonly ticks: readonly { readonly at: number; readonly place: number }[]
  /** The lowest of its strings, 0 the highest: how thick it is drawn. */
  readonly string: number
}

export function strokeLines(
  strokes: readonly StrokeView[],
  byEvent: ReadonlyMap<string, NoteView>,
): StrokeLine[] {
  return strokes.flatMap(s => {
    const notes = s.notes.flatMap(id => byEvent.get(id) ?? [])
    if (notes.length === 0) return []
    const [start, end] = [notes[0]!.start, notes.at(-1)!.start + notes.at(-1)!.length]
    const at = (t: number) => s.from + ((t - start) / Math.max(0.001, end - start)) * (s.to - s.from)
    const ticks = notes.slice(1).flatMap(n => (n.tied ? [] : [{ at: n.start, place: at(n.start) }]))
    return [{ ...s, id: s.notes[0]!, start, end, ticks, string: Math.max(...s.strings) }]
  })
}

/** Where on the bow the music is at a time; null between strokes. */
export function placeAt(
  lines: readonly StrokeLine[],
  quarters: number,
): { place: number; line: StrokeLine } | null {
  const line = lines.find(l => quarters >= l.start && quarters < l.end)
  if (!line) return null
  const share = (quarters - line.start) / Math.max(0.001, line.end - line.start)
  return { place: line.from + share * (line.to - line.from), line }
}

/**
 * How high a system comes out where nothing is drawn: from its rows and its notes. For the shell; a page that
 * draws tells what it drew.
 */
import type { Mm } from '#core/instruments/instruments'
import { diatonic, parsePitch } from '#core/music/pitch'
import type { Rows } from './columns'
import { rowsIn } from './marks'
import type { PagePart, System } from './systems'

/** Step of the middle line of each clef. */
const MIDDLE = { treble: 'B4', alto: 'C4', tenor: 'A3', bass: 'D3' } as const
/** Heights of rows, in staff spaces. */
const ROW = {
  stem: 3.5,
  fingers: 2.2,
  bows: 1.5,
  chords: 1.4,
  phrases: 1.7,
  way: 1.6,
  under: 1.4,
  words: 1.5,
  between: 0.6,
  rhythm: 3.6,
  line: 1.1,
  alone: 1.4,
}

export interface HeightOptions {
  readonly rows: Rows
  readonly tabAlone?: boolean
}

export function estimatedHeight(parts: readonly PagePart[], system: System, space: Mm, o: HeightOptions): Mm {
  const each = parts.map(part => partHeight(part, system, o))
  return each.reduce((t, h) => t + h + ROW.between, -ROW.between) * space
}

function partHeight(
  { notated, tab, under, marks: own }: PagePart,
  system: System,
  { rows: usual, tabAlone }: HeightOptions,
): number {
  const rows = rowsIn(usual, own)
  const measures = system.measures.map(m => notated.measures[m.index]!)
  const events = measures.flatMap(m => m.events.map(e => e.placed.event))
  const shown = system.measures.flatMap(m => tab.measures[m.index]!.events)
  const middle = diatonic(parsePitch(MIDDLE[notated.tune.clef])!)
  const steps = events.flatMap(e => (e.kind === 'note' ? e.heads.map(h => diatonic(h.pitch) - middle) : []))
  // Notes beyond the staff, or the stems of those within it.
  const over = Math.max(0, Math.max(0, ...steps) / 2 - 2, steps.some(s => s < 0) ? ROW.stem - 2.5 : 0)
  const below = Math.max(0, -Math.min(0, ...steps) / 2 - 2, steps.some(s => s >= 0) ? ROW.stem - 2.5 : 0)
  const lines = Math.max(0, ...events.map(e => under?.get(e.id)?.length ?? 0))
  const verses = Math.max(0, ...events.map(e => (e.kind === 'note' ? (e.syllables?.length ?? 0) : 0)))
  const staff = tabAlone ? 0 : 4 + over + below + (rows.fingers ? ROW.fingers : 0)
  const marks =
    (rows.bows && shown.some(e => e.bow) ? ROW.bows : 0) +
    (rows.chords && shown.some(e => e.chord) ? ROW.chords : 0) +
    (shown.some(e => e.phrase) ? ROW.phrases : 0) +
    (system.measures.some(m => tab.measures[m.index]!.way) ? ROW.way : 0)
  const tabs = rows.tab ? (tab.lineLabels.length - 1) * (tabAlone ? ROW.alone : ROW.line) + ROW.rhythm : 0
  return staff + marks + lines * ROW.under + verses * ROW.words + tabs + 1
}

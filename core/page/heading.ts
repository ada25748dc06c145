/** What stands over the music: title, facts, for whom. */
import type { Mm } from '#core/instruments/instruments'
import { keyName } from '#core/music/key'
import { metreName, type Tempo } from '#core/music/metre'
import { valueName } from '#core/music/valueName'
import type { Tune } from '#core/music/tune'
import type { Measurer } from './measurer'

/** A line of text on the page; x and y of its foot, in mm from the block's upper left corner. */
export interface TextLine {
  readonly x: Mm
  readonly y: Mm
  readonly text: string
  readonly size: Mm
  readonly anchor: 'start' | 'middle' | 'end'
  readonly bold?: true
  readonly italic?: true
  /** Less black than the music. */
  readonly quiet?: true
}

/** What the sheet is of. */
export interface SheetWords {
  readonly arrangement: string
  readonly instrument: string
  /** Null at home. */
  readonly tuning: string | null
}

/** Points as millimetres: sizes of type are thought of in points. */
export const POINT: Mm = 25.4 / 72

export const tempoText = (t: Tempo) => `${valueName(t.beat)} = ${t.perMinute}`

const TITLE = 18 * POINT
/** A title smaller than this is cut instead. */
const LEAST_TITLE = 10 * POINT
const BESIDE_TITLE: Mm = 4

/** The title as large as the room beside the instrument's name lets it be. */
function fittedTitle(
  title: string,
  room: Mm,
  measurer: Measurer,
): { readonly text: string; readonly size: Mm } {
  const wide = (t: string, size: Mm) => measurer.text(t, { size, bold: true })
  const size = Math.min(TITLE, Math.max(LEAST_TITLE, (TITLE * room) / Math.max(room, wide(title, TITLE))))
  if (wide(title, size) <= room + 1e-6) return { text: title, size }
  const letters = [...title]
  while (letters.length > 1 && wide(`${letters.join('')}…`, size) > room) letters.pop()
  return { text: `${letters.join('').trimEnd()}…`, size }
}

export function headingLines(
  tune: Tune,
  tempo: Tempo,
  words: SheetWords,
  width: Mm,
  measurer: Measurer,
): TextLine[] {
  const facts = [tune.kind, keyName(tune.key), metreName(tune.metre), tempoText(tempo)]
  const under = [words.arrangement, words.tuning && `tuned ${words.tuning}`]
  const credit = [tune.composer, tune.learnedFrom && `learned from ${tune.learnedFrom}`]
  const joined = (list: readonly (string | null)[], by: string) => list.filter(Boolean).join(by)
  const left = { x: 0, anchor: 'start' as const }
  const right = { x: width, anchor: 'end' as const }
  const room = width - measurer.text(words.instrument, { size: 9 * POINT, bold: true }) - BESIDE_TITLE
  const lines: TextLine[] = [
    { ...left, y: 5.3, ...fittedTitle(tune.title || 'Untitled', room, measurer), bold: true },
    { ...right, y: 5.3, text: words.instrument, size: 9 * POINT, bold: true },
    { ...left, y: 10.6, text: joined(facts, ' · '), size: 9 * POINT },
    { ...right, y: 10.6, text: joined(under, ' · '), size: 9 * POINT },
    { ...left, y: 15.1, text: joined(credit, '; '), size: 8 * POINT, italic: true },
  ]
  return lines.filter(l => l.text !== '')
}

export const runningLines = (tune: Tune, width: Mm): TextLine[] =>
  tune.title ? [{ x: width, y: 1.6, text: tune.title, size: 8.25 * POINT, anchor: 'end', italic: true }] : []

/** What stands over the music: title, facts, for whom. */
import type { Mm } from '#core/instruments/instruments'
import { keyName } from '#core/music/key'
import { metreName, type Tempo } from '#core/music/metre'
import { valueName } from '#core/music/valueName'
import type { Tune } from '#core/music/tune'

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

export function headingLines(tune: Tune, tempo: Tempo, words: SheetWords, width: Mm): TextLine[] {
  const facts = [tune.kind, keyName(tune.key), metreName(tune.metre), tempoText(tempo)]
  const under = [words.arrangement, words.tuning && `tuned ${words.tuning}`]
  const credit = [tune.composer, tune.learnedFrom && `learned from ${tune.learnedFrom}`]
  const joined = (list: readonly (string | null)[], by: string) => list.filter(Boolean).join(by)
  const left = { x: 0, anchor: 'start' as const }
  const right = { x: width, anchor: 'end' as const }
  const lines: TextLine[] = [
    { ...left, y: 5.3, text: tune.title || 'Untitled', size: 18 * POINT, bold: true },
    { ...right, y: 5.3, text: words.instrument, size: 9 * POINT, bold: true },
    { ...left, y: 10.6, text: joined(facts, ' · '), size: 9 * POINT },
    { ...right, y: 10.6, text: joined(under, ' · '), size: 9 * POINT },
    { ...left, y: 15.1, text: joined(credit, '; '), size: 8 * POINT, italic: true },
  ]
  return lines.filter(l => l.text !== '')
}

export const runningLines = (tune: Tune, width: Mm): TextLine[] =>
  tune.title ? [{ x: width, y: 1.6, text: tune.title, size: 8.25 * POINT, anchor: 'end', italic: true }] : []

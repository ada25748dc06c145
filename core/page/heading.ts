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
const FACTS = 9 * POINT
const CREDIT = 8 * POINT
const RUNNING = 8.25 * POINT
const BESIDE: Mm = 4

interface Fitted {
  readonly text: string
  readonly size: Mm
}

/** A line in a room: in its size, smaller down to the least, and what is then still too long is cut. */
export function fitted(
  text: string,
  {
    size: most,
    least = most,
    bold = false,
  }: { readonly size: Mm; readonly least?: Mm; readonly bold?: boolean },
  room: Mm,
  measurer: Measurer,
): Fitted {
  const wide = (t: string, size: Mm) => measurer.text(t, { size, bold })
  const size = Math.min(most, Math.max(least, (most * room) / Math.max(room, wide(text, most))))
  if (wide(text, size) <= room + 1e-6) return { text, size }
  const letters = [...text]
  while (letters.length > 1 && wide(`${letters.join('')}…`, size) > room) letters.pop()
  return { text: `${letters.join('').trimEnd()}…`, size }
}

/**
 * Two lines at one height: the left one whole as far as there is room, the right one in what is left, at
 * least a third.
 */
function sideBySide(left: string, right: string, size: Mm, width: Mm, measurer: Measurer) {
  const wide = (t: string) => measurer.text(t, { size })
  const [a, b] = [wide(left), wide(right)]
  if (right === '' || a + b + BESIDE <= width)
    return [fitted(left, { size }, width, measurer), fitted(right, { size }, width, measurer)] as const
  const room = Math.max(width / 3, width - a - BESIDE)
  const taken = fitted(right, { size }, room, measurer)
  return [fitted(left, { size }, width - wide(taken.text) - BESIDE, measurer), taken] as const
}

export function headingLines(
  tune: Tune,
  tempo: Tempo,
  words: SheetWords,
  width: Mm,
  measurer: Measurer,
): TextLine[] {
  const joined = (list: readonly (string | null | undefined)[], by: string) => list.filter(Boolean).join(by)
  const order = tune.play.parts && `played ${tune.play.parts.join(' ')}`
  const facts = joined([tune.kind, keyName(tune.key), metreName(tune.metre), tempoText(tempo), order], ' · ')
  const under = joined([words.arrangement, words.tuning && `tuned ${words.tuning}`], ' · ')
  const credit = joined([tune.composer, tune.learnedFrom && `learned from ${tune.learnedFrom}`], '; ')
  const left = { x: 0, anchor: 'start' as const }
  const right = { x: width, anchor: 'end' as const }
  const room = width - measurer.text(words.instrument, { size: FACTS, bold: true }) - BESIDE
  const [said, named] = sideBySide(facts, under, FACTS, width, measurer)
  const lines: TextLine[] = [
    {
      ...left,
      y: 5.3,
      ...fitted(tune.title || 'Untitled', { size: TITLE, least: LEAST_TITLE, bold: true }, room, measurer),
      bold: true,
    },
    { ...right, y: 5.3, text: words.instrument, size: FACTS, bold: true },
    { ...left, y: 10.6, ...said },
    { ...right, y: 10.6, ...named },
    {
      ...left,
      y: 15.1,
      ...fitted(credit, { size: CREDIT, least: 0.8 * CREDIT }, width, measurer),
      italic: true,
    },
  ]
  return lines.filter(l => l.text !== '')
}

export const runningLines = (tune: Tune, width: Mm, measurer: Measurer): TextLine[] =>
  tune.title
    ? [
        {
          x: width,
          y: 1.6,
          ...fitted(tune.title, { size: RUNNING }, width, measurer),
          anchor: 'end',
          italic: true,
        },
      ]
    : []

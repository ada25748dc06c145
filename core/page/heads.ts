/**
 * What stands before the notes of a measure, and behind the last bar of a line what is new on the next, with
 * the room it takes.
 */
import type { Mm } from '#core/instruments/instruments'
import { naturalsFor, signature, type Key } from '#core/music/key'
import { sameMetre, type Metre } from '#core/music/metre'
import type { Scale } from './columns'
import type { GlyphName } from './measurer'
import type { NotatedMeasure } from './notation'

/** What stands at the left of a measure's notes, and the room it takes. */
export interface MeasureHead {
  readonly clef: boolean
  readonly key: boolean
  /** The key whose signs no longer hold, where the key is new: naturals take them back. */
  readonly cancels: Key | null
  readonly metre: boolean
  readonly width: Mm
}

/** What the next line begins with that this one did not have, so that nobody is taken unawares. */
export interface Ahead {
  readonly key: Key | null
  readonly cancels: Key | null
  readonly metre: Metre | null
  readonly width: Mm
}

export interface HeadOptions extends Scale {
  /** Tab alone: no clef and no signature take room. */
  readonly tabAlone?: boolean
}

/** Air between what stands before a repeat and its bars, in staff spaces. */
const REPEAT_AFTER = 1.1
/** Air behind the signs that announce the next line. */
const AHEAD_AFTER = 0.6

type Glyph = (name: GlyphName) => number

const keyWidth = (key: Key, cancels: Key | null, glyph: Glyph) =>
  0.8 +
  (Math.abs(signature(key)) + (cancels ? naturalsFor(cancels, key) : 0)) * glyph('keySign') +
  (cancels ? 0.4 : 0)

const metreWidth = ({ beats, unit }: Metre, glyph: Glyph) =>
  glyph('metre') + (String(Math.max(beats, unit)).length - 1) * glyph('metreDigit')

/** What is new in a measure after the one before it. */
function newIn(m: NotatedMeasure, before: NotatedMeasure | undefined) {
  const [old, now] = [before?.placed, m.placed]
  const key = old !== undefined && signature(old.key) !== signature(now.key)
  const cancels = key && naturalsFor(old.key, now.key) > 0 ? old.key : null
  return { key, cancels, metre: old === undefined || !sameMetre(old.metre, now.metre) }
}

/**
 * What must be shown before a measure: clef and key at the beginning of a line, the metre where it is new.
 */
export function headOf(
  m: NotatedMeasure,
  before: NotatedMeasure | undefined,
  begins: boolean,
  { measurer, space, tabAlone = false }: HeadOptions,
): MeasureHead {
  const { glyph } = measurer
  const first = begins && !tabAlone
  const fresh = newIn(m, before)
  const key = !tabAlone && (first || fresh.key)
  // A line takes nothing back at its beginning: the one before it has, at its end.
  const cancels = begins || tabAlone ? null : fresh.cancels
  const { metre } = fresh
  const width =
    (first ? glyph('clef') + 0.6 : 0) +
    (begins && tabAlone ? 0.6 : 0) +
    (key ? keyWidth(m.placed.key, cancels, glyph) : 0) +
    (metre ? metreWidth(m.placed.metre, glyph) : 0) +
    (m.placed.measure.repeatStart ? glyph('repeat') + (first || key || metre ? REPEAT_AFTER : 0) : 0)
  return { clef: first, key, cancels, metre, width: width * space }
}

/** Of the measures of one line. */
export const headsOf = (
  line: readonly NotatedMeasure[],
  before: NotatedMeasure | undefined,
  o: HeadOptions,
): MeasureHead[] => line.map((m, i) => headOf(m, line[i - 1] ?? before, i === 0, o))

/** What a line announces at its end; null where the next one goes on as it is. */
export function aheadOf(
  last: NotatedMeasure,
  next: NotatedMeasure | undefined,
  { measurer, space, tabAlone = false }: HeadOptions,
): Ahead | null {
  if (!next || tabAlone) return null
  const { glyph } = measurer
  const fresh = newIn(next, last)
  if (!fresh.key && !fresh.metre) return null
  const { key, metre } = next.placed
  const width =
    (fresh.key ? keyWidth(key, fresh.cancels, glyph) : 0) +
    (fresh.metre ? metreWidth(metre, glyph) : 0) +
    AHEAD_AFTER
  return {
    key: fresh.key ? key : null,
    cancels: fresh.cancels,
    metre: fresh.metre ? metre : null,
    width: width * space,
  }
}

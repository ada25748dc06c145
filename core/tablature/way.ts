/** The way through a tune as it stands over the staff: signs where a measure begins, words where it ends. */
import type { Measure, Tune } from '#core/music/tune'

export interface WayMarks {
  /** Signs at its beginning. */
  readonly opens: readonly ('segno' | 'coda')[]
  /** Words at its end: "3×", "Fine", "to", "D.C. al Fine". */
  readonly closes: readonly string[]
  /** A coda sign stands behind the words. */
  readonly toCoda: boolean
}

/** Null where nothing is to be said. */
export function wayMarks(m: Measure, tune: Tune): WayMarks | null {
  const opens = [m.segno && ('segno' as const), m.coda && ('coda' as const)].filter(s => s !== undefined)
  const closes = [
    m.repeatTimes !== undefined && `${m.repeatTimes}×`,
    m.fine && 'Fine',
    m.jump && jumpWords(m.jump, tune),
    m.toCoda && 'to',
  ].filter(s => typeof s === 'string')
  return opens.length + closes.length > 0 ? { opens, closes, toCoda: m.toCoda === true } : null
}

/** "D.C.", "D.S. al Fine", "D.C. al Coda": where the way ends after the jump. */
function jumpWords(jump: 'dc' | 'ds', { measures }: Tune): string {
  const name = jump === 'dc' ? 'D.C.' : 'D.S.'
  if (measures.some(m => m.toCoda) && measures.some(m => m.coda)) return `${name} al Coda`
  return measures.some(m => m.fine) ? `${name} al Fine` : name
}

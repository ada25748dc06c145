/**
 * Why a version changes a place, as a teacher would say it: what was asked there that the level has not, and
 * what the new notes are to the old ones.
 */
import type { Because, Keeps } from '#core/arrangement/change'
import { diatonic } from '#core/music/pitch'
import type { Slot } from './fillings'
import { isChordTone, type SourceNote, type Span } from './source'

export interface Has {
  /** The level has the rhythm of a group. */
  readonly rhythm: (span: Span) => boolean
  /** It has all its notes. */
  readonly notes: (span: Span) => boolean
  /** It has both, but the hand or the bow was asked too much when it was tried. */
  readonly tried: (span: Span) => boolean
  /** The string a note lies on at home. */
  readonly string: (note: SourceNote) => number
}

export function becauseOf(spans: readonly Span[], slots: readonly Slot[], has: Has): Because {
  const keeps = keepsOf(slots)
  return { asked: askedOf(spans, has), ...(keeps && { keeps }) }
}

function askedOf(spans: readonly Span[], has: Has): Because['asked'] {
  if (!spans.every(has.rhythm)) return 'rhythm'
  if (!spans.every(has.notes)) return 'reach'
  if (spans.some(has.tried)) return 'tried'
  const notes = spans.flatMap(s => s.notes)
  const quick = notes.filter(n => n.until - n.at < 1)
  const crossed = quick.some((n, i) => i > 0 && has.string(n) !== has.string(quick[i - 1]!))
  if (crossed) return 'crossings'
  return quick.length > 1 ? 'running' : 'alike'
}

function keepsOf(slots: readonly Slot[]): Keeps | null {
  const sounding = slots.filter(s => s.source !== null && s.pitch !== null)
  const others = sounding.filter(s => !s.own)
  if (others.length === 0) {
    const inPlace = sounding.every(s => s.source!.at >= s.at - EPS && s.source!.at <= s.at + EPS)
    return inPlace ? 'beats' : 'leads'
  }
  if (others.every(s => (s.midi - s.source!.midi) % 12 === 0)) return 'octave'
  if (others.every(s => Math.abs(diatonic(s.pitch!) - diatonic(s.source!.pitch)) === 1)) return 'step'
  return others.every(s => isChordTone(s.midi, s.source!.chord)) ? 'chord' : null
}
const EPS = 1e-6

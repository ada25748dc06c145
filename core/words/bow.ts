/** The words of strokes. */
import type { BowSchool, Stroke, StrokeReason } from '#core/bowing/bowing'

const REASONS: Record<StrokeReason, string> = {
  start: 'The line starts so that the first beat comes down.',
  turn: 'In turn after the stroke before.',
  retake: 'Lifted and set anew: there is time for it.',
  pinned: 'Pinned by you.',
}

/** One sentence for a stroke. */
export const whyStroke = (s: Pick<Stroke, 'why'>, school: BowSchool) =>
  s.why === 'start' && school === 'as-it-comes'
    ? 'The line starts down and goes on as it comes.'
    : REASONS[s.why]

/**
 * A strip with the places of the tapes, true to scale: laid on the fingerboard from the nut. Long ones are
 * folded over several lines with marks to join.
 */
import type { Tape } from '#core/instruments/tapes'
import { PAPERS, type Paper } from '#core/page/paper'
import { TEXT_FACE } from '#drawing/svg'
import { newPdf } from './pdf'

/** Millimetres. */
const MARGIN = 15
const HEIGHT = 16
/** The ruler that tells whether the printer kept the scale. */
export const RULER = 100

export async function tapeStripPdf(
  tapes: readonly Tape[],
  length: number,
  title: string,
  paper: Paper,
): Promise<Blob> {
  const pdf = await newPdf(paper, { title: `Tapes: ${title}`, author: '' })
  const usable = PAPERS[paper].width - 2 * MARGIN
  pdf.setFont(TEXT_FACE, 'bold').setFontSize(13).text(`Tapes: ${title}`, MARGIN, 20)
  pdf.setFont(TEXT_FACE, 'normal').setFontSize(9.5)
  pdf.text(
    'Print at 100%. This line is 100 mm long; if it is not, the scale was changed: do not use the strip.',
    MARGIN,
    27,
  )
  pdf.setLineWidth(0.3).line(MARGIN, 34, MARGIN + RULER, 34)
  for (let mm = 0; mm <= RULER; mm += 10) pdf.line(MARGIN + mm, 32, MARGIN + mm, 36)
  pdf.text('0', MARGIN - 1, 40).text('100 mm', MARGIN + RULER - 5, 40)

  const far = Math.max(...tapes.map(t => t.fromNut)) + 12
  const lines = Math.ceil(far / usable)
  for (let k = 0; k < lines; k++) {
    const [from, top] = [k * usable, 52 + k * (HEIGHT + 16)]
    const width = Math.min(usable, far - from)
    pdf.setLineWidth(0.2).rect(MARGIN, top, width, HEIGHT)
    if (k === 0) pdf.setLineWidth(0.9).line(MARGIN, top, MARGIN, top + HEIGHT)
    pdf.text(k === 0 ? 'nut' : `goes on at ${from.toFixed(0)} mm: join here`, MARGIN, top - 2)
    for (const t of tapes.filter(t => t.fromNut >= from && t.fromNut < from + usable)) {
      const x = MARGIN + t.fromNut - from
      pdf.setLineWidth(0.5).line(x, top, x, top + HEIGHT)
      pdf.setFont(TEXT_FACE, 'bold').text(t.label.replace('‹', '<'), x + 1, top + 6)
      pdf.setFont(TEXT_FACE, 'normal').text(t.fromNut.toFixed(1), x + 1, top + HEIGHT - 2)
    }
  }
  pdf.text(
    `String length ${length} mm, equal temperament: d(n) = L (1 − 2^(−n/12)).`,
    MARGIN,
    60 + lines * (HEIGHT + 16),
  )
  return pdf.output('blob')
}

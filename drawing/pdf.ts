/** The pages of a sheet as a PDF with vector glyphs and text in the shipped face. */
import { jsPDF } from 'jspdf'
import 'svg2pdf.js'
import { PAPERS, type Paper } from '#core/page/paper'
import { TEXT_FACE } from './svg'
import { plain } from './svgFile'

export interface About {
  readonly title: string
  readonly author: string
}

/** The shipped face in the styles a page uses, each as base64 of its TrueType. */
export type PdfFaces = Readonly<Record<'normal' | 'bold' | 'italic', string>>

const NO_HOUR = new Date(2000, 0, 1)

/**
 * An empty document in the shipped faces. It holds nothing of the hour it was made: the same sheet gives the
 * same bytes.
 */
export function newPdf(paper: Paper, about: About, faces: PdfFaces): jsPDF {
  const { width, height } = PAPERS[paper]
  const pdf = new jsPDF({ unit: 'mm', format: [width, height], compress: true, putOnlyUsedFonts: true })
  for (const [style, data] of Object.entries(faces)) {
    pdf.addFileToVFS(`${style}.ttf`, data)
    pdf.addFont(`${style}.ttf`, TEXT_FACE, style)
  }
  pdf.setProperties({ ...about, creator: 'Nokta' })
  pdf.setCreationDate(NO_HOUR)
  pdf.setFileId('0'.repeat(32))
  return pdf
}

/**
 * Draws pages into a new document, a page each.
 * @param told hears of every page that is done, and stops the work by throwing
 */
export async function pagesPdf(
  pages: readonly SVGSVGElement[],
  paper: Paper,
  about: About,
  faces: PdfFaces,
  told?: (done: number, of: number) => Promise<void>,
): Promise<jsPDF> {
  const pdf = newPdf(paper, about, faces)
  const { width, height } = PAPERS[paper]
  for (const [i, page] of pages.entries()) {
    if (i > 0) pdf.addPage([width, height])
    await pdf.svg(plain(page), { x: 0, y: 0, width, height })
    await told?.(i + 1, pages.length)
  }
  return pdf
}

/**
 * The pages as a PDF with vector glyphs and text in the shipped face. Loaded only when somebody asks for it.
 */
import regular from '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf?url'
import italic from '@expo-google-fonts/atkinson-hyperlegible/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf?url'
import bold from '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf?url'
import { jsPDF } from 'jspdf'
import 'svg2pdf.js'
import type { OutlineLine } from '#core/teach/outline'
import { PAPERS, type Paper } from '#core/page/paper'
import { TEXT_FACE } from '#drawing/svg'
import { plain } from '#drawing/svgFile'
import type { Told } from './useExport'

const faces = new Map<string, Promise<string>>()
/** A face as the PDF writer takes it; read once. */
export function base64(url: string): Promise<string> {
  const known = faces.get(url) ?? read(url)
  faces.set(url, known)
  // What failed is asked for again.
  known.catch(() => faces.delete(url))
  return known
}

async function read(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer())
  let binary = ''
  for (let i = 0; i < bytes.length; i += 0x8000)
    binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(binary)
}

export interface About {
  readonly title: string
  readonly author: string
}

/**
 * An empty document in the shipped faces. It holds nothing of the hour it was made: the same sheet gives the
 * same bytes.
 */
export async function newPdf(paper: Paper, about: About): Promise<jsPDF> {
  const { width, height } = PAPERS[paper]
  const pdf = new jsPDF({ unit: 'mm', format: [width, height], compress: true, putOnlyUsedFonts: true })
  const faces = [
    ['normal', regular],
    ['bold', bold],
    ['italic', italic],
  ] as const
  for (const [style, url] of faces) {
    pdf.addFileToVFS(`${style}.ttf`, await base64(url))
    pdf.addFont(`${style}.ttf`, TEXT_FACE, style)
  }
  pdf.setProperties({ ...about, creator: 'Nokta' })
  pdf.setCreationDate(NO_HOUR)
  pdf.setFileId('0'.repeat(32))
  return pdf
}

const NO_HOUR = new Date(2000, 0, 1)

/** A lesson outline: lines of text, broken to the width, on as many pages as they need. */
export async function outlinePdf(lines: readonly OutlineLine[], paper: Paper, title: string): Promise<Blob> {
  const pdf = await newPdf(paper, { title, author: '' })
  const { width, height } = PAPERS[paper]
  const margin = 18
  let y = margin
  for (const { kind, text } of lines) {
    const [style, size] = OUTLINE_TYPE[kind]
    pdf.setFont(TEXT_FACE, style).setFontSize(size)
    const indent = kind === 'step' ? 6 : 0
    const rows = pdf.splitTextToSize(text, width - 2 * margin - indent) as string[]
    const line = size * 0.5
    if (kind === 'heading') y += 3
    if (y + rows.length * line > height - margin) {
      pdf.addPage([width, height])
      y = margin
    }
    pdf.text(rows, margin + indent, y + line * 0.8)
    y += rows.length * line + 1.2
  }
  return pdf.output('blob')
}

const OUTLINE_TYPE: Readonly<Record<OutlineLine['kind'], readonly [style: string, size: number]>> = {
  title: ['bold', 18],
  heading: ['bold', 12],
  step: ['normal', 11],
  note: ['italic', 10],
}

/** `told` hears of every page that is done, and stops the work by throwing. */
export async function makePdf(
  pages: readonly SVGSVGElement[],
  paper: Paper,
  about: About,
  told?: Told,
): Promise<Blob> {
  const pdf = await newPdf(paper, about)
  const { width, height } = PAPERS[paper]
  for (const [i, page] of pages.entries()) {
    if (i > 0) pdf.addPage([width, height])
    await pdf.svg(plain(page), { x: 0, y: 0, width, height })
    await told?.(i + 1, pages.length)
  }
  return pdf.output('blob')
}

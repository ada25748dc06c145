/**
 * The pages as a PDF with vector glyphs and text in the shipped face. Loaded only when somebody asks for it.
 */
import regular from '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf?url'
import italic from '@expo-google-fonts/atkinson-hyperlegible/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf?url'
import bold from '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf?url'
import type { jsPDF } from 'jspdf'
import type { OutlineLine } from '#core/teach/outline'
import { PAPERS, type Paper } from '#core/page/paper'
import { newPdf as emptyPdf, pagesPdf, type About, type PdfFaces } from '#drawing/pdf'
import { TEXT_FACE } from '#drawing/svg'
import type { Told } from './useExport'

const loaded = new Map<string, Promise<string>>()
/** A face as the PDF writer takes it; read once. */
export function base64(url: string): Promise<string> {
  const known = loaded.get(url) ?? read(url)
  loaded.set(url, known)
  // What failed is asked for again.
  known.catch(() => loaded.delete(url))
  return known
}

async function read(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer())
  let binary = ''
  for (let i = 0; i < bytes.length; i += 0x8000)
    binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(binary)
}

const FACES = { normal: regular, bold, italic }
async function faces(): Promise<PdfFaces> {
  const [normal, heavy, slanted] = await Promise.all(Object.values(FACES).map(base64))
  return { normal: normal!, bold: heavy!, italic: slanted! }
}

/** An empty document in the shipped faces. */
export const newPdf = async (paper: Paper, about: About): Promise<jsPDF> =>
  emptyPdf(paper, about, await faces())

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
  return (await pagesPdf(pages, paper, about, await faces(), told)).output('blob')
}

/** The pages as a PDF with vector glyphs and text in the shipped face. Loaded only when somebody asks for it. */
import regular from '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf?url'
import italic from '@expo-google-fonts/atkinson-hyperlegible/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf?url'
import bold from '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf?url'
import { jsPDF } from 'jspdf'
import 'svg2pdf.js'
import { PAPERS, type Paper } from '#core/tablature/pages'
import { TEXT_FACE } from '../engraving/svg'

async function base64(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer())
  let binary = ''
  for (let i = 0; i < bytes.length; i += 0x8000)
    binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(binary)
}

/** What the converter does not understand in the screen's drawing: inherited colours, units of points, CSS variables. */
function plain(page: SVGSVGElement): SVGSVGElement {
  const copy = page.cloneNode(true) as SVGSVGElement
  for (const e of [copy, ...copy.querySelectorAll<SVGElement>('*')]) {
    for (const name of ['fill', 'stroke']) {
      const value = e.getAttribute(name)
      if (value === 'currentColor') e.setAttribute(name, '#000000')
      if (value?.startsWith('var(')) e.setAttribute(name, '#ffffff')
    }
    const size = e.getAttribute('font-size')
    if (size)
      e.setAttribute(
        'font-size',
        String(size.endsWith('pt') ? parseFloat(size) * (96 / 72) : parseFloat(size)),
      )
  }
  return copy
}

export async function makePdf(pages: readonly SVGSVGElement[], paper: Paper, title: string): Promise<Blob> {
  const { width, height } = PAPERS[paper]
  const pdf = new jsPDF({ unit: 'mm', format: [width, height], compress: true, putOnlyUsedFonts: true })
  const faces = [['normal', regular], ['bold', bold], ['italic', italic]] as const // prettier-ignore
  for (const [style, url] of faces) {
    pdf.addFileToVFS(`${style}.ttf`, await base64(url))
    pdf.addFont(`${style}.ttf`, TEXT_FACE, style)
  }
  pdf.setProperties({ title })
  for (const [i, page] of pages.entries()) {
    if (i > 0) pdf.addPage([width, height])
    await pdf.svg(plain(page), { x: 0, y: 0, width, height })
  }
  return pdf.output('blob')
}

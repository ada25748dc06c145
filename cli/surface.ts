/**
 * Something to draw on where there is no page: a document, and a canvas that knows the widths of text from
 * the face itself.
 */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type * as Jsdom from 'jsdom'
import type * as Opentype from 'opentype.js'
import type { PdfFaces } from '#drawing/pdf'
import type { EmbeddedFace } from '#drawing/svgFile'

const require = createRequire(import.meta.url)

const FOLDER = '@expo-google-fonts/atkinson-hyperlegible'
const FACES = [
  { weight: 'normal', style: 'normal', file: '400Regular/AtkinsonHyperlegible_400Regular.ttf' },
  { weight: 'bold', style: 'normal', file: '700Bold/AtkinsonHyperlegible_700Bold.ttf' },
  { weight: 'normal', style: 'italic', file: '400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf' },
] as const
const bytesOf = (file: string) => readFileSync(require.resolve(`${FOLDER}/${file}`))

/** The faces as a file takes them. */
export const embeddedFaces = (): EmbeddedFace[] =>
  FACES.map(f => ({ ...f, data: bytesOf(f.file).toString('base64') }))

/** The faces as a PDF takes them. */
export function pdfFaces(): PdfFaces {
  const [normal, bold, italic] = FACES.map(f => bytesOf(f.file).toString('base64'))
  return { normal: normal!, bold: bold!, italic: italic! }
}

/** What is asked of a canvas: how wide a text is in the face it was told. */
class Widths {
  font = '10px'
  constructor(private readonly widthOf: (content: string, size: number, bold: boolean) => number) {}
  measureText(content: string) {
    const size = Number(/([\d.]+)px/.exec(this.font)?.[1])
    return { width: this.widthOf(content, size, /\bbold\b/.test(this.font)) }
  }
}

/**
 * Makes `document` and what drawing asks of it, once; the packages are read only now, since few calls of the
 * shell draw.
 */
export function drawingSurface(): void {
  if ('document' in globalThis) return
  const { JSDOM } = require('jsdom') as typeof Jsdom
  const { parse } = require('opentype.js') as typeof Opentype
  const [regular, bold] = FACES.slice(0, 2).map(({ file }) => {
    const bytes = bytesOf(file)
    return parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer)
  })
  const { window } = new JSDOM('')
  const widthOf = (content: string, size: number, heavy: boolean) =>
    (heavy ? bold! : regular!).getAdvanceWidth(content, size)
  const context = new Widths(widthOf)
  Object.assign(window.HTMLCanvasElement.prototype, { getContext: () => context })
  // The PDF writer asks how wide a text is; of any other element nobody asks.
  Object.assign(window.SVGElement.prototype, {
    getBBox(this: SVGElement) {
      const size = parseFloat(this.getAttribute('font-size') ?? '10')
      const heavy = this.getAttribute('font-weight') === 'bold'
      return { x: 0, y: 0, width: widthOf(this.textContent ?? '', size, heavy), height: size }
    },
  })
  Object.assign(globalThis, { document: window.document, XMLSerializer: window.XMLSerializer })
}

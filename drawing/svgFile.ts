/** A page by itself: without what only the screen knows, and with the face it is set in. */
import { TEXT_FACE } from './svg'

/** Signs the face has not, by what it has. */
const SIGNS: Readonly<Record<string, string>> = { '♯': '#', '♭': 'b', '♮': 'n', '′': "'", ʼ: "'" }
const written = (text: string) => text.replace(/[♯♭♮′ʼ]/g, c => SIGNS[c]!)

/**
 * What other programs do not understand in the screen's drawing: inherited colours, units of points, CSS
 * variables.
 */
export function plain(page: SVGSVGElement): SVGSVGElement {
  const copy = page.cloneNode(true) as SVGSVGElement
  for (const e of [copy, ...copy.querySelectorAll<SVGElement>('*')]) {
    for (const name of ['fill', 'stroke']) {
      const value = e.getAttribute(name)
      if (value === 'currentColor') e.setAttribute(name, '#000000')
      if (value?.startsWith('var(')) e.setAttribute(name, '#ffffff')
    }
    // The engraving library counts everything it ever drew.
    e.removeAttribute('id')
    if (e.tagName === 'text') e.textContent = written(e.textContent ?? '')
    const size = e.getAttribute('font-size')
    if (size)
      e.setAttribute(
        'font-size',
        String(size.endsWith('pt') ? parseFloat(size) * (96 / 72) : parseFloat(size)),
      )
  }
  return copy
}

/** A face as a file takes it: base64 of its TrueType. */
export interface EmbeddedFace {
  readonly weight: 'normal' | 'bold'
  readonly style: 'normal' | 'italic'
  readonly data: string
}

export function svgFile(page: SVGSVGElement, faces: readonly EmbeddedFace[]): string {
  const copy = plain(page)
  const style = document.createElementNS('http://www.w3.org/2000/svg', 'style')
  style.textContent = faces
    .map(
      f =>
        `@font-face{font-family:"${TEXT_FACE}";font-weight:${f.weight};font-style:${f.style};src:url(data:font/ttf;base64,${f.data})}`,
    )
    .join('')
  copy.prepend(style)
  return new XMLSerializer().serializeToString(copy)
}

/** A page as a picture by itself: the face it is set in goes with it. */
import regular from '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf?url'
import bold from '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf?url'
import { TEXT_FACE } from '../engraving/svg'
import { base64, plain } from './pdf'

async function alone(page: SVGSVGElement): Promise<string> {
  const copy = plain(page)
  const faces = await Promise.all(([['normal', regular], ['bold', bold]] as const).map(async ([weight, url]) => `@font-face{font-family:"${TEXT_FACE}";font-weight:${weight};src:url(data:font/ttf;base64,${await base64(url)})}`)) // prettier-ignore
  const style = document.createElementNS('http://www.w3.org/2000/svg', 'style')
  style.textContent = faces.join('')
  copy.prepend(style)
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  return new XMLSerializer().serializeToString(copy)
}

export const pageSvg = async (page: SVGSVGElement) => new Blob([await alone(page)], { type: 'image/svg+xml' })

/** Pixels to a CSS pixel: 288 to the inch. */
const SHARP = 3

export async function pagePng(page: SVGSVGElement): Promise<Blob> {
  const url = URL.createObjectURL(await pageSvg(page))
  try {
    const image = new Image()
    image.src = url
    await image.decode()
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(Number(page.getAttribute('width')) * SHARP)
    canvas.height = Math.round(Number(page.getAttribute('height')) * SHARP)
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
    return await new Promise((done, fail) =>
      canvas.toBlob(b => (b ? done(b) : fail(new Error('no picture came out')))),
    )
  } finally {
    URL.revokeObjectURL(url)
  }
}

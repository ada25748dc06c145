/** A page as a picture by itself: the face it is set in goes with it. */
import regular from '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf?url'
import italic from '@expo-google-fonts/atkinson-hyperlegible/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf?url'
import bold from '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf?url'
import { svgFile } from '#drawing/svgFile'
import { base64 } from './pdf'

const FACES = [
  { weight: 'normal', style: 'normal', url: regular },
  { weight: 'bold', style: 'normal', url: bold },
  { weight: 'normal', style: 'italic', url: italic },
] as const

async function alone(page: SVGSVGElement): Promise<string> {
  return svgFile(page, await Promise.all(FACES.map(async f => ({ ...f, data: await base64(f.url) }))))
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

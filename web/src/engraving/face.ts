/** The face of the page: loaded where it is not there yet, and known when it comes. */
import { forgetWidths } from '#drawing/measurer'
import { TEXT_FACE } from '#drawing/svg'

const FACES = ['', 'bold ', 'italic '].map(style => `${style}12px "${TEXT_FACE}"`)

/** Loads the face where it is not there yet; widths that were taken with another one are forgotten. */
export async function faceReady(): Promise<void> {
  if (FACES.every(f => document.fonts.check(f))) return
  await Promise.all(FACES.map(f => document.fonts.load(f)))
  forgetWidths()
}

/** Calls back once when the face comes to be loaded after widths were taken with another one. */
export function whenFaceLoads(again: () => void): void {
  if (!FACES.every(f => document.fonts.check(f))) void faceReady().then(again)
}

/** What the marks of a note are called. */
import type { Mark } from '#core/music/tune'

export const MARK_NAMES: Readonly<Record<Mark, string>> = {
  staccato: 'staccato',
  tenuto: 'tenuto',
  accent: 'accent',
  fermata: 'fermata',
  trill: 'trill',
  turn: 'turn',
  mordent: 'mordent',
  upperMordent: 'upper mordent',
  roll: 'roll',
  cut: 'cut',
  slide: 'slide',
  pizzicato: 'pizzicato',
  comma: 'comma',
  lift: 'lift',
  upbow: 'up bow',
  downbow: 'down bow',
  open: 'open string',
  harmonic: 'harmonic',
}

/** Marks of ABC: what of a note they become, and which of them are signs of the way through. */
import type { Way } from '../way'
import type { Dynamic, Mark } from '#core/music/tune'

const MARK_OF: Readonly<Record<string, Mark>> = {
  staccato: 'staccato',
  '.': 'staccato',
  tenuto: 'tenuto',
  accent: 'accent',
  emphasis: 'accent',
  '>': 'accent',
  L: 'accent',
  fermata: 'fermata',
  H: 'fermata',
  trill: 'trill',
  T: 'trill',
  turn: 'turn',
  mordent: 'mordent',
  lowermordent: 'mordent',
  M: 'mordent',
  uppermordent: 'upperMordent',
  P: 'upperMordent',
  pralltriller: 'upperMordent',
  roll: 'roll',
  irishroll: 'roll',
  '~': 'roll',
  slide: 'slide',
  upbow: 'upbow',
  u: 'upbow',
  downbow: 'downbow',
  v: 'downbow',
  open: 'open',
  harmonic: 'harmonic',
  breath: 'comma',
  shortphrase: 'lift',
  mediumphrase: 'comma',
  cut: 'cut',
  '+': 'pizzicato',
}
/** What a harmonic is called on its way through the parser, where the text has no such sign of its own. */
export const STANDS_FOR_HARMONIC = 'arpeggio'
const DYNAMICS = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'] as const

export interface Decorated {
  readonly marks: readonly Mark[]
  readonly dynamic?: Dynamic
  readonly finger?: number
  readonly unknown: readonly string[]
}

/** @param harmonics {@link STANDS_FOR_HARMONIC} stands for a harmonic */
export function decorated(names: readonly string[], harmonics: boolean): Decorated {
  const marks: Mark[] = []
  const unknown: string[] = []
  let [dynamic, finger] = [undefined as Dynamic | undefined, undefined as number | undefined]
  for (const name of names) {
    const mark = name === STANDS_FOR_HARMONIC && harmonics ? 'harmonic' : MARK_OF[name]
    const loud = DYNAMICS.find(d => d === name)
    if (mark) marks.push(mark)
    else if (loud) dynamic = loud
    else if (/^[0-5]$/.test(name)) finger = Number(name)
    // A line over several notes is told by its beginning.
    else if (!/\)$/.test(name)) unknown.push(name.replace(/\($/, ''))
  }
  return {
    marks: [...new Set(marks)],
    ...(dynamic && { dynamic }),
    ...(finger !== undefined && { finger }),
    unknown,
  }
}

const HEIGHT = 'CDEFGAB'
/**
 * Fingers written at notes together (`[!0!A!1!e]`, or `!0!!1![Ae]` in the order of the notes): the one of the
 * lowest note, and what is left of the others.
 */
export function fingersTogether(text: string): {
  readonly lowest?: number
  readonly others: readonly string[]
} {
  const fingers: string[] = []
  let lowest = { height: Infinity, finger: undefined as string | undefined }
  const others: string[] = []
  for (const [, finger, letter, octaves] of text
    .replace(/"[^"]*"/g, '')
    .replace(/\{[^}]*\}/g, '')
    .matchAll(/!([0-5])!|![^!]*!|([A-Ga-g])([,']*)/g)) {
    if (finger) fingers.push(finger)
    if (!letter) continue
    const up = [...(octaves ?? '')].reduce(
      (n, c) => n + (c === ',' ? -7 : 7),
      letter === letter.toUpperCase() ? 0 : 7,
    )
    const note = { height: HEIGHT.indexOf(letter.toUpperCase()) + up, finger: fingers.shift() }
    const other = note.height < lowest.height ? lowest : note
    if (other === lowest) lowest = note
    if (other.finger) others.push(other.finger)
  }
  return { ...(lowest.finger && { lowest: Number(lowest.finger) }), others: [...others, ...fingers] }
}

/** Signs that stand where a measure begins; and those that speak of its end. */
export const OPENING: Readonly<Record<string, Way>> = { segno: { segno: true }, coda: { coda: true } }
export const CLOSING: Readonly<Record<string, Way>> = {
  fine: { fine: true },
  'D.C.': { jump: 'dc' },
  'D.C.alfine': { jump: 'dc' },
  'D.C.alcoda': { jump: 'dc' },
  'D.S.': { jump: 'ds' },
  'D.S.alfine': { jump: 'ds' },
  'D.S.alcoda': { jump: 'ds' },
}

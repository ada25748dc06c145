/**
 * How far the notes lie from where they are written, by their clefs: a clef with an 8 sounds an octave away
 * (section 4.6 of the standard), and “middle=” says which written note stands on the middle line of the clef.
 * What else is said of the pitch (transposition, percussion) moves no note here, and is told.
 */
import { finding, type Finding, type Where } from '#core/findings/finding'
import { stepIndex, type Step } from '#core/music/pitch'
import { lastUpTo } from './places'

export interface ClefOctaves {
  /** Octaves up (down where negative) at a place of the text. */
  readonly at: (place: number) => number
  readonly findings: readonly Finding[]
}

const FIELDS = /^[KV]:.*$|\[[KV]:[^\]\n]*\]/gm
const CLEF = /(?:^|[\s:=])((?:clef=)?(treble|bass|alto|tenor)([1-5])?([+-](?:8|15))?)(?=[\s\]]|$)/
const MIDDLE = /\b(?:middle|m)=([A-Ga-g])([,']*)(?=[\s\]]|$)/
const UNMOVED = /\b(?:middle|m|transpose|score|sound)=[^\s\]]+|(?:clef=)?\bperc\b/g
/** Lines that are told; a text that says more is clear by then. */
const MOST_TOLD = 4
/** Characters of them. */
const SHOWN = 40

/** The letter height (seven to the octave, C0 is 0) on a line of each clef; lines are counted from below. */
const ON_ITS_LINE = {
  treble: { line: 2, height: 32 },
  bass: { line: 4, height: 24 },
  alto: { line: 3, height: 28 },
  tenor: { line: 4, height: 28 },
} as const
type ClefName = keyof typeof ON_ITS_LINE

function middleLine(clef: ClefName, line: number | null): number {
  const own = ON_ITS_LINE[clef]
  return own.height + 2 * (3 - (line ?? own.line))
}

function writtenHeight(letter: string, marks: string): number {
  const octave = (/[a-g]/.test(letter) ? 5 : 4) + [...marks].reduce((n, m) => n + (m === "'" ? 1 : -1), 0)
  return octave * 7 + stepIndex(letter.toUpperCase() as Step)
}

/** Of the text of one voice. */
export function clefOctaves(text: string, place: (offset: number) => Where): ClefOctaves {
  const changes: { at: number; octaves: number }[] = []
  const findings: Finding[] = []
  const tell = (what: Finding) => findings.length < MOST_TOLD && findings.push(what)
  const moves = (at: number, said: string, octaves: number) =>
    octaves !== 0 && tell(finding('abc.clefOctave', 'note', place(at), { said, octaves }))
  let clef: ClefName = 'treble'
  let line: number | null = null
  let [sign, middle] = [0, 0]
  for (const { 0: field, index } of text.matchAll(FIELDS)) {
    const named = CLEF.exec(field)
    if (named) {
      clef = named[2] as ClefName
      line = named[3] ? Number(named[3]) : null
      const said = named[4] ?? ''
      sign = (said.endsWith('15') ? 2 : said === '' ? 0 : 1) * (said.startsWith('-') ? -1 : 1)
      middle = 0
      moves(index + named.index + named[0].indexOf(named[1]!), named[1]!, sign)
    }
    const away = MIDDLE.exec(field)
    const letters = away ? middleLine(clef, line) - writtenHeight(away[1]!, away[2]!) : 0
    const whole = away !== null && letters % 7 === 0
    if (whole) {
      middle = letters / 7
      moves(index + away.index, away[0].slice(0, SHOWN), middle)
    }
    for (const m of field.matchAll(UNMOVED))
      if (!(whole && m[0] === away[0]))
        tell(finding('abc.atWritten', 'note', place(index + m.index), { said: m[0].slice(0, SHOWN) }))
    changes.push({ at: index, octaves: sign + middle })
  }
  return { at: place => changes[lastUpTo(changes, place)]?.octaves ?? 0, findings }
}

/**
 * Macros (section 9 of the standard), done before anything else is read: “m:~g2={a}g{f}g” puts one text for
 * another, and “m:~n2={o}n{m}n” does it at every pitch: n is the note, h to z are those around it.
 */
import { lastUpTo } from './places'

export interface Expanded {
  readonly text: string
  /** A place in the text as it was, from one in `text`; within what a macro put in, where it was called. */
  readonly back: (offset: number) => number
}

interface Macro {
  readonly target: string
  readonly by: string
}

const DEFINITION = /^m:[ \t]*([^=\n]{1,31}?)[ \t]*=[ \t]*([^\n%]{0,200}).*$/gm
/** What no macro reaches into: words, marks, fields within the line, remarks. */
const CLOSED = String.raw`"[^"]*"|![^!\s]*!|\[[A-Za-z]:[^\]]*\]|%.*$`
/** A letter that stands for a pitch; words and marks hold none. */
const PITCH = new RegExp(`${CLOSED}|([h-z])`, 'g')
const LETTERS = 'CDEFGABcdefgab'
/** “n” among the letters that stand for pitches. */
const SELF = 'n'.charCodeAt(0)

/** A letter with its marks, some steps away. */
function stepsFrom(letter: string, steps: number): string {
  const height = LETTERS.indexOf(letter) + steps
  if (height < 0) return LETTERS[((height % 7) + 7) % 7]! + ','.repeat(Math.ceil(-height / 7))
  if (height < LETTERS.length) return LETTERS[height]!
  return LETTERS[7 + (height % 7)]! + "'".repeat(Math.floor(height / 7) - 1)
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
/** At every pitch: its target names no note but n. */
const anyPitch = ({ target }: Macro) => /n/.test(target) && !/[A-Ga-g]/.test(target)
const pattern = (m: Macro) => (anyPitch(m) ? escaped(m.target).replace('n', '([A-Ga-g])') : escaped(m.target))

function replacement(m: Macro, letter: string | undefined): string {
  if (letter === undefined) return m.by
  return m.by.replace(PITCH, (said, sign: string | undefined) =>
    sign === undefined ? said : stepsFrom(letter, sign.charCodeAt(0) - SELF),
  )
}

/** So many are kept, and so long a text grows at most. */
const MOST_MACROS = 100
const LONGEST = 4_000_000
const MUSIC_LINE = /^(?![A-Za-z+]:|[ \t]*%).+$/gm

interface Put {
  /** Where its text stands now, and how long it is. */
  readonly at: number
  readonly length: number
  /** What it stands for, in the text as it was. */
  readonly from: number
  readonly until: number
}

/** Music of a tune with its macros done; the definitions become remarks of the same length. */
export function expandMacros(text: string): Expanded {
  const macros: Macro[] = []
  const plain = text.replace(DEFINITION, (all, target: string, by: string) => {
    if (macros.length < MOST_MACROS) macros.push({ target, by: by.trimEnd() })
    return `%${' '.repeat(all.length - 1)}`
  })
  if (macros.length === 0) return { text, back: o => o }
  // The longest first: what begins like another one is itself.
  const each = macros
    .toSorted((a, b) => b.target.length - a.target.length)
    .map(macro => ({ macro, alone: new RegExp(`^${pattern(macro)}$`) }))
  const any = new RegExp(`${CLOSED}|(?<call>${each.map(e => pattern(e.macro)).join('|')})`, 'g')
  const put: Put[] = []
  const pieces: string[] = []
  let [read, length] = [0, 0]
  const take = (piece: string, upTo: number) => {
    pieces.push(piece)
    length += piece.length
    read = upTo
  }
  for (const line of plain.matchAll(MUSIC_LINE))
    for (const m of line[0].matchAll(any)) {
      const call = m.groups!['call']
      if (call === undefined || length > LONGEST) continue
      const from = line.index + m.index
      take(plain.slice(read, from), from)
      const { macro, alone } = each.find(e => e.alone.test(call))!
      const by = replacement(macro, alone.exec(call)![1])
      put.push({ at: length, length: by.length, from, until: from + call.length })
      take(by, from + call.length)
    }
  take(plain.slice(read), plain.length)
  return { text: pieces.join(''), back: offset => placeBefore(put, offset) }
}

function placeBefore(put: readonly Put[], offset: number): number {
  const last = put[lastUpTo(put, offset)]
  if (!last) return offset
  const beyond = offset - last.at - last.length
  return beyond >= 0 ? last.until + beyond : last.from
}

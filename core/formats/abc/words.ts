/** Words (w:) laid under the notes of the line of music above them, a syllable a note. */
import { finding, type Finding } from '#core/findings/finding'
import type { NoteEvent, Syllable } from '#core/music/tune'
import type { WordLine } from './prepare'
import { asTyped } from './text'
import type { Draft, NotesOver } from './under'

/** A syllable; or a note that gets none, or all notes up to the next bar. */
type Word = Syllable | 'note' | 'bar'

/**
 * What stands between blanks, hyphens and signs, which may be written as letters behind a backslash; and
 * those.
 */
const WORDS = /(?:\\[-_*|~]|[^\s\-_*|])+|[-_*|]/g

function wordsOf(line: string): Word[] {
  const words: Word[] = []
  let end = -1
  for (const { 0: said, index } of line.matchAll(WORDS)) {
    const last = words.at(-1)
    if (said === '|') words.push('bar')
    else if (said === '*' || said === '_') words.push('note')
    else if (said === '-') {
      if (typeof last === 'object') words[words.length - 1] = { ...last, hyphen: true }
      // One that does not stand right behind its syllable is sung on.
      if (last !== undefined && !(typeof last === 'object' && end === index && last.hyphen === undefined))
        words.push('note')
    } else {
      const text = asTyped(
        said.replace(/\\([-_*|~])|~/g, (_, sign: string | undefined) => sign ?? ' '),
      ).trim()
      words.push(text === '' ? 'note' : { text })
    }
    end = index + said.length
  }
  return words
}

/** Characters that are told of words left over. */
const SHOWN = 60

/** Lays verse under verse; words for which no note is left are told. */
export function layWords(
  measures: readonly Draft[],
  lines: readonly WordLine[],
  over: NotesOver,
  place: (offset: number) => { line: number; column: number },
): Finding[] {
  const findings: Finding[] = []
  for (const line of lines) {
    const own = over(line)
    const left: string[] = []
    let k = 0
    let bar = own[0]?.measure ?? 0
    for (const word of wordsOf(line.text)) {
      if (word === 'bar') {
        while (own[k] && own[k]!.measure <= bar) k++
        bar++
        continue
      }
      const at = own[k++]
      if (at) bar = at.measure
      if (word === 'note') continue
      if (at) {
        const { events } = measures[at.measure]!
        events[at.index] = withSyllable(events[at.index] as NoteEvent, line.verse, word)
      } else left.push(word.text)
    }
    if (left.length > 0)
      findings.push(
        finding('abc.wordsLeft', 'warning', place(line.at), { words: left.join(' ').slice(0, SHOWN) }),
      )
  }
  return findings
}

function withSyllable(e: NoteEvent, verse: number, syllable: Syllable): NoteEvent {
  const before = e.syllables ?? []
  const none = Array.from({ length: verse - before.length }, () => null)
  return { ...e, syllables: [...before, ...none, syllable] }
}

/** ABC text cut into its tunes: what each is called is told at once, each is read when it is asked for. */
import { finding, type Finding, type Where } from '#core/findings/finding'
import { readHeader } from './header'

/** Longest text of one tune, in characters. */
export const MAX_ABC_LENGTH = 2_000_000
/** Longest book. */
export const MAX_BOOK_LENGTH = 40_000_000

/** No writer leaves so many blanks in a row, and the parser's work grows with their square. */
const BLANKS = /[ \t]{400,}/g

export interface AbcBook {
  readonly text: string
  /** Offsets of each tune's text. */
  readonly parts: readonly { readonly from: number; readonly to: number }[]
  /** What stands before the first tune and counts for all of them. */
  readonly fileHeader: string
  readonly placer: Placer
}

/** Cuts a text into tunes. Text that is none, or too long, is refused. */
export function openBook(text: string): { readonly book: AbcBook } | { readonly finding: Finding } {
  if (text.trim() === '') return { finding: finding('abc.empty', 'error', {}) }
  if (text.length > MAX_BOOK_LENGTH) return { finding: tooLong(text.length, MAX_BOOK_LENGTH, {}) }
  const binary = /[\u0000-\u0008\u000e-\u001f\ufffd]/.exec(text)
  if (binary) return { finding: finding('abc.binary', 'error', placeOf(text, binary.index)) }
  // The parser knows only one of the three spellings of a repeat that closes and opens; places stay where
  // they are.
  const clean = text
    .replace(/\r\n?/g, '\n')
    .replace(/(?<!:):\|:(?!:)/g, ':: ')
    .replace(BLANKS, ' ')
  const parts = splitBook(clean)
  if (parts.length === 1 && clean.length > MAX_ABC_LENGTH)
    return { finding: tooLong(clean.length, MAX_ABC_LENGTH, {}) }
  return {
    book: { text: clean, parts, fileHeader: clean.slice(0, parts[0]!.from), placer: new Placer(clean) },
  }
}

export const tooLong = (length: number, limit: number, where: Where) =>
  finding('abc.tooLong', 'error', where, { length, limit })

function splitBook(text: string): { from: number; to: number }[] {
  const starts = [...text.matchAll(/^X:/gm)].map(m => m.index)
  if (starts.length === 0) return [{ from: text.length - text.trimStart().length, to: text.length }]
  return starts.map((from, i) => ({ from, to: starts[i + 1] ?? text.length }))
}

/** A tune as its header names it. */
export interface BookEntry {
  readonly title: string
  readonly kind: string
  readonly key: string
  readonly metre: string
}

/** Headers longer than this are not searched for more. */
const HEADER = 4000

export function entriesOf({ text, parts, fileHeader }: AbcBook): BookEntry[] {
  const shared = readHeader(fileHeader)
  return parts.map(({ from, to }) => {
    const { titles, facts, keyText, metreText } = readHeader(text.slice(from, Math.min(to, from + HEADER)))
    return {
      title: titles[0] ?? '',
      kind: facts.kind,
      key: (keyText ?? '').slice(0, 40),
      metre: (metreText ?? shared.metreText ?? '').slice(0, 20),
    }
  })
}

export const lineStarts = (text: string) => [0, ...[...text.matchAll(/\n/g)].map(m => m.index + 1)]

/** Line and column (from 1) of character offsets, without reading the text again for each. */
export class Placer {
  private readonly starts: readonly number[]
  constructor(readonly text: string) {
    this.starts = lineStarts(text)
  }
  readonly place = (offset: number): { line: number; column: number } => {
    let [low, high] = [0, this.starts.length - 1]
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.starts[middle]! <= offset) low = middle
      else high = middle - 1
    }
    return { line: low + 1, column: offset - this.starts[low]! + 1 }
  }
}

/** Line and column (from 1) of a character offset. */
export const placeOf = (text: string, offset: number) => new Placer(text).place(offset)

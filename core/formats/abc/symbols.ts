/** Lines of symbols (s:) laid under the notes of the line of music above them, one a note, as words are. */
import { finding, type Finding } from '#core/findings/finding'
import type { NoteEvent } from '#core/music/tune'
import { decorated } from './decorations'
import type { SymbolLine } from './prepare'
import { decodeAbc } from './text'
import type { Draft, NotesOver } from './under'

type Place = (offset: number) => { line: number; column: number }

/** Puts marks, chord names and remarks on the notes; what finds no note, or is no mark we keep, is told. */
export function laySymbols(
  measures: readonly Draft[],
  lines: readonly SymbolLine[],
  over: NotesOver,
  place: Place,
  harmonics: boolean,
): Finding[] {
  const findings: Finding[] = []
  for (const line of lines) {
    const own = over(line)
    let k = 0
    for (const symbol of line.symbols) {
      if (symbol === '|') {
        // On to the next bar: the notes of this one are passed over.
        const here = own[k - 1]?.measure
        while (own[k] && own[k]!.measure === here) k++
        continue
      }
      const at = own[k++]
      if (symbol === '*') continue
      if (!at) {
        findings.push(finding('abc.symbol', 'note', place(line.at), { symbol: symbol.slice(0, 40) }))
        break
      }
      const { events } = measures[at.measure]!
      const [event, unknown] = withSymbol(events[at.index] as NoteEvent, symbol, harmonics)
      events[at.index] = event
      for (const name of unknown) findings.push(finding('abc.decoration', 'note', place(line.at), { name }))
    }
  }
  return findings
}

function withSymbol(e: NoteEvent, symbol: string, harmonics: boolean): [NoteEvent, readonly string[]] {
  const quoted = /^"(.*)"$/.exec(symbol)?.[1]
  if (quoted !== undefined) {
    const text = decodeAbc(quoted)
    const remark = /^[\^_<>@](.*)$/.exec(text)?.[1]
    return [
      remark === undefined ? { ...e, chord: text } : { ...e, remarks: [...(e.remarks ?? []), remark] },
      [],
    ]
  }
  const { marks, dynamic, finger, unknown } = decorated([symbol.replace(/^!|!$/g, '')], harmonics)
  const all = [...new Set([...(e.marks ?? []), ...marks])]
  return [
    {
      ...e,
      ...(all.length > 0 && { marks: all }),
      ...(dynamic && { dynamic }),
      ...(finger !== undefined && { finger }),
    },
    unknown,
  ]
}

/** Reads an analysed tune: its music, and what the teacher says of it. */
import { readAbc } from '#core/formats/abc/readAbc'
import type { Tune } from '#core/music/tune'
import type { AnalysedTune } from './analysed'

export interface Expected {
  readonly tune: Tune
  /**
   * In order: the event a phrase begins with, its family, the part it opens if it opens one, and the
   * relations that may be named.
   */
  readonly phrases: readonly {
    readonly start: string
    readonly family: string
    readonly part?: string
    readonly relations: readonly string[]
  }[]
}

export function readAnalysed(golden: AnalysedTune): Expected {
  let text = `X:1\nT:${golden.name}\nL:1/8\n${golden.head}\n`
  const marks: { at: number; family: string; part?: string; relations: string[] }[] = []
  let part: string | undefined
  for (const token of golden.form.split(/(§\S+|¶\S+)/)) {
    if (token.startsWith('¶')) part = token.slice(1)
    else if (token.startsWith('§')) {
      const [key = '', relations = ''] = token.slice(1).split(':')
      marks.push({ at: text.length, family: key[0]!, ...(part && { part }), relations: relations ? relations.split('/') : [] }) // prettier-ignore
      part = undefined
      text += golden.phrases[key]!
    } else text += token
  }
  const { tune, spans, findings } = readAbc(text).tunes[0]!
  const bad = findings.filter(f => f.severity !== 'note')
  if (bad.length > 0) throw new Error(`${golden.name}: ${JSON.stringify(bad)}`)
  const placed = [...spans].sort((a, b) => a[1].from - b[1].from)
  const phrases = marks.map(({ at, ...mark }) => ({
    start: placed.find(([, s]) => s.to > at)![0],
    ...mark,
  }))
  return { tune, phrases }
}

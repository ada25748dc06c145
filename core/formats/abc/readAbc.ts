/**
 * ABC text to tunes. The standard parser (abcjs) reads the syntax; this file and music.ts map its elements into our model and add
 * what it leaves out: accidentals, tuplet lengths, bar lengths, missing fields. Nothing is dropped in silence: what the model does not
 * hold comes back as a finding with line and column.
 */
import abcjs from 'abcjs'
import { finding, type Finding, type Where, type FindingCode, type ValuesOf } from '#core/findings/finding'
import { fromFloat, frac, mul } from '#core/music/fraction'
import { parseKey } from '#core/music/key'
import { emptyTune, type Tune } from '#core/music/tune'
import { checkTune } from '#core/findings/checkTune'
import { listVoices, mapMusic, STANDS_FOR_HARMONIC, type AbcVoice, type SourceSpan } from './music'
import type { AbcTune } from './parserTypes'

/** Longest text taken, in characters. */
export const MAX_ABC_LENGTH = 2_000_000

/** No writer leaves so many blanks in a row, and the parser's work grows with their square. */
const BLANKS = /[ \t]{400,}/g

export interface ReadTune {
  readonly tune: Tune
  readonly findings: readonly Finding[]
  /** Where each event stands in the text, by event id: character offsets. */
  readonly spans: ReadonlyMap<string, SourceSpan>
  /** The text of this tune alone. */
  readonly source: string
  readonly voices: readonly AbcVoice[]
}

export interface ReadAbc {
  readonly tunes: readonly ReadTune[]
  /** What is wrong with the text as a whole; when there is an error here there are no tunes. */
  readonly findings: readonly Finding[]
}

const refuse = <C extends FindingCode>(code: C, where: Where, ...values: ValuesOf<C>): ReadAbc => ({
  tunes: [],
  findings: [finding(code, 'error', where, ...values)],
})

export interface AbcOptions {
  /** Which voice of the tunes that have more, from 0. */
  readonly voice?: number
}

/** Reads one tune or a book of tunes. Never throws on bad input. */
export function readAbc(text: string, options: AbcOptions = {}): ReadAbc {
  if (text.trim() === '') return refuse('abc.empty', {})
  if (text.length > MAX_ABC_LENGTH) {
    return refuse('abc.tooLong', {}, { length: text.length, limit: MAX_ABC_LENGTH })
  }
  const binary = /[\u0000-\u0008\u000e-\u001f\ufffd]/.exec(text)
  if (binary) return refuse('abc.binary', placeOf(text, binary.index))
  // The parser knows only one of the three spellings of a repeat that closes and opens; places stay where they are.
  const clean = text.replace(/\r\n?/g, '\n').replace(/:\|:/g, ':: ').replace(BLANKS, ' ')
  const tunes = splitBook(clean).map(part => readOne(clean, part.from, part.to, options.voice))
  if (tunes.length === 1 && looksLikeProse(tunes[0]!)) return refuse('abc.notAbc', { line: 1, column: 1 })
  const noNotes = tunes.every(t => t.tune.measures.every(m => m.events.length === 0))
  if (noNotes) {
    const syntax = tunes
      .flatMap(t => t.findings)
      .filter(f => f.code === 'abc.syntax' || f.code === 'abc.unreadable')
    return { tunes: [], findings: [finding('abc.noNotes', 'error', { line: 1, column: 1 }), ...syntax] }
  }
  return { tunes, findings: [] }
}

/** No K: field and at least as many unreadable places as notes: words, not music. */
function looksLikeProse({ tune, findings }: ReadTune): boolean {
  const unreadable = findings.filter(f => f.code === 'abc.syntax').length
  const notes = tune.measures.reduce((n, m) => n + m.events.length, 0)
  return findings.some(f => f.code === 'abc.noKey') && unreadable >= 3 && unreadable >= notes
}

/** Line and column (from 1) of a character offset. */
export function placeOf(text: string, offset: number): { line: number; column: number } {
  const before = text.slice(0, offset)
  const lineStart = before.lastIndexOf('\n') + 1
  return { line: before.split('\n').length, column: offset - lineStart + 1 }
}

function splitBook(text: string): { from: number; to: number }[] {
  const starts = [...text.matchAll(/^X:/gm)].map(m => m.index)
  if (starts.length === 0) return [{ from: text.length - text.trimStart().length, to: text.length }]
  return starts.map((from, i) => ({ from, to: starts[i + 1] ?? text.length }))
}

function readOne(whole: string, from: number, to: number, voice = 0): ReadTune {
  const text = whole.slice(from, to)
  const parsed = parse(text)
  const where = (offset: number) => placeOf(whole, from + offset)
  const firstLine = where(0).line
  const findings: Finding[] = []
  const header = readHeader(text)
  if (!parsed)
    return {
      tune: emptyTune(),
      findings: [finding(parsed === null ? 'abc.unreadable' : 'abc.noNotes', 'error', where(0))],
      spans: new Map(),
      source: text,
      voices: [],
    }
  for (const warning of parsed.warnings ?? [])
    findings.push(syntaxFinding(warning, firstLine, header.keyText))
  if (header.keyText === null) findings.push(finding('abc.noKey', 'warning', where(0)))
  else if (!readableKey(header.keyText)) {
    findings.push(
      finding('abc.badKey', 'error', where(text.search(/^K:/m)), { key: header.keyText.slice(0, 40) }),
    )
  }
  if (header.metreText === null) findings.push(finding('abc.noMetre', 'note', where(0)))
  const voices = listVoices(parsed)
  // A tune of the book that has no such voice gives its first.
  const music = mapMusic(parsed, where, voice < voices.length ? voice : 0, hasHarmonics(text))
  const tune: Tune = {
    ...emptyTune(header.titles[0] ?? ''),
    ...header.facts,
    otherTitles: header.titles.slice(1),
    ...music.tune,
    ...(tempoOf(parsed) && { tempo: tempoOf(parsed) }),
  }
  const spans = new Map([...music.spans].map(([id, s]) => [id, { from: from + s.from, to: from + s.to }]))
  const checks = checkTune(tune, { freeMetre: header.freeMetre }).map(f => withPlace(f, spans, whole))
  return {
    tune,
    findings: [...findings, ...music.findings, ...checks],
    spans,
    voices,
    source: text.trimEnd() + '\n',
  }
}

/** The parser knows no harmonics: they go in under a name it knows, of the same length, unless that one is in use. */
const hasHarmonics = (text: string) =>
  text.includes('!harmonic!') && !text.includes(`!${STANDS_FOR_HARMONIC}!`)
const forParser = (text: string) =>
  hasHarmonics(text) ? text.replaceAll('!harmonic!', `!${STANDS_FOR_HARMONIC}!`) : text

/** The parser's reading; null where it gives up on damaged text. */
function parse(text: string): AbcTune | null | undefined {
  try {
    return (abcjs.parseOnly(forParser(text)) as unknown as AbcTune[])[0]
  } catch {
    return null
  }
}

/** A finding on a measure also gets the line and column of that measure's first event. */
function withPlace(f: Finding, spans: ReadonlyMap<string, SourceSpan>, text: string): Finding {
  const span = f.where.note === undefined ? undefined : spans.get(f.where.note)
  return span ? { ...f, where: { ...f.where, ...placeOf(text, span.from) } } : f
}

const readableKey = (text: string) => /^\s*(none|HP|Hp|perc|clef=|$)/.test(text) || parseKey(text) !== null

function syntaxFinding(warning: string, firstLine: number, keyText: string | null): Finding {
  const m = /^Music Line:(\d+):(\d+): (.*)$/s.exec(warning)
  const plain = (m?.[3] ?? warning)
    .replace(/<[^>]*>/g, '')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&')
  // The parser quotes the rest of the line after two spaces: the place says that already.
  const message = plain
    .split(/:\s{2,}/)[0]!
    .trim()
    .slice(0, 120)
  const quoted = /Unknown character/.test(message) && m ? plain.split(/:\s{2,}/)[1] : undefined
  const severity = keyText !== null && message.startsWith('Unknown parameter') ? 'error' : 'warning'
  const where = m ? { line: firstLine + Number(m[1]) - 1, column: Number(m[2]) } : {}
  return finding('abc.syntax', severity, where, {
    message,
    ...(quoted && m ? { near: quoted.slice(0, 60) } : {}),
  })
}

interface Header {
  titles: string[]
  keyText: string | null
  metreText: string | null
  freeMetre: boolean
  facts: Pick<Tune, 'composer' | 'learnedFrom' | 'kind' | 'notes'>
}

/** The information fields before the music, as text. */
function readHeader(text: string): Header {
  const fields = new Map<string, string[]>()
  let keyText: string | null = null
  for (const line of text.split('\n')) {
    const m = /^([A-Za-z]):\s*(.*?)\s*(?:%.*)?$/.exec(line)
    if (!m) continue
    const list = fields.get(m[1]!) ?? []
    fields.set(m[1]!, [...list, m[2]!])
    if (m[1] === 'K') {
      keyText = m[2]!
      break
    }
  }
  const joined = (letter: string, glue = ' ') => (fields.get(letter) ?? []).join(glue)
  const metreText = fields.get('M')?.[0] ?? null
  return {
    titles: (fields.get('T') ?? []).map(t => t.slice(0, 400)).slice(0, 51),
    keyText,
    metreText,
    freeMetre: metreText !== null && /^(none|\s*)$/i.test(metreText),
    facts: {
      composer: joined('C').slice(0, 400),
      learnedFrom: joined('S').slice(0, 400),
      kind: joined('R').slice(0, 80),
      notes: joined('N', '\n').slice(0, 20_000),
    },
  }
}

function tempoOf(parsed: AbcTune): Tune['tempo'] {
  const q = parsed.metaText?.tempo
  const beat = q?.duration?.length ? fromFloat(q.duration.reduce((a, b) => a + b, 0)) : frac(1, 4)
  if (!q?.bpm || !beat || q.bpm < 1 || q.bpm > 999) return undefined
  return { beat: mul(beat, frac(4)), perMinute: q.bpm }
}

/**
 * ABC text to tunes. The standard parser (abcjs) reads the syntax; this file and music.ts map its elements
 * into our model and add what it leaves out: accidentals, tuplet lengths, bar lengths, missing fields.
 * Nothing is dropped in silence: what the model does not hold comes back as a finding with line and column.
 */
import abcjs from 'abcjs'
import { finding, type Finding, type Where, type FindingCode, type ValuesOf } from '#core/findings/finding'
import { parseKey, signature, type Key } from '#core/music/key'
import { fitted } from '../fitted'
import { lineStarts, MAX_ABC_LENGTH, openBook, tooLong, type AbcBook, type Placer } from './book'
import { readHeader, readOrder, readTempo, type Header } from './header'
import { clefOctaves } from './octaves'
import { prepare } from './prepare'
import { emptyTune, MOST, type Tune } from '#core/music/tune'
import { checkTune } from '#core/findings/checkTune'
import { STANDS_FOR_HARMONIC } from './decorations'
import { mapMusic, type SourceSpan } from './music'
import type { AbcTune } from './parserTypes'

/** A voice of the tune, and how many notes it has. */
export interface AbcVoice {
  readonly label: string
  readonly notes: number
}

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
  const opened = openBook(text)
  if ('finding' in opened) return { tunes: [], findings: [opened.finding] }
  const { book } = opened
  const tunes = book.parts.map((_, i) => readFromBook(book, i, options))
  if (tunes.length === 1 && looksLikeProse(tunes[0]!)) return refuse('abc.notAbc', { line: 1, column: 1 })
  const noNotes = tunes.every(t => t.tune.measures.every(m => m.events.length === 0))
  if (noNotes) {
    const all = tunes.flatMap(t => t.findings)
    // What was not even looked at is not without notes.
    const refused = all.filter(f => f.code === 'abc.tooManyBars' || f.code === 'abc.tooLong')
    if (refused.length > 0) return { tunes: [], findings: refused }
    const syntax = all.filter(f => f.code === 'abc.syntax' || f.code === 'abc.unreadable')
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

/**
 * Bars of a text that are too many to be worth the parser's time: more than any tune holds, of several voices
 * too.
 */
const MOST_BARS = 4 * MOST.measures

/**
 * The standard's version a file says it keeps to, from 2.1 on: there an accidental counts in every octave.
 */
const isLater = (whole: string) => {
  const m = /^%abc-(\d+)\.(\d+)/.exec(whole)
  return m !== null && (Number(m[1]) > 2 || (Number(m[1]) === 2 && Number(m[2]) >= 1))
}

/** One tune of a book, by its place. Lines and columns are those of the book. */
export function readFromBook(book: AbcBook, index: number, { voice = 0 }: AbcOptions = {}): ReadTune {
  const { placer: whole, fileHeader } = book
  const { from, to } = book.parts[index]!
  const source = whole.text.slice(from, to)
  if (source.length > MAX_ABC_LENGTH)
    return unread(source, tooLong(source.length, MAX_ABC_LENGTH, whole.place(from)))
  const prepared = prepare(source, { fileHeader, voice })
  const { text, voices } = prepared
  const where = (offset: number) => whole.place(from + prepared.back(offset))
  if (text.split('|').length > MOST_BARS)
    return unread(source, finding('abc.tooManyBars', 'error', where(0), { limit: MOST.measures }))
  const parsed = parse(text)
  const findings: Finding[] = []
  const header = readHeader(text)
  if (!parsed)
    return unread(source, finding(parsed === null ? 'abc.unreadable' : 'abc.noNotes', 'error', where(0)))
  const lines = lineStarts(text)
  for (const warning of parsed.warnings ?? [])
    findings.push(syntaxFinding(warning, lines, where, header.keyText))
  const keyAt = Math.max(0, text.search(/^K:/m))
  if (header.keyText === null) findings.push(finding('abc.noKey', 'warning', where(0)))
  else if (!readableKey(header.keyText))
    findings.push(finding('abc.badKey', 'error', where(keyAt), { key: header.keyText.slice(0, 40) }))
  if (header.metreText === null) findings.push(finding('abc.noMetre', 'note', where(0)))
  const taken = voice < voices.length ? voice : 0
  if (voices.length > 1) {
    const others = voices
      .filter((_, i) => i !== taken)
      .slice(0, 8)
      .map(v => v.label)
      .join(', ')
    findings.push(finding('abc.voices', 'warning', where(keyAt), { taken: taken + 1, others }))
  }
  const octaves = clefOctaves(text, where)
  const music = mapMusic(parsed, prepared, where, {
    octavesAt: octaves.at,
    harmonics: hasHarmonics(text),
    propagation: prepared.propagation ?? (isLater(whole.text) ? 'pitch' : 'octave'),
  })
  const tempo = tempoOf(header, text, where, findings)
  const parts = partsOf(header, music.tune.measures, where(Math.max(0, text.search(/^P:/m))), findings)
  const tune: Tune = {
    ...emptyTune(header.titles[0] ?? ''),
    ...header.facts,
    otherTitles: header.titles.slice(1),
    ...music.tune,
    ...(tempo && { tempo }),
    ...(parts && { play: { struck: [], times: 1, parts } }),
  }
  const spans = new Map(
    [...music.spans].map(([id, s]) => [
      id,
      { from: from + prepared.back(s.from), to: from + prepared.back(s.to) },
    ]),
  )
  const fits = fitted(tune)
  const read = fits.tune ?? emptyTune(header.titles[0] ?? '')
  const checks = checkTune(read, { freeMetre: header.freeMetre })
  const placed = [...fits.findings, ...checks].map(f => withPlace(f, spans, whole))
  return {
    tune: read,
    findings: [...findings, ...octaves.findings, ...music.findings, ...placed],
    spans,
    voices: voices.map(({ label, notes }) => ({ label, notes })),
    source: source.trimEnd() + '\n',
  }
}

/** A tune that can't be read, and why. */
const unread = (source: string, why: Finding): ReadTune => ({
  tune: emptyTune(),
  findings: [why],
  spans: new Map(),
  source,
  voices: [],
})

function partsOf(
  header: Header,
  measures: Tune['measures'],
  where: Where,
  findings: Finding[],
): string[] | null {
  const labels = measures.flatMap(m => (m.label === undefined ? [] : [m.label]))
  if (!header.orderText || labels.length === 0) return null
  const order = readOrder(header.orderText)
  const parts = order?.map(letter => labels.find(l => l === letter) ?? labels.find(l => l.startsWith(letter)))
  if (!parts || parts.some(p => p === undefined)) {
    findings.push(finding('abc.partOrder', 'warning', where, { order: header.orderText.slice(0, 60) }))
    return null
  }
  return parts.join() === labels.join() ? null : (parts as string[])
}

/**
 * The parser knows no harmonics: they go in under a name it knows, of the same length, unless that one is in
 * use.
 */
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
function withPlace(f: Finding, spans: ReadonlyMap<string, SourceSpan>, whole: Placer): Finding {
  const span = f.where.note === undefined ? undefined : spans.get(f.where.note)
  return span ? { ...f, where: { ...f.where, ...whole.place(span.from) } } : f
}

/** Signs that change the signature may stand close to the key. */
const CHANGES = /(?<!=)(?:[\^_=][\^_]?[a-gA-G]\s*)+$/
const readableKey = (text: string) =>
  /^\s*(none|HP|Hp|perc|clef=|$)/.test(text) ||
  isWrittenKey(parseKey(text)) ||
  isWrittenKey(parseKey(text.replace(CHANGES, '')))
/** Beyond seven signs no signature is written; the parser would take another key that sounds like it. */
const isWrittenKey = (key: Key | null) => key !== null && Math.abs(signature(key)) <= 7

function syntaxFinding(
  warning: string,
  lines: readonly number[],
  place: (o: number) => Where,
  keyText: string | null,
): Finding {
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
  const where = m ? place((lines[Number(m[1]) - 1] ?? 0) + Number(m[2]) - 1) : {}
  return finding('abc.syntax', severity, where, {
    message,
    ...(quoted && m ? { near: quoted.slice(0, 60) } : {}),
  })
}

/** The tempo of the header; where it says none, the first within the music. Others are told. */
function tempoOf(
  header: Header,
  text: string,
  where: (o: number) => Where,
  findings: Finding[],
): Tune['tempo'] {
  const head = text.search(/^K:.*$/m)
  const within = [...text.matchAll(/^Q:(.*)$|\[Q:([^\]\n]*)\]/gm)]
    .filter(m => head >= 0 && m.index > head)
    .map(m => ({ at: m.index, said: (m[1] ?? m[2]!).trim() }))
  const said = header.tempoText ?? within[0]?.said ?? null
  const change = within[header.tempoText === null ? 1 : 0]
  if (change) findings.push(finding('abc.tempoChange', 'note', where(change.at), {}))
  if (said === null || said === '') return undefined
  const at = where(header.tempoText === null ? within[0]!.at : Math.max(0, text.search(/^Q:/m)))
  const tempo = readTempo(said, header.unit)
  if (!tempo || !said.includes('='))
    findings.push(
      finding(tempo ? 'abc.tempoPlain' : 'abc.tempoUnread', 'note', at, { tempo: said.slice(0, 40) }),
    )
  return tempo ?? undefined
}

/** Any file a tune can come in: told by its content, then by its name, and read by the reader of its kind. */
import { finding, type Finding } from '#core/findings/finding'
import { Uncountable } from '#core/music/fraction'
import type { Midi } from '#core/music/pitch'
import { type InstrumentId, type Tune } from '#core/music/tune'
import type { FileKind } from './fileKinds'
import { entriesOf, openBook, type AbcBook, type BookEntry } from './abc/book'
import { readAbc, readFromBook, type ReadTune } from './abc/readAbc'
import { decodeText } from './encoding'
import { readBackup, type StoredArrangement } from './backup/backup'
import { readMidi } from './midi/readMidi'
import { readMusicXml, readMxl, type XmlResult } from './musicxml/readMusicXml'
import { readSpoken } from './spoken/readSpoken'
import { noteId } from '#core/music/ids'
import type { FingerPin } from '#core/fingering/fingerPin'

export interface FileTune {
  readonly tune: Tune
  /** The text of this tune alone, when it came as ABC. */
  readonly source: string | null
  readonly findings: readonly Finding[]
  /** Strings and fingers the file gives, by note id. */
  readonly pins: Readonly<Record<string, FingerPin>>
  readonly tuning: readonly Midi[] | null
  /** Arrangements the file holds, under the ids they had. */
  readonly arrangements: readonly StoredArrangement[]
}

export interface ReadFile {
  readonly kind: FileKind | null
  readonly tunes: readonly FileTune[]
  readonly findings: readonly Finding[]
  /** Parts, voices or tracks one of which was taken; choose another by its number. */
  readonly choices: readonly { readonly label: string; readonly notes: number }[]
  readonly taken: number
}

export interface FileOptions {
  /** Which part, voice or track, by its number among the choices. */
  readonly choice?: number
  /** The instrument string-and-finger text is for when it does not say. */
  readonly instrument?: InstrumentId
}

/** What kind of file this is. Null when nothing fits. */
export function kindOf(name: string, bytes: Uint8Array): FileKind | null {
  const start = decodeText(bytes.subarray(0, 600))
    .text.replace(/^\ufeff/, '')
    .trimStart()
  if (start.startsWith('MThd')) return 'midi'
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return 'mxl'
  if (start.startsWith('<')) return 'musicxml'
  if (start.startsWith('{')) return 'backup'
  if (/^(X:|T:|M:|K:|%abc)/m.test(start)) return 'abc'
  const ending = /\.(abc|musicxml|xml|mxl|midi?|txt|json)$/i.exec(name)?.[1]?.toLowerCase()
  const byEnding: Record<string, FileKind> = {
    abc: 'abc',
    musicxml: 'musicxml',
    xml: 'musicxml',
    mxl: 'mxl',
    mid: 'midi',
    midi: 'midi',
    txt: 'spoken',
    json: 'backup',
  }
  if (
    /^(title|instrument|unit|tuning|metre|key):/im.test(start) ||
    /^[|:\s]*(IV|I{1,3}|[A-G])\s+[<>]*[0-4]/.test(start)
  )
    return 'spoken'
  return byEnding[ending ?? ''] ?? null
}

/** Tunes from which on a book is listed before it is read. */
const LISTED_FROM = 200

/** A book of many tunes, to be read a few at a time. */
export interface OpenBook {
  readonly book: AbcBook
  readonly entries: readonly BookEntry[]
  readonly findings: readonly Finding[]
}

/**
 * A book with so many tunes that reading all of them takes a while; null for every other file, which {@link
 * readFile} reads at once.
 */
export function openFile(name: string, bytes: Uint8Array): OpenBook | null {
  if (kindOf(name, bytes) !== 'abc') return null
  const { text, guessed } = decodeText(bytes)
  const opened = openBook(text)
  if ('finding' in opened || opened.book.parts.length < LISTED_FROM) return null
  return { book: opened.book, entries: entriesOf(opened.book), findings: encodingFindings(guessed) }
}

/** One tune of an open book. */
export const tuneOfBook = (book: AbcBook, index: number): FileTune => fileTune(readFromBook(book, index))

const encodingFindings = (guessed: string | undefined) =>
  guessed === undefined ? [] : [finding('file.encoding', 'note', {}, { taken: guessed })]

const failed = (kind: FileKind | null, ...findings: readonly Finding[]): ReadFile => ({
  kind,
  tunes: [],
  findings,
  choices: [],
  taken: 0,
})

/** Reads a file. Never throws on bad input; a file that can't be read has no tunes and says why. */
export function readFile(name: string, bytes: Uint8Array, options: FileOptions = {}): ReadFile {
  const kind = kindOf(name, bytes)
  if (kind === null)
    return failed(null, finding('file.kind', 'error', {}, { name: name.slice(-60) || 'pasted text' }))
  try {
    return readKind(kind, bytes, options)
  } catch (e) {
    // Lengths that got past their reader one by one and cannot be counted together.
    if (e instanceof Uncountable) return failed(kind, finding('file.badLength', 'error', {}))
    throw e
  }
}

function readKind(kind: FileKind, bytes: Uint8Array, options: FileOptions): ReadFile {
  if (kind === 'midi') {
    const r = readMidi(bytes, options.choice)
    if ('finding' in r) return failed(kind, r.finding)
    const choices = r.tracks.map(t => ({ label: t.name, notes: t.notes }))
    return { kind, tunes: [plain(r.tune, r.findings)], findings: [], choices, taken: r.taken }
  }
  if (kind === 'mxl') return fromXml(kind, choice => readMxl(bytes, choice), options.choice)
  const { text, guessed } = decodeText(bytes)
  const read = readText(kind, text, options)
  return { ...read, findings: [...encodingFindings(guessed), ...read.findings] }
}

function readText(
  kind: 'abc' | 'musicxml' | 'backup' | 'spoken',
  text: string,
  options: FileOptions,
): ReadFile {
  if (kind === 'musicxml') return fromXml(kind, choice => readMusicXml(text, choice), options.choice)
  if (kind === 'backup') return fromBackup(text)
  if (kind === 'spoken') {
    const r = readSpoken(text, { instrument: options.instrument ?? 'violin' })
    if ('finding' in r) return failed(kind, r.finding)
    if (r.tune.measures.length === 0) return failed(kind, finding('file.noNotes', 'error', {}), ...r.findings)
    return {
      kind,
      tunes: [{ ...plain(r.tune, r.findings), pins: r.pins, tuning: r.tuning }],
      findings: [],
      choices: [],
      taken: 0,
    }
  }
  const { tunes, findings } = readAbc(text, { voice: options.choice })
  const voices = tunes.length === 1 && tunes[0]!.voices.length > 1 ? tunes[0]!.voices : []
  const wanted = options.choice ?? 0
  const taken = wanted < voices.length ? wanted : 0
  return { kind, tunes: tunes.map(fileTune), findings, choices: voices, taken }
}

/** The text of several voices is not the text of the one that was taken. */
const fileTune = (t: ReadTune): FileTune => ({
  ...plain(t.tune, t.findings),
  source: t.voices.length > 1 ? null : t.source,
})

const plain = (tune: Tune, findings: readonly Finding[]): FileTune => ({
  tune,
  findings,
  source: null,
  pins: writtenPins(tune),
  tuning: null,
  arrangements: [],
})

/** Strings and fingers that stand in the notes themselves. */
function writtenPins(tune: Tune): Record<string, FingerPin> {
  const pins: Record<string, FingerPin> = {}
  for (const e of tune.measures.flatMap(m => m.events)) {
    if (e.kind !== 'note' || (e.finger === undefined && e.string === undefined)) continue
    const finger = e.finger !== undefined && e.finger <= 4 ? (e.finger as 0) : undefined
    if (finger === undefined && e.string === undefined) continue
    pins[noteId(e.id, 0)] = {
      ...(finger !== undefined && { finger }),
      ...(e.string !== undefined && { string: e.string }),
    }
  }
  return pins
}

function fromXml(
  kind: FileKind,
  read: (c: { part?: number; voice?: string }) => XmlResult,
  choice?: number,
): ReadFile {
  const first = read({})
  if ('finding' in first) return failed(kind, first.finding)
  const all = first.parts.flatMap((p, part) =>
    p.voices.map(v => ({
      part,
      voice: v.name,
      label: p.voices.length > 1 ? `${p.name}, voice ${v.name}` : p.name,
      notes: v.notes,
    })),
  )
  const wanted = choice === undefined ? undefined : all[choice]
  const r = wanted ? read({ part: wanted.part, voice: wanted.voice }) : first
  if ('finding' in r) return failed(kind, r.finding)
  const taken = all.findIndex(c => c.part === r.taken.part && c.voice === r.taken.voice)
  const choices = all.map(({ label, notes }) => ({ label, notes }))
  return { kind, tunes: [{ ...plain(r.tune, r.findings), tuning: r.tuning }], findings: [], choices, taken }
}

function fromBackup(text: string): ReadFile {
  const r = readBackup(text)
  if ('error' in r)
    return failed(
      'backup',
      finding(
        'file.badValue',
        'error',
        {},
        { where: r.error.path || 'the file', message: r.error.message.slice(0, 160) },
      ),
    )
  // What was put away stays away; the server's own restore brings all of it back.
  const there = r.backup.tunes.filter(t => !t.away)
  const tunes = there.map(t => ({ ...plain(t.tune, []), source: t.source, arrangements: t.arrangements }))
  const left = [
    there.length < r.backup.tunes.length &&
      finding('backup.away', 'note', {}, { count: r.backup.tunes.length - there.length }),
    there.some(t => t.versions?.length) &&
      finding(
        'backup.versions',
        'note',
        {},
        { count: there.reduce((n, t) => n + (t.versions?.length ?? 0), 0) },
      ),
    r.backup.studio && finding('backup.studio', 'note', {}),
  ].filter(f => f !== false && f !== undefined)
  return tunes.length > 0
    ? { kind: 'backup', tunes, findings: left, choices: [], taken: 0 }
    : failed('backup', finding('file.noNotes', 'error', {}))
}

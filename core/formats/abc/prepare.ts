/**
 * What the parser does not know, done before it: fields of the file's header, continued fields, one voice
 * taken out of several by its name, accents, symbol lines, repeats of more than two, jumps it has no sign
 * for. Every change keeps the length of the text, so that places in it stay true; only macros change it, and
 * the file's header is put in, after the first line.
 */
import type { Key } from '#core/music/key'
import type { Step } from '#core/music/pitch'
import { expandMacros } from './macros'
import { lastUpTo } from './places'
import { decodeInPlace, asTyped } from './text'

/**
 * Which notes an accidental counts for, up to the end of its bar: those of its own octave, of every octave,
 * or itself alone.
 */
export type Propagation = 'octave' | 'pitch' | 'not'

export type Tonic = Pick<Key, 'step' | 'alter'>

export interface PreparedVoice {
  readonly id: string
  readonly label: string
  readonly notes: number
}

/** What stands under a line of music: that line, as places in the prepared text; and its own place. */
export interface LineUnder {
  readonly from: number
  readonly to: number
  readonly at: number
}

export interface SymbolLine extends LineUnder {
  readonly symbols: readonly string[]
}

export interface WordLine extends LineUnder {
  /** From 0. */
  readonly verse: number
  readonly text: string
}

export interface Prepared {
  readonly text: string
  /** A place in the tune as it was given, from one in `text`. */
  readonly back: (offset: number) => number
  /** The voices in their order, empty when there is but one. */
  readonly voices: readonly PreparedVoice[]
  readonly symbols: readonly SymbolLine[]
  readonly words: readonly WordLine[]
  /** How often what ends between two places is played, when more than twice. */
  readonly timesAt: (from: number, to: number) => number | undefined
  /** The coda sign between two places says "to the coda". */
  readonly toCodaAt: (from: number, to: number) => boolean
  readonly propagation: Propagation | null
  /**
   * The tonic of the key that holds at a place, where its signature is spelled out (“exp”): that one the
   * parser reads as changes to C major.
   */
  readonly tonicAt: (at: number) => Tonic | null
}

export interface PrepareOptions {
  /** The fields before the first tune of the file. */
  readonly fileHeader: string
  /** Which voice is taken, from 0. */
  readonly voice: number
}

export function prepare(source: string, { fileHeader, voice }: PrepareOptions): Prepared {
  const inserted = insertion(fileHeader, source)
  const at = inserted === '' ? 0 : firstLineEnd(source)
  const macros = expandMacros(source.slice(0, at) + inserted + source.slice(at))
  let { text } = macros
  const back = (offset: number) => {
    const o = macros.back(offset)
    return o <= at ? o : Math.max(at, o - inserted.length)
  }
  // A line of music that goes on after words under it is broken there: the parser would read the words as
  // notes.
  text = continued(text).replace(/\\(?=[ \t]*\n(?:[A-Za-z]:|%))/g, ' ')
  text = withoutPages(text)
  let propagation: Propagation | null = null
  text = text.replace(PROPAGATION, (line, how: Propagation) => {
    propagation = how
    return asRemark(line)
  })
  const { voices, taken } = voicesOf(text)
  if (voices.length > 1) text = taken(voice < voices.length ? voice : 0)
  const keys = [...text.matchAll(KEYS)].map(m => ({ at: m.index, tonic: explicitTonic(m[0]) }))
  text = text.replace(KEYS, k => k.replace(EXPLICIT, all => `K:C${' '.repeat(all.length - 3)}`))
  const found = linesUnder(text)
  text = found.text.replace(SAID, decodeInPlace)
  const times = new Map<number, number>()
  text = text.replace(MANY, (_bar, start: string | undefined, end: string | undefined, offset: number) => {
    times.set(start === undefined ? offset + end!.length - 1 : offset, (start ?? end)!.length + 1)
    return start === undefined ? ' '.repeat(end!.length - 1) + ':|' : '|:' + ' '.repeat(start.length - 1)
  })
  const toCoda = new Map<number, true>()
  text = text.replace(/!(dacoda|tocoda|dacapo)!/g, (_, name: string, offset: number) => {
    if (name !== 'dacapo') toCoda.set(offset, true)
    return name === 'dacapo' ? '!D.C.!  ' : '!coda!  '
  })
  return {
    text,
    back,
    voices: voices.length > 1 ? voices : [],
    symbols: found.symbols,
    words: found.words,
    timesAt: (from, to) => within(times, from, to),
    toCodaAt: (from, to) => within(toCoda, from, to) !== undefined,
    propagation,
    tonicAt: at => keys[lastUpTo(keys, at)]?.tonic ?? null,
  }
}

/**
 * What is noted of a place from one up to another; elements are short and do not overlap, so all of them
 * together read the text once.
 */
function within<T>(noted: ReadonlyMap<number, T>, from: number, to: number): T | undefined {
  if (noted.size === 0) return undefined
  for (let o = from; o < to; o++) if (noted.has(o)) return noted.get(o)
  return undefined
}

const PROPAGATION = /^(?:%%|I:\s*)propagate-accidentals\s+(octave|pitch|not)\b.*$/gm
const KEYS = /^K:.*$|\[K:[^\]\n]*\]/gm
const EXPLICIT = /K:\s*[A-G][#b]?(?:\s*[A-Za-z]+)?\s+exp\b/
function explicitTonic(field: string): Tonic | null {
  const m = EXPLICIT.test(field) && /K:\s*([A-G])([#b]?)/.exec(field)
  return m ? { step: m[1] as Step, alter: m[2] === '#' ? 1 : m[2] === 'b' ? -1 : 0 } : null
}
/** What is said in quotes, and names of parts. */
const SAID = /"[^"\n]*"|\[P:[^\]\n]*\]/g
/** Repeats of three times and more: |:: and ::| with as many signs. */
const MANY = /\|(:{2,})(?![:|])|(?<![:|])(:{2,})\|(?!:)/g

const firstLineEnd = (text: string) => (text.includes('\n') ? text.indexOf('\n') + 1 : text.length)
/** A line of the same length that says nothing. */
const asRemark = (line: string) => (line === '' ? '' : `%${' '.repeat(line.length - 1)}`)

/**
 * Texts and drawings for a printed page stand between "%%begin…" and "%%end…": no music, and the parser has been
 * seen to look for their end for ever. A block that is not closed is its first line alone.
 */
function withoutPages(text: string): string {
  if (!/^%%begin/m.test(text)) return text
  const lines = text.split('\n')
  const lastEnd = new Map<string, number>()
  lines.forEach((line, i) => {
    const kind = /^%%end(\w+)/.exec(line)?.[1]
    if (kind) lastEnd.set(kind, i)
  })
  let until = -1
  let closing = ''
  return lines
    .map((line, i) => {
      const kind = /^%%begin(\w+)/.exec(line)?.[1]
      if (until < i && kind) {
        closing = `%%end${kind}`
        until = Math.max(i, lastEnd.get(kind) ?? -1)
      }
      if (i > until) return line
      if (line.startsWith(closing)) until = i
      return asRemark(line)
    })
    .join('\n')
}

/** Fields a file's header may hold for every tune; those about one tune are not among them. */
const FOR_ALL = /^(?:[ABCDFGHILMmNOQRSUZ]:|%%)/
/** What a tune says itself counts; these may be said twice, the later one counts. */
const AGAIN = /^(?:[UmI]:|%%)/

function insertion(fileHeader: string, tune: string): string {
  const head = tune.slice(0, headEnd(tune))
  return fileHeader
    .split('\n')
    .filter(l => FOR_ALL.test(l) && (AGAIN.test(l) || !new RegExp(`^${l[0]!}:`, 'm').test(head)))
    .map(l => `${l}\n`)
    .join('')
}

/** Where the music begins: after the line of the first K: field. */
function headEnd(text: string): number {
  const key = /^K:.*(?:\n|$)/m.exec(text)
  return key ? key.index + key[0].length : 0
}

/** "+:" goes on with the field before: the line end and the sign become blanks. */
const continued = (text: string) =>
  text.replace(/\n\+:/g, (_all, offset: number) => (isField(lineBefore(text, offset)) ? '   ' : '\n% '))
const lineBefore = (text: string, end: number) => text.slice(text.lastIndexOf('\n', end - 1) + 1, end)
const isField = (line: string) => /^(?:[A-Za-z+]:)/.test(line)

interface Piece {
  readonly from: number
  readonly to: number
  /** Whose it is; null is everybody's. */
  readonly voice: string | null
}

interface Voices {
  readonly voices: readonly PreparedVoice[]
  /** The text with every other voice taken out. */
  readonly taken: (index: number) => string
}

/**
 * Whose each piece of the music is: by the V: field before it, on a line of its own or within one. Music
 * before any is the first voice's.
 */
function voicesOf(text: string): Voices {
  const start = headEnd(text)
  const found = new Map<string, { label: string; notes: number }>()
  const pieces: Piece[] = []
  const named = (said: string): string => {
    const id = /^\s*(\S+)/.exec(said)?.[1] ?? '1'
    const label = asTyped(decodeInPlace(/(?:name|nm)\s*=\s*"([^"]*)"/.exec(said)?.[1] ?? ''))
    const known = found.get(id)
    if (!known) found.set(id, { label, notes: 0 })
    else if (label !== '' && known.label === '') known.label = label
    return id
  }
  let voice: string | null = null
  const music = (from: number, to: number) => {
    voice ??= found.keys().next().value ?? named('1')
    found.get(voice)!.notes += countNotes(text.slice(from, to))
    pieces.push({ from, to, voice })
  }
  let at = 0
  for (const line of text.split('\n')) {
    const [from, to] = [at, at + line.length]
    at = to + 1
    if (line.startsWith('V:')) {
      const id = named(line.slice(2))
      if (from >= start) voice = id
      pieces.push({ from, to, voice: id })
    } else if (/^%%(?:score|staves)\b/.test(line)) pieces.push({ from, to, voice: '' })
    else if (from < start || /^\s*(?:%|$)|^W:/.test(line)) pieces.push({ from, to, voice: null })
    else if (isField(line)) pieces.push({ from, to, voice })
    else {
      let last = from
      for (const m of line.matchAll(/\[V:([^\]]*)\]/g)) {
        if (from + m.index > last) music(last, from + m.index)
        last = from + m.index
        voice = named(m[1]!)
      }
      music(last, to)
    }
  }
  const voices = [...found]
    .filter(([, v]) => v.notes > 0)
    .map(([id, v]) => ({ id, label: v.label.trim().slice(0, 60) || `voice ${id}`, notes: v.notes }))
  return { voices, taken: index => onlyVoice(text, pieces, voices[index]!.id) }
}

/**
 * Every other voice blanked; a line in which nothing is left becomes a remark, because an empty one would end
 * the tune.
 */
function onlyVoice(text: string, pieces: readonly Piece[], own: string): string {
  let out = ''
  for (const { from, to, voice } of pieces) {
    const said = text.slice(from, to)
    out += text.slice(out.length, from) + (voice === null || voice === own ? said : ' '.repeat(said.length))
  }
  return (out + text.slice(out.length)).replace(/^ +$/gm, asRemark)
}

/** Notes of a piece of music: chords count once; grace notes, words, marks and fields not at all. */
const countNotes = (music: string) =>
  music
    .replace(/"[^"]*"|![^!\s]*!|\[[A-Za-z]:[^\]]*\]|\{[^}]*\}|%.*$/g, '')
    .replace(/\[[^\]|:]*\]/g, 'C')
    .match(/[A-Ga-g]/g)?.length ?? 0

/** From a percent sign on, unless it is spelled as a letter. */
const REMARK = /(?<!\\)%.*$/
const isMusic = (line: string) => line !== '' && !isField(line) && !/^\s*%/.test(line)

/**
 * Lines of words and of symbols under lines of music: taken out, to be laid under the notes once those are
 * read. A line of music that goes on is one with the next.
 */
function linesUnder(text: string): {
  text: string
  symbols: readonly SymbolLine[]
  words: readonly WordLine[]
} {
  const symbols: SymbolLine[] = []
  const words: WordLine[] = []
  let music = { from: 0, to: 0 }
  let [at, verse, goesOn] = [0, 0, false]
  const lines = text.split('\n').map(line => {
    const from = at
    at += line.length + 1
    if (line.startsWith('s:')) {
      const list = line.slice(2).match(/"[^"]*"|![^!\s]*!|\||\*|[^\s|*"!]/g) ?? []
      symbols.push({ symbols: list, ...music, at: from })
      return asRemark(line)
    }
    if (line.startsWith('w:')) {
      words.push({
        text: decodeInPlace(line.slice(2).replace(REMARK, '')),
        ...music,
        at: from,
        verse: verse++,
      })
      return asRemark(line)
    }
    if (isMusic(line)) {
      music = { from: goesOn ? music.from : from, to: from + line.length }
      verse = 0
      goesOn = /\\\s*$/.test(line)
    }
    return line
  })
  return { text: lines.join('\n'), symbols, words }
}

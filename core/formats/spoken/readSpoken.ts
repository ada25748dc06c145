/**
 * String-and-finger text, as teachers spell a tune aloud, to a tune with its pins. Grammar:
 * docs/string-and-finger.md. What can't be read is named by line and column and left out; the rest stands.
 */
import {
  finding,
  type Finding,
  type Where,
  type FindingCode,
  type Severity,
  type ValuesOf,
} from '#core/findings/finding'
import { HARMONICS, type Finger, type HandOptions } from '#core/instruments/hands'
import { INSTRUMENTS, lettersOf } from '#core/instruments/instruments'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { checkTune } from '#core/findings/checkTune'
import {
  add,
  compare,
  frac,
  isCountable,
  isZero,
  mul,
  parseFraction,
  type Fraction,
} from '#core/music/fraction'
import { parseKey, type Key } from '#core/music/key'
import { parseMetre, type Metre } from '#core/music/metre'
import { diatonic, type Pitch, type Semitones } from '#core/music/pitch'
import { spellInKey } from '#core/music/edit/spelling'
import { emptyTune, type InstrumentId, type Measure, type Tune, type TuneEvent } from '#core/music/tune'
import { fitted } from '../fitted'
import { withField, type Head } from './head'
import { anchorOf, homeFrom } from './places'
import { settledTies } from './ties'
import { noteId } from '#core/music/ids'
import type { FingerPin } from '#core/fingering/fingerPin'

export interface SpokenContext {
  readonly instrument: InstrumentId
  readonly tuning?: Tuning
  readonly key?: Key
  readonly metre?: Metre
  readonly hand?: HandOptions
}

export interface ReadSpoken {
  readonly tune: Tune
  /** By note id: the string and finger that were said. */
  readonly pins: Readonly<Record<string, FingerPin>>
  readonly findings: readonly Finding[]
  readonly spans: ReadonlyMap<string, { readonly from: number; readonly to: number }>
  readonly instrument: InstrumentId
  readonly tuning: Tuning
}

export const MAX_SPOKEN_LENGTH = 200_000
const ROMAN = ['I', 'II', 'III', 'IV', 'V']
/** A line that begins so is for people: it is not read. */
export const REMARK = '#'
const FIELD = /^(title|metre|key|unit|instrument|tuning):\s*(.*?)\s*$/i
/** One thing said: barlines and signs, chord names, positions, changes, notes and rests, holds. */
const TOKEN =
  /\|:|:\|:|:\||\|\]|\|\||\||\[[^\][|\n]{1,40}\]|\[\d[\d,]*|"[^"]{0,40}"|@[^\s|()[\]]+|(?:key|metre)=\S+|\{(?:\d+:\d+)?|\}|\(|\)|-|g?(?:(?:IV|I{1,3}|V|[A-G])?[<>]*[0-4T][<>]*[o°]?(?:\+(?:IV|I{1,3}|V|[A-G])?[<>]*[0-4T][<>]*[o°]?)*|r)(?::\d{1,3}(?:\/\d{1,3})?)?~?|(?:IV|I{1,3}|V|[A-G])(?=[\s|)\]}]|$)|[^\s]+/g

type Mutable<T> = { -readonly [K in keyof T]: T[K] }
type Draft = Omit<Mutable<Measure>, 'events'> & { events: TuneEvent[] }

export function readSpoken(text: string, context: SpokenContext): ReadSpoken | { readonly finding: Finding } {
  if (text.length > MAX_SPOKEN_LENGTH)
    return { finding: finding('file.tooLong', 'error', {}, { limit: MAX_SPOKEN_LENGTH }) }
  return new Listener(text, context).run()
}

class Listener {
  private readonly findings: Finding[] = []
  private readonly spans = new Map<string, { from: number; to: number }>()
  private readonly pins: Record<string, FingerPin> = {}
  private readonly measures: Draft[] = []
  private readonly slurs: { from: string; to: string }[] = []
  private measure: Draft
  private ids = 0
  private head: Head
  private key: Key
  private string: number | null = null
  private anchor: Semitones = 2
  private tuplet: { group: string; actual: number; normal: number } | null = null
  private tupletFrom: Where = {}
  private slurFrom: string[] = []
  private slurOpen = 0
  private grace: Pitch[] = []
  private chord = ''
  private ending: number[] | null = null
  private place: Where = {}

  constructor(
    private readonly text: string,
    private readonly context: SpokenContext,
  ) {
    this.head = {
      title: '',
      metre: context.metre ?? { beats: 4, unit: 4 },
      key: context.key ?? { step: 'D', alter: 0, mode: 'major' },
      unit: frac(1, 2),
      instrument: context.instrument,
      tuning: context.tuning ?? homeTuning(context.instrument),
    }
    this.key = this.head.key
    this.measure = { id: this.newId('m'), events: [] }
  }

  run(): ReadSpoken {
    let offset = 0
    this.text.split('\n').forEach((line, i) => {
      this.place = { line: i + 1, column: 1 }
      const field = FIELD.exec(line)
      if (field) this.field(field[1]!.toLowerCase(), field[2]!)
      else if (!line.trimStart().startsWith(REMARK))
        for (const m of line.matchAll(TOKEN)) {
          this.place = { line: i + 1, column: m.index + 1 }
          this.token(m[0], offset + m.index)
        }
      offset += line.length + 1
    })
    if (this.measure.events.length > 0) this.closeMeasure()
    if (this.slurFrom.length > 0) this.tell('spoken.openSlur', 'warning')
    this.tellOpenTuplet()
    const tune: Tune = {
      ...emptyTune(this.head.title),
      key: this.head.key,
      metre: this.head.metre,
      clef: INSTRUMENTS[this.head.instrument].clef,
      instrument: this.head.instrument,
      measures: settledTies(this.measures),
      slurs: this.slurs.filter(s => s.from !== s.to),
      lastId: this.ids,
    }
    const { pins, spans } = this
    const { instrument, tuning } = this.head
    const fits = fitted(tune)
    const read = fits.tune ?? emptyTune()
    const placed = (list: readonly Finding[]) =>
      list.map(f => ({ ...f, where: { ...f.where, ...this.placeOf(f.where.note) } }))
    return {
      tune: read,
      pins,
      spans,
      instrument,
      tuning,
      findings: [...this.findings, ...placed([...fits.findings, ...checkTune(read)])],
    }
  }

  private placeOf(note: string | undefined): Where {
    const span = note === undefined ? undefined : this.spans.get(note)
    if (!span) return {}
    const before = this.text.slice(0, span.from)
    return { line: before.split('\n').length, column: span.from - before.lastIndexOf('\n') }
  }

  private newId = (kind: 'n' | 'm' | 't') => `${kind}${++this.ids}`
  private tell<C extends FindingCode>(code: C, severity: Severity, ...values: ValuesOf<C>) {
    if (this.findings.length < 200) this.findings.push(finding(code, severity, this.place, ...values))
  }

  private field(name: string, value: string) {
    const head = withField(this.head, name, value)
    if (!head) return this.tell('spoken.badField', 'error', { field: name, value: value.slice(0, 40) })
    this.head = head
    if (name === 'key') this.key = head.key
  }

  private token(t: string, at: number) {
    if (/^[|:[]/.test(t) && this.bar(t)) return
    if (t.startsWith('"')) this.chord = t.slice(1, -1)
    else if (t.startsWith('@')) this.position(t.slice(1))
    else if (/^(key|metre)=/.test(t)) this.change(t)
    else if (t.startsWith('{')) this.openTuplet(t.slice(1))
    else if (t === '}') this.closeTuplet(t)
    else if (t === '(') this.slurOpen++
    else if (t === ')') this.closeSlur()
    else if (t === '-') this.hold()
    else if (this.stringOf(t) !== null) this.string = this.stringOf(t)
    else this.sound(t, at)
  }

  private bar(t: string): boolean {
    const label = /^\[([^\]]+)\]$/.exec(t)
    const ending = /^\[(\d[\d,]*)$/.exec(t)
    if (label) this.measure.label = label[1]!
    else if (ending) {
      const numbers = ending[1]!.split(',').map(Number)
      if (!numbers.every(n => n >= 1 && n <= 20)) return false
      this.ending = numbers
    } else if (/^(\||\|\||\|\]|\|:|:\||:\|:)$/.test(t)) {
      const last = this.measure.events.length > 0 ? this.measure : this.measures.at(-1)
      if (last && t.startsWith(':')) last.repeatEnd = true
      if (last && t === '||') last.barline = 'double'
      if (last && t === '|]') last.barline = 'final'
      if (this.measure.events.length > 0) this.closeMeasure()
      if (t.startsWith(':') || t === '||' || t === '|]' || t.endsWith(':')) this.ending = null
      if (t.endsWith(':')) this.measure.repeatStart = true
    } else return false
    return true
  }

  private closeMeasure() {
    if (this.ending?.length) this.measure.endings = this.ending
    this.measures.push(this.measure)
    this.measure = { id: this.newId('m'), events: [] }
  }

  private position(text: string) {
    const anchor = text === 'T' ? 14 : anchorOf(this.head.instrument, text)
    if (anchor === null) this.tell('spoken.badPosition', 'error', { text })
    else this.anchor = anchor
  }

  private change(t: string) {
    const value = t.slice(t.indexOf('=') + 1)
    const key = t.startsWith('key') ? parseKey(value) : null
    const metre = t.startsWith('metre') ? parseMetre(value) : null
    if (key) this.measure.key = this.key = key
    else if (metre) this.measure.metre = metre
    else this.tell('spoken.unknown', 'error', { text: t.slice(0, 40) })
  }

  private openTuplet(ratio: string) {
    const [actual, normal] = ratio === '' ? [3, 2] : ratio.split(':').map(Number)
    this.tellOpenTuplet()
    if (actual! < 2 || actual! > 64 || normal! < 1 || normal! > 64)
      return this.tell('spoken.unknown', 'error', { text: `{${ratio}` })
    this.tuplet = { group: this.newId('t'), actual: actual!, normal: normal! }
    this.tupletFrom = this.place
  }

  private closeTuplet(sign: string) {
    if (!this.tuplet) return this.tell('spoken.unknown', 'error', { text: sign })
    this.tuplet = null
  }

  /** Where one was begun that is not ended yet: all that follows is counted into it. */
  private tellOpenTuplet() {
    if (this.tuplet) this.findings.push(finding('spoken.openTuplet', 'error', this.tupletFrom))
  }

  private closeSlur() {
    const [from, to] = [this.slurFrom.pop(), this.lastEvent()?.id]
    if (from === undefined || to === undefined) return this.tell('spoken.openSlur', 'warning')
    this.slurs.push({ from, to })
  }

  private lastEvent = () => this.measure.events.at(-1) ?? this.measures.at(-1)?.events.at(-1)

  /** The note before lasts one place longer. After a barline it is tied over. */
  private hold() {
    const length = this.sounding(this.head.unit)
    const own = this.measure.events.at(-1)
    if (own) {
      this.measure.events[this.measure.events.length - 1] = { ...own, duration: add(own.duration, length) }
      return
    }
    const before = this.measures.at(-1)
    const last = before?.events.at(-1)
    if (!before || last?.kind !== 'note') return this.tell('spoken.nothingToHold', 'error')
    before.events[before.events.length - 1] = { ...last, heads: last.heads.map(h => ({ ...h, tied: true })) }
    const id = this.newId('n')
    this.measure.events.push({
      kind: 'note',
      id,
      duration: length,
      heads: last.heads.map(h => ({ pitch: h.pitch })),
    })
    last.heads.forEach((_, i) => {
      const pin = this.pins[noteId(last.id, i)]
      if (pin) this.pins[noteId(id, i)] = pin
    })
  }

  private sounding = (written: Fraction) =>
    this.tuplet ? mul(written, frac(this.tuplet.normal, this.tuplet.actual)) : written

  private stringOf(t: string): number | null {
    const letter = lettersOf(this.head.instrument, this.head.tuning).indexOf(t)
    if (letter >= 0) return letter
    const roman = ROMAN.indexOf(t)
    return roman >= 0 && roman < this.head.tuning.length ? roman : null
  }

  private sound(t: string, at: number) {
    const m = /^(g?)(.+?)(?::(\d{1,3}(?:\/\d{1,3})?))?(~?)$/.exec(t)
    const count = m?.[3] === undefined ? frac(1) : parseFraction(m[3])
    if (!m || !count || isZero(count)) return this.tell('spoken.unknown', 'error', { text: t.slice(0, 40) })
    const places = m[2] === 'r' ? [] : m[2]!.split('+').map(x => this.spoken(x))
    if (places.some(p => p === null)) return
    if (new Set(places.map(p => p!.string)).size < places.length)
      return this.tell('spoken.oneString', 'error', { text: m[2]!.slice(0, 40) })
    const heads = (places as Place[]).sort((a, b) => diatonic(a.pitch) - diatonic(b.pitch))
    if (m[1] === 'g') {
      if (this.grace.length < 32) this.grace.push(...heads.slice(0, 1).map(h => h.pitch))
      return
    }
    const duration = this.sounding(mul(this.head.unit, count))
    if (compare(duration, frac(64)) > 0 || !isCountable(duration) || this.measure.events.length >= 4096)
      return this.tell('spoken.unknown', 'error', { text: t.slice(0, 40) })
    const id = this.newId('n')
    this.spans.set(id, { from: at, to: at + t.length })
    const common = {
      id,
      duration,
      ...(this.tuplet && { tuplet: this.tuplet }),
      ...(this.chord && { chord: this.chord }),
    }
    this.chord = ''
    if (heads.length === 0) {
      this.measure.events.push({ kind: 'rest', ...common })
      return
    }
    heads.forEach((h, i) => (this.pins[noteId(id, i)] = { string: h.string, finger: h.finger }))
    this.measure.events.push({
      kind: 'note',
      ...common,
      heads: heads.map(h => ({ pitch: h.pitch, ...(m[4] && { tied: true }) })),
      ...(this.grace.length > 0 && { grace: this.grace }),
      ...(heads.some(h => h.harmonic) && { marks: ['harmonic'] }),
    })
    this.grace = []
    for (; this.slurOpen > 0; this.slurOpen--) this.slurFrom.push(id)
  }

  /** One finger on one string as a pitch; null, and told, when it makes no sense. */
  private spoken(text: string): Place | null {
    const m = /^(IV|I{1,3}|V|[A-G])?([<>]*)([0-4T])([<>]*)([o°]?)$/.exec(text)
    if (!m) return this.refuse('spoken.unknown', { text: text.slice(0, 40) })
    if (m[1] !== undefined) {
      const named = this.stringOf(m[1])
      if (named === null)
        return this.refuse('spoken.noString', {
          text: m[1],
          instrument: INSTRUMENTS[this.head.instrument].name,
        })
      this.string = named
    }
    if (this.string === null) return this.refuse('spoken.whichString', { text })
    const signs = m[2]! + m[4]!
    const shift = [...signs].reduce((s, c) => s + (c === '>' ? 1 : -1), 0)
    const finger: Finger = m[3] === 'T' ? 'T' : (Number(m[3]) as 0)
    let offset: number = 0
    if (finger !== 0) {
      const home = homeFrom(this.head.instrument, this.anchor, finger, this.context.hand)
      if (home === null)
        return this.refuse('spoken.noFinger', {
          finger: m[3]!,
          instrument: INSTRUMENTS[this.head.instrument].name,
        })
      offset = this.anchor + home + shift
    } else if (shift !== 0) return this.refuse('spoken.unknown', { text: text.slice(0, 40) })
    if (offset < 0 || (finger !== 0 && offset < 1))
      return this.refuse('spoken.unknown', { text: text.slice(0, 40) })
    const harmonic = m[5] !== ''
    const sounds = harmonic ? HARMONICS.find(h => h.touch === offset)?.sounds : offset
    if (sounds === undefined) return this.refuse('spoken.noHarmonic', { text: text.slice(0, 40) })
    const written = this.head.tuning[this.string]! + sounds + INSTRUMENTS[this.head.instrument].writtenAbove
    return { pitch: spellInKey(written, this.key), string: this.string, finger, harmonic }
  }

  private refuse<C extends FindingCode>(code: C, ...values: ValuesOf<C>): null {
    this.tell(code, 'error', ...values)
    return null
  }
}

interface Place {
  readonly pitch: Pitch
  readonly string: number
  readonly finger: Finger
  readonly harmonic: boolean
}

/** Maps the parser's elements of one voice to measures, events and slurs. */
import { finding, type Finding, type FindingCode, type Severity, type ValuesOf } from '#core/findings/finding'
import { frac, fromFloat, mul, type Fraction, isZero } from '#core/music/fraction'
import { alterations, keyOfSignature, parseMode, signature, type Key } from '#core/music/key'
import { measureLength, METRE_UNITS, type Metre } from '#core/music/metre'
import { spelledAt, STEPS, type Pitch, type Step } from '#core/music/pitch'
import type { Clef, Mark, Measure, NoteEvent, Tune, TuneEvent } from '#core/music/tune'
import type { AbcElement, AbcKey, AbcMeter, AbcPitch, AbcStaff, AbcTune } from './parserTypes'

export interface SourceSpan {
  readonly from: number
  readonly to: number
}

type Place = (offset: number) => { line: number; column: number }
type Mutable<T> = { -readonly [K in keyof T]: T[K] }
/** A measure under construction. */
type Draft = Omit<Mutable<Measure>, 'events'> & { events: TuneEvent[] }

export interface MappedMusic {
  readonly tune: Pick<Tune, 'key' | 'metre' | 'clef' | 'measures' | 'slurs' | 'lastId'>
  readonly spans: ReadonlyMap<string, SourceSpan>
  readonly findings: readonly Finding[]
}

const ACCIDENTAL: Record<string, number> = { sharp: 1, flat: -1, natural: 0, dblsharp: 2, dblflat: -2 }
/** Middle C is pitch 0 for the parser; our letter height counts from C0. */
const MIDDLE_C_HEIGHT = 28

const MARK_OF: Record<string, Mark> = {
  staccato: 'staccato', tenuto: 'tenuto', accent: 'accent', emphasis: 'accent', fermata: 'fermata', trill: 'trill', turn: 'turn',
  mordent: 'mordent', lowermordent: 'mordent', uppermordent: 'mordent', pralltriller: 'mordent', roll: 'roll', irishroll: 'roll',
  slide: 'slide', upbow: 'upbow', downbow: 'downbow', open: 'open', harmonic: 'harmonic', breath: 'comma', shortphrase: 'lift', mediumphrase: 'comma', cut: 'cut', '+': 'pizzicato',
} // prettier-ignore
/** What a harmonic is called on its way through the parser, where the text has no such sign of its own. */
export const STANDS_FOR_HARMONIC = 'arpeggio'
const DYNAMICS = new Set(['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'])

/** A voice of the tune: where it stands among the staves of a line. */
export interface AbcVoice {
  readonly label: string
  readonly notes: number
}

/** The voices of one line, staff by staff. */
const voicesOf = (line: AbcTune['lines'][number]) =>
  (line.staff ?? []).flatMap(staff =>
    staff.voices.map((elements, i) => ({ staff, elements, title: staff.title?.[i] })),
  )

/** What voices there are, in their order, with how many notes each has. */
export function listVoices(parsed: AbcTune): AbcVoice[] {
  const out: { label: string; notes: number }[] = []
  for (const line of parsed.lines)
    voicesOf(line).forEach(({ elements, title }, i) => {
      out[i] ??= { label: title?.trim().slice(0, 60) || `voice ${i + 1}`, notes: 0 }
      out[i].notes += elements.filter(e => e.pitches).length
    })
  return out
}

/**
 * Maps one voice, the first unless another is asked for; the others are told.
 * @param harmonics {@link STANDS_FOR_HARMONIC} stands for a harmonic
 */
export function mapMusic(parsed: AbcTune, place: Place, voice = 0, harmonics = false): MappedMusic {
  const mapper = new VoiceMapper(place, harmonics)
  const others = listVoices(parsed).filter((v, i) => i !== voice && v.notes > 0)
  for (const line of parsed.lines) {
    const voices = voicesOf(line)
    const own = voices[voice]
    if (!own) continue
    if (others.length > 0 && !mapper.sawVoices) {
      mapper.sawVoices = true
      const names = others.slice(0, 8).map(v => v.label).join(', ') // prettier-ignore
      mapper.report('abc.voices', 'warning', own.elements[0]?.startChar ?? 0, {
        taken: voice + 1,
        others: names,
      })
    }
    mapper.line(own.staff, own.elements)
  }
  return mapper.finish()
}

/** Walks the elements of a voice in order. State: the measure being built, the key, accidentals of the bar, open slurs, tuplets. */
class VoiceMapper {
  sawVoices = false
  private readonly findings: Finding[] = []
  private readonly measures: Draft[] = []
  private readonly spans = new Map<string, SourceSpan>()
  private readonly slurs: { from: string; to: string }[] = []
  private readonly openSlurs = new Map<number, { id: string; at: number }>()
  private ids = 0
  private first: { key: Key; metre: Metre; clef: Clef } | null = null
  private key: Key = { step: 'C', alter: 0, mode: 'major' }
  private keyAlter: Record<Step, number> = alterations(this.key)
  private metre: Metre = { beats: 4, unit: 4 }
  private measure: Draft = this.newMeasure()
  /** Alterations written in this bar, by letter height. */
  private inBar = new Map<number, number>()
  /** Pitches tied into the next note, by letter height. */
  private tiedIn = new Map<number, number>()
  private tuplet: { group: string; actual: number; normal: number; ratio: Fraction } | null = null
  private ending: number[] | null = null

  constructor(
    private readonly place: Place,
    private readonly harmonics: boolean,
  ) {}

  report<C extends FindingCode>(code: C, severity: Severity, at: number, ...values: ValuesOf<C>) {
    this.findings.push(finding(code, severity, this.place(at), ...values))
  }

  line(staff: AbcStaff, elements: readonly AbcElement[]) {
    if (staff.key) this.setKey(staff.key, elements[0]?.startChar ?? 0)
    if (staff.meter) this.setMetre(staff.meter, elements[0]?.startChar ?? 0)
    if (!this.first) this.first = { key: this.key, metre: this.metre, clef: this.clefOf(staff) }
    for (const el of elements) this.element(el)
  }

  finish(): MappedMusic {
    if (this.measure.events.length > 0) this.closeMeasure()
    for (const { at } of this.openSlurs.values()) this.report('abc.openSlur', 'warning', at, {})
    const { key, metre, clef } = this.first ?? { key: this.key, metre: this.metre, clef: 'treble' as Clef }
    const slurs = this.slurs.filter(s => s.from !== s.to)
    return {
      tune: { key, metre, clef, measures: this.measures, slurs, lastId: this.ids },
      spans: this.spans,
      findings: this.findings,
    }
  }

  private element(el: AbcElement) {
    if (el.el_type === 'note') this.note(el)
    else if (el.el_type === 'bar') this.bar(el)
    else if (el.el_type === 'key') this.setKey(el as AbcKey & AbcElement, el.startChar)
    else if (el.el_type === 'meter') this.setMetre(el as AbcMeter & AbcElement, el.startChar)
    else if (el.el_type === 'part' && el.title) this.measure.label = String(el.title).slice(0, 40)
    else if (el.el_type === 'overlay') this.report('abc.overlay', 'warning', el.startChar, {})
  }

  private newId(kind: 'n' | 'm' | 't') {
    return `${kind}${++this.ids}`
  }

  private newMeasure(): Draft {
    return { id: this.newId('m'), events: [] }
  }

  private clefOf(staff: AbcStaff): Clef {
    const type = staff.clef?.type ?? 'treble'
    // A tenor clef comes as an alto clef one line up.
    if (type.startsWith('alto') && staff.clef?.clefPos === 8) return 'tenor'
    return (['alto', 'tenor', 'bass'] as const).find(c => type.startsWith(c)) ?? 'treble'
  }

  private setKey(k: AbcKey, at: number) {
    const given = new Map((k.accidentals ?? []).map(a => [a.note.toUpperCase(), ACCIDENTAL[a.acc] ?? 0]))
    for (const s of STEPS) this.keyAlter[s] = given.get(s) ?? 0
    const step = STEPS.find(s => s === k.root?.toUpperCase())
    const mode = parseMode(k.mode ?? '')
    const named: Key | null =
      step && mode ? { step, alter: k.acc === 'sharp' || k.acc === '#' ? 1 : k.acc ? -1 : 0, mode } : null
    const sharps = STEPS.reduce((t, s) => t + this.keyAlter[s], 0)
    const key =
      named && Math.abs(signature(named)) <= 7
        ? named
        : keyOfSignature(Math.max(-7, Math.min(7, sharps)), 'major')
    const expected = alterations(key)
    if (STEPS.some(s => expected[s] !== this.keyAlter[s])) this.report('abc.keySignature', 'note', at, {})
    const changed = this.first && (signature(key) !== signature(this.key) || key.step !== this.key.step)
    this.key = key
    if (changed) this.measure.key = key
  }

  private setMetre(m: AbcMeter, at: number) {
    const v = m.value?.[0]
    const beats = m.type === 'specified' && v ? addUp(v.num) : m.type === 'cut_time' ? 2 : 4
    const given = m.type === 'specified' && v ? Number(v.den ?? 4) : m.type === 'cut_time' ? 2 : 4
    const unit = METRE_UNITS.find(u => u === given)
    if (!unit || !Number.isInteger(beats) || beats < 1 || beats > 64)
      return this.report('abc.badMetre', 'error', at, { metre: `${v?.num ?? '?'}/${v?.den ?? '?'}` })
    if (this.first && (beats !== this.metre.beats || unit !== this.metre.unit)) {
      this.measure.metre = { beats, unit }
    }
    this.metre = { beats, unit }
  }

  private bar(el: AbcElement) {
    const type = el.type ?? 'bar_thin'
    const ends = type === 'bar_right_repeat' || type === 'bar_dbl_repeat'
    const starts = type === 'bar_left_repeat' || type === 'bar_dbl_repeat'
    const closes = this.measure.events.length > 0
    const target = closes ? this.measure : this.measures.at(-1)
    if (target) {
      if (ends) target.repeatEnd = true
      if (type === 'bar_thin_thick' || type === 'bar_thick_thin') target.barline = 'final'
      if (type === 'bar_thin_thin') target.barline = 'double'
    }
    if (closes) this.closeMeasure()
    if (el.endEnding || starts) this.ending = null
    if (el.startEnding) this.ending = readEndings(el.startEnding)
    if (this.ending === null && el.startEnding)
      this.report('abc.badEnding', 'warning', el.startChar, { ending: el.startEnding })
    if (starts) this.measure.repeatStart = true
    this.inBar = new Map()
  }

  private closeMeasure() {
    if (this.ending) this.measure.endings = this.ending
    this.measures.push(this.measure)
    this.measure = this.newMeasure()
  }

  private note(el: AbcElement) {
    const rest = el.rest?.type
    if (rest === 'spacer') return
    if (rest === 'multimeasure') return this.wholeRests(Math.min(64, Number(el.rest?.text) || 1))
    if (el.startTriplet) {
      const actual = el.startTriplet
      const ratio = fromFloat(el.tripletMultiplier ?? 1) ?? frac(1)
      const normal = mul(frac(actual), ratio)
      this.tuplet = normal.d === 1 ? { group: this.newId('t'), actual, normal: normal.n, ratio } : null
    }
    const whole = fromFloat(Array.isArray(el.duration) ? el.duration[0]! : (el.duration ?? 0))
    if (!whole || isZero(whole)) return this.report('abc.badLength', 'error', el.startChar, {})
    const duration = mul(mul(whole, frac(4)), this.tuplet?.ratio ?? frac(1))
    const id = this.newId('n')
    this.spans.set(id, { from: el.startChar, to: el.endChar })
    this.measure.events.push(rest ? this.rest(el, id, duration) : this.heads(el, id, duration))
    if (el.endTriplet) this.tuplet = null
  }

  private wholeRests(count: number) {
    for (let i = 0; i < count; i++) {
      if (i > 0) this.closeMeasure()
      this.measure.events.push({ kind: 'rest', id: this.newId('n'), duration: measureLength(this.metre) })
    }
  }

  private common(el: AbcElement, id: string, duration: Fraction) {
    const chords = (el.chord ?? []).filter(c => c.position === 'default' || c.position === undefined)
    const remarks = (el.chord ?? []).filter(c => !chords.includes(c)).map(c => c.name.slice(0, 400))
    const { group, actual, normal } = this.tuplet ?? {}
    return {
      id,
      duration,
      ...(group && { tuplet: { group, actual: actual!, normal: normal! } }),
      ...(chords[0] && { chord: plainChord(chords.map(c => c.name).join(' ')) }),
      ...(remarks.length > 0 && { remarks }),
    }
  }

  private rest(el: AbcElement, id: string, duration: Fraction): TuneEvent {
    return {
      kind: 'rest',
      ...this.common(el, id, duration),
      ...(el.rest?.type === 'invisible' && { hidden: true }),
    }
  }

  private heads(el: AbcElement, id: string, duration: Fraction): NoteEvent {
    // Grace notes come first in the bar, and so do their accidentals.
    const grace = el.gracenotes?.map(g => this.pitch(g))
    const heads = el.pitches!.map(p => ({ pitch: this.pitch(p), ...(p.startTie && { tied: true }) }))
    this.tiedIn = new Map(
      el.pitches!.flatMap((p, i) => (p.startTie ? [[heightOf(p), heads[i]!.pitch.alter] as const] : [])),
    )
    heads.sort(
      (a, b) =>
        a.pitch.octave * 7 + STEPS.indexOf(a.pitch.step) - b.pitch.octave * 7 - STEPS.indexOf(b.pitch.step),
    )
    this.trackSlurs(el, id)
    const event: Mutable<NoteEvent> = { kind: 'note', ...this.common(el, id, duration), heads }
    if (grace) event.grace = grace
    this.decorate(el, event)
    const syllables = el.lyric?.map(l =>
      l.syllable.trim() === ''
        ? null
        : { text: l.syllable.trim(), ...(l.divider === '-' && { hyphen: true }) },
    )
    while (syllables?.at(-1) === null) syllables.pop()
    if (syllables?.length) event.syllables = syllables
    return event
  }

  private decorate(el: AbcElement, event: Mutable<NoteEvent>) {
    const marks: Mark[] = []
    for (const d of el.decoration ?? []) {
      const mark = d === STANDS_FOR_HARMONIC && this.harmonics ? 'harmonic' : MARK_OF[d]
      if (mark) marks.push(mark)
      else if (DYNAMICS.has(d)) event.dynamic = d as NoteEvent['dynamic']
      else if (/^[0-5]$/.test(d)) event.finger = Number(d)
      else this.report('abc.decoration', 'note', el.startChar, { name: d })
    }
    if (marks.length > 0) event.marks = [...new Set(marks)]
  }

  private trackSlurs(el: AbcElement, id: string) {
    const ends = [...(el.endSlur ?? []), ...el.pitches!.flatMap(p => p.endSlur ?? [])]
    const starts = [...(el.startSlur ?? []), ...el.pitches!.flatMap(p => p.startSlur ?? [])]
    for (const label of ends) {
      const open = this.openSlurs.get(label)
      if (!open) this.report('abc.endSlur', 'warning', el.startChar, {})
      else this.slurs.push({ from: open.id, to: id })
      this.openSlurs.delete(label)
    }
    for (const s of starts) this.openSlurs.set(s.label, { id, at: el.startChar })
  }

  /** The written alteration, else the bar's, else a tie's, else the key's. */
  private pitch(p: AbcPitch): Pitch {
    const height = heightOf(p)
    const natural = spelledAt(height, 0)
    const written = p.accidental === undefined ? undefined : ACCIDENTAL[p.accidental]
    if (p.accidental !== undefined && written === undefined) {
      this.findings.push(finding('abc.microtone', 'warning', {}, { accidental: p.accidental }))
    }
    if (written !== undefined) this.inBar.set(height, written)
    const fromTie = p.endTie ? this.tiedIn.get(height) : undefined
    const alter = written ?? fromTie ?? this.inBar.get(height) ?? this.keyAlter[natural.step]
    return { step: natural.step, alter, octave: Math.max(-1, Math.min(9, natural.octave)) }
  }
}

const heightOf = (p: AbcPitch) => p.pitch + MIDDLE_C_HEIGHT

/** The parser prints accidentals of chord names as signs; we keep the typed form. */
const plainChord = (name: string) => name.replace(/♯/g, '#').replace(/♭/g, 'b').slice(0, 40)

/** "2+3" beats are added up. */
const addUp = (text: string) => text.split('+').reduce((t, x) => t + Number(x), 0)

/** "1", "1,3", "1-3", "2." ; null when it names no number. */
function readEndings(text: string): number[] | null {
  const out: number[] = []
  for (const part of text.replace(/\.$/, '').split(/[,.]/)) {
    const m = /^\s*(\d{1,2})(?:-(\d{1,2}))?\s*$/.exec(part)
    if (!m) return null
    const [a, b] = [Number(m[1]), Number(m[2] ?? m[1])]
    for (let n = a; n <= Math.min(b, 20); n++) if (n >= 1) out.push(n)
  }
  return out.length > 0 ? [...new Set(out)] : null
}

/** Maps the parser's elements of one voice to measures, events and slurs. */
import { finding, type Finding, type FindingCode, type Severity, type ValuesOf } from '#core/findings/finding'
import { ACCIDENTAL, Accidentals } from './accidentals'
import { layCodas } from '../way'
import { addends, readEndings } from './bars'
import { CLOSING, decorated, fingersTogether, OPENING } from './decorations'
import { keyNear, keyWith } from './header'
import type { Prepared, Propagation } from './prepare'
import { laySymbols } from './symbols'
import { asTyped } from './text'
import { notesOver } from './under'
import { layWords } from './words'
import { frac, fromFloat, isCountable, mul, type Fraction, isZero } from '#core/music/fraction'
import { alterations, keyOfSignature, parseMode, signature, type Key } from '#core/music/key'
import { isCompound, measureLength, METRE_UNITS, metreOf, sameMetre, type Metre } from '#core/music/metre'
import { STEPS, type Pitch, type Step } from '#core/music/pitch'
import type { Clef, Measure, NoteEvent, Tune, TuneEvent } from '#core/music/tune'
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

export interface MusicOptions {
  /** {@link STANDS_FOR_HARMONIC} stands for a harmonic. */
  readonly harmonics: boolean
  readonly propagation: Propagation
  /** Octaves up, by the clef that holds at a place. */
  readonly octavesAt: (place: number) => number
}

/** Maps the voice that was prepared; a second one overlaid in it is told. */
export function mapMusic(parsed: AbcTune, prepared: Prepared, place: Place, o: MusicOptions): MappedMusic {
  const mapper = new VoiceMapper(prepared, place, o)
  for (const line of parsed.lines) {
    const [staff] = line.staff ?? []
    if (!staff?.voices[0]) continue
    const over = (line.staff ?? [])
      .flatMap((s, i) => s.voices.slice(i === 0 ? 1 : 0))
      .flat()
      .find(e => e.pitches)
    if (over) mapper.report('abc.overlay', 'warning', over.startChar, {})
    mapper.line(staff, staff.voices[0])
  }
  return mapper.finish()
}

/**
 * Walks the elements of a voice in order. State: the measure being built, the key, accidentals of the bar,
 * open slurs, tuplets.
 */
class VoiceMapper {
  private readonly findings: Finding[] = []
  private readonly told = new Set<string>()
  private readonly codas: { measure: number; sign: Draft | null }[] = []
  private readonly measures: Draft[] = []
  private readonly spans = new Map<string, SourceSpan>()
  private readonly slurs: { from: string; to: string }[] = []
  private readonly openSlurs = new Map<number, { id: string; at: number }>()
  private ids = 0
  private first: { key: Key; metre: Metre; clef: Clef } | null = null
  private key: Key = { step: 'C', alter: 0, mode: 'major' }
  private keyAlter: Record<Step, number> = { ...alterations(this.key) }
  private metre: Metre = { beats: 4, unit: 4 }
  private measure: Draft = this.newMeasure()
  private readonly accidentals = new Accidentals()
  private tuplet: { group: string; actual: number; normal: number; ratio: Fraction } | null = null
  private ending: number[] | null = null
  /** How often the repeat that is open is played, where its sign says so. */
  private times: number | undefined

  constructor(
    private readonly prepared: Prepared,
    private readonly place: Place,
    private readonly o: MusicOptions,
  ) {}

  report<C extends FindingCode>(code: C, severity: Severity, at: number, ...values: ValuesOf<C>) {
    this.findings.push(finding(code, severity, this.place(Math.max(0, at)), ...values))
  }

  line(staff: AbcStaff, elements: readonly AbcElement[]) {
    const at = elements.find(e => e.startChar >= 0)?.startChar ?? 0
    if (staff.key) this.setKey(staff.key, at)
    if (staff.meter) this.setMetre(staff.meter, at)
    if (!this.first) this.first = { key: this.key, metre: this.metre, clef: this.clefOf(staff) }
    for (const el of elements) this.element(el)
  }

  finish(): MappedMusic {
    if (this.measure.events.length > 0) this.closeMeasure()
    layCodas(this.measures, this.codas)
    const over = notesOver(this.measures, this.spans)
    this.findings.push(
      ...laySymbols(this.measures, this.prepared.symbols, over, this.place, this.o.harmonics),
      ...layWords(this.measures, this.prepared.words, over, this.place),
    )
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
    else if (el.el_type === 'part' && el.title) this.measure.label = asTyped(String(el.title)).trim()
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
    const spelled = this.prepared.tonicAt(at)
    const tonic = spelled ?? named
    const key =
      (tonic && keyWith(tonic, this.keyAlter)) ??
      (spelled && keyNear(spelled, this.keyAlter)) ??
      (named && Math.abs(signature(named)) <= 7
        ? named
        : keyOfSignature(Math.max(-7, Math.min(7, sharps)), 'major'))
    const expected = alterations(key)
    // Told at the field itself, which stands before the music it is for.
    if (STEPS.some(s => expected[s] !== this.keyAlter[s]))
      this.tellOnce('abc.keySignature', Math.max(0, this.prepared.text.lastIndexOf('K:', at + 1)), {})
    const changed = this.first && (signature(key) !== signature(this.key) || key.step !== this.key.step)
    this.key = key
    if (changed) this.measure.key = key
  }

  private setMetre(m: AbcMeter, at: number) {
    const v = m.value?.[0]
    const groups = m.type === 'specified' && v ? addends(v.num) : [m.type === 'cut_time' ? 2 : 4]
    const beats = groups.reduce((a, b) => a + b, 0)
    const given = m.type === 'specified' && v ? Number(v.den ?? 4) : m.type === 'cut_time' ? 2 : 4
    const unit = METRE_UNITS.find(u => u === given)
    if (!unit || !Number.isInteger(beats) || beats < 1 || beats > 64)
      return this.report('abc.badMetre', 'error', at, { metre: `${v?.num ?? '?'}/${v?.den ?? '?'}` })
    const metre = metreOf(beats, unit, groups)
    if (this.first && !sameMetre(metre, this.metre)) this.measure.metre = metre
    this.metre = metre
  }

  private bar(el: AbcElement) {
    const type = el.type ?? 'bar_thin'
    const ends = type === 'bar_right_repeat' || type === 'bar_dbl_repeat'
    const starts = type === 'bar_left_repeat' || type === 'bar_dbl_repeat'
    const closes = this.measure.events.length > 0
    const target = closes ? this.measure : this.measures.at(-1)
    const signs = el.decoration ?? []
    const toCoda = this.prepared.toCodaAt(el.startChar, el.endChar)
    if (target) {
      if (ends) target.repeatEnd = true
      const times = ends && (this.prepared.timesAt(el.startChar, el.endChar) ?? this.times)
      if (times) target.repeatTimes = Math.min(9, times)
      for (const name of signs) Object.assign(target, CLOSING[name])
      if (toCoda) target.toCoda = true
      if (type === 'bar_thin_thick' || type === 'bar_thick_thin') target.barline = 'final'
      if (type === 'bar_thin_thin') target.barline = 'double'
    }
    if (closes) this.closeMeasure()
    if (el.endEnding || starts) this.ending = null
    if (el.startEnding) this.ending = readEndings(el.startEnding)
    if (this.ending === null && el.startEnding)
      this.report('abc.badEnding', 'warning', el.startChar, { ending: el.startEnding })
    if (starts) {
      this.measure.repeatStart = true
      this.times = this.prepared.timesAt(el.startChar, el.endChar)
    }
    if (signs.includes('segno')) this.measure.segno = true
    if (signs.includes('coda') && !toCoda)
      this.codas.push({ measure: this.measures.length, sign: this.measure })
    for (const name of signs)
      if (name !== 'staccato' && !OPENING[name] && !CLOSING[name])
        this.report('abc.decoration', 'note', el.startChar, { name })
    this.accidentals.bar()
  }

  private closeMeasure() {
    if (this.ending) this.measure.endings = this.ending
    this.measures.push(this.measure)
    this.measure = this.newMeasure()
  }

  private note(el: AbcElement) {
    const rest = el.rest?.type
    if (rest === 'spacer') return
    if (rest === 'multimeasure' || rest === 'invisible-multimeasure')
      return this.wholeRests(Math.min(64, Number(el.rest?.text) || 1), rest !== 'multimeasure')
    if (el.startTriplet) {
      const actual = el.startTriplet
      const ratio = this.usualRatio(el) ?? fromFloat(el.tripletMultiplier ?? 1) ?? frac(1)
      const normal = mul(frac(actual), ratio)
      this.tuplet = normal.d === 1 ? { group: this.newId('t'), actual, normal: normal.n, ratio } : null
    }
    const whole = fromFloat(Array.isArray(el.duration) ? el.duration[0]! : (el.duration ?? 0))
    if (!whole || isZero(whole)) return this.report('abc.badLength', 'error', el.startChar, {})
    const duration = mul(mul(whole, frac(4)), this.tuplet?.ratio ?? frac(1))
    if (!isCountable(duration)) return this.report('abc.badLength', 'error', el.startChar, {})
    this.signs(el)
    const id = this.newId('n')
    this.spans.set(id, { from: el.startChar, to: el.endChar })
    this.measure.events.push(rest ? this.rest(el, id, duration) : this.heads(el, id, duration))
    if (el.endTriplet) this.tuplet = null
  }

  /**
   * Five, seven or nine with no number said stand in the time of three where the metre is compound; the
   * parser knows two alone.
   */
  private usualRatio(el: AbcElement): Fraction | null {
    const said = /\((\d)(:*\d*)/.exec(
      this.prepared.text.slice(el.startChar, el.endChar).replace(/"[^"]*"/g, ''),
    )
    const plain = said !== null && !/\d/.test(said[2]!) && [5, 7, 9].includes(Number(said[1]))
    return plain && isCompound(this.metre) ? frac(3, Number(said[1])) : null
  }

  private wholeRests(count: number, hidden: boolean) {
    for (let i = 0; i < count; i++) {
      if (i > 0) this.closeMeasure()
      this.measure.events.push({
        kind: 'rest',
        id: this.newId('n'),
        duration: measureLength(this.metre),
        ...(hidden && { hidden }),
      })
    }
  }

  private common(el: AbcElement, id: string, duration: Fraction) {
    const chords = (el.chord ?? []).filter(c => c.position === 'default' || c.position === undefined)
    const remarks = (el.chord ?? []).filter(c => !chords.includes(c)).flatMap(c => linesOf(c.name))
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
    const grace = el.gracenotes?.map(g => this.pitch(g, el.startChar))
    const heads = el.pitches!.map(p => ({
      pitch: this.pitch(p, el.startChar),
      ...(p.startTie && { tied: true }),
    }))
    this.accidentals.tie(el.pitches!, heads)
    heads.sort(
      (a, b) =>
        a.pitch.octave * 7 + STEPS.indexOf(a.pitch.step) - b.pitch.octave * 7 - STEPS.indexOf(b.pitch.step),
    )
    this.trackSlurs(el, id)
    const event: Mutable<NoteEvent> = { kind: 'note', ...this.common(el, id, duration), heads }
    if (grace) event.grace = grace
    this.decorate(el, event)
    return event
  }

  /** Signs of the way through that stand over a note or a rest. */
  private signs(el: AbcElement) {
    for (const name of el.decoration ?? []) {
      if (CLOSING[name]) Object.assign(this.measure, CLOSING[name])
      else if (name === 'segno') this.measure.segno = true
      else if (name === 'coda' && this.prepared.toCodaAt(el.startChar, el.endChar)) this.measure.toCoda = true
      else if (name === 'coda')
        this.codas.push({
          measure: this.measures.length,
          sign: this.measure.events.length === 0 ? this.measure : null,
        })
    }
  }

  private decorate(el: AbcElement, event: Mutable<NoteEvent>) {
    const ofNote = (el.decoration ?? []).filter(d => !CLOSING[d] && !OPENING[d])
    const { marks, dynamic, finger, unknown } = decorated(ofNote, this.o.harmonics)
    if (marks.length > 0) event.marks = marks
    if (dynamic) event.dynamic = dynamic
    const together =
      finger !== undefined && event.heads.length > 1
        ? fingersTogether(this.prepared.text.slice(el.startChar, el.endChar))
        : { lowest: finger, others: [] }
    if (together.lowest !== undefined) event.finger = together.lowest
    for (const name of [...unknown, ...together.others.map(f => `finger ${f}`)])
      this.report('abc.decoration', 'note', el.startChar, { name })
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

  private pitch(p: AbcPitch, at: number): Pitch {
    const { pitch, unread, elsewhere } = this.accidentals.pitch(p, this.keyAlter, this.o.propagation)
    if (unread !== undefined) this.report('abc.microtone', 'warning', at, { accidental: unread })
    if (elsewhere) this.tellOnce('abc.octaveAccidental', at, elsewhere)
    const octave = pitch.octave + this.o.octavesAt(at)
    return { ...pitch, octave: Math.max(-1, Math.min(9, octave)) }
  }

  private tellOnce<C extends FindingCode>(code: C, at: number, ...values: ValuesOf<C>) {
    if (this.told.has(code)) return
    this.told.add(code)
    this.report(code, 'note', at, ...values)
  }
}

/** The parser lays remarks in lines under each other: each is one. */
const linesOf = (text: string) =>
  asTyped(text)
    .split('\n')
    .map(l => l.trim())
    .filter(Boolean)
const oneLine = (text: string) => linesOf(text).join(' ')

/** The parser prints accidentals of chord names as signs; we keep the typed form. */
const plainChord = (name: string) => oneLine(name).replace(/♯/g, '#').replace(/♭/g, 'b')

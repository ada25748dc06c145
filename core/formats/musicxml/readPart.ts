/** Walks the measures of one part and builds the events of one voice. */
import { finding, type Finding, type FindingCode, type Severity, type ValuesOf } from '#core/findings/finding'
import { add, compare, frac, isZero, sub, ZERO, type Fraction } from '#core/music/fraction'
import type { Key } from '#core/music/key'
import { measureLength, sameMetre, secondsPerQuarter, type Metre, type Tempo } from '#core/music/metre'
import { diatonic, STEPS, type Pitch } from '#core/music/pitch'
import {
  MOST,
  type Clef,
  type Dynamic,
  type Measure,
  type NoteEvent,
  type Tune,
  type TuneEvent,
} from '#core/music/tune'
import { layCodas, type Way } from '../way'
import { chordText } from './chordText'
import { NoteGroups } from './groups'
import { divisionsIn, lengthIn } from './lengths'
import {
  handOf,
  handOfLowest,
  implicit,
  isTouched,
  marksOf,
  measureSigns,
  metreIn,
  notKeptOf,
  startsTie,
  syllablesOf,
  transposedBy,
} from './notations'
import { clefOf, endingNumbers, keyIn, repeatTimes, tempoIn } from './partSigns'
import { DYNAMICS, KNOWN_NOTATIONS } from './words'
import { directionWay, soundWay } from './wayXml'
import { child, children, textAt, type XmlNode } from './xml'

type Mutable<T> = { -readonly [K in keyof T]: T[K] }
type Draft = Omit<Mutable<Measure>, 'events'> & { events: TuneEvent[] }

export class PartReader {
  private readonly found = new Map<string, Finding>()
  private readonly measures: Draft[] = []
  private readonly groups = new NoteGroups(() => this.newId('t'))
  private ids = 0
  private divisions = frac(1)
  private key: Key = { step: 'C', alter: 0, mode: 'major' }
  private metre: Metre = { beats: 4, unit: 4 }
  private first: { key: Key; metre: Metre; clef: Clef } | null = null
  private clef: Clef = 'treble'
  private tempo: Tune['tempo']
  private ending: number[] | null = null
  private readonly codas: { measure: number; sign: Draft | null }[] = []
  /** What stands before the next note of our voice. */
  private waiting: { chord?: string; remarks: string[]; dynamic?: Dynamic; grace: Pitch[] } = {
    remarks: [],
    grace: [],
  }
  private number = 0
  /** From "pizz." on, until "arco". */
  private plucked = false

  constructor(private readonly voice: string) {}

  private tell<C extends FindingCode>(code: C, severity: Severity, ...values: ValuesOf<C>) {
    const key = code + JSON.stringify(values)
    if (this.found.size < 200 && !this.found.has(key))
      this.found.set(key, finding(code, severity, { measure: this.number }, ...values))
  }

  private newId(kind: 'n' | 'm' | 't') {
    return `${kind}${++this.ids}`
  }

  /** False when there are more measures than we take. */
  measure(node: XmlNode): boolean {
    if (this.measures.length >= MOST.measures) {
      this.tell('file.tooManyMeasures', 'warning', { limit: MOST.measures })
      return false
    }
    this.number++
    let m: Draft = { id: this.newId('m'), events: [] }
    let at = ZERO
    let ours = ZERO
    /** As far as any voice goes. */
    let far = ZERO
    for (const c of node.children) {
      if (c.name === 'note') {
        const own = (textAt(c, 'voice') || '1') === this.voice
        const length = child(c, 'grace') ? ZERO : this.durationOf(c)
        if (own) ours = this.note(c, m, at, ours, length)
        if (!child(c, 'chord')) at = add(at, length)
        if (compare(at, far) > 0) far = at
      } else if (c.name === 'backup') at = sub(at, this.durationOf(c))
      else if (c.name === 'forward') at = add(at, this.durationOf(c))
      else if (c.name === 'attributes') this.attributes(c, m)
      else if (c.name === 'direction') this.direction(c, m)
      else if (c.name === 'harmony') this.waiting.chord = chordText(c)
      else if (c.name === 'barline') {
        const within = c.attributes.location === 'middle' && m.events.length > 0
        const repeat = within && child(c, 'repeat')?.attributes.direction
        if (repeat === 'backward') this.barline(c, m)
        if (repeat) {
          ours = this.silentUpTo(m, ours, at)
          this.close(m)
          m = { id: this.newId('m'), events: [] }
        }
        if (repeat !== 'backward') this.barline(c, m)
      } else if (c.name === 'sound') this.sound(c, m)
    }
    // Where our voice is silent the measure is there all the same.
    const full = measureLength(this.metre)
    const end = isZero(far) && !implicit(node) ? full : compare(far, full) < 0 ? far : full
    const left = sub(end, ours)
    if (left.n > 0 && m.events.length <= MOST.events)
      m.events.push({
        kind: 'rest',
        id: this.newId('n'),
        duration: left,
        ...(m.events.length > 0 && { hidden: true }),
      })
    this.close(m)
    return true
  }
  private closing = false

  /** Also in the middle of a measure, where a repeat sign cuts it in two. */
  private close(m: Draft) {
    this.first ??= { key: this.key, metre: this.metre, clef: this.clef }
    if (this.ending) m.endings = this.ending
    if (this.closing) this.ending = null
    this.closing = false
    if (m.events.length > 0) this.measures.push(m)
  }

  /** Our voice is silent from where it has come to, up to a place in the measure; returns where it is then. */
  private silentUpTo(m: Draft, ours: Fraction, at: Fraction): Fraction {
    if (compare(at, ours) <= 0) return ours
    m.events.push({ kind: 'rest', id: this.newId('n'), duration: sub(at, ours), hidden: true })
    return at
  }

  finish(): {
    tune: Pick<Tune, 'key' | 'metre' | 'clef' | 'measures' | 'slurs' | 'lastId' | 'tempo'>
    findings: Finding[]
  } {
    const { key, metre, clef } = this.first ?? { key: this.key, metre: this.metre, clef: this.clef }
    if (this.groups.openSlur) this.tell('file.openSlur', 'warning')
    if (this.waiting.grace.length > 0)
      this.tell('file.notKept', 'note', { what: 'grace notes after the last note' })
    layCodas(this.measures, this.codas)
    return {
      tune: {
        key,
        metre,
        clef,
        measures: this.measures,
        slurs: this.groups.slurs,
        lastId: this.ids,
        ...(this.tempo && { tempo: this.tempo }),
      },
      findings: [...this.found.values()],
    }
  }

  private durationOf = (n: XmlNode) => lengthIn(n, this.divisions, code => this.tell(code, 'warning'))

  private attributes(a: XmlNode, m: Draft) {
    this.divisions = divisionsIn(a) ?? this.divisions
    const sign = children(a, 'clef')[0]
    if (sign && !this.first) this.clef = clefOf(sign)
    const by = transposedBy(a)
    if (by !== 0) this.tell('file.transposed', 'note', { by })
    for (const sign of measureSigns(a)) this.tell('file.notKept', 'warning', { what: sign })
    const key = child(a, 'key')
    if (key) this.setKey(key, m)
    const time = child(a, 'time')
    if (time) this.setMetre(time, m)
  }

  private setKey(node: XmlNode, m: Draft) {
    const key = keyIn(node)
    if (!key) return this.tell('file.badKey', 'warning')
    const changed = key.step !== this.key.step || key.alter !== this.key.alter || key.mode !== this.key.mode
    if (this.first && changed) m.key = key
    this.key = key
  }

  private setMetre(node: XmlNode, m: Draft) {
    const metre = metreIn(node)
    if (!metre) return this.tell('file.badMetre', 'warning')
    if (this.first && !sameMetre(metre, this.metre)) m.metre = metre
    this.metre = metre
  }

  private direction(d: XmlNode, m: Draft) {
    const { way, coda, saidInWords } = directionWay(d)
    for (const type of children(d, 'direction-type'))
      for (const c of type.children) {
        if (c.name === 'rehearsal' && c.text) m.label = c.text
        else if (c.name === 'words' && !saidInWords) this.words(c.text)
        else if (c.name === 'dynamics') this.dynamics(c)
        else if (c.name === 'metronome') this.metronome(c)
        else if (['wedge', 'octave-shift', 'pedal', 'dashes', 'bracket'].includes(c.name))
          this.tell('file.notKept', 'note', { what: c.name })
      }
    Object.assign(m, way)
    if (coda) {
      delete m.coda
      this.codas.push({ measure: this.measures.length, sign: m.events.length === 0 ? m : null })
    }
    const sound = child(d, 'sound')
    if (sound) this.heard(sound)
  }

  private words(text: string) {
    if (/^pizz/i.test(text.trim())) this.plucked = true
    else if (/^arco\b/i.test(text.trim())) this.plucked = false
    else if (text.trim() !== '' && this.waiting.remarks.length <= MOST.remarks)
      this.waiting.remarks.push(text)
  }

  private dynamics(n: XmlNode) {
    const dynamic = DYNAMICS.find(d => child(n, d))
    if (dynamic) this.waiting.dynamic = dynamic
    else if (n.children[0]) this.tell('file.notKept', 'note', { what: n.children[0].name })
  }

  private metronome(n: XmlNode) {
    this.setTempo(tempoIn(n))
  }

  /** The first is the tune's; one that differs is told. */
  private setTempo(tempo: Tempo | undefined) {
    this.tempo ??= tempo
    if (tempo && secondsPerQuarter(tempo) !== secondsPerQuarter(this.tempo!))
      this.tell('file.notKept', 'note', { what: 'a change of tempo' })
  }

  private sound(n: XmlNode, m: Draft) {
    this.heard(n)
    Object.assign(m, soundWay(n) satisfies Way)
  }

  private heard(n: XmlNode) {
    const { pizzicato } = n.attributes
    if (pizzicato !== undefined) this.plucked = pizzicato === 'yes'
    const tempo = Number(n.attributes.tempo ?? NaN)
    if (tempo >= 1 && tempo <= 999) this.setTempo({ beat: frac(1), perMinute: tempo })
  }

  private barline(b: XmlNode, m: Draft) {
    const repeat = child(b, 'repeat')?.attributes.direction
    if (repeat === 'forward') m.repeatStart = true
    const times = repeat === 'backward' ? repeatTimes(b) : 0
    if (times === 1) this.tell('file.notKept', 'warning', { what: 'a repeat that is played once' })
    if (times >= 2) m.repeatEnd = true
    if (times >= 3) m.repeatTimes = times
    const style = textAt(b, 'bar-style')
    if (b.attributes.location !== 'left') {
      if (style === 'light-light') m.barline = 'double'
      if (style === 'light-heavy' && repeat !== 'backward') m.barline = 'final'
    }
    const ending = child(b, 'ending')
    if (!ending) return
    if (ending.attributes.type === 'start') {
      this.ending = endingNumbers(ending)
      if (!this.ending) this.tell('file.badEnding', 'warning')
    } else this.closing = true
  }

  /** Adds a note of our voice; gives back how far our voice has come in the measure. */
  private note(n: XmlNode, m: Draft, at: Fraction, ours: Fraction, length: Fraction): Fraction {
    if (child(n, 'cue')) {
      this.tell('file.notKept', 'note', { what: 'cue notes' })
      return ours
    }
    const rest = child(n, 'rest')
    const pitch = rest ? null : this.pitch(n)
    if (!rest && !pitch) {
      this.tell('file.notKept', 'warning', {
        what: child(n, 'unpitched') ? 'unpitched notes' : 'a note without a pitch',
      })
      return ours
    }
    if (child(n, 'grace')) {
      if (child(n, 'chord')) this.tell('file.notKept', 'note', { what: 'the upper of grace notes together' })
      else if (pitch && this.waiting.grace.length <= MOST.grace) this.waiting.grace.push(pitch)
      return ours
    }
    if (isZero(length) || m.events.length > MOST.events) return ours
    if (child(n, 'chord') && pitch) {
      this.addHead(m, n, pitch)
      return ours
    }
    const now = this.silentUpTo(m, ours, at)
    if (compare(at, now) < 0) {
      this.tell('file.overlap', 'warning')
      return now
    }
    m.events.push(this.event(n, pitch, length))
    return add(now, length)
  }

  private pitch(n: XmlNode): Pitch | null {
    const p = child(n, 'pitch')
    const step = STEPS.find(s => s === textAt(p, 'step'))
    const octave = Number(textAt(p, 'octave') || NaN)
    const alter = Number(textAt(p, 'alter') || 0)
    if (!p || !step || !Number.isInteger(octave) || octave < -1 || octave > 9 || !Number.isFinite(alter))
      return null
    if (!Number.isInteger(alter) || Math.abs(alter) > 2)
      this.tell('file.notKept', 'note', { what: 'microtones' })
    if (isTouched(n)) this.tell('file.touched', 'warning')
    return { step, octave, alter: Math.max(-2, Math.min(2, Math.round(alter))) }
  }

  private addHead(m: Draft, n: XmlNode, pitch: Pitch) {
    const last = m.events.at(-1)
    if (last?.kind !== 'note' || last.heads.length > MOST.heads) return
    const same = last.heads.filter(
      h => diatonic(h.pitch) === diatonic(pitch) && h.pitch.alter === pitch.alter,
    )
    // Two strings may sound in unison; more than that is a slip.
    if (same.length > 1) return
    const added = { pitch, ...(startsTie(n) && { tied: true }) }
    const heads = [...last.heads, added].sort((a, b) => diatonic(a.pitch) - diatonic(b.pitch))
    const { finger, string, ...plain } = last
    const { hand, lost } = handOfLowest(
      { finger, string },
      handOf(children(n, 'notations')),
      heads[0] === added,
    )
    if (lost)
      this.tell('file.notKept', 'note', { what: 'fingers and strings of the upper of notes together' })
    m.events[m.events.length - 1] = { ...plain, ...hand, heads }
  }

  private event(n: XmlNode, pitch: Pitch | null, duration: Fraction): TuneEvent {
    const id = this.newId('n')
    const notations = children(n, 'notations')
    const inNotations = (name: string) => notations.flatMap(x => children(x, name))
    for (const c of notations.flatMap(x => x.children))
      if (!KNOWN_NOTATIONS.has(c.name)) this.tell('file.notKept', 'note', { what: c.name })
    for (const what of notKeptOf(notations)) this.tell('file.notKept', 'note', { what })
    const { chord, remarks, dynamic, grace } = this.waiting
    this.waiting = { remarks: [], grace: [] }
    const tuplet = this.groups.tuplet(n, inNotations('tuplet'))
    const common = {
      id,
      duration,
      ...(tuplet && { tuplet }),
      ...(chord && { chord }),
      ...(remarks.length > 0 && { remarks }),
    }
    if (!pitch) {
      if (grace.length > 0 || dynamic) this.waiting = { remarks: [], grace, ...(dynamic && { dynamic }) }
      return { kind: 'rest', ...common, ...(n.attributes['print-object'] === 'no' && { hidden: true }) }
    }
    if (!this.groups.slur(inNotations('slur'), id)) this.tell('file.openSlur', 'warning')
    const event: Mutable<NoteEvent> = {
      kind: 'note',
      ...common,
      heads: [{ pitch, ...(startsTie(n) && { tied: true }) }],
    }
    if (grace.length > 0) event.grace = grace
    const inner = inNotations('dynamics')
      .map(x => DYNAMICS.find(d => child(x, d)))
      .find(Boolean)
    if (dynamic ?? inner) event.dynamic = dynamic ?? inner
    const marks = marksOf(notations)
    if (this.plucked && !marks.includes('pizzicato')) marks.push('pizzicato')
    if (marks.length > 0) event.marks = marks
    if (child(n, 'notehead')?.attributes.parentheses === 'yes') event.optional = true
    Object.assign(event, handOf(notations))
    const syllables = syllablesOf(children(n, 'lyric'))
    if (syllables) event.syllables = syllables
    return event
  }
}

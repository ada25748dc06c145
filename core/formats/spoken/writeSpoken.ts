/** A fingered tune as string-and-finger text. Grammar: docs/string-and-finger.md. */
import { finding, type Finding } from '#core/findings/finding'
import type { FingeredNote } from '#core/fingering/fingering'
import { reachAt, type HandOptions } from '#core/instruments/hands'
import { INSTRUMENTS, lettersOf } from '#core/instruments/instruments'
import { formatTuning, isHome, type Tuning } from '#core/instruments/tunings'
import { compare, div, equal, formatFraction, frac, mul, type Fraction } from '#core/music/fraction'
import { keyCode } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { midi, type Midi, type Pitch } from '#core/music/pitch'
import { writtenLength } from '#core/music/edit/lengths'
import { type InstrumentId, type Measure, type NoteEvent, type Tune, type TuneEvent } from '#core/music/tune'
import { hasCrossingSlurs } from '../crossing'
import { homeFrom, positionText } from './places'
import { noteId } from '#core/music/ids'
import { FORMAT_NAMES } from '../fileKinds'

const PER_LINE = 4
/** A note of up to so many places is held with dashes; a longer one gets a number. */
const DASHES = 4
/** Halfway up the string, where the harmonic sounds as the pressed note does. */
const OCTAVE = 12

export interface SpokenOptions {
  readonly instrument: InstrumentId
  readonly tuning: Tuning
  readonly hand?: HandOptions
}
type Fingers = ReadonlyMap<string, FingeredNote>

/** Writes the tune with the fingers given by head id. A note without one is a rest in the text, and told. */
export function writeSpoken(
  tune: Tune,
  fingers: Fingers,
  o: SpokenOptions,
): { text: string; findings: readonly Finding[] } {
  const writer = new Speaker(tune, fingers, o)
  return { text: writer.text(), findings: writer.findings }
}

/** What of a tune the text has no place for. */
function losses(tune: Tune, fingers: Fingers, o: SpokenOptions): string[] {
  const { measures, tempo, play, composer, kind, learnedFrom } = tune
  const notes = measures.flatMap(m => m.events).filter((e): e is NoteEvent => e.kind === 'note')
  const lost: readonly (readonly [string, unknown])[] = [
    ['the tempo', tempo],
    ['its other titles', tune.otherTitles.length],
    ['who made it, its kind and whom it was learned from', composer || kind || learnedFrom],
    ['notes about it, tags and rights', tune.notes || tune.tags.length || tune.rights !== 'unknown'],
    ['which tunes it goes with, and which it is not', tune.settings || tune.notToBeConfusedWith.length],
    ['its clef', tune.clef !== INSTRUMENTS[o.instrument].clef],
    ['rests that are not shown', measures.some(m => m.events.some(e => e.kind === 'rest' && e.hidden))],
    ['words', notes.some(e => e.syllables)],
    ['dynamics', notes.some(e => e.dynamic)],
    ['marks', notes.some(e => e.marks?.some(m => m !== 'harmonic' || !isTouched(e, fingers)))],
    ['remarks', measures.some(m => m.events.some(e => e.remarks))],
    ['notes that may be left out', notes.some(e => e.optional)],
    ['jumps and their signs', measures.some(m => m.segno || m.coda || m.fine || m.toCoda || m.jump)],
    ['repeats of more than twice', measures.some(m => m.repeatTimes)],
    ['how often it is played', play.struck.length > 0 || play.times > 1],
    ['the order of its parts', play.parts],
    ['slurs that cross each other', hasCrossingSlurs(tune)],
  ]
  return lost.flatMap(([what, there]) => (there ? [what] : []))
}

const isTouched = (e: NoteEvent, fingers: Fingers) =>
  e.heads.some((_, i) => fingers.get(noteId(e.id, i))?.harmonic)

/** A part's name between brackets, with no sign in it that ends one or begins a bar. */
const labelText = (label: string) =>
  label.trim().replace(/\s+/g, ' ').replace(/\[/g, '(').replace(/\]/g, ')').replace(/\|/g, '/')

class Speaker {
  readonly findings: Finding[] = []
  private readonly unit: Fraction
  private readonly opens = new Map<string, number>()
  private readonly closes = new Map<string, number>()
  private string = -1
  private anchor = 2

  constructor(
    private readonly tune: Tune,
    private readonly fingers: Fingers,
    private readonly o: SpokenOptions,
  ) {
    this.unit = commonUnit(tune)
    for (const s of tune.slurs) {
      this.opens.set(s.from, (this.opens.get(s.from) ?? 0) + 1)
      this.closes.set(s.to, (this.closes.get(s.to) ?? 0) + 1)
    }
    for (const what of losses(tune, fingers, o))
      this.findings.push(finding('file.notCarried', 'note', {}, { format: FORMAT_NAMES.txt, what }))
  }

  text(): string {
    const { tune, o } = this
    const head = [
      `title: ${tune.title.replace(/\n/g, ' ')}`,
      `instrument: ${o.instrument}`,
      ...(isHome(o.instrument, o.tuning) ? [] : [`tuning: ${formatTuning(o.tuning)}`]),
      `metre: ${metreName(tune.metre)}`,
      `key: ${keyCode(tune.key)}`,
      `unit: ${formatFraction(mul(this.unit, frac(1, 4)))}`,
    ]
    const bars = tune.measures.map((m, i) => this.measure(m, tune.measures[i - 1], tune.measures[i + 1]))
    const lines: string[] = []
    for (let i = 0; i < bars.length; i += PER_LINE) lines.push(bars.slice(i, i + PER_LINE).join(' '))
    return [...head, '', ...lines].join('\n') + '\n'
  }

  private measure(m: Measure, before?: Measure, after?: Measure): string {
    const opening = [
      ...(m.repeatStart ? ['|:'] : []),
      ...(m.endings && before?.endings?.join() !== m.endings.join() ? [`[${m.endings.join(',')}`] : []),
      ...(m.label ? [`[${labelText(m.label)}]`] : []),
      ...(m.key ? [`key=${keyCode(m.key)}`] : []),
      ...(m.metre ? [`metre=${metreName(m.metre)}`] : []),
    ]
    const words = m.events.flatMap((e, i) => this.event(e, m.events[i - 1], m.events[i + 1]))
    const leaves = m.endings && after && !after.endings && !after.repeatStart
    const bar = m.repeatEnd
      ? ':|'
      : m.barline === 'final'
        ? '|]'
        : m.barline === 'double' || leaves
          ? '||'
          : '|'
    return [...opening, ...words, bar].join(' ')
  }

  private event(e: TuneEvent, before?: TuneEvent, after?: TuneEvent): string[] {
    const group = e.tuplet?.group
    const out: string[] = []
    if (e.tuplet && before?.tuplet?.group !== group)
      out.push(
        e.tuplet.actual === 3 && e.tuplet.normal === 2 ? '{' : `{${e.tuplet.actual}:${e.tuplet.normal}`,
      )
    if (e.chord) out.push(`"${e.chord.replace(/"/g, "'").replace(/\n/g, ' ')}"`)
    const count = div(writtenLength(e), this.unit)
    const dashed = count.d === 1 && count.n <= DASHES
    const length = dashed || equal(count, frac(1)) ? '' : `:${formatFraction(count)}`
    out.push('('.repeat(this.opens.get(e.id) ?? 0))
    out.push(...(e.kind === 'rest' ? [`r${length}`] : this.note(e, length)))
    if (dashed && !length) for (let i = 1; i < count.n; i++) out.push('-')
    out.push(')'.repeat(this.closes.get(e.id) ?? 0))
    if (e.tuplet && after?.tuplet?.group !== group) out.push('}')
    return out.filter(Boolean)
  }

  private note(e: NoteEvent, length: string): string[] {
    const heads = e.heads.map((_, i) => this.fingers.get(noteId(e.id, i)))
    const known = heads.filter(h => h !== undefined)
    // Of two notes together one may be off the instrument.
    if (known.length < heads.length)
      this.findings.push(finding('spoken.unfingered', 'warning', { note: e.id }))
    if (known.length === 0) return [`r${length}`]
    const out: string[] = []
    const anchor = known.find(h => h.finger !== 0)?.anchor ?? this.anchor
    if (anchor !== this.anchor) out.push(`@${positionText(this.o.instrument, anchor)}`)
    this.anchor = anchor
    for (const pitch of e.grace ?? []) out.push(...this.grace(pitch, midi(e.heads[0]!.pitch), known[0]!))
    if (known.length === 1) {
      const h = known[0]!
      if (h.string !== this.string) out.push(this.letter(h.string))
      this.string = h.string
      out.push(this.finger(h) + touched(h, e) + length + (e.heads.some(x => x.tied) ? '~' : ''))
    } else {
      out.push(
        known.map(h => this.letter(h.string) + this.finger(h) + touched(h, e)).join('+') +
          length +
          (e.heads.some(x => x.tied) ? '~' : ''),
      )
      this.string = known.at(-1)!.string
    }
    return out
  }

  /** A grace note in the hand that stands at its note; where the hand has it not, it is left out and told. */
  private grace(pitch: Pitch, written: Midi, by: FingeredNote): string[] {
    const { instrument, tuning, hand } = this.o
    const sounding = midi(pitch) - written + tuning[by.string]! + by.offset
    for (const string of [by.string, by.string - 1, by.string + 1]) {
      const offset = sounding - (tuning[string] ?? Infinity)
      const finger = offset === 0 ? 0 : reachAt(instrument, this.anchor, offset, hand)?.finger
      if (finger === undefined) continue
      const word = `g${this.letter(string)}${this.finger({ finger, offset, anchor: this.anchor })}`
      this.string = string
      return [word]
    }
    this.findings.push(
      finding(
        'file.notCarried',
        'note',
        {},
        { format: FORMAT_NAMES.txt, what: 'grace notes out of the hand' },
      ),
    )
    return []
  }

  private letter = (string: number) =>
    lettersOf(this.o.instrument, this.o.tuning)[string] ?? ['I', 'II', 'III', 'IV', 'V'][string]!

  private finger(n: Pick<FingeredNote, 'finger' | 'offset' | 'anchor'>): string {
    if (n.finger === 0) return '0'
    const home = homeFrom(this.o.instrument, n.anchor, n.finger, this.o.hand) ?? 0
    const away = n.offset - n.anchor - home
    return away < 0 ? '<'.repeat(-away) + n.finger : `${n.finger}${'>'.repeat(away)}`
  }
}

/**
 * Said of a harmonic that is wished for, or sounds higher than where it is touched; an octave that happens to
 * be taken so is the same note.
 */
const touched = ({ harmonic, offset }: FingeredNote, { marks }: NoteEvent) =>
  harmonic && (marks?.includes('harmonic') || offset !== OCTAVE) ? 'o' : ''

/** The longest of eighth, quarter and sixteenth of which most notes are whole multiples. */
function commonUnit(tune: Tune): Fraction {
  const lengths = tune.measures.flatMap(m => m.events.map(writtenLength))
  if (lengths.length === 0) return frac(1, 2)
  for (const unit of [frac(1), frac(1, 2)]) {
    const short = lengths.filter(l => compare(l, unit) < 0 || div(l, unit).d !== 1).length
    if (short * 5 <= lengths.length) return unit
  }
  return frac(1, 4)
}

/** A tune as MusicXML 4 (partwise), alone or with the fingers, strings and bows of an arrangement. */
import { zipSync, strToU8 } from 'fflate'
import { finding, type Finding } from '#core/findings/finding'
import { frac, mul, toNumber, type Fraction } from '#core/music/fraction'
import type { Midi } from '#core/music/pitch'
import { placeEvents, placeMeasures, type PlacedMeasure } from '#core/music/timeline'
import { type NoteEvent, type Tune, type TuneEvent } from '#core/music/tune'
import { writtenLength } from '#core/music/edit/lengths'
import { CLEFS, MARK_PLACES, OTHER_MARKS } from './words'
import { identification } from './facts'
import {
  chordElement,
  dots,
  keyElement,
  numbered,
  pitchElement,
  timeElement,
  tuningElements,
  valueOf,
  wayElement,
} from './elements'
import { el, type Element } from './xml'
import { beamParts, type BeamPart } from '#core/page/beams'
import { notate } from '#core/page/notation'
import { writtenWay } from './wayXml'
import { noteId } from '#core/music/ids'
import { FORMAT_NAMES } from '../fileKinds'

/** What an arrangement adds: by head id and by event id. */
export interface Markings {
  readonly fingers?: ReadonlyMap<string, { readonly finger: number | 'T'; readonly string: number }>
  readonly bows?: ReadonlyMap<string, 'down' | 'up'>
  /** Sounding pitch of each string, highest first, when it is a cross-tuning. */
  readonly tuning?: readonly Midi[]
  /** Semitones from written to sounding: -12 for a bass. */
  readonly transpose?: number
  readonly partName?: string
}

export interface WrittenXml {
  readonly text: string
  readonly findings: readonly Finding[]
}

export function writeMusicXml(tune: Tune, markings: Markings = {}): WrittenXml {
  const score = el(
    'score-partwise',
    [
      el('work', [el('work-title', tune.title)]),
      identification(tune),
      el('part-list', [
        el('score-part', [el('part-name', markings.partName ?? tune.instrument ?? 'Melody')], { id: 'P1' }),
      ]),
      el('part', new PartWriter(tune, markings).measures(), { id: 'P1' }),
    ],
    { version: '4.0' },
  )
  const lost =
    tune.play.struck.length > 0
      ? [
          finding(
            'file.notCarried',
            'note',
            {},
            { format: FORMAT_NAMES.musicxml, what: 'struck-out repeats' },
          ),
        ]
      : []
  return { text: `<?xml version="1.0" encoding="UTF-8"?>\n${score.xml}\n`, findings: lost }
}

/** The same, packed as .mxl. */
export function writeMxl(
  tune: Tune,
  markings: Markings = {},
): { bytes: Uint8Array; findings: readonly Finding[] } {
  const { text, findings } = writeMusicXml(tune, markings)
  const path = el('rootfile', [], {
    'full-path': 'score.musicxml',
    'media-type': 'application/vnd.recordare.musicxml+xml',
  })
  const container = el('container', [el('rootfiles', [path])])
  const bytes = zipSync({
    'META-INF/container.xml': strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${container.xml}\n`),
    'score.musicxml': strToU8(text),
  })
  return { bytes, findings }
}

const lcm = (a: number, b: number) => {
  let [x, y] = [a, b]
  while (y !== 0) [x, y] = [y, x % y]
  return (a / x) * b
}

class PartWriter {
  private readonly divisions: number
  private readonly slursFrom = new Map<string, number[]>()
  private readonly slursTo = new Map<string, number[]>()
  private readonly placed: readonly PlacedMeasure[]
  private readonly beamed: ReadonlyMap<string, readonly BeamPart[]>
  private tieOpen = new Set<string>()
  /** Verses in which a word goes on. */
  private readonly wordOpen = new Set<number>()

  constructor(
    private readonly tune: Tune,
    private readonly markings: Markings,
  ) {
    const all = tune.measures.flatMap(m => m.events)
    this.divisions = all.reduce((n, e) => lcm(n, e.duration.d), 1)
    this.placed = placeMeasures(tune)
    this.beamed = beamParts(notate(tune))
    this.numberSlurs()
  }

  /** Slurs open at the same time get different numbers, 1 to 16. */
  private numberSlurs() {
    const order = new Map(placeEvents(this.tune).map((p, i) => [p.event.id, i]))
    const busy: number[] = []
    for (const s of [...this.tune.slurs].sort((a, b) => order.get(a.from)! - order.get(b.from)!)) {
      const [from, to] = [order.get(s.from)!, order.get(s.to)!]
      let n = busy.findIndex(end => end < from)
      if (n < 0) n = busy.length
      busy[n] = to
      this.slursFrom.set(s.from, [...(this.slursFrom.get(s.from) ?? []), n + 1])
      this.slursTo.set(s.to, [...(this.slursTo.get(s.to) ?? []), n + 1])
    }
  }

  measures(): Element[] {
    return this.placed.map((m, i) => this.measure(m, this.placed[i - 1], this.placed[i + 1]))
  }

  private measure(m: PlacedMeasure, before?: PlacedMeasure, after?: PlacedMeasure): Element {
    const { measure } = m
    const opensEnding = measure.endings && before?.measure.endings?.join() !== measure.endings.join()
    const closesEnding = measure.endings && after?.measure.endings?.join() !== measure.endings.join()
    const ending = (type: string) => el('ending', [], { number: measure.endings!.join(','), type })
    const style = { double: 'light-light', final: 'light-heavy' }[measure.barline as string]
    const left =
      (measure.repeatStart || opensEnding) &&
      el(
        'barline',
        [
          measure.repeatStart && el('bar-style', 'heavy-light'),
          opensEnding && ending('start'),
          measure.repeatStart && el('repeat', [], { direction: 'forward' }),
        ],
        { location: 'left' },
      )
    const right =
      (measure.repeatEnd || style || closesEnding) &&
      el(
        'barline',
        [
          (style || measure.repeatEnd) && el('bar-style', style ?? 'light-heavy'),
          closesEnding && ending('stop'),
          measure.repeatEnd && el('repeat', [], { direction: 'backward', times: measure.repeatTimes }),
        ],
        { location: 'right' },
      )
    const first = m.index === 0
    const way = writtenWay(measure)
    return el(
      'measure',
      [
        left,
        this.attributes(m, first),
        measure.label && el('direction', [el('direction-type', [el('rehearsal', measure.label)])]),
        ...way.opening.map(wayElement),
        first && this.tempo(),
        ...measure.events.flatMap((e, i) => this.event(e, measure.events[i - 1], measure.events[i + 1])),
        ...way.closing.map(wayElement),
        right,
      ],
      numbered(m, before),
    )
  }

  private attributes({ measure }: PlacedMeasure, first: boolean): Element | false {
    const key = first ? this.tune.key : measure.key
    const metre = first ? this.tune.metre : measure.metre
    if (!first && !key && !metre) return false
    const clef = CLEFS.find(c => c[0] === this.tune.clef)!
    const { tuning, transpose } = this.markings
    return el('attributes', [
      first && el('divisions', this.divisions),
      key && keyElement(key),
      metre && timeElement(metre),
      first && el('clef', [el('sign', clef[1]), el('line', clef[2])]),
      first && tuning && el('staff-details', tuningElements(tuning)),
      first &&
        transpose !== undefined &&
        transpose !== 0 &&
        el('transpose', [
          el('diatonic', 0),
          el('chromatic', transpose % 12),
          transpose % 12 === 0 && el('octave-change', transpose / 12),
        ]),
    ])
  }

  private tempo(): Element | false {
    const t = this.tune.tempo
    if (!t) return false
    const unit = valueOf(t.beat)
    const perMinute = t.perMinute * toNumber(t.beat)
    return el(
      'direction',
      [
        el('direction-type', [
          unit
            ? el('metronome', [
                el('beat-unit', unit.type),
                ...dots(unit.dots, 'beat-unit-dot'),
                el('per-minute', t.perMinute),
              ])
            : el('words', `${perMinute} quarters a minute`),
        ]),
        el('sound', [], { tempo: perMinute }),
      ],
      { placement: 'above' },
    )
  }

  private event(e: TuneEvent, before?: TuneEvent, after?: TuneEvent): Element[] {
    const out: Element[] = []
    if (e.chord) out.push(chordElement(e.chord))
    for (const r of e.remarks ?? [])
      out.push(el('direction', [el('direction-type', [el('words', r)])], { placement: 'above' }))
    if (e.kind === 'rest')
      return [
        ...out,
        el('note', [el('rest'), ...this.value(e), this.notations(e, before, after, 0)], {
          'print-object': e.hidden ? 'no' : undefined,
        }),
      ]
    if (e.dynamic)
      out.push(
        el('direction', [el('direction-type', [el('dynamics', [el(e.dynamic)])])], { placement: 'below' }),
      )
    for (const g of e.grace ?? [])
      out.push(el('note', [el('grace'), pitchElement(g), el('voice', 1), el('type', 'eighth')]))
    const open = new Set<string>()
    e.heads.forEach((h, i) => {
      const name = `${h.pitch.step}${h.pitch.octave}`
      const ties = [...(this.tieOpen.has(name) ? ['stop'] : []), ...(h.tied ? ['start'] : [])]
      if (h.tied) open.add(name)
      out.push(
        el('note', [
          i > 0 && el('chord'),
          pitchElement(h.pitch),
          el('duration', this.length(e.duration)),
          ...ties.map(type => el('tie', [], { type })),
          el('voice', 1),
          ...this.value(e).slice(2),
          e.optional && el('notehead', 'normal', { parentheses: 'yes' }),
          ...(i === 0 ? this.beams(e) : []),
          this.notations(e, before, after, i, ties),
          ...(i === 0 ? this.lyrics(e) : []),
        ]),
      )
    })
    this.tieOpen = open
    return out
  }

  private beams(e: NoteEvent): Element[] {
    return (this.beamed.get(e.id) ?? []).map((part, i) => el('beam', part, { number: i + 1 }))
  }

  /** A syllable of each verse: alone, or where it stands in its word. */
  private lyrics(e: NoteEvent): Element[] {
    return (e.syllables ?? []).flatMap((s, verse) => {
      if (!s) return []
      const within = this.wordOpen.has(verse)
      if (s.hyphen) this.wordOpen.add(verse)
      else this.wordOpen.delete(verse)
      const syllabic = s.hyphen ? (within ? 'middle' : 'begin') : within ? 'end' : 'single'
      return [el('lyric', [el('syllabic', syllabic), el('text', s.text)], { number: verse + 1 })]
    })
  }

  private length = (d: Fraction) => toNumber(mul(d, frac(this.divisions)))

  /** Duration, voice, type, dots and time modification, in the order the format wants them. */
  private value(e: TuneEvent): Element[] {
    const unit = valueOf(writtenLength(e))
    return [
      el('duration', this.length(e.duration)),
      el('voice', 1),
      ...(unit ? [el('type', unit.type), ...dots(unit.dots, 'dot')] : []),
      ...(e.tuplet
        ? [
            el('time-modification', [
              el('actual-notes', e.tuplet.actual),
              el('normal-notes', e.tuplet.normal),
            ]),
          ]
        : []),
    ]
  }

  private notations(
    e: TuneEvent,
    before: TuneEvent | undefined,
    after: TuneEvent | undefined,
    head: number,
    ties: readonly string[] = [],
  ): Element | false {
    const group = e.tuplet?.group
    const tuplet = (type: string) => el('tuplet', [], { type, number: 1 })
    const list: Element[] = ties.map(type => el('tied', [], { type }))
    if (head === 0) {
      list.push(...(this.slursTo.get(e.id) ?? []).map(number => el('slur', [], { type: 'stop', number })))
      list.push(...(this.slursFrom.get(e.id) ?? []).map(number => el('slur', [], { type: 'start', number })))
      if (group && before?.tuplet?.group !== group) list.push(tuplet('start'))
      if (group && after?.tuplet?.group !== group) list.push(tuplet('stop'))
    }
    if (e.kind === 'note') list.push(...this.noteMarks(e, head))
    return list.length > 0 && el('notations', list)
  }

  private noteMarks(e: NoteEvent, head: number): Element[] {
    const marks = head === 0 ? (e.marks ?? []) : []
    const groups = new Map<string, Element[]>()
    const put = (group: string, element: Element) =>
      groups.set(group, [...(groups.get(group) ?? []), element])
    for (const [mark, group, name] of MARK_PLACES) if (marks.includes(mark)) put(group, el(name))
    for (const [mark, group, name] of OTHER_MARKS)
      if (marks.includes(mark)) put(group, name === 'scoop' ? el(name) : el(name, mark))
    const bow = head === 0 ? this.markings.bows?.get(e.id) : undefined
    if (bow && !marks.includes(`${bow}bow`)) put('technical', el(`${bow}-bow`))
    const own = this.markings.fingers?.get(noteId(e.id, head))
    const finger = own?.finger ?? (head === 0 ? e.finger : undefined)
    const string = own?.string ?? (head === 0 ? e.string : undefined)
    // An open string says it once: by the sign where it has one, else by its finger.
    if (finger === 'T') put('technical', el('thumb-position'))
    else if (finger !== undefined && !(finger === 0 && marks.includes('open')))
      put('technical', el('fingering', finger))
    if (string !== undefined) put('technical', el('string', string + 1))
    const elements = [...groups].map(([name, list]) => el(name, list))
    return marks.includes('fermata') ? [...elements, el('fermata')] : elements
  }
}

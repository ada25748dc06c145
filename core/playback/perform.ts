/**
 * A tune as it is played: repeats unfolded, ties joined, grace notes and ornaments given their time, swing
 * laid over it.
 */
import { add, compare, frac, mul, sub, toNumber, ZERO, type Fraction } from '#core/music/fraction'
import { byLetters } from '#core/music/edit/spelling'
import type { Key } from '#core/music/key'
import { beatLength, type Metre } from '#core/music/metre'
import { midi, type Midi, type Pitch, type Semitones } from '#core/music/pitch'
import { ORNAMENT_STEPS } from '#core/music/ornaments'
import { playOrder, type PlayedMeasure } from '#core/music/playOrder'
import { leadsIn, placeMeasures, type PlacedMeasure } from '#core/music/timeline'
import type { Dynamic, NoteEvent, Tune, TuneEvent } from '#core/music/tune'
import { noteId } from '#core/music/ids'

export interface Sounding {
  /** Id of the written note; ornaments carry the id of the note they adorn. */
  readonly id: string
  readonly event: string
  /** Quarters from the start of the performance. */
  readonly start: Fraction
  readonly length: Fraction
  readonly midi: Midi
  /** 0 to 1. */
  readonly loudness: number
  /** Share of the length that really sounds: staccato notes stop early. */
  readonly held: number
  /** Under a slur or tie with the note before: no new attack. */
  readonly legato: boolean
}

export interface PerformedMeasure {
  readonly index: number
  /** 1 the first time through. */
  readonly pass: number
  readonly start: Fraction
  readonly length: Fraction
  readonly metre: Metre
  /** Where in the measure it begins, in quarters: more than 0 for a pickup. */
  readonly offset: Fraction
}

export interface Performance {
  readonly notes: readonly Sounding[]
  readonly measures: readonly PerformedMeasure[]
  /** Chord names as they come. */
  readonly chords: readonly { readonly start: Fraction; readonly name: string }[]
  readonly length: Fraction
}

export interface PerformOptions {
  /** Written minus sounding pitch of the instrument. */
  readonly writtenAbove?: Semitones
  /** Percent of a beat that the first of two eighths takes: 50 even, 67 a triplet's two thirds. */
  readonly swing?: number
  /** Events slurred to the one before. */
  readonly joined?: ReadonlySet<string>
  /** By the event a stroke begins with: how the bow sounds there. */
  readonly bows?: ReadonlyMap<string, BowSound>
  /** Only these events, once, in the order they are written: a phrase or a selection. */
  readonly only?: ReadonlySet<string>
}

/** What is heard of a bow stroke where it begins. */
export interface BowSound {
  /** A hooked bow, or set anew: the note before ends early. */
  readonly hook: boolean
  readonly lift: boolean
  /** Hair against the time it takes, as a share of the usual: a fast bow is loud, a starved one soft. */
  readonly speed: number
}

/** How much of the note before sounds before a hook, a lift and a plain turn of the bow. */
const HELD_BEFORE = { hook: 0.7, lift: 0.78, turn: 0.95 }

const LOUDNESS: Readonly<Record<Dynamic, number>> = {
  ppp: 0.2,
  pp: 0.3,
  p: 0.42,
  mp: 0.55,
  mf: 0.68,
  f: 0.8,
  ff: 0.9,
  fff: 1,
}
/** Grace notes and the notes of ornaments: a thirty-second each, less when the note is too short for them. */
const QUICK = frac(1, 8)

export function performTune(tune: Tune, options: PerformOptions = {}): Performance {
  return new Performer(tune, options).run()
}

/** The measures in the order they sound, once or as often as the tune says. */
export function playedMeasures(tune: Tune): PlayedMeasure[] {
  const once = playOrder(tune)
  return Array.from({ length: tune.play.times }, () => once).flat()
}

class Performer {
  private readonly placed: readonly PlacedMeasure[]
  private readonly notes: Sounding[] = []
  private readonly chords: { start: Fraction; name: string }[] = []
  private loudness = LOUDNESS.mf
  /** Of the stroke that is under way. */
  private speed = 1
  /** A chord that was written before what is played, until its first note. */
  private carried: string | undefined
  /** Tones tied into the next event, by MIDI number: index in the list of notes. */
  private tied = new Map<Midi, number>()

  constructor(
    private readonly tune: Tune,
    private readonly o: PerformOptions,
  ) {
    this.placed = placeMeasures(tune)
  }

  run(): Performance {
    const { only } = this.o
    if (only) this.carried = this.chordBefore(only)
    const order = only
      ? this.placed
          .filter(m => m.measure.events.some(e => only.has(e.id)))
          .map(m => ({ index: m.index, pass: 1 }))
      : playedMeasures(this.tune)
    const measures: PerformedMeasure[] = []
    let now = ZERO
    for (const { index, pass } of order) {
      const length = this.measure(this.placed[index]!, pass, now, measures)
      now = add(now, length)
    }
    return { notes: this.notes, measures, chords: this.chords, length: now }
  }

  private measure(m: PlacedMeasure, pass: number, now: Fraction, out: PerformedMeasure[]): Fraction {
    const lead = leadsIn(m, this.placed[m.index - 1]) ? sub(m.full, m.length) : ZERO
    const even = canSwing(m.metre) ? evenBeats(m.measure.events, lead) : () => true
    let at = lead
    let from: { readonly at: Fraction; readonly time: Fraction } | null = null
    let end = lead
    for (const e of m.measure.events) {
      const next = add(at, e.duration)
      if (this.o.only === undefined || this.o.only.has(e.id)) {
        const [begins, ends] = even(e) ? [at, next] : [this.swung(at), this.swung(next)]
        from ??= { at, time: begins }
        const start = add(now, sub(begins, from.time))
        const under = e.chord ?? this.carried
        this.carried = undefined
        if (under) this.chords.push({ start, name: under })
        if (e.kind === 'note') this.note(e, start, sub(ends, begins), m.key, at)
        else this.tied = new Map()
        end = ends
      }
      at = next
    }
    const length = sub(end, from?.time ?? end)
    out.push({ index: m.index, pass, start: now, length, metre: m.felt, offset: from?.at ?? lead })
    return length
  }

  /** The chord that goes on where a stretch begins after it. */
  private chordBefore(only: ReadonlySet<string>): string | undefined {
    const events = this.placed.flatMap(m => m.measure.events)
    const first = events.findIndex(e => only.has(e.id))
    return events.slice(0, first).findLast(e => e.chord)?.chord
  }

  /** Time warped inside every quarter: the first eighth takes the share the swing gives it. */
  private swung(t: Fraction): Fraction {
    const share = frac(Math.round(this.o.swing ?? 50), 100)
    if (share.n * 2 === share.d) return t
    const whole = frac(Math.floor(t.n / t.d))
    const inside = sub(t, whole)
    const half = frac(1, 2)
    return compare(inside, half) <= 0
      ? add(whole, mul(inside, mul(share, frac(2))))
      : add(whole, add(share, mul(sub(inside, half), mul(sub(frac(1), share), frac(2)))))
  }

  private note(e: NoteEvent, start: Fraction, length: Fraction, key: Key, inMeasure: Fraction) {
    if (e.dynamic) this.loudness = LOUDNESS[e.dynamic]
    const marks = new Set(e.marks)
    const stress = (marks.has('accent') ? 0.15 : 0) + (inMeasure.n === 0 ? 0.05 : 0)
    const loudness = Math.min(1, (this.loudness + stress) * this.bowed(e.id))
    const held = marks.has('staccato') ? 0.5 : marks.has('comma') || marks.has('lift') ? 0.85 : 1
    const tiedOn = new Map<Midi, number>()
    const graces = (e.grace ?? []).map(p => this.heard(p))
    // Together never more than a third of the note.
    const room = mul(length, frac(1, 3 * Math.max(1, graces.length)))
    const quick = graces.length === 0 ? ZERO : compare(room, QUICK) < 0 ? room : QUICK
    graces.forEach((g, i) =>
      this.add(e, 0, add(start, mul(quick, frac(i))), quick, g, loudness * 0.9, 1, i > 0),
    )
    const lead = mul(quick, frac(graces.length))
    e.heads.forEach((h, i) => {
      const sounding = this.heard(h.pitch)
      const before = this.tied.get(sounding)
      if (before !== undefined) {
        const n = this.notes[before]!
        this.notes[before] = { ...n, length: sub(add(start, length), n.start), held }
        if (h.tied) tiedOn.set(sounding, before)
        return
      }
      const legato = this.o.joined?.has(e.id) ?? false
      const parts =
        i === 0 ? ornament(h.pitch, key, sub(length, lead), marks) : [{ at: ZERO, pitch: h.pitch }]
      parts.forEach((p, k) => {
        const until = parts[k + 1]?.at ?? sub(length, lead)
        this.add(
          e,
          i,
          add(add(start, lead), p.at),
          sub(until, p.at),
          this.heard(p.pitch),
          loudness,
          parts.length > 1 ? 1 : held,
          legato || k > 0,
        )
      })
      if (h.tied) tiedOn.set(sounding, this.notes.length - 1)
    })
    this.tied = tiedOn
  }

  /** Ends the note before as the bow does, and says how much louder the stroke is for its speed. */
  private bowed(event: string): number {
    const bow = this.o.bows?.get(event)
    if (bow) {
      this.speed = Math.max(0.75, Math.min(1.25, bow.speed ** 0.4))
      const share = bow.hook ? HELD_BEFORE.hook : bow.lift ? HELD_BEFORE.lift : HELD_BEFORE.turn
      for (
        let i = this.notes.length - 1, last = this.notes[i]?.event;
        i >= 0 && this.notes[i]!.event === last;
        i--
      )
        this.notes[i] = { ...this.notes[i]!, held: Math.min(this.notes[i]!.held, share) }
    }
    return this.speed
  }

  private heard = (p: Pitch) => midi(p) - (this.o.writtenAbove ?? 0)

  private add(
    e: NoteEvent,
    head: number,
    start: Fraction,
    length: Fraction,
    sounding: Midi,
    loudness: number,
    held: number,
    legato: boolean,
  ) {
    this.notes.push({
      id: noteId(e.id, head),
      event: e.id,
      start,
      length,
      midi: sounding,
      loudness,
      held,
      legato,
    })
  }
}

/** Only a beat of whole quarters has pairs of eighths to swing. */
export const canSwing = (metre: Metre): boolean => beatLength(metre).d === 1

/** Which events stay even under a swing: those of a tuplet that fills whole quarters by itself. */
function evenBeats(events: readonly TuneEvent[], lead: Fraction): (e: TuneEvent) => boolean {
  const groups = new Map<string, { from: Fraction; to: Fraction }>()
  let at = lead
  for (const e of events) {
    const next = add(at, e.duration)
    if (e.tuplet) groups.set(e.tuplet.group, { from: groups.get(e.tuplet.group)?.from ?? at, to: next })
    at = next
  }
  return ({ tuplet }) => {
    const g = tuplet && groups.get(tuplet.group)
    return g !== undefined && g.from.d === 1 && g.to.d === 1
  }
}

/** Ornaments that are over at once; then the note sounds plain. */
const SHORT = ['mordent', 'upperMordent', 'turn', 'cut'] as const

/**
 * The notes an ornament is made of, with where each begins; the plain note when it has none or no time for
 * it.
 */
function ornament(
  p: Pitch,
  key: Key,
  length: Fraction,
  marks: ReadonlySet<string>,
): { at: Fraction; pitch: Pitch }[] {
  const [above, below] = [byLetters(p, 1, key), byLetters(p, -1, key)]
  const plain = [{ at: ZERO, pitch: p }]
  if (!above || !below || compare(length, mul(QUICK, frac(4))) < 0) return plain
  const quick = (pitches: readonly Pitch[]) => pitches.map((pitch, i) => ({ at: mul(QUICK, frac(i)), pitch }))
  if (marks.has('trill')) {
    const count = Math.floor(toNumber(length) * 8)
    return quick(Array.from({ length: count - (count % 2) }, (_, i) => (i % 2 === 0 ? p : above)))
  }
  const at = (step: number) => (step === 0 ? p : step > 0 ? above : below)
  const short = SHORT.find(m => marks.has(m))
  if (short) return quick(ORNAMENT_STEPS[short].map(at))
  // A roll divides the note in three and marks the divisions with a cut from above and a tap from below.
  if (marks.has('roll') && compare(length, frac(1)) >= 0) {
    const third = mul(length, frac(1, 3))
    const from = (n: number) => mul(third, frac(n))
    return [
      { at: ZERO, pitch: p },
      { at: from(1), pitch: above },
      { at: add(from(1), QUICK), pitch: p },
      { at: from(2), pitch: below },
      { at: add(from(2), QUICK), pitch: p },
    ]
  }
  return plain
}

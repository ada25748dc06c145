/**
 * What may stand in the place of a group of notes: a rhythm of the level with a pitch for each of its places,
 * and what it costs by itself.
 */
import { add, equal, toNumber, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import type { Level } from '#core/levels/levels'
import { beatStrength, inThrees, isCompound, type Metre } from '#core/music/metre'
import { diatonic, midi, type Midi, type Pitch, type Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { rhythmName, rhythmsOf, type Rhythm, type RhythmOptions } from './rhythms'
import { isChordTone, type Source, type SourceNote, type Span } from './source'
import { BREATHLESS, HEAVINESS, LOAD, VERSION_WEIGHTS as W } from './versionWeights'

/** A place in time with a pitch; a rest where the tune has nothing there. */
export interface Slot {
  readonly at: number
  readonly length: Fraction
  readonly quarters: number
  readonly strength: 0 | 1 | 2 | 3
  /** Shorter than a beat; in three eighths to the measure those are the beats. */
  readonly short: boolean
  readonly threes: boolean
  /** The note of the tune it stands for. */
  readonly source: SourceNote | null
  readonly pitch: Pitch | null
  readonly midi: Midi
  /** It is the tune's own note (an octave away with its phrase, where that goes). */
  readonly own: boolean
  /** The string it lies on at home, 0 the highest. */
  readonly string: number
}

export interface Filling {
  readonly slots: readonly Slot[]
  readonly rhythm: Rhythm
  /** Octaves its phrase goes. */
  readonly fold: number
  readonly cost: number
  /** No slots: the note before goes on, at this height. */
  readonly held: Midi | null
  /** What it is to the eye: the same durations and pitches, the same name. */
  readonly name: string
}

export interface FillingOptions extends RhythmOptions {
  /**
   * Notes the level has in the key of a measure (by its index), by height; and those of the tune outside the
   * key.
   */
  readonly allowed: (measure: number) => ReadonlyMap<Midi, Pitch>
  /** Sounding height of each open string as it is written, the highest first. */
  readonly open: readonly Midi[]
  /** Short notes a second, in the tempo it is to be played at: what running notes weigh. */
  readonly quickness: number
  /** The level has notes that begin between beats and sound over them. */
  readonly pushes: boolean
  /** What was tried and could not be played: more cost, by {@link refusalKey}. */
  readonly refusals: ReadonlyMap<string, number>
}

/** So many ways for a place, for a rhythm, for a group: the others cost more anyway. */
const PER_SLOT = 5
const PER_RHYTHM = 14
const PER_GROUP = 36

export const refusalKey = (source: EventId, height: Midi) => `${source} ${height}`
export const rhythmRefusalKey = (group: EventId, rhythm: string) => `${group} ${rhythm}`

/** Fillings of a group for one octave, the cheapest first; never none where anything can sound there. */
export function fillingsOf(source: Source, span: Span, fold: number, o: FillingOptions): Filling[] {
  return rhythmsOf(span.group, o)
    .flatMap(rhythm => filled(source, span, rhythm, fold, o))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, PER_GROUP)
}

function filled(source: Source, span: Span, rhythm: Rhythm, fold: number, o: FillingOptions): Filling[] {
  const { felt } = span.group.measure
  const base = rhythmCost(span, rhythm, o)
  let ways: { slots: Slot[]; cost: number }[] = [{ slots: [], cost: base }]
  for (const s of rhythm.slots) {
    const at = span.start + toNumber(s.at)
    const strength = beatStrength(felt, add(span.group.at, s.at))
    const quarters = toNumber(s.length)
    const place = {
      at,
      length: s.length,
      quarters,
      strength,
      short: isShort(quarters, felt),
      threes: inThrees(felt),
    }
    const choices = s.rest ? [{ slot: restAt(place), cost: W.rest }] : choicesAt(source, span, place, fold, o)
    ways = ways
      .flatMap(w =>
        choices.map(c => {
          const last = w.slots.at(-1)
          const step = last ? transitionCost(source, last, c.slot, o) : 0
          return { slots: [...w.slots, c.slot], cost: w.cost + c.cost + step }
        }),
      )
      .sort((a, b) => a.cost - b.cost)
      .slice(0, PER_RHYTHM)
  }
  return ways.map(w => ({
    slots: w.slots,
    rhythm,
    fold,
    cost: w.cost + lostCost(span, w.slots) + fold * fold * W.foldedNote * w.slots.length,
    held: null,
    name: `${fold} ${w.slots.map(s => `${s.length.n}/${s.length.d}:${s.pitch ? s.midi - 12 * fold : 'z'}`).join(' ')}`,
  }))
}

function rhythmCost(span: Span, rhythm: Rhythm, o: FillingOptions): number {
  const short = rhythm.slots.filter(s => isShort(toNumber(s.length), span.group.measure.felt)).length
  const madeShort = o.level === 1 && !rhythm.own ? short * W.madeShort : 0
  const crowded = of(LOAD.crowded, o.level) * Math.max(0, short - 1) * o.quickness
  const bare =
    o.level > 1 &&
    rhythm.slots.length === 1 &&
    span.notes.length > (span.group.beats[0]!.length.d === 1 ? 2 : 3) &&
    span.group.beats.length === 1
      ? W.bare
      : 0
  const refused = o.refusals.get(rhythmRefusalKey(span.group.id, rhythmName(rhythm))) ?? 0
  // A long and a short are the dance itself where the beat has three.
  const lilt = inThrees(span.group.measure.felt) && rhythmName(rhythm) === LONG_SHORT
  return (rhythm.own || lilt ? 0 : W.otherRhythm) + crowded + madeShort + bare + refused
}
const LONG_SHORT = '1/1 1/2'

/** Notes of the tune nobody hears any more, and a peak or low point among them. */
function lostCost(span: Span, slots: readonly Slot[]): number {
  const heard = new Set(slots.map(s => s.source?.id))
  const heights = new Set(slots.flatMap(s => (s.own && s.source ? [s.source.midi] : [])))
  const begins = (at: number) => slots.some(s => Math.abs(s.at - at) < EPS)
  return span.notes.reduce((sum, n) => {
    if (heard.has(n.id)) return sum
    // What is tied on is heard still, on the beat.
    if (n.strength === 0 && n.event.heads.some(h => h.tied)) return sum + W.lostTied
    const own = n.tiedOn
      ? 0
      : n.strength > 0 && !begins(n.at)
        ? W.lostBeat
        : W.lostOffbeat * (isWeakest(span, n) ? WEAKEST : isAfterStrong(span) ? AFTER_STRONG : 1)
    const edge = heights.has(n.midi) ? 0 : n.peak ? W.peakLost : n.low ? W.lowLost : 0
    const peak = edge * Math.min(1, 2 * (n.until - n.at))
    return sum + own + peak
  }, 0)
}

/** The middle one of three, or a quarter of a beat: least is heard of what falls there. */
function isWeakest(span: Span, n: SourceNote): boolean {
  const { felt } = span.group.measure
  if (span.notes.length <= 2) return false
  const into = n.at - span.start
  return inThrees(felt) ? Math.abs((into % 1.5) - 0.5) < EPS : Math.abs((into % 0.5) - 0.25) < EPS
}
const WEAKEST = 0.6

/**
 * Of even short notes the ones on a strong beat give way first: a long note stands better there, and the
 * short ones after it.
 */
const isAfterStrong = ({ group, notes }: Span) =>
  beatStrength(group.measure.felt, group.at) >= 2 &&
  notes.every(n => equal(n.event.duration, notes[0]!.event.duration))
const AFTER_STRONG = 0.5

type Place = Pick<Slot, 'at' | 'length' | 'quarters' | 'strength' | 'short' | 'threes'>

/** Shorter than a beat. */
const isShort = (quarters: number, metre: Metre) =>
  quarters < (inThrees(metre) && !isCompound(metre) ? 0.5 : 1) - EPS
interface Choice {
  readonly slot: Slot
  readonly cost: number
}

function choicesAt(source: Source, span: Span, place: Place, fold: number, o: FillingOptions): Choice[] {
  const end = place.at + place.quarters
  const main =
    span.notes.find(n => n.at <= place.at + EPS && n.until > place.at + EPS) ??
    span.notes.find(n => n.at > place.at && n.at < end - EPS)
  if (!main) return [{ slot: restAt(place), cost: 0 }]
  const allowed = o.allowed(span.group.measure.index)
  const own = span.notes.flatMap((n): Choice[] => {
    if (n.until <= place.at - EPS && n.at < place.at - EPS && n.strength > 0) return []
    const height = n.midi + 12 * fold
    const pitch = allowed.get(height)
    const refused = o.refusals.get(refusalKey(n.id, height)) ?? 0
    if (!pitch) return []
    // Where a note of before only sounds on, the next one may come early.
    const soundsOn = main.at < place.at - EPS && main.strength > 0
    const later = soundsOn ? W.early : W.later[place.strength]!
    const away = n.at > place.at ? later : W.earlier[place.strength]!
    // One of the tune's own notes that takes another's beat is heard against the harmony there. A pushed one
    // only comes on its beat.
    const pushed = soundsOn || n.until > end + EPS
    const heard = place.strength > 0 && !pushed && !isChordTone(height, main.chord)
    const against = heard ? W.foreign[place.strength]! : 0
    const moved = n === main ? 0 : away + against
    if (n.at >= end - EPS) return []
    return [{ slot: slotAt(place, n, pitch, true, o), cost: moved + refused }]
  })
  // Where the tune's own note is there, nothing else is looked for.
  const there =
    allowed.has(main.midi + 12 * fold) && !o.refusals.has(refusalKey(main.id, main.midi + 12 * fold))
  const others = there ? [] : replacements(source, main, place, fold, allowed, o)
  return [...own, ...others].sort((a, b) => a.cost - b.cost).slice(0, PER_SLOT)
}

const EPS = 1e-6

const restAt = (place: Place): Slot => ({
  ...place,
  source: null,
  pitch: null,
  midi: 0,
  own: true,
  string: 0,
})
const slotAt = (place: Place, source: SourceNote, pitch: Pitch, own: boolean, o: FillingOptions): Slot => {
  const height = midi(pitch)
  const string = o.open.findIndex(open => open <= height)
  return { ...place, source, pitch, midi: height, own, string: string < 0 ? o.open.length - 1 : string }
}

/** Share of what another note costs, where only the first of two that are tied is heard to begin. */
const TIED_ON = 0.2
/** Half steps beyond which nothing takes the place of a note but its octave. */
const NEAR: Semitones = 9

/** Other notes in the place of one: a step beside it, a note of its chord, at the last its octave. */
function replacements(
  source: Source,
  n: SourceNote,
  place: Place,
  fold: number,
  allowed: ReadonlyMap<Midi, Pitch>,
  o: FillingOptions,
): Choice[] {
  const height = n.midi + 12 * fold
  const out: Choice[] = []
  for (const [m, pitch] of allowed) {
    if (m === height || (Math.abs(m - height) > NEAR && (m - height) % 12 !== 0)) continue
    const cost =
      replacementCost(source, n, place, m, pitch, height, o) + (o.refusals.get(refusalKey(n.id, m)) ?? 0)
    out.push({ slot: slotAt(place, n, pitch, false, o), cost })
  }
  return out.sort((a, b) => a.cost - b.cost).slice(0, 4)
}

function replacementCost(
  source: Source,
  n: SourceNote,
  place: Place,
  m: Midi,
  pitch: Pitch,
  height: Midi,
  o: FillingOptions,
): number {
  const octave = (m - height) % 12 === 0
  const steps = octave
    ? 0
    : Math.abs(diatonic(pitch) - diatonic(n.pitch) - Math.round((height - n.midi) / 12) * 7)
  const sign = !octave && steps === 0 ? W.signLost : 0
  const range = source.phrases[n.phrase]
  const fold = height - n.midi
  const peak = range && m - fold > range.highest ? W.newPeak : 0
  const lost = n.peak ? W.peakLost : n.low ? W.lowLost : 0
  const foreign = isChordTone(m, n.chord) ? 0 : W.foreign[place.strength]!
  const weight = W.replaced[place.strength]! * (0.7 + 0.3 * Math.min(2, place.quarters))
  // What is tied on is no note of its own.
  if (n.tiedOn && (o.pushes || originOf(source, n).strength > 0))
    return TIED_ON * (weight + W.step * steps + foreign)
  return (
    weight +
    (octave ? W.octaveAlone : W.step * steps + sign + foreign) +
    peak +
    lost +
    (n.goal ? W.goalReplaced : 0)
  )
}

/** What it costs to come to a slot from the one before. */
export function transitionCost(source: Source, a: Slot, b: Slot, o: FillingOptions): number {
  if (!a.pitch || !b.pitch || !a.source || !b.source) return 0
  const pushed = !o.pushes && a.strength === 0 && b.source.tiedOn && a.midi === b.midi && b.strength > 0
  const untied = b.source.tiedOn && a.source.index === b.source.index - 1 && a.midi !== b.midi ? W.untied : 0
  const breathless = a.source.phrase !== b.source.phrase ? endingCost(source, a, a.source, o) : 0
  const line = melodyCost(source, a, b, a.source, b.source) + loadCost(a, b, o)
  return line + untied + breathless + (pushed ? W.refused : 0)
}

/**
 * The next phrase begins: what it costs that this one ends on another note than the tune's, or runs on
 * without a long one.
 */
function endingCost(source: Source, last: Slot, from: SourceNote, o: FillingOptions): number {
  if (from.goal) return last.short ? of(BREATHLESS, o.level) : 0
  const goal = source.notes.slice(from.index).find(n => n.goal)
  return goal && (goal.midi - from.midi) % 12 !== 0 ? W.endingLost : 0
}

/** Half steps of a fourth; of a third. */
const FOURTH: Semitones = 5
const THIRD: Semitones = 4
/** Share of being stuck, where the tune came back to the same note over another one. */
const RETURNED = 0.75
/** How much more it counts that another note than the tune's stands apart. */
const OTHER_APART = 4

function melodyCost(source: Source, a: Slot, b: Slot, from: SourceNote, to: SourceNote): number {
  const way = b.midi - a.midi
  const before = to.midi - from.midi
  const next = to.index === from.index + 1
  if (way === 0) {
    if (from === to) return a.own !== b.own ? 0 : W.restruck
    if (isRepeated(source, from, to)) return 0
    const taken = to.goal && from.midi !== to.midi ? W.endingTaken : 0
    return (before === 0 && a.own && b.own ? W.stuck * RETURNED : W.stuck) + taken
  }
  const exact = a.own && b.own && next
  const turned = before === 0 ? W.wandering : Math.sign(way) !== Math.sign(before) ? W.turned : 0
  const wide = Math.max(0, Math.abs(way) - Math.max(FOURTH, Math.abs(before)))
  const over = Math.abs(way) > 12 && Math.abs(way) > Math.abs(before) ? W.overOctave : 0
  const apart = exact
    ? 0
    : a.own && b.own
      ? W.apart * Math.max(0, Math.abs(way) - THIRD)
      : OTHER_APART * W.apart * Math.max(0, Math.abs(way) - 2)
  const cadence =
    to.goal && b.own && Math.abs(way) > 2 && Math.abs(stepBefore(source, to)) <= 2 ? W.cadenceLeap : 0
  return turned + W.wider * wide + over + apart + cadence
}

/** Half steps from the note before to this one, in the tune. */
function stepBefore(source: Source, n: SourceNote): Semitones {
  const before = source.notes[originOf(source, n).index - 1]
  return before ? n.midi - before.midi : 0
}

/** The note a tied one began as. */
function originOf(source: Source, n: SourceNote): SourceNote {
  let at = n.index
  while (source.notes[at]!.tiedOn && at > 0) at--
  return source.notes[at]!
}

/** All that the tune has from one note to another is of one height. */
const isRepeated = ({ notes }: Source, from: SourceNote, to: SourceNote) =>
  from.midi === to.midi && notes.slice(from.index, to.index).every(n => n.midi === to.midi)

function loadCost(a: Slot, b: Slot, o: FillingOptions): number {
  if (!a.short && !b.short) return 0
  const both = a.short && b.short ? 1 : 0.4
  const same = a.midi === b.midi
  // A beat that begins with short notes after short ones: they run on; in threes that is the dance.
  const running =
    !same && both === 1 && b.strength > 0 ? of(LOAD.running, o.level) * (b.threes ? IN_THREES : 1) : 0
  // By a step the bow only follows the scale from the last finger to the open string.
  const byStep = Math.abs(a.midi - b.midi) <= 2 ? STEPWISE : 1
  const crossing =
    a.string !== b.string ? of(LOAD.crossing, o.level) * both * byStep * Math.abs(a.string - b.string) : 0
  return (running + crossing) * HEAVINESS[o.instrument as InstrumentId] * o.quickness
}

const IN_THREES = 0.5
const STEPWISE = 0.5
const of = (list: readonly number[], level: Level) => list[level - 1] ?? 0

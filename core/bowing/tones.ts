/**
 * A melody as the bow meets it: tones in the order they are played, repeats unfolded and ties merged, with
 * what parts or joins them.
 */
import { slurredToPrevious } from '#core/line/joins'
import { add, compare, sub, toNumber, ZERO, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import { beatAt, beatStrength, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { midi } from '#core/music/pitch'
import { playOrder } from '#core/music/playOrder'
import { heldOver, isNote, placeEvents, tieOrigins, type Placed } from '#core/music/timeline'
import type { NoteEvent, Tune } from '#core/music/tune'

/** A tone and all the bow has to know of it. */
export interface BowTone {
  readonly id: EventId
  /** The event that begins it, then those tied on. */
  readonly events: readonly EventId[]
  readonly seconds: number
  /** Length in quarters. */
  readonly length: number
  /** Seconds of rest before it. */
  readonly restBefore: number
  /** A comma or lift mark before it invites a retake. */
  readonly lifted: boolean
  readonly loudness: number
  readonly accent: boolean
  /** Weight of the place where it begins: 3 the first beat … 0 between beats. */
  readonly strength: number
  /** It begins between beats and sounds over the next one. */
  readonly pushed: boolean
  /** Number of the beat it begins in, counted through the line: tones of one beat share it. */
  readonly beat: number
  /** Place in the measure in quarters. */
  readonly at: Fraction
  /** Length of the measure, in quarters. */
  readonly full: Fraction
  readonly measure: number
  readonly measureIndex: number
  readonly pass: number
  /** It follows the tone before as it is written, too: no repeat lies between. */
  readonly follows: boolean
  /** A slur of the tune or of the recipe joins it to the tone before. */
  readonly slurred: boolean
  /** Under that slur, but held apart (tenuto or staccato): a hook as it is written. */
  readonly hooked: boolean
  /** Sounding height of its top note. */
  readonly midi: number
  /** Direction written in the tune. */
  readonly marked: 'down' | 'up' | null
  /**
   * It begins a syllable, or goes on with one; where nothing is sung, null: before the first words, after a
   * rest, in measures without any.
   */
  readonly syllable: boolean | null
  /** A triplet or another odd group. */
  readonly tuplet: string | null
  /** It lies in a pickup measure at the beginning of the line or of a part. */
  readonly pickup: boolean
}

export interface BowToneOptions {
  readonly tempo: Tempo
  /** Ids of events that take the same bow as the event before; the tune's slurs when absent. */
  readonly joined?: ReadonlySet<EventId>
  /** The directions written in it are for other strokes: they are left. */
  readonly rebowed?: boolean
}

const LOUDNESS: Readonly<Record<string, number>> = {
  ppp: 0.5,
  pp: 0.6,
  p: 0.75,
  mp: 0.9,
  mf: 1,
  f: 1.2,
  ff: 1.35,
  fff: 1.5,
}

type Sounding = Placed<NoteEvent>
interface Played {
  readonly placed: Sounding
  readonly pass: number
  readonly start: Fraction
  readonly end: Fraction
  readonly tied: EventId[]
  /** The event that sounds last in it. */
  sounds: NoteEvent
  tiedEnd: Fraction
  /** A syllable stands under a tie, where it can't be sung: it belongs to the note after. */
  sungTie: boolean
}

const markedOf = ({ marks }: NoteEvent) =>
  marks?.includes('downbow') ? 'down' : marks?.includes('upbow') ? 'up' : null

const sings = (e: NoteEvent) => e.syllables?.some(s => s !== null) ?? false

/** Tones in the order they are played. */
export function bowTones(tune: Tune, options: BowToneOptions): BowTone[] {
  const placed = placeEvents(tune)
  const written = placed.filter(isNote)
  const before = new Map(written.map((p, i) => [p.event.id, written[i - 1]?.event.id]))
  const origins = tieOrigins(placed)
  const line = playedTones(tune, placed, origins, before)
  const joined = options.joined ?? slurredToPrevious(tune)
  const quarter = secondsPerQuarter(options.tempo)
  const sung = new Set(written.flatMap(p => (sings(p.event) ? [p.measure.index] : [])))
  const context = {
    joined,
    rebowed: options.rebowed ?? false,
    quarter,
    sung,
    held: false,
    before,
    loudness: 1,
  }
  return line.map((p, i) => toneOf(p, line[i - 1], context))
}

interface ToneContext {
  readonly joined: ReadonlySet<EventId>
  readonly rebowed: boolean
  readonly quarter: number
  /** Measures with words, by index. */
  readonly sung: ReadonlySet<number>
  /** A syllable is being sung. */
  held: boolean
  readonly before: ReadonlyMap<EventId, EventId | undefined>
  loudness: number
}

function toneOf(p: Played, last: Played | undefined, c: ToneContext): BowTone {
  const { event, measure, inMeasure } = p.placed
  if (event.dynamic) c.loudness = LOUDNESS[event.dynamic]!
  const length = toNumber(sub(p.tiedEnd, p.start))
  const rest = last ? toNumber(sub(p.start, last.tiedEnd)) : 0
  const lastEvent = last?.tied.at(-1) ?? last?.placed.event.id
  const follows = last !== undefined && lastEvent === c.before.get(event.id)
  const beat = beatAt(measure.felt, inMeasure)
  const strength = beatStrength(measure.felt, inMeasure)
  const slurred = follows && rest === 0 && (c.joined.has(event.id) || heldOver(last.sounds, event) === 'some')
  const apart = event.marks?.some(m => m === 'tenuto' || m === 'staccato') ?? false
  const begins = sings(event) || (last?.sungTie ?? false)
  const syllable = begins || (c.held && rest === 0 && follows && c.sung.has(measure.index) ? false : null)
  c.held = syllable !== null
  const untilBeat = toNumber(sub(add(beat.start, beat.length), inMeasure))
  return {
    id: event.id,
    events: [event.id, ...p.tied],
    seconds: length * c.quarter,
    length,
    restBefore: rest * c.quarter,
    lifted: last?.placed.event.marks?.some(m => m === 'comma' || m === 'lift') ?? false,
    loudness: c.loudness,
    accent: event.marks?.includes('accent') ?? false,
    strength,
    pushed: strength === 0 && length > untilBeat,
    beat: measure.index * 256 + beat.index,
    at: inMeasure,
    full: measure.full,
    measure: measure.number,
    measureIndex: measure.index,
    pass: p.pass,
    follows,
    slurred: slurred && !apart,
    hooked: slurred && apart,
    midi: midi(event.heads.at(-1)!.pitch),
    marked: c.rebowed ? null : markedOf(event),
    syllable,
    tuplet: event.tuplet?.group ?? null,
    pickup: compare(measure.length, measure.full) < 0 && !isFirstBeat(p.placed),
  }
}

/** A short measure counted from its beginning is no pickup. */
const isFirstBeat = ({ measure, inMeasure, start }: Sounding) =>
  compare(sub(start, measure.start), inMeasure) === 0

function playedTones(
  tune: Tune,
  placed: readonly Placed[],
  origins: ReadonlyMap<string, string>,
  before: ReadonlyMap<EventId, EventId | undefined>,
): Played[] {
  const byMeasure = new Map<number, Placed[]>()
  for (const p of placed) {
    const there = byMeasure.get(p.measure.index)
    if (there) there.push(p)
    else byMeasure.set(p.measure.index, [p])
  }
  const out: Played[] = []
  let at = ZERO
  for (const { index, pass } of playOrder(tune)) {
    for (const p of byMeasure.get(index) ?? []) {
      const end = add(at, p.event.duration)
      const last = out.at(-1)
      if (isNote(p)) {
        const lastEvent = last?.tied.at(-1) ?? last?.placed.event.id
        const tied = last && origins.has(p.event.id) && compare(last.tiedEnd, at) === 0
        if (tied && before.get(p.event.id) === lastEvent) {
          last.tied.push(p.event.id)
          last.sounds = p.event
          last.sungTie = sings(p.event)
          last.tiedEnd = end
        } else
          out.push({
            placed: p,
            pass,
            start: at,
            end,
            tied: [],
            sounds: p.event,
            tiedEnd: end,
            sungTie: false,
          })
      }
      at = end
    }
  }
  return out
}

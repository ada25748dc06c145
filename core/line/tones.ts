/** What the solver sees: tones (ties merged), each with the time it lasts and what joins it to the next. */
import { add, compare, isZero, sub, toNumber, type Fraction } from '#core/music/fraction'
import { beatStrength, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { midi, type Midi, type Pitch } from '#core/music/pitch'
import {
  heldOver,
  isNote,
  placeEvents,
  tiedOn,
  tieOrigins,
  type Placed,
  type TiedOn,
} from '#core/music/timeline'
import { type NoteEvent, type Tune } from '#core/music/tune'
import { slurredToPrevious } from './joins'
import { noteId, type EventId, type NoteId } from '#core/music/ids'

export interface ToneHead {
  readonly id: NoteId
  readonly pitch: Pitch
  readonly sounding: Midi
}

export interface Tone {
  /** Id of the event that begins the tone. */
  readonly id: EventId
  /** From the lowest up. */
  readonly heads: readonly ToneHead[]
  readonly start: Fraction
  readonly duration: Fraction
  /** Seconds the tone sounds. */
  readonly seconds: number
  /** Seconds of rest between this tone and the next. */
  readonly restAfter: number
  /** The next tone lies under the same slur. */
  readonly slurredOn: boolean
  readonly beatStrength: number
  readonly measure: number
  readonly measureIndex: number
  /** Ids of the events tied on to it; and their notes, each with the head it goes on from. */
  readonly tied: readonly EventId[]
  readonly held: readonly { readonly id: NoteId; readonly head: number }[]
  /** Heads that sound on into the next tone while others begin, each with the head it is there. */
  readonly soundsOn: readonly TiedOn[]
  /** Written as a natural harmonic. */
  readonly harmonic: boolean
  /** It belongs to a chromatic run. */
  readonly run: boolean
}

/** So many tones by half steps one way are a chromatic run; fewer are passing notes. */
const RUN = 5

export interface ToneOptions {
  readonly tempo: Tempo
  /** Written minus sounding pitch of the instrument. */
  readonly writtenAbove: number
  /** Ids of events that are slurred to the event before, when the arrangement says more than the tune. */
  readonly joined?: ReadonlySet<EventId>
}

export function tonesOf(tune: Tune, options: ToneOptions): Tone[] {
  const placed = placeEvents(tune)
  const origins = tieOrigins(placed)
  const joined = options.joined ?? slurredToPrevious(tune)
  const quarter = secondsPerQuarter(options.tempo)
  const out: { tone: Tone; end: Fraction }[] = []
  let before: NoteEvent | undefined
  for (const p of placed) {
    if (!isNote(p)) continue
    const end = add(p.start, p.event.duration)
    const last = out.at(-1)
    if (last && origins.has(p.event.id) && compare(last.end, p.start) === 0) {
      const duration = add(last.tone.duration, p.event.duration)
      const tied = [...last.tone.tied, p.event.id]
      const held = [...last.tone.held, ...heldNotes(last.tone, p.event, options.writtenAbove)]
      out[out.length - 1] = {
        tone: { ...last.tone, duration, seconds: toNumber(duration) * quarter, tied, held },
        end,
      }
      before = p.event
      continue
    }
    if (last) {
      const rest = sub(p.start, last.end)
      const over = isZero(rest) && heldOver(before, p.event) === 'some'
      const slurredOn = isZero(rest) && (joined.has(p.event.id) || over)
      const soundsOn = over ? tiedOn(before, p.event) : []
      out[out.length - 1] = {
        ...last,
        tone: { ...last.tone, restAfter: toNumber(rest) * quarter, slurredOn, soundsOn },
      }
    }
    out.push({ tone: newTone(p, quarter, options.writtenAbove), end })
    before = p.event
  }
  return withRuns(out.map(o => o.tone))
}

const top = (t: Tone) => t.heads.at(-1)!.sounding

/** Says of each tone whether it belongs to a chromatic run. */
function withRuns(tones: readonly Tone[]): Tone[] {
  const out = [...tones]
  let [from, way] = [0, 0]
  const end = (to: number) => {
    if (to - from >= RUN) for (let k = from; k < to; k++) out[k] = { ...out[k]!, run: true }
  }
  for (let i = 1; i <= tones.length; i++) {
    const step = i < tones.length ? top(tones[i]!) - top(tones[i - 1]!) : 0
    if (Math.abs(step) === 1 && step === way) continue
    end(i)
    // The tone before may begin the next run.
    from = Math.abs(step) === 1 ? i - 1 : i
    way = Math.abs(step) === 1 ? step : 0
  }
  return out
}

/** A tied event may go on with fewer pitches, or in another order. */
const heldNotes = (tone: Tone, event: NoteEvent, writtenAbove: number) =>
  event.heads.flatMap((h, i) => {
    const head = tone.heads.findIndex(x => x.sounding === midi(h.pitch) - writtenAbove)
    return head < 0 ? [] : [{ id: noteId(event.id, i), head }]
  })

function newTone(p: Placed<NoteEvent>, quarter: number, writtenAbove: number): Tone {
  return {
    id: p.event.id,
    heads: p.event.heads.map((h, i) => ({
      id: noteId(p.event.id, i),
      pitch: h.pitch,
      sounding: midi(h.pitch) - writtenAbove,
    })),
    start: p.start,
    duration: p.event.duration,
    seconds: toNumber(p.event.duration) * quarter,
    restAfter: 0,
    slurredOn: false,
    beatStrength: beatStrength(p.measure.felt, p.inMeasure),
    measure: p.measure.number,
    measureIndex: p.measure.index,
    tied: [],
    held: [],
    soundsOn: [],
    harmonic: p.event.marks?.includes('harmonic') ?? false,
    run: false,
  }
}

/** What can be played, as plain data; and what its sound is made of. */
import { wantedLength } from '#core/bowing/travel'
import type { StrokeView } from '#core/desk/views'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import type { EventId } from '#core/music/ids'
import { tonicClass } from '#core/music/key'
import type { Tempo } from '#core/music/metre'
import type { Midi } from '#core/music/pitch'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { Mix } from '#core/playback/mixer'
import { performTune, type Performance } from '#core/playback/perform'
import { programOf, type Program, type ProgramOptions, type TrackId } from '#core/playback/program'
import type { VoicedTrack } from './channels'

export interface PlayablePart {
  readonly id: TrackId
  readonly tune: Tune
  readonly instrument: InstrumentId
  readonly tuning: Tuning | null
  /** How it is bowed: events slurred to the one before, and its strokes. */
  readonly joined: readonly EventId[]
  readonly strokes: readonly Pick<StrokeView, 'notes' | 'hook' | 'lift' | 'from' | 'to' | 'seconds'>[]
}

/** Parts that sound together; the first one leads: the marks on the page follow it. */
export interface Playable {
  readonly parts: readonly PlayablePart[]
  readonly tempo: Tempo
  /** Only these events; null for all of it. */
  readonly only: ReadonlySet<EventId> | null
  /** Where to begin; null for the beginning. */
  readonly from: EventId | null
}

export interface PlaySettings {
  /** Percent of the arrangement's tempo. */
  tempo: number
  countIn: ProgramOptions['countIn']
  metronome: boolean
  loop: boolean
  echo: boolean
  swing: number
  /** 'none', 'tonic', or the index of an open string. */
  drone: string
  backing: boolean
  volume: number
  /** Of each track what was said of it. */
  mix: Mix
}

export interface Composed {
  readonly program: Program
  /** The part that leads, performed. */
  readonly leader: Performance
  readonly tracks: readonly VoicedTrack[]
}

export function composed({ parts, only }: Playable, s: PlaySettings): Composed {
  const [first] = parts
  if (!first) throw new Error('Nothing to play has no sound.')
  const performed = parts.map(p => ({ id: p.id, performance: performanceOf(p, only, s.swing) }))
  const program = programOf(performed, {
    countIn: s.countIn,
    metronome: s.metronome,
    echo: s.echo,
    drone: dronesOf(first, s.drone),
    backing: s.backing,
  })
  const instruments = new Map(parts.map(p => [p.id, p.instrument]))
  const voiced = (id: TrackId) => instruments.get(id) ?? first.instrument
  return {
    program,
    leader: performed[0]!.performance,
    tracks: program.tracks.map(t => ({ ...t, instrument: voiced(t.id) })),
  }
}

function performanceOf(p: PlayablePart, only: Playable['only'], swing: number): Performance {
  return performTune(p.tune, {
    writtenAbove: INSTRUMENTS[p.instrument].writtenAbove,
    swing,
    joined: new Set(p.joined),
    bows: bowsOf(p.strokes),
    ...(only && { only }),
  })
}

/** What strokes sound like. */
const bowsOf = (strokes: PlayablePart['strokes']) =>
  new Map(
    strokes.map(s => [
      s.notes[0]!,
      { hook: s.hook, lift: s.lift, speed: Math.abs(s.to - s.from) / wantedLength(s.seconds, 1, false) },
    ]),
  )

/** Sounding pitches of the drone that is chosen. */
export function dronesOf(
  { tune, instrument, tuning }: Pick<PlayablePart, 'tune' | 'instrument' | 'tuning'>,
  drone: string,
): Midi[] {
  const strings = tuning ?? homeTuning(instrument)
  if (drone === 'none') return []
  if (drone !== 'tonic') return strings[Number(drone)] === undefined ? [] : [strings[Number(drone)]!]
  const lowest = strings.at(-1)!
  return [lowest + ((((tonicClass(tune.key) - lowest) % 12) + 12) % 12)]
}

/**
 * What is heard, in order: count-in, music, the gap for an echo, clicks, drone and backing. Times are
 * quarters as plain numbers, since from here on they only become seconds; the player multiplies them with the
 * tempo of the moment.
 */
import { parseChord } from '#core/music/chord'
import { countAt, inThree } from '#core/music/counting'
import { add, frac, mul, toNumber } from '#core/music/fraction'
import { beatsOf, beatStrength, measureLength, type Metre } from '#core/music/metre'
import type { Midi } from '#core/music/pitch'
import type { Performance, Sounding } from './perform'

/** Quarter notes, as a number. */
export type Quarters = number

/** What is heard beside the parts, each on a track of its own. */
export const BACKGROUNDS = ['clicks', 'drone', 'backing'] as const
/** A part's own id, or a background's name. */
export type TrackId = string

export interface Track {
  readonly id: TrackId
  readonly kind: 'part' | (typeof BACKGROUNDS)[number]
}

export interface NoteSound {
  readonly kind: 'note'
  readonly track: TrackId
  readonly start: Quarters
  readonly length: Quarters
  readonly midi: Midi
  readonly loudness: number
  readonly legato: boolean
  readonly id: string
  readonly event: string
}
export interface Click {
  readonly kind: 'click'
  readonly track: 'clicks'
  readonly start: Quarters
  /** 3 first beat … 0 between beats, as {@link beatStrength}. */
  readonly strength: 0 | 1 | 2 | 3
  /** What one would count aloud: "1", "and". */
  readonly count: string
}
export interface Background {
  readonly kind: 'drone' | 'backing'
  readonly track: 'drone' | 'backing'
  readonly start: Quarters
  readonly length: Quarters
  readonly midi: Midi
  readonly loudness: number
}
export type SoundEvent = NoteSound | Click | Background

export interface Segment {
  readonly length: Quarters
  /** By start. */
  readonly events: readonly SoundEvent[]
}

export interface Program {
  /** What it is mixed of: the parts in their order, then the backgrounds that sound. */
  readonly tracks: readonly Track[]
  /** Played once, before everything: the count-in. Empty without one. */
  readonly intro: Segment
  /** Played, and played again when looped. */
  readonly body: Segment
  /** How much of the body is music; the rest of it is the gap for the echo. */
  readonly music: Quarters
}

export interface ProgramOptions {
  readonly countIn: 'none' | 'beats' | 'subdivision'
  readonly metronome: boolean
  readonly echo: boolean
  /** Sounding pitches held under the music. */
  readonly drone: readonly Midi[]
  readonly backing: boolean
}

/** A part as it is performed. */
export interface PerformedPart {
  readonly id: TrackId
  readonly performance: Performance
}

const SILENT_PROGRAM: Program = {
  tracks: [],
  intro: { length: 0, events: [] },
  body: { length: 0, events: [] },
  music: 0,
}

/** Parts that sound together. The first one leads: beats, counts and chords are its own. */
export function programOf(parts: readonly PerformedPart[], o: ProgramOptions): Program {
  const p = parts[0]?.performance
  const music = Math.max(0, ...parts.map(x => toNumber(x.performance.length)))
  if (!p || music === 0) return SILENT_PROGRAM
  const clicks = o.metronome ? metronome(p) : []
  const gap = o.echo ? metronome(p).map(c => ({ ...c, start: c.start + music })) : []
  const total = o.echo ? 2 * music : music
  const drones = o.drone.map((midi): Background => ({
    kind: 'drone',
    track: 'drone',
    start: 0,
    length: total,
    midi,
    loudness: 0.35,
  }))
  const notes = parts.flatMap(part => part.performance.notes.map(n => noteSound(n, part.id)))
  const body: SoundEvent[] = [...notes, ...clicks, ...gap, ...drones, ...(o.backing ? backing(p) : [])]
  const intro = o.countIn === 'none' ? { length: 0, events: [] } : countIn(p, o.countIn)
  const heard = new Set([...intro.events, ...body].map(e => e.track))
  return {
    tracks: [
      ...parts.map(({ id }): Track => ({ id, kind: 'part' })),
      ...BACKGROUNDS.flatMap((id): Track[] => (heard.has(id) ? [{ id, kind: id }] : [])),
    ],
    intro,
    body: { length: total, events: body.sort((a, b) => a.start - b.start) },
    music,
  }
}

const noteSound = (n: Sounding, track: TrackId): NoteSound => ({
  kind: 'note',
  track,
  start: toNumber(n.start),
  length: toNumber(n.length) * n.held,
  midi: n.midi,
  loudness: n.loudness,
  legato: n.legato,
  id: n.id,
  event: n.event,
})

/** Clicks on the beats of one stretch of a measure; in the subdivision also on their halves, or thirds. */
function beats(
  metre: Metre,
  from: Quarters,
  to: Quarters,
  at: Quarters,
  how: 'beats' | 'subdivision',
): Click[] {
  const out: Click[] = []
  const full = toNumber(measureLength(metre))
  const felt = beatsOf(metre)
  for (let begins = Math.floor(from / full) * full; begins < to; begins += full)
    for (const beat of felt) {
      const parts = how === 'beats' ? 1 : inThree(metre, beat.length) ? 3 : 2
      for (let k = 0; k < parts; k++) {
        const place = add(beat.start, mul(beat.length, frac(k, parts)))
        const t = begins + toNumber(place)
        if (t < from - 1e-9 || t >= to - 1e-9) continue
        out.push({
          kind: 'click',
          track: 'clicks',
          start: at + t - from,
          strength: beatStrength(metre, place),
          count: countAt(metre, place, 'numbers'),
        })
      }
    }
  return out
}

const metronome = (p: Performance): Click[] =>
  p.measures.flatMap(m => {
    const offset = toNumber(m.offset)
    return beats(m.metre, offset, offset + toNumber(m.length), toNumber(m.start), 'beats')
  })

/**
 * One measure counted, and the beats before a pickup. In the subdivision: eighths, in compound metres three
 * to a beat.
 */
function countIn(p: Performance, how: 'beats' | 'subdivision'): Segment {
  const { metre, offset } = p.measures[0]!
  const full = toNumber(measureLength(metre))
  const lead = toNumber(offset) % full
  // With less than a beat before the pickup the first measure is enough.
  const events = [...beats(metre, 0, full, 0, how), ...(lead > 0 ? beats(metre, 0, lead, full, how) : [])]
  return { length: full + lead, events }
}

const BASS_LOW: Midi = 40
const CHORD_LOW: Midi = 52

/** The pitch of a class at or above a floor. */
const above = (floor: Midi, pitchClass: number): Midi => floor + ((((pitchClass - floor) % 12) + 12) % 12)

/**
 * A plain accompaniment: the bass on strong beats, the chord on the others. Silent until the first chord
 * name.
 */
function backing(p: Performance): Background[] {
  const chords = p.chords.map(c => ({ start: toNumber(c.start), chord: parseChord(c.name) }))
  return metronome(p).flatMap((click, i, all) => {
    const chord = chords.findLast(c => c.start <= click.start + 1e-6)?.chord
    if (!chord) return []
    const next = all[i + 1]?.start ?? toNumber(p.length)
    const sound = (midi: Midi, loudness: number): Background => ({
      kind: 'backing',
      track: 'backing',
      start: click.start,
      length: (next - click.start) * 0.9,
      midi,
      loudness,
    })
    const strong = click.strength >= 2
    if (strong) return [sound(above(BASS_LOW, chord.bass), 0.5)]
    return chord.intervals.map(interval => sound(above(CHORD_LOW, chord.root + interval), 0.26))
  })
}

/** The note of a part sounding at a moment of the body, if any: the one that began last. */
export function noteAt(body: Segment, track: TrackId, at: Quarters): NoteSound | null {
  let found: NoteSound | null = null
  for (const e of body.events) {
    if (e.start > at) break
    if (e.kind === 'note' && e.track === track && e.start + e.length > at) found = e
  }
  return found
}

/**
 * What a judge of unmarked pairs winces at in an easier version, counted: one counter for each rule. They
 * look at the version and its tune alone, not at how it was made, so that a teacher's version and ours are
 * counted by the same measure.
 */
import type { InstrumentId } from '#core/music/tune'
import { sub, toNumber } from '#core/music/fraction'
import { tonicClass } from '#core/music/key'
import { secondsPerQuarter, type Tempo } from '#core/music/metre'
import { midi } from '#core/music/pitch'
import { isNote, placeEvents, placeMeasures, tieOrigins, type Placed } from '#core/music/timeline'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import type { Level } from '#core/levels/levels'
import type { NoteEvent, Tune } from '#core/music/tune'

export const WINCES = [
  'load',
  'tempo',
  'slurs',
  'stuck',
  'cadence',
  'leap',
  'peak',
  'register',
  'rest',
  'unlike',
] as const
export type Wince = (typeof WINCES)[number]

/** What each counts, in words for a table. */
export const WINCE_WORDS: Readonly<Record<Wince, string>> = {
  load: 'short notes that run on over beats and strings, per measure',
  tempo: 'faster than a learner of the level plays',
  slurs: 'no slur where neighbours on a string bear one (from level 2)',
  stuck: 'the same pitch again where the tune moved, per measure',
  cadence: 'the last tonic not come to from its own step, third or fifth',
  leap: 'leaps beyond an octave the tune has not',
  peak: 'the highest note of the tune not the highest of the version',
  register: 'share of it on the lowest string',
  rest: 'a rest at the beginning or the end nobody wrote',
  unlike: 'measures with the same notes eased differently',
}

interface Line {
  readonly notes: readonly Placed<NoteEvent>[]
  readonly pitch: (i: number) => number
  readonly at: (i: number) => number
  readonly length: (i: number) => number
}

function lineOf(tune: Tune): Line {
  const placed = placeEvents(tune).filter(isNote)
  const tied = tieOrigins(placed)
  const notes = placed.filter(p => !tied.has(p.event.id))
  return {
    notes,
    pitch: i => midi(notes[i]!.event.heads.at(-1)!.pitch),
    at: i => toNumber(notes[i]!.start),
    length: i => toNumber(notes[i]!.event.duration),
  }
}

/** The fastest a level plays, in quarters (dotted quarters of a jig) a minute. */
const FASTEST: Readonly<Record<number, number>> = { 1: 88, 2: 100, 3: 116 }
/** A share of the lowest string beyond which a version growls. */
const GROWLS = 0.25

/** @returns for each rule how much it is broken: 0 is sound */
export function wincesOf(
  tune: Tune,
  version: Tune,
  level: Level,
  instrument: InstrumentId,
  tempo: Tempo,
): Readonly<Record<Wince, number>> {
  const [own, made] = [lineOf(tune), lineOf(version)]
  const measures = Math.max(1, version.measures.length)
  const strings = homeTuning(instrument).map(s => s + INSTRUMENTS[instrument].writtenAbove)
  const stringOf = (m: number) =>
    Math.max(
      0,
      strings.findIndex(open => open <= m),
    )
  const quarter = secondsPerQuarter(tempo)
  const pairs = made.notes.slice(1).map((_, i) => [i, i + 1] as const)
  const quick = (i: number) => made.length(i) < 1 && made.length(i) * quarter < 0.45
  const running = pairs.filter(
    ([a, b]) => quick(a) && quick(b) && stringOf(made.pitch(a)) !== stringOf(made.pitch(b)),
  )
  const stuck = pairs.filter(
    ([a, b]) => made.pitch(a) === made.pitch(b) && movedBetween(own, made.at(a), made.at(b)),
  )
  const widest = Math.max(0, ...own.notes.slice(1).map((_, i) => Math.abs(own.pitch(i + 1) - own.pitch(i))))
  const leaps = pairs.filter(([a, b]) => Math.abs(made.pitch(b) - made.pitch(a)) > Math.max(12, widest))
  const all = made.notes.reduce((sum, _, i) => sum + made.length(i), 0)
  const low = made.notes.reduce(
    (sum, _, i) => sum + (made.pitch(i) < strings.at(-2)! ? made.length(i) : 0),
    0,
  )
  const bears = pairs.filter(
    ([a, b]) => bearsSlur(made, a, b) && stringOf(made.pitch(a)) === stringOf(made.pitch(b)),
  )
  const perMinute = 60 / (quarter * (version.metre.unit === 8 && version.metre.beats % 3 === 0 ? 1.5 : 1))
  return {
    load: level > 3 ? 0 : running.length / measures,
    tempo: perMinute > (FASTEST[level] ?? Infinity) ? 1 : 0,
    slurs: level >= 2 && bears.length >= 4 && version.slurs.length === 0 ? 1 : 0,
    stuck: stuck.length / measures,
    cadence: closesWell(version, made) || !closesWell(tune, own) ? 0 : 1,
    leap: leaps.length,
    peak: peakKept(own, made) ? 0 : 1,
    register: low / Math.max(1, all) > GROWLS && instrument !== 'bass' ? 1 : 0,
    rest: padded(version) && !padded(tune) ? 1 : 0,
    unlike: unlike(tune, version),
  }
}

/** The tune has another pitch between two times, or at the second. */
function movedBetween(own: Line, from: number, to: number): boolean {
  const heights = new Set(
    own.notes.flatMap((_, i) => (own.at(i) > from - 1e-9 && own.at(i) < to + 1e-9 ? [own.pitch(i)] : [])),
  )
  return heights.size > 1
}

/** Two eighths of a beat, or two quarters, by step. */
function bearsSlur(l: Line, a: number, b: number): boolean {
  const wide = Math.abs(l.pitch(a) - l.pitch(b))
  return wide > 0 && wide <= 2 && l.notes[a]!.measure === l.notes[b]!.measure && l.length(a) === l.length(b)
}

/** It ends on the tonic, from its neighbours or its chord. */
function closesWell(tune: Tune, l: Line): boolean {
  const last = l.notes.length - 1
  if (last < 1) return true
  const tonic = tonicClass(tune.key)
  if (l.pitch(last) % 12 !== tonic) return true
  const before = (((l.pitch(last - 1) - tonic) % 12) + 12) % 12
  return [11, 2, 1, 7, 4, 3].includes(before)
}

/** Where the tune is at its highest the version is at its highest too. */
function peakKept(own: Line, made: Line): boolean {
  const top = (l: Line) => Math.max(...l.notes.map((_, i) => l.pitch(i)))
  if (own.notes.length === 0 || made.notes.length === 0) return true
  const [x, y] = [top(own), top(made)]
  const measures = new Set(own.notes.flatMap((n, i) => (own.pitch(i) === x ? [n.measure.number] : [])))
  return made.notes.some((n, i) => made.pitch(i) === y && measures.has(n.measure.number))
}

function padded(tune: Tune): boolean {
  const events = tune.measures.flatMap(m => m.events)
  return events[0]?.kind === 'rest' || events.at(-1)?.kind === 'rest'
}

/** Measures of the tune with the same notes that differ in the version. */
function unlike(tune: Tune, version: Tune): number {
  const content = (t: Tune) =>
    placeMeasures(t).map(m => ({
      id: m.measure.id,
      text: m.measure.events
        .map(
          e =>
            `${e.kind === 'note' ? e.heads.map(h => midi(h.pitch)).join('+') : 'z'}:${e.duration.n}/${e.duration.d}`,
        )
        .join(' '),
      whole: toNumber(sub(m.full, m.length)) === 0,
    }))
  const made = content(version)
  const offset = Math.max(0, content(tune).length - made.length)
  const seen = new Map<string, string>()
  return content(tune)
    .slice(offset)
    .reduce((n, m, i) => {
      const own = made[i]
      if (!own || !m.whole || !own.whole) return n
      const before = seen.get(m.text) ?? own.text
      seen.set(m.text, before)
      return n + (before === own.text ? 0 : 1)
    }, 0)
}

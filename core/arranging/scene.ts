/**
 * A tune as it is fingered, laid out for one who looks for places that bear more: every note with its time,
 * its string, its chord, its neighbours.
 */
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import { chordSkeleton } from '#core/form/chords'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { parseChord } from '#core/music/chord'
import { toNumber } from '#core/music/fraction'
import { eventOf, type EventId } from '#core/music/ids'
import { alterations, signature, tonicClass, type Key } from '#core/music/key'
import { beatStrength, inThrees, secondsPerQuarter } from '#core/music/metre'
import { midi, pitchOfMidi, STEPS, stepIndex, type Midi, type Pitch } from '#core/music/pitch'
import { isNote, placeEvents, tieOrigins, type Placed } from '#core/music/timeline'
import type { NoteEvent, Tune } from '#core/music/tune'

export interface Spot {
  readonly id: EventId
  readonly event: NoteEvent
  readonly placed: Placed<NoteEvent>
  /** In quarters: where in the measure, and how long. */
  readonly at: number
  readonly length: number
  readonly seconds: number
  readonly strength: 0 | 1 | 2 | 3
  readonly pitch: Pitch
  /** As it is fingered; null where it is off the instrument. */
  readonly string: number | null
  readonly finger: number | 'T' | null
  /** Tied to a neighbour, or more than one note already. */
  readonly held: boolean
  readonly phrase: number
  readonly opens: boolean
  readonly closes: boolean
  /** Pitch classes of the chord that goes with it, the root first; empty where none is known. */
  readonly chord: readonly number[]
  /** So many measures with the same notes came before. */
  readonly heard: number
  readonly compound: boolean
}

export interface Scene {
  readonly derived: Derived
  readonly spots: readonly Spot[]
  readonly key: Key
  /** Sounding pitch of each open string, the highest first. */
  readonly open: readonly Midi[]
  /** Half steps a written note lies above its sound. */
  readonly above: number
  /** The note that begins so many places later. */
  readonly next: (s: Spot, by?: number) => Spot | undefined
}

export function sceneOf(derived: Derived, { played }: Arrangement): Scene {
  const { tune } = derived
  const placed = placeEvents(tune)
  const origins = tieOrigins(placed)
  const quarter = secondsPerQuarter(derived.tempo)
  const hands = new Map(derived.fingering.notes.map(n => [eventOf(n.id), n]))
  const phraseOf = new Map(derived.form.phrases.flatMap((p, i) => p.events.map(e => [e, i] as const)))
  const chords = chordsOver(tune)
  const heard = timesHeard(placed)
  const spots = placed.filter(isNote).map((p): Spot => {
    const hand = hands.get(p.event.id)
    return {
      id: p.event.id,
      event: p.event,
      placed: p,
      at: toNumber(p.inMeasure),
      length: toNumber(p.event.duration),
      seconds: toNumber(p.event.duration) * quarter,
      strength: beatStrength(p.measure.felt, p.inMeasure),
      pitch: p.event.heads.at(-1)!.pitch,
      string: hand?.string ?? null,
      finger: hand?.finger ?? null,
      held:
        p.event.heads.length > 1 ||
        p.event.heads.some(h => h.tied) ||
        origins.has(p.event.id) ||
        p.event.tuplet !== undefined,
      phrase: phraseOf.get(p.event.id) ?? -1,
      opens: false,
      closes: false,
      chord: chords.get(p.event.id) ?? [],
      heard: heard.get(p.measure.index) ?? 0,
      compound: inThrees(p.measure.metre),
    }
  })
  const edged = spots.map((s, i) => ({
    ...s,
    opens: spots[i - 1]?.phrase !== s.phrase,
    closes: spots[i + 1]?.phrase !== s.phrase,
  }))
  const index = new Map(edged.map((s, i) => [s.id, i]))
  return {
    derived,
    spots: edged,
    key: tune.key,
    open: played.tuning ?? homeTuning(played.instrument),
    above: INSTRUMENTS[played.instrument].writtenAbove,
    next: (s, by = 1) => edged[index.get(s.id)! + by],
  }
}

/** By note: the pitch classes of the chord over it, the root first; from the first chord on. */
export function chordsOver(tune: Tune): Map<EventId, readonly number[]> {
  const names = new Map(chordSkeleton(tune).map(c => [c.note, c.name]))
  let now: readonly number[] = []
  return new Map(
    placeEvents(tune)
      .filter(isNote)
      .map(p => {
        const name = names.get(p.event.id)
        if (name !== undefined) now = classesOf(name)
        return [p.event.id, now] as const
      }),
  )
}

function classesOf(name: string): readonly number[] {
  const c = parseChord(name)
  return c ? c.intervals.map(i => (c.root + i) % 12) : []
}

/** By index of a measure: how many of the same notes in the same places came before it. */
function timesHeard(placed: readonly Placed[]): Map<number, number> {
  const keys = new Map<number, string>()
  for (const p of placed) {
    const what = isNote(p) ? p.event.heads.map(h => midi(h.pitch)).join('+') : 'z'
    keys.set(p.measure.index, `${keys.get(p.measure.index) ?? ''} ${what}:${toNumber(p.event.duration)}`)
  }
  const count = new Map<string, number>()
  const out = new Map<number, number>()
  for (const [i, key] of keys) {
    out.set(i, count.get(key) ?? 0)
    count.set(key, (count.get(key) ?? 0) + 1)
  }
  return out
}

/** The note so many steps of the key away. */
export function stepsAway(key: Key, from: Pitch, steps: number): Pitch {
  const at = from.octave * 7 + stepIndex(from.step) + steps
  const step = STEPS[((at % 7) + 7) % 7]!
  return { step, octave: Math.floor(at / 7), alter: alterations(key)[step] }
}

export const pitchClass = (p: Pitch | Midi) => (((typeof p === 'number' ? p : midi(p)) % 12) + 12) % 12

/** An open string as it is written for the instrument. */
export const writtenOpen = (s: Scene, string: number): Pitch =>
  pitchOfMidi(s.open[string]! + s.above, signature(s.key) < 0)

/** Home and fifth of the key: what a drone may be where no chord is known. */
export const restful = (key: Key): readonly number[] => [tonicClass(key), (tonicClass(key) + 7) % 12]

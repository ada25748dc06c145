/**
 * "Watch these": what a tune asks of the hand before a bow touches the string. Which fingers are not at home,
 * which touch, where an accidental moves a finger in mid-tune, what lies off the instrument, what is new to a
 * learner, and which key each phrase passes through.
 */
import type { Derived } from '#core/arrangement/derive'
import { numberWord } from '#core/counts'
import type { FingeredNote } from '#core/fingering/fingering'
import { lettersOf } from '#core/instruments/instruments'
import { alterations, keyName, keyOfSignature, signature, type Key } from '#core/music/key'
import { inScale, rankKeys } from '#core/music/keyFinding'
import { toNumber } from '#core/music/fraction'
import { diatonic, formatPitch, midi, prettyPitch, STEPS, type Pitch } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { eventOf } from '#core/music/ids'
import { capital, measureText } from '#core/words/places'

/** One place on the fingerboard the tune uses. */
export interface UsedPlace {
  readonly pitch: Pitch
  readonly string: number
  readonly finger: FingeredNote['finger']
  readonly offset: number
  readonly mark: FingeredNote['mark']
  readonly position: string
  readonly ids: readonly string[]
  /** Measures in which it occurs, as printed. */
  readonly measures: readonly number[]
  /** Not among the notes the learner knows. */
  readonly fresh: boolean
}

/** A letter that is played at two heights: the finger moves in mid-tune. */
export interface MovedFinger {
  readonly from: Pitch
  readonly to: Pitch
  readonly string: number
  readonly fingers: readonly [FingeredNote['finger'], FingeredNote['finger']]
  readonly measure: number
  readonly id: string
  readonly sentence: string
}

export interface PassingKey {
  readonly phrase: string
  readonly label: string
  readonly key: Key
  readonly sameAsTune: boolean
  /** The notes of the phrase, and of the scale one may improvise on. */
  readonly notes: readonly string[]
  readonly scale: readonly string[]
}

export interface WatchReport {
  readonly range: { readonly lowest: Pitch; readonly highest: Pitch; readonly semitones: number } | null
  /** What the key signature does, in a sentence or two. */
  readonly keyLine: string
  /** "A string: 1 and 2 touch (B, C)". */
  readonly touching: readonly { readonly string: number; readonly sentence: string }[]
  readonly places: readonly UsedPlace[]
  /** The places whose finger is not at home. */
  readonly away: readonly UsedPlace[]
  readonly moved: readonly MovedFinger[]
  readonly off: readonly { readonly id: string; readonly pitch: Pitch; readonly measure: number }[]
  readonly phrases: readonly PassingKey[]
}

export interface WatchOptions {
  readonly instrument: InstrumentId
  /** Pitches the learner knows, as "F#4"; every note is fresh to nobody when absent. */
  readonly known?: ReadonlySet<string>
}

export function watch(d: Derived, o: WatchOptions): WatchReport {
  const notes = d.fingering.notes.filter(n => n.tiedFrom === undefined)
  const places = usedPlaces(notes, o.known)
  const once = [
    ...new Map(notes.map(n => [`${n.string} ${n.anchor} ${n.finger} ${formatPitch(n.pitch)}`, n])).values(),
  ]
  const sorted = [...notes].sort((a, b) => midi(a.pitch) - midi(b.pitch))
  const [lowest, highest] = [sorted[0]?.pitch, sorted.at(-1)?.pitch]
  const letters = lettersOf(o.instrument, d.fingering.problem.options.tuning)
  return {
    range: lowest && highest ? { lowest, highest, semitones: midi(highest) - midi(lowest) } : null,
    keyLine: keyLine(d.tune.key, notes),
    touching: touching(once, letters),
    places,
    away: places.filter(p => p.mark !== 'home'),
    moved: movedFingers(notes, letters),
    off: offTheInstrument(d, notes),
    phrases: passingKeys(d),
  }
}

function usedPlaces(notes: readonly FingeredNote[], known: ReadonlySet<string> | undefined): UsedPlace[] {
  const byPlace = new Map<string, FingeredNote[]>()
  for (const n of notes) {
    const key = `${n.string}:${n.offset}:${n.finger}:${formatPitch(n.pitch)}`
    byPlace.set(key, [...(byPlace.get(key) ?? []), n])
  }
  return [...byPlace.values()]
    .map((list): UsedPlace => {
      const { pitch, string, finger, offset, mark, position } = list[0]!
      const fresh = known !== undefined && !known.has(formatPitch(pitch))
      return {
        pitch,
        string,
        finger,
        offset,
        mark,
        position,
        fresh,
        ids: list.map(n => n.id),
        measures: [...new Set(list.map(n => n.measure))],
      }
    })
    .sort((a, b) => b.string - a.string || a.offset - b.offset)
}

/** "Two sharps (F, C) …": which of them this tune really plays. */
function keyLine(key: Key, notes: readonly FingeredNote[]): string {
  const fifths = signature(key)
  const name = keyName(key)
  if (fifths === 0) return `${name}: no sharps or flats.`
  const kind = fifths > 0 ? 'sharp' : 'flat'
  const altered = alterations(key)
  const order = fifths > 0 ? ['F', 'C', 'G', 'D', 'A', 'E', 'B'] : ['B', 'E', 'A', 'D', 'G', 'C', 'F']
  const list = order.filter(s => altered[s as 'F'] !== 0)
  const unused = list.filter(s => !notes.some(n => n.pitch.step === s))
  const rest =
    unused.length > 0 && notes.length > 0
      ? ` ${unused.join(' and ')} ${unused.length > 1 ? 'do' : 'does'} not occur in this tune.`
      : ''
  return `${name}: ${numberWord(Math.abs(fifths))} ${kind}${Math.abs(fifths) > 1 ? 's' : ''}, so every ${list.join(' and ')} is ${kind}.${rest}`
}

/** Which fingers of one hand stand a half step apart on each string. */
function touching(
  notes: readonly FingeredNote[],
  letters: readonly string[],
): { string: number; sentence: string }[] {
  return letters.flatMap((letter, string) => {
    const own = notes.filter(n => n.string === string && !n.harmonic)
    const pairs = own.flatMap(a =>
      own
        .filter(b => touch(a, b) && diatonic(b.pitch) !== diatonic(a.pitch))
        .map(b => `${a.finger} and ${b.finger} touch (${prettyPitch(a.pitch)}, ${prettyPitch(b.pitch)})`),
    )
    const unique = [...new Set(pairs)]
    return unique.length > 0 ? [{ string, sentence: `${letter} string: ${unique.join('; ')}.` }] : []
  })
}

const touch = (a: FingeredNote, b: FingeredNote): boolean =>
  a.anchor === b.anchor &&
  b.offset - a.offset === 1 &&
  typeof a.finger === 'number' &&
  typeof b.finger === 'number' &&
  a.finger > 0 &&
  b.finger > a.finger

/** Each time a letter comes back at another height than it was last played, on the same string. */
function movedFingers(notes: readonly FingeredNote[], letters: readonly string[]): MovedFinger[] {
  const last = new Map<number, FingeredNote>()
  const out: MovedFinger[] = []
  for (const n of notes) {
    const height = diatonic(n.pitch)
    const before = last.get(height)
    last.set(height, n)
    if (!before || before.pitch.alter === n.pitch.alter || before.string !== n.string) continue
    const how =
      n.finger === before.finger
        ? `finger ${n.finger} moves ${n.pitch.alter > before.pitch.alter ? 'up' : 'back'} a half step`
        : `finger ${n.finger} instead of ${before.finger}`
    out.push({
      from: before.pitch,
      to: n.pitch,
      string: n.string,
      fingers: [before.finger, n.finger],
      measure: n.measure,
      id: n.id,
      sentence: `${capital(measureText(n.measure))}: ${natural(n.pitch)} after ${natural(before.pitch)} on the ${letters[n.string]} string; ${how}.`,
    })
  }
  return out
}

/** An unaltered note is named natural where it stands against an altered one. */
const natural = (p: Pitch) => (p.alter === 0 ? `${p.step}♮` : prettyPitch(p))

function offTheInstrument(d: Derived, notes: readonly FingeredNote[]): WatchReport['off'] {
  const fingered = new Set(notes.map(n => eventOf(n.id)))
  const numbers = new Map(
    d.findings.flatMap(f => (f.where.note ? [[f.where.note, f.where.measure ?? 0] as const] : [])),
  )
  return d.tune.measures
    .flatMap(m => m.events)
    .flatMap(e =>
      e.kind === 'note' && !fingered.has(e.id) && numbers.has(e.id)
        ? [{ id: e.id, pitch: e.heads.at(-1)!.pitch, measure: numbers.get(e.id)! }]
        : [],
    )
}

/**
 * A phrase is said to be in another key only when it has notes the tune's own key has not, and that key fits
 * clearly better.
 */
const CLEARLY = 0.06

function passingKeys(d: Derived): PassingKey[] {
  const own = d.tune.key
  return d.form.phrases.map(p => {
    const tones = p.notes.flatMap(n =>
      n.event.kind === 'note'
        ? n.event.heads.map(h => ({
            pitch: h.pitch,
            sounding: midi(h.pitch),
            length: toNumber(n.event.duration),
          }))
        : [],
    )
    const ranked = rankKeys(tones)
    const sameNotes = (k: Key) => signature(k) === signature(own)
    const home = ranked.find(r => sameNotes(r.key))
    const best = ranked[0]
    const strange = tones.filter(t => !inScale(t.pitch, own))
    const moves =
      best &&
      home &&
      strange.length > 0 &&
      strange.some(t => inScale(t.pitch, best.key)) &&
      best.fit > home.fit + CLEARLY
    const key = moves ? best.key : own
    const names = [
      ...new Map(
        [...tones].sort((a, b) => a.sounding - b.sounding).map(t => [prettyPitch(t.pitch), t]),
      ).keys(),
    ]
    return {
      phrase: p.events[0]!,
      label: p.label,
      key,
      sameAsTune: !moves,
      notes: names,
      scale: scaleNames(key),
    }
  })
}

/** The seven notes of a key from its tonic: "D E F♯ G A B C♯". */
export function scaleNames(key: Key): string[] {
  const altered = alterations(keyOfSignature(signature(key), 'major'))
  const from = STEPS.indexOf(key.step)
  return Array.from({ length: 7 }, (_, i) => STEPS[(from + i) % 7]!).map(step =>
    prettyPitch({ step, alter: altered[step], octave: 4 }),
  )
}

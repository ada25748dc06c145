/**
 * A tune laid out for the search of a version: its notes, as they are written or moved to where they are
 * played, with what each means to its phrase, in the groups that are eased one by one.
 */
import type { Form } from '#core/form/form'
import { toNumber } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import { beatStrength } from '#core/music/metre'
import { midi, transposePitch, type Interval, type Midi, type Pitch } from '#core/music/pitch'
import { isNote, placeEvents, tieOrigins, type Placed } from '#core/music/timeline'
import type { NoteEvent, Tune } from '#core/music/tune'
import { contentOf, groupsOf, type Group } from './groups'
import { chordsOver, pitchClass } from './scene'

export interface SourceNote {
  readonly id: EventId
  /** As it is written. */
  readonly event: NoteEvent
  /** In quarters from the beginning of the tune. */
  readonly at: number
  readonly until: number
  readonly strength: 0 | 1 | 2 | 3
  /** As it is played, the upper one of several together. */
  readonly pitch: Pitch
  readonly midi: Midi
  /** Pitch classes of the chord over it, the root first; empty where none is known. */
  readonly chord: readonly number[]
  /** Index of its phrase. */
  readonly phrase: number
  /** It ends its phrase, is as high as anything in it, as low. */
  readonly goal: boolean
  readonly peak: boolean
  readonly low: boolean
  /** It goes on by a tie from the note before. */
  readonly tiedOn: boolean
  readonly index: number
}

export interface Span {
  readonly group: Group
  readonly start: number
  readonly end: number
  /** Everything that sounds within it. */
  readonly notes: readonly SourceNote[]
  readonly phrase: number
  /**
   * Groups at the same place of measures with the same notes have the same name; with the same rhythm, the
   * same rhythm name.
   */
  readonly like: string
  readonly likeRhythm: string
}

export interface Source {
  readonly notes: readonly SourceNote[]
  readonly spans: readonly Span[]
  readonly phrases: readonly PhraseRange[]
}

export interface PhraseRange {
  readonly highest: Midi
  readonly lowest: Midi
}

export function sourceOf(tune: Tune, form: Form): Source {
  const placed = placeEvents(tune).filter(isNote)
  const phraseOf = new Map(form.phrases.flatMap((p, i) => p.events.map(e => [e, i] as const)))
  const phrase = (p: Placed) => phraseOf.get(p.event.id) ?? 0
  const height = (p: Placed<NoteEvent>) => midi(p.event.heads.at(-1)!.pitch)
  const phrases = form.phrases.map((_, i): PhraseRange => {
    const heights = placed.filter(p => phrase(p) === i).map(height)
    return { highest: Math.max(...heights), lowest: Math.min(...heights) }
  })
  const chords = chordsOver(tune)
  const origins = tieOrigins(placed)
  const notes = placed.map((p, index): SourceNote => {
    const range = phrases[phrase(p)]
    const at = toNumber(p.start)
    return {
      id: p.event.id,
      event: p.event,
      at,
      until: at + toNumber(p.event.duration),
      strength: beatStrength(p.measure.felt, p.inMeasure),
      pitch: p.event.heads.at(-1)!.pitch,
      midi: height(p),
      chord: chords.get(p.event.id) ?? [],
      phrase: phrase(p),
      goal: phrase(p) !== (placed[index + 1] ? phrase(placed[index + 1]!) : -1),
      peak: height(p) === range?.highest,
      low: height(p) === range?.lowest,
      tiedOn: origins.has(p.event.id),
      index,
    }
  })
  return { notes, spans: spansOf(tune, notes), phrases }
}

function spansOf(tune: Tune, notes: readonly SourceNote[]): Span[] {
  const byId = new Map(notes.map(n => [n.id, n]))
  let phrase = 0
  return groupsOf(tune).map(group => {
    const own = group.events.flatMap(e => byId.get(e.id) ?? [])
    phrase = own[0]?.phrase ?? phrase
    const start = toNumber(group.measure.start) + toNumber(group.at) - toNumber(offsetOf(group))
    return {
      group,
      start,
      end: start + toNumber(group.length),
      notes: own,
      phrase,
      like: contentOf(group),
      likeRhythm: `${group.at.n}/${group.at.d} ${group.measure.measure.events.map(e => `${e.kind}${e.duration.n}/${e.duration.d}`).join(' ')}`,
    }
  })
}

/** The same tune played elsewhere: in another key, in another octave. */
export function movedSource(source: Source, by: Interval): Source {
  const notes = source.notes.map((n): SourceNote => ({
    ...n,
    pitch: transposePitch(n.pitch, by),
    midi: n.midi + by.semitones,
    chord: n.chord.map(c => pitchClass(c + by.semitones)),
  }))
  const spans = source.spans.map(s => ({ ...s, notes: s.notes.map(n => notes[n.index]!) }))
  const phrases = source.phrases.map(p => ({
    highest: p.highest + by.semitones,
    lowest: p.lowest + by.semitones,
  }))
  return { notes, spans, phrases }
}

/** A measure that leads in is counted from its end. */
const offsetOf = ({ pickup, measure: { full, length } }: Group) =>
  pickup ? { n: full.n * length.d - length.n * full.d, d: full.d * length.d } : { n: 0, d: 1 }

export const isChordTone = (m: Midi, chord: readonly number[]) =>
  chord.length === 0 || chord.includes(pitchClass(m))

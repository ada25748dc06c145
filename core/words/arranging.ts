/** Changes of the notes in words: what, where, and what was there before. */
import { playedPitch, type Arranged } from '#core/arrangement/arrange'
import {
  isReplacing,
  type Asked,
  type Because,
  type Change,
  type Keeps,
  type Leaving,
} from '#core/arrangement/change'
import type { EventId } from '#core/music/ids'
import type { Arrangement } from '#core/arrangement/recipe'
import { slurId } from '#core/arranging/versionSlurs'
import type { SpiceKind } from '#core/arranging/spices'
import { isAnotherTune, isMangled, type Kept } from '#core/arranging/kept'
import type { Level } from '#core/levels/levels'
import { equal } from '#core/music/fraction'
import { spanText } from './places'
import { valueName } from '#core/music/valueName'
import { defaultTempo, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { formatPitch, type Pitch } from '#core/music/pitch'
import { placeEvents, placeMeasures, type PlacedMeasure } from '#core/music/timeline'
import type { EventBody, Tune } from '#core/music/tune'

const KINDS: Readonly<Record<string, (before: string, after: string) => string>> = {
  thin: (b, a) => `${b} thinned to ${a}`,
  lighten: (b, a) => `${b} lightened to ${a}`,
  fill: (_, a) => `the last note lasts to the end of the measure: ${a}`,
  even: (b, a) => (a === b ? `${b} evened out` : `${b} evened out to ${a}`),
  onBeat: b => `${b} with its pushed notes on the beat`,
  plain: (_, a) => `${a} without ornament`,
  single: (b, a) => `${a} alone instead of ${b}`,
  pickup: b => `the pickup (${b}) is left out`,
  words: (_, a) => `the word of the pickup goes to ${a}`,
  fold: (b, a) => `${b} an octave away with its phrase: ${a}`,
  replace: (b, a) => `${a} instead of ${b}`,
  ending: (b, a) => `another last ending: ${b} goes on as ${a}`,
  octaves: (b, a) => `${b} an octave up: ${a}`,
  repeats: (b, a) => `${b} with fewer repeated notes: ${a}`,
  turns: (b, a) => `${b} held less long and led on: ${a}`,
  runs: (b, a) => `the step between is played too: ${a} for ${b}`,
  broken: (b, a) => `${b} broken over its chord: ${a}`,
  unisons: b => `the open string beside ${b} on the fourth finger`,
  drones: (b, a) => `an open string rings with ${b}: ${a}`,
  stops: (b, a) => `a second voice under ${b}: ${a}`,
  rolls: b => `a roll on ${b}`,
  slides: b => `a slide into ${b}`,
  hammers: b => `hammered on from the open string: ${b}`,
  rocking: (b, a) => `${b} rocks against the open string: ${a}`,
  cuts: b => `a cut on ${b}`,
}

const ASKED_WORDS: Readonly<Record<Asked, string>> = {
  rhythm: 'the level has no such rhythm yet',
  reach: 'a note lies out of the level’s reach',
  tried: 'the hand or the bow was asked too much',
  crossings: 'quick notes over strings',
  running: 'quick notes in a row',
  alike: 'as in the measures like it',
}
const KEEPS_WORDS: Readonly<Record<Keeps, string>> = {
  beats: 'what falls on the beats stays',
  leads: 'what leads on stays',
  step: 'a step beside it takes its place',
  chord: 'a note of the same chord takes its place',
  octave: 'the same note in another octave',
}

/** "quick notes over strings; what falls on the beats stays". */
export const becauseWords = ({ asked, keeps }: Because): string =>
  [ASKED_WORDS[asked], ...(keeps ? [KEEPS_WORDS[keeps]] : [])].join('; ')

/** What can be added, in words for a list to choose from. */
export const SPICE_WORDS: Readonly<Record<SpiceKind, { readonly name: string; readonly says: string }>> = {
  drones: { name: 'drones', says: 'An open string rings along where the chord has it.' },
  unisons: { name: 'unisons', says: 'The fourth finger beside the open string it sounds like.' },
  stops: { name: 'double stops', says: 'A sixth or a third under long notes.' },
  cuts: { name: 'cuts', says: 'A flick on notes that come again or that lean.' },
  rolls: { name: 'rolls', says: 'On stopped notes of three eighths and more.' },
  slides: { name: 'slides', says: 'Into stopped notes a phrase leans on.' },
  hammers: { name: 'hammer-ons', says: 'From the open string into a low finger, in one bow.' },
  rocking: {
    name: 'rocking',
    says: 'A long note in eighths with the open string under it, the second time.',
  },
  runs: { name: 'runs', says: 'A third is filled by the note between.' },
  broken: { name: 'broken chords', says: 'A long note goes through its chord, the second time.' },
  octaves: { name: 'an octave up', says: 'A phrase that came before, higher.' },
  ending: { name: 'another last ending', says: 'The last note rises to its octave.' },
  repeats: {
    name: 'fewer repeated notes',
    says: 'What the words had asked for is one note, or turns over its neighbour.',
  },
  turns: {
    name: 'long notes led on',
    says: 'The last beat of a long note leads to the next one, in one bow.',
  },
}

const names = (events: readonly EventBody[], name: (p: Pitch) => string) =>
  events.flatMap(e => (e.kind === 'note' ? [e.heads.map(h => name(h.pitch)).join('+')] : [])).join(' ') ||
  'a rest'

export interface ChangeView {
  readonly id: string
  readonly kind: string
  readonly measure: number
  readonly accepted: boolean
  /** "measure 3: G4 A4 thinned to G4: one note to the beat". */
  readonly sentence: string
  /** "quick notes over strings; what leads on stays"; empty where the sentence says it all. */
  readonly why: string
  readonly before: string
  readonly after: string
  /** First written event it speaks of, to go there. */
  readonly at: string
}

/**
 * The changes of a recipe, with the notes as they are played in its key and octave; one whose notes are gone
 * says so.
 */
export function changeViews(
  arranged: Pick<Arranged, 'written' | 'toWritten'>,
  changes: readonly Change[],
): ChangeView[] {
  const name = (p: Pitch) => formatPitch(playedPitch(arranged, p))
  const placed = placeMeasures(arranged.written)
  const events = new Map(
    placed.flatMap(m => m.measure.events.map(e => [e.id, { e, measure: m.number }] as const)),
  )
  return changes.map(c => {
    if (!isReplacing(c)) return leavingView(c as Leaving, placed)
    const old = c.edit.events.flatMap(id => events.get(id) ?? [])
    const [before, after] = [
      names(
        old.map(o => o.e),
        name,
      ),
      names(c.edit.by, name),
    ]
    const say = KINDS[c.kind] ?? ((b: string, a: string) => `${a} instead of ${b}`)
    const measure = old[0]?.measure ?? 0
    const sentence = old.length === 0 ? 'its notes are not in the tune now' : say(before, after)
    return {
      id: c.id,
      kind: c.kind,
      measure,
      accepted: c.accepted,
      sentence,
      why: c.because ? becauseWords(c.because) : '',
      before,
      after,
      at: c.edit.events[0]!,
    }
  })
}

/**
 * A slur of two that a version added, as a line of its list: "E4 F♯4 in one bow". `written`: what an event
 * stands for.
 */
export function slurViews(
  { played }: Arrangement,
  tune: Tune,
  written: (event: EventId) => readonly EventId[],
): ChangeView[] {
  const placed = placeEvents(tune)
  return (played.eased?.slurred ?? []).flatMap((id): ChangeView[] => {
    const i = placed.findIndex(p => p.event.id === id)
    const [a, b] = [placed[i - 1], placed[i]]
    if (!a || !b) return []
    const after = names([a.event, b.event], formatPitch)
    const at = written(id)[0] ?? id
    return [
      {
        id: slurId('slur', id),
        kind: 'slur',
        measure: b.measure.number,
        accepted: played.pins.joins[id] === true,
        sentence: `${after} in one bow`,
        why: '',
        before: '',
        after,
        at,
      },
    ]
  })
}

function leavingView({ id, kind, accepted, edit }: Leaving, placed: readonly PlacedMeasure[]): ChangeView {
  const own = placed.filter(p => edit.measures.includes(p.measure.id))
  const [first] = own
  const at = first?.measure.events[0]?.id ?? ''
  const span = first && spanText(first.number, own.at(-1)!.number)
  const part = first?.measure.label === undefined ? span : `part ${first.measure.label} (${span})`
  const left = kind === 'pickup' ? 'the upbeat is left out' : `${part} left out`
  const sentence = part === undefined ? 'its measures are not in the tune now' : left
  return { id, kind, measure: first?.number ?? 0, accepted, sentence, why: '', before: '', after: '', at }
}

/** The times through, as one says them. */
export const TIME_WORDS = { 1: 'first: plain', 2: 'second', 3: 'third: all' } as const

const percent = (x: number) => `${Math.round(100 * x)}%`

/** "Kept: 94% of the strong beats, every phrase ending, 90% of the contour, 55% of the rhythm." */
export function keptWords(k: Kept): string {
  const ends = k.phraseEnds === 1 ? 'every phrase ending' : `${percent(k.phraseEnds)} of the phrase endings`
  return `Kept: ${percent(k.strongBeats)} of the strong beats, ${ends}, ${percent(k.contour)} of the contour, ${percent(k.rhythm)} of the rhythm.`
}

/** What to say of a version that strays from its tune; null where it is the tune. */
export function strayWords(
  k: Kept,
  changes: readonly { readonly kind: string }[],
  level: Level | null,
): string | null {
  if (isAnotherTune(k))
    return `${level ? `At level ${level} it` : 'It'} is hardly this tune: ${percent(1 - k.strongBeats)} of its strong beats are other notes. Take it at a higher level, or in the key where it lies best.`
  return isMangled(k, changes)
    ? 'What carries the tune lies out of the hand in this key. Make it in the key where it lies best.'
    : null
}

const beatWords = ({ beat, perMinute }: Tempo) => `${valueName(beat)} = ${perMinute}`

/**
 * "Slower: quarter = 80 instead of 112.", "Counted otherwise: quarter = 112 instead of half = 56."; null
 * where it keeps the tune's own tempo.
 */
export function tempoWords(tune: Pick<Tune, 'tempo' | 'metre'>, own: Tempo | null): string | null {
  const before = tune.tempo ?? defaultTempo(tune.metre)
  if (!own) return null
  const [then, now] = [before, own].map(secondsPerQuarter) as [number, number]
  const how = Math.abs(then - now) < 0.005 * then ? 'Counted otherwise' : now > then ? 'Slower' : 'Faster'
  const same = equal(before.beat, own.beat)
  if (same && how === 'Counted otherwise') return null
  return `${how}: ${beatWords(own)} instead of ${same ? before.perMinute : beatWords(before)}.`
}

/**
 * A plausible chord for every half bar: triads of the key, chosen by the tones they hold, weighted by length
 * and beat, and by what usually follows what. Shortest path (Viterbi), as in the probabilistic harmonizers of
 * the literature, with a small table in place of learned numbers. Chords that are given stand as they are.
 */
import { parseChord } from '#core/music/chord'
import { toNumber } from '#core/music/fraction'
import { keyTones, type Key } from '#core/music/key'
import { beatStrength } from '#core/music/metre'
import { isNote, placeEvents, placeMeasures, type Placed } from '#core/music/timeline'
import type { NoteEvent, Tune } from '#core/music/tune'

export interface ChordProposal {
  /** The note it stands over. */
  readonly note: string
  readonly measure: number
  readonly name: string
  /** It stands in the tune already. */
  readonly given: boolean
}

/** Degrees used, and what each costs by itself: home and its fifths are what a teacher tries first. */
type Family = 'major' | 'mixolydian' | 'minor'
const DEGREES: Readonly<Record<Family, readonly (readonly [degree: number, cost: number])[]>> = {
  major: [
    [0, 0],
    [4, 0.1],
    [3, 0.2],
    [5, 0.7],
    [1, 0.8],
    [2, 1.4],
  ],
  mixolydian: [
    [0, 0],
    [6, 0.1],
    [3, 0.2],
    [4, 0.6],
    [1, 0.8],
    [5, 0.8],
  ],
  minor: [
    [0, 0],
    [6, 0.2],
    [2, 0.5],
    [3, 0.4],
    [4, 0.4],
    [5, 0.7],
  ],
}
const COSTS = {
  /** A tone outside the chord, for a half bar of it. */
  outside: 3,
  /** A change in the middle of a bar, and at its start. */
  changeInside: 0.7,
  changeAtBar: 0.25,
  /** Ending away from home. */
  awayAtEnd: 1.5,
}

interface Slot {
  readonly first: Placed<NoteEvent>
  readonly notes: readonly Placed<NoteEvent>[]
  readonly atBar: boolean
  readonly key: Key
}

/**
 * One chord for every half bar in which something begins; consecutive equal ones are told once. Needs tones;
 * atonal lines get what fits least badly.
 */
export function chordSkeleton(tune: Tune): ChordProposal[] {
  const slots = slotsOf(tune)
  if (slots.length === 0) return []
  const layers = slots.map((s, i) => candidates(s, i === slots.length - 1))
  const best: number[][] = [layers[0]!.map(c => c.cost)]
  const via: number[][] = [[]]
  for (let i = 1; i < layers.length; i++) {
    const change = slots[i]!.atBar ? COSTS.changeAtBar : COSTS.changeInside
    const row = layers[i]!.map(c => {
      const ways = layers[i - 1]!.map((b, k) => best[i - 1]![k]! + (b.name === c.name ? 0 : change))
      const k = ways.indexOf(Math.min(...ways))
      return { cost: ways[k]! + c.cost, k }
    })
    best.push(row.map(r => r.cost))
    via.push(row.map(r => r.k))
  }
  const path: number[] = []
  let at = best.at(-1)!.indexOf(Math.min(...best.at(-1)!))
  for (let i = layers.length - 1; i >= 0; i--) {
    path[i] = at
    at = via[i]![at] ?? 0
  }
  let heldFrom = -Infinity
  return slots.flatMap((s, i) => {
    const chosen = layers[i]![path[i]!]!
    const measure = s.first.measure.index
    if (chosen.given) heldFrom = measure
    // A chord that is given goes on until the end of the next measure.
    else if (measure - heldFrom <= 1) return []
    const before = i > 0 ? layers[i - 1]![path[i - 1]!]!.name : null
    if (chosen.name === before && !chosen.given) return []
    return [
      { note: s.first.event.id, measure: s.first.measure.number, name: chosen.name, given: chosen.given },
    ]
  })
}

function slotsOf(tune: Tune): Slot[] {
  const measures = placeMeasures(tune)
  const notes = placeEvents(tune).filter(isNote)
  const slots = new Map<string, Placed<NoteEvent>[]>()
  let given = 0
  for (const p of notes) {
    const half = toNumber(p.measure.full) / 2
    const inHalf = toNumber(p.measure.full) >= 3 && toNumber(p.inMeasure) >= half ? 1 : 0
    // A chord that is given begins a stretch of its own.
    if (chordOf(p) !== undefined) given++
    const key = `${p.measure.index}:${inHalf}:${given}`
    slots.set(key, [...(slots.get(key) ?? []), p])
  }
  const isPickup = (p: Placed) =>
    p.measure.index === 0 && toNumber(measures[0]!.length) < toNumber(measures[0]!.full)
  return [...slots.values()]
    .filter(([first]) => chordOf(first!) !== undefined || !isPickup(first!))
    .map(list => ({
      first: list[0]!,
      notes: list,
      atBar: list[0]!.inMeasure.n === 0,
      key: list[0]!.measure.key,
    }))
}

/** The chord that is given on a note, where it is one. */
function chordOf({ event }: Placed<NoteEvent>): string | undefined {
  return event.chord !== undefined && parseChord(event.chord) !== null ? event.chord : undefined
}

interface Candidate {
  readonly name: string
  readonly cost: number
  readonly given: boolean
}

const MINOR: ReadonlySet<string> = new Set(['minor', 'dorian', 'phrygian', 'locrian'])
const familyOf = ({ mode }: Key): Family =>
  mode === 'mixolydian' ? mode : MINOR.has(mode) ? 'minor' : 'major'

function candidates(slot: Slot, last: boolean): Candidate[] {
  const given = chordOf(slot.first)
  if (given !== undefined) return [{ name: given, cost: 0, given: true }]
  const scale = keyTones(slot.key)
  const raised = (scale[0]!.pitchClass + 11) % 12
  const leads =
    familyOf(slot.key) === 'minor' &&
    slot.notes.some(p => p.event.heads.some(h => pitchClass(h.pitch) === raised))
  return DEGREES[familyOf(slot.key)].map(([degree, cost]) => {
    const third = (scale[(degree + 2) % 7]!.pitchClass - scale[degree]!.pitchClass + 12) % 12
    // The fifth of a minor key has a leading tone when the tune gives it one; else it stays as the mode has
    // it.
    const name = `${scale[degree]!.name}${third === 3 && !(leads && degree === 4) ? 'm' : ''}`
    const chord = parseChord(name)!
    const classes = new Set(chord.intervals.map(i => (chord.root + i) % 12))
    const away = last && degree !== 0 ? COSTS.awayAtEnd : 0
    return { name, cost: cost + away + COSTS.outside * outside(slot, classes), given: false }
  })
}

/** Share of the slot, by length and beat, that lies outside the chord. */
function outside(slot: Slot, classes: ReadonlySet<number>): number {
  let [out, all] = [0, 0]
  for (const p of slot.notes) {
    const weight = toNumber(p.event.duration) * (1 + 0.6 * beatStrength(p.measure.felt, p.inMeasure))
    for (const h of p.event.heads) {
      all += weight
      if (!classes.has(pitchClass(h.pitch))) out += weight
    }
  }
  return all > 0 ? out / all : 0
}

const LETTER = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 } as const
const pitchClass = (p: { step: keyof typeof LETTER; alter: number }) => (LETTER[p.step] + p.alter + 12) % 12

/**
 * Warm-ups out of the tune itself: its scale in this hand, its shapes string by string, its one hard shift,
 * its double stops apart and together.
 */
import type { Derived } from '#core/arrangement/derive'
import type { FingeredNote } from '#core/fingering/fingering'
import type { FingerPin, FingerPins } from '#core/fingering/fingerPin'
import { lettersOf } from '#core/instruments/instruments'
import { byLetters } from '#core/music/edit/spelling'
import { insertAfter } from '#core/music/edit/notes'
import { frac } from '#core/music/fraction'
import { noteId } from '#core/music/ids'
import { degree, keyName } from '#core/music/key'
import { diatonic, midi, prettyPitch, type Pitch } from '#core/music/pitch'
import { emptyTune, type InstrumentId, type Tune } from '#core/music/tune'

export interface WarmUp {
  readonly kind: 'scale' | 'shape' | 'shift' | 'doubleStop'
  readonly name: string
  readonly why: string
  readonly tune: Tune
  /** The places its notes have in the tune it is taken from, where they are what it is for. */
  readonly pins: FingerPins
}

/** One quarter of an exercise: what sounds, and how it is taken in the tune. */
interface Step {
  readonly pitches: readonly Pitch[]
  readonly as?: FingeredNote
}

const most = <T>(list: readonly T[], weight: (x: T) => number): T | undefined =>
  list.reduce<T | undefined>(
    (best, x) => (best === undefined || weight(x) > weight(best) ? x : best),
    undefined,
  )

/** The warm-ups a tune gives rise to, in the order one would play them. Empty for a tune without notes. */
export function warmUps(d: Derived, instrument: InstrumentId): WarmUp[] {
  const notes = d.fingering.notes.filter(n => n.tiedFrom === undefined)
  if (notes.length === 0) return []
  return [scale(d, notes), ...shapes(d, notes, instrument), ...shift(d, notes), ...doubleStops(d)]
}

const stepOf = (n: FingeredNote): Step => ({ pitches: [n.pitch], as: n })

/** Quarters (double stops where several pitches stand together), a whole note at the end. */
function exercise(d: Derived, name: string, steps: readonly Step[]): Pick<WarmUp, 'tune' | 'pins'> {
  const start = {
    ...emptyTune(`${name} (${d.tune.title})`),
    key: d.tune.key,
    clef: d.tune.clef,
    metre: { beats: 4, unit: 4 } as const,
    kind: 'warm-up',
    tempo: { beat: frac(1), perMinute: 60 },
    instrument: d.fingering.problem.options.instrument,
  }
  const { tune } = steps.reduce(
    // The last note fills its measure.
    (at, { pitches }, i) =>
      insertAfter(at.tune, at.chosen, { pitches, length: frac(i === steps.length - 1 ? 4 - (i % 4) : 1) }),
    { tune: start as Tune, chosen: null as string | null },
  )
  const ids = tune.measures.flatMap(m => m.events.map(e => e.id))
  return {
    tune,
    pins: Object.fromEntries(steps.flatMap(({ as }, i) => (as ? [[noteId(ids[i]!, 0), placeOf(as)]] : []))),
  }
}

const placeOf = ({ string, finger, anchor }: FingeredNote): FingerPin =>
  finger === 0 ? { string, finger } : { string, finger, anchor }

/**
 * From the lowest tonic of the tune's range up as far as the tune goes, and back; a range without a tonic
 * begins on its lowest note.
 */
function scale(d: Derived, notes: readonly FingeredNote[]): WarmUp {
  const { key } = d.tune
  const sorted = notes.map(n => n.pitch).sort((a, b) => midi(a) - midi(b))
  const [low, high] = [sorted[0]!, sorted.at(-1)!]
  const line: Pitch[] = []
  for (
    let p: Pitch | null = byLetters(low, 0, key);
    p && midi(p) <= midi(high) && line.length < 24;
    p = byLetters(p, 1, key)
  )
    line.push(p)
  const from = line.findIndex(p => degree(key, p) === 1)
  const up = from >= 0 && line.length - from >= 4 ? line.slice(from) : line
  const steps = [...up, ...up.slice(0, -1).reverse()].map(p => ({ pitches: [p] }))
  return {
    kind: 'scale',
    name: `Scale of ${keyName(key)}`,
    why: 'The notes of the tune in order, in the hand it is played with.',
    ...exercise(d, 'Scale', steps),
  }
}

/**
 * On every string with three fingers or more: what the fingers do there, up and down, twice. The two busiest
 * strings.
 */
function shapes(d: Derived, notes: readonly FingeredNote[], instrument: InstrumentId): WarmUp[] {
  const byString = new Map<number, FingeredNote[]>()
  for (const n of notes) byString.set(n.string, [...(byString.get(n.string) ?? []), n])
  return [...byString]
    .map(([string, own]) => {
      // The commonest hand on this string; its notes once each.
      const anchor = most([...new Set(own.map(n => n.anchor))], a => own.filter(n => n.anchor === a).length)
      const hand = own.filter(n => n.anchor === anchor)
      const unique = [...new Map(hand.map(n => [midi(n.pitch), n])).values()].sort(
        (a, b) => midi(a.pitch) - midi(b.pitch),
      )
      return { string, count: own.length, unique }
    })
    .filter(s => s.unique.length >= 3)
    .sort((a, b) => b.count - a.count)
    .slice(0, 2)
    .map(({ string, unique }) => {
      const once = [...unique, ...unique.slice(1, -1).reverse()]
      const letter = lettersOf(instrument, d.fingering.problem.options.tuning)[string]!
      return {
        kind: 'shape',
        name: `The hand on the ${letter} string`,
        why: `${unique.map(n => prettyPitch(n.pitch)).join(' ')}: the fingers this tune uses there, slowly, leaving each down as long as it can stay.`,
        ...exercise(d, `Hand on ${letter}`, [...once, ...once, unique[0]!].map(stepOf)),
      }
    })
}

/** The longest shift there is: its two notes in turn, four times. */
function shift(d: Derived, notes: readonly FingeredNote[]): WarmUp[] {
  const hardest = most(d.shifts, s => s.mm)
  const to = notes.findIndex(n => n.id === hardest?.to)
  const from = notes.find(n => n.id === hardest?.from) ?? notes[to - 1]
  if (!hardest || to < 1 || !from) return []
  const [a, b] = [stepOf(from), stepOf(notes[to]!)]
  return [
    {
      kind: 'shift',
      name: `The shift from ${prettyPitch(from.pitch)} to ${prettyPitch(notes[to]!.pitch)}`,
      why: `${Math.round(hardest.mm)} mm, by itself: slide without pressing, then sooner each time. No pain; stop when the hand is tired.`,
      ...exercise(d, 'Shift', [a, b, a, b, a, b, a, b]),
    },
  ]
}

/** Each kind of double stop: the lower note, the upper, then both. At most three of them. */
function doubleStops(d: Derived): WarmUp[] {
  const seen = new Map<string, readonly Pitch[]>()
  for (const e of d.tune.measures.flatMap(m => m.events))
    if (e.kind === 'note' && e.heads.length > 1)
      seen.set(
        e.heads.map(h => diatonic(h.pitch)).join(),
        e.heads.map(h => h.pitch),
      )
  const stops = [...seen.values()].slice(0, 3)
  if (stops.length === 0) return []
  const steps = stops
    .flatMap(pitches => [...pitches.map(p => [p]), pitches, pitches])
    .map(p => ({ pitches: p }))
  return [
    {
      kind: 'doubleStop',
      name: 'Double stops apart and together',
      why:
        stops.map(s => s.map(prettyPitch).join('–')).join(', ') +
        ': one note, the other, then both on a slow bow.',
      ...exercise(d, 'Double stops', steps),
    },
  ]
}

/**
 * What a tuning does to a tune: how much of it rings open, which drones it offers, and which phrases can be
 * answered an octave away.
 */
import type { Semitones } from '#core/music/pitch'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { lettersOf } from '#core/instruments/instruments'
import { tonicClass } from '#core/music/key'
import type { Tune } from '#core/music/tune'
import type { Derived } from './derive'
import { derive, type DeriveMemory } from './derive'
import type { DeriveContext } from './context'
import { withPlayed } from './edits'
import type { Arrangement } from './recipe'
import { eventOf } from '#core/music/ids'

export interface Moved {
  readonly phrase: string
  /** First event of the phrase. */
  readonly id: string
  /** Semitones by which it moves when the same fingers go so many strings over: −12 is an octave lower. */
  readonly by: Semitones
  /** Strings it moves: positive towards the lower ones. */
  readonly strings: number
}

export interface CannotMove {
  readonly phrase: string
  readonly id: string
  readonly why: string
}

export interface TuningEffect {
  /** Share of the playing time on open strings, 0 to 1. */
  readonly open: number
  /** Open strings (0 the highest) that go with the tune's tonic: the tonic itself or its fifth. */
  readonly drones: readonly { readonly string: number; readonly degree: 'tonic' | 'fifth' }[]
  /** Phrases that fall or rise an octave with the same fingers: each can be a call and its own answer. */
  readonly octaves: readonly Moved[]
  readonly cannot: readonly CannotMove[]
  /** Cost of the fingering, for comparing tunings. */
  readonly cost: number
  /** Notes that are off the instrument. */
  readonly missing: number
}

const OCTAVE = 12

/** @param memory what other tunings of this arrangement were worked out with */
export function tuningEffect(
  tune: Tune,
  recipe: Arrangement,
  tuning: Tuning | null,
  context: DeriveContext,
  memory?: DeriveMemory,
): TuningEffect {
  const d = derive(tune, withPlayed(recipe, { tuning: tuning && [...tuning] }), context, memory)
  const strings = tuning ?? homeTuning(recipe.played.instrument)
  const { tones } = d.fingering.problem
  const total = tones.reduce((s, t) => s + t.seconds, 0)
  const openSeconds = d.fingering.notes
    .filter(n => n.tiedFrom === undefined && n.finger === 0)
    .reduce((s, n) => s + tones[n.tone]!.seconds, 0)
  const tonic = tonicClass(d.tune.key)
  const moves = octaveMoves(d, strings, lettersOf(recipe.played.instrument, tuning))
  return {
    open: total === 0 ? 0 : Math.min(1, openSeconds / total),
    drones: strings.flatMap((m, string): TuningEffect['drones'] => {
      const above = (((m - tonic) % 12) + 12) % 12
      return above === 0 ? [{ string, degree: 'tonic' }] : above === 7 ? [{ string, degree: 'fifth' }] : []
    }),
    ...moves,
    cost: d.fingering.total,
    missing: d.fingering.findings.filter(f => f.severity === 'error').length,
  }
}

/**
 * For every phrase: with the same fingers so many strings over, does all of it move by an octave? And if not,
 * why.
 */
function octaveMoves(
  d: Derived,
  tuning: Tuning,
  letters: readonly string[],
): Pick<TuningEffect, 'octaves' | 'cannot'> {
  const octaves: Moved[] = []
  const cannot: CannotMove[] = []
  for (const p of d.form.phrases) {
    const events = new Set(p.events)
    const used = [
      ...new Set(d.fingering.notes.filter(n => events.has(eventOf(n.id))).map(n => n.string)),
    ].sort()
    if (used.length === 0) continue
    const found = moves(used, tuning)
    const [phrase, id] = [p.label, p.events[0]!]
    if (found.length > 0) octaves.push(...found.map(m => ({ phrase, id, ...m })))
    else cannot.push({ phrase, id, why: whyNot(used, tuning, letters) })
  }
  return { octaves, cannot }
}

function moves(used: readonly number[], tuning: Tuning): { by: Semitones; strings: number }[] {
  return [1, 2, 3, -1, -2, -3].flatMap(strings => {
    const by = used.map(s => (tuning[s + strings] === undefined ? null : tuning[s + strings]! - tuning[s]!))
    const first = by[0]
    return first !== null && first !== undefined && Math.abs(first) === OCTAVE && by.every(b => b === first)
      ? [{ by: first, strings }]
      : []
  })
}

function whyNot(used: readonly number[], tuning: Tuning, letters: readonly string[]): string {
  const pairs = tuning.flatMap((t, i) =>
    tuning.flatMap((u, k) => (k > i && t - u === OCTAVE ? [[i, k] as const] : [])),
  )
  if (pairs.length === 0) return 'no two strings of this tuning are an octave apart'
  const both = pairs.find(([i, k]) => used.includes(i) && used.includes(k))
  if (both) return `it is in both octaves already: on ${letters[both[0]]} and on ${letters[both[1]]}`
  const alone = used.find(s => !pairs.some(pair => pair.includes(s)))
  if (alone !== undefined) return `${letters[alone]} has no string an octave away`
  return 'its strings would not all move the same way'
}

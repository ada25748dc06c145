/**
 * Which key, octave and tuning suits a learner: every one of them tried, the fingers found, and what it asks
 * told.
 */

import type { DeriveContext } from '#core/arrangement/context'
import { arrangedOf, DeriveMemory, placesOf } from '#core/arrangement/derive'
import { withKey, withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import type { Level } from '#core/levels/levels'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { formatPitch, midi, type Pitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import {
  candidatesOf,
  compareRows,
  type Candidate,
  type KeyQuestion,
  type KeyRow,
  type KeySearch,
} from './keyRows'
import { skillOf } from './catalogue'
import { keyCost, OWN_KEY } from './keyCost'
import { skillLevel } from './demands'
import { factsOf } from './facts'
import { lowestHand } from '#core/fingering/limits'
import { lowestBound, lowestLevel } from './lowest'

/**
 * Half steps above the highest open string that a learner may still be asked for: beyond, the tune lies an
 * octave too high.
 */
const HIGHEST_ABOVE = 17
/** Half steps above it that lie in first position. */
const AT_HOME = 7
/** Octaves tried, the ones that fit the strings. */
const OCTAVES = [0, -1, 1, -2, -3] as const

/**
 * A key at home and retuned. Retuning is worth it only where it makes a tune no harder and gains what a
 * teacher would retune for: a lower level, fewer shifts, or more of the tune's notes on open strings. Other
 * tunings are left out.
 */
export function tryKey(
  tune: Tune,
  question: KeyQuestion,
  search: KeySearch,
  context: DeriveContext,
  memory = new DeriveMemory(),
): KeyRow[] {
  const rows: KeyRow[] = []
  for (const c of candidatesOf(question)) {
    const home = c.tuning && rows.find(r => r.tuning === null)
    const row = tryCandidate(tune, c, search, context, memory, home ?? undefined)
    if (row) rows.push(row)
  }
  return rows
}

/**
 * The best way to play the tune in one key and tuning on one instrument; null when it fits no octave of it,
 * or is not worth leaving `home` for.
 */
export function tryCandidate(
  tune: Tune,
  { instrument, key, tuning }: Candidate,
  search: KeySearch,
  context: DeriveContext,
  memory = new DeriveMemory(),
  home?: KeyRow,
): KeyRow | null {
  const atMost: Level = home?.level ?? 8
  // To read and find one's way in other strings is a skill of its own: where it comes later, nothing is
  // looked for.
  if (tuning && (skillLevel('crossTuning', instrument, search.table) ?? 1) > atMost) return null
  const base = search.base?.[instrument] ?? newArrangement(instrument, sizeOf(instrument).name)
  const strings = tuning ?? homeTuning(instrument)
  const above = INSTRUMENTS[instrument].writtenAbove
  const inOctave = (octave: number) =>
    withPlayed(withKey(base, key, tune.key), { tuning: tuning && [...tuning], octave, level: null })
  const pitches = pitchesOf(arrangedOf(tune, inOctave(0), context, memory).tune)
  if (pitches.length === 0) return null
  const sounding = pitches.map(p => midi(p) - above)
  const [low, high] = [Math.min(...sounding), Math.max(...sounding)]
  const fits = (octave: number) =>
    low + 12 * octave >= strings.at(-1)! && high + 12 * octave <= strings[0]! + HIGHEST_ABOVE
  const ringing = (on: Tuning, octave: number) => sounding.filter(s => on.includes(s + 12 * octave)).length
  const ringsMore = (octave: number) =>
    !home || ringing(strings, octave) > ringing(homeTuning(instrument), home.octave)
  const mayBeEasier = !home || home.shifts > 0 || lowestBound(home.grade) < home.level
  let best: KeyRow | null = null
  // First the octave that is more likely at home.
  const beyond = (octave: number) => sounding.filter(s => s + 12 * octave > strings[0]! + AT_HOME).length
  const octaves = OCTAVES.filter(fits)
    .slice(0, MOST_OCTAVES)
    .toSorted((a, b) => beyond(a) - beyond(b))
  for (const octave of octaves) {
    if (!mayBeEasier && !ringsMore(octave)) continue
    const recipe = inOctave(octave)
    // Another octave for which the hand must have learned more is not easier.
    const { states, findings } = placesOf(tune, recipe, context, memory)
    if (findings.some(f => f.severity === 'error')) continue
    if (lowestHand(states, instrument) > (best?.level ?? atMost)) continue
    const row = rowOf(tune, recipe, search, context, memory, best?.level ?? atMost)
    if (!row || row.level > atMost || (best && compareRows(row, best) >= 0)) continue
    if (home && !ringsMore(octave) && row.level === home.level && row.shifts >= home.shifts) continue
    best = { ...row, key, octave, tuning }
    // Where the hand stays in place another octave is not easier.
    if (best && best.shifts === 0) break
  }
  return best
}

/** So many octaves that fit are compared. */
const MOST_OCTAVES = 2

const PITCHES = new WeakMap<Tune, readonly Pitch[]>()

function pitchesOf(tune: Tune): readonly Pitch[] {
  let pitches = PITCHES.get(tune)
  if (pitches) return pitches
  pitches = tune.measures.flatMap(m =>
    m.events.flatMap(e => (e.kind === 'note' ? e.heads.map(h => h.pitch) : [])),
  )
  PITCHES.set(tune, pitches)
  return pitches
}

/** The lowest and the highest note of a tune that has some. */
function rangeOf(tune: Tune): [Pitch, Pitch] {
  const sorted = pitchesOf(tune).toSorted((a, b) => midi(a) - midi(b))
  return [sorted[0]!, sorted.at(-1)!]
}

function rowOf(
  tune: Tune,
  recipe: Arrangement,
  search: KeySearch,
  context: DeriveContext,
  memory: DeriveMemory,
  atMost: Level,
): Omit<KeyRow, 'key' | 'octave' | 'tuning'> | null {
  const graded = lowestLevel(tune, recipe, context, memory, search.table, atMost)
  if (graded.unplayable > 0) return null
  const { derived } = graded
  const notes = derived.fingering.notes.filter(n => n.tiedFrom === undefined)
  const open = notes.filter(n => n.finger === 0).length
  return {
    instrument: recipe.played.instrument,
    level: graded.level,
    openShare: notes.length > 0 ? Math.round((100 * open) / notes.length) / 100 : 0,
    crossings: derived.crossings.length,
    shifts: derived.shifts.length,
    keyCost:
      keyCost(derived.tune.key, recipe.played.tuning ?? homeTuning(recipe.played.instrument)) -
      (recipe.played.key === null ? OWN_KEY : 0),
    shapes: skillOf('shapeChange').asks(factsOf(derived, graded.recipe)).length,
    range: rangeOf(derived.tune).map(formatPitch) as [string, string],
    grade: graded.grade,
    recipe: withPlayed(graded.recipe, { level: graded.level }),
    own: recipe.played.key === null && recipe.played.octave === 0 && recipe.played.tuning === null,
  }
}

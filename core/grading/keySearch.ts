/** Which key, octave and tuning suits a learner: every one of them tried, the fingers found, and what it asks told. */

import type { DeriveContext } from '#core/arrangement/context'
import { arrangedOf, DeriveMemory, placesOf } from '#core/arrangement/derive'
import { withKey, withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { formatPitch, midi, type Pitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { compareRows, type Candidate, type KeyRow, type KeySearch } from './keyRows'
import { skillById } from './catalogue'
import { factsOf } from './facts'
import { lowestHand } from '#core/fingering/limits'
import { lowestLevel } from './lowest'

/** Half steps above the highest open string that a learner may still be asked for: beyond, the tune lies an octave too high. */
const HIGHEST_ABOVE = 17
/** Octaves tried, the ones that fit the strings. */
const OCTAVES = [0, -1, 1, -2, -3] as const

/** The best way to play the tune in one key and tuning on one instrument; null when it fits no octave of it, or asks for more than was to be found. */
export function tryCandidate(
  tune: Tune,
  { instrument, key, tuning, atMost = 8 }: Candidate,
  search: KeySearch,
  context: DeriveContext,
  memory = new DeriveMemory(),
): KeyRow | null {
  const base = search.base?.[instrument] ?? newArrangement(instrument, sizeOf(instrument).name)
  const strings = tuning ?? homeTuning(instrument)
  const above = INSTRUMENTS[instrument].writtenAbove
  let best: KeyRow | null = null
  let fitting = 0
  for (const octave of OCTAVES) {
    const recipe = withPlayed(withKey(base, key, tune.key), {
      tuning: tuning && [...tuning],
      octave,
      level: null,
    })
    const arranged = arrangedOf(tune, recipe, context, memory)
    const pitches = memory.stage('pitches', [arranged], null, () => pitchesOf(arranged.tune))
    if (pitches.length === 0) return null
    const [low, high] = [midi(pitches[0]!) - above, midi(pitches.at(-1)!) - above]
    if (low < strings.at(-1)! || high > strings[0]! + HIGHEST_ABOVE) continue
    if (++fitting > MOST_OCTAVES) break
    // Another octave for which the hand must have learned more is not easier.
    const { states, findings } = placesOf(tune, recipe, context, memory)
    if (findings.some(f => f.severity === 'error')) continue
    if (lowestHand(states, instrument) > (best?.level ?? atMost)) continue
    const row = rowOf(tune, recipe, pitches, search, context, memory)
    if (row && row.level <= atMost && (!best || compareRows(row, best) < 0))
      best = { ...row, key, octave, tuning }
    // Where the hand stays in place another octave is not easier.
    if (best && best.shifts === 0) break
  }
  return best
}

/** So many octaves that fit are compared. */
const MOST_OCTAVES = 2

const pitchesOf = (tune: Tune): Pitch[] =>
  tune.measures
    .flatMap(m => m.events.flatMap(e => (e.kind === 'note' ? e.heads.map(h => h.pitch) : [])))
    .sort((a, b) => midi(a) - midi(b))

function rowOf(
  tune: Tune,
  recipe: Arrangement,
  pitches: readonly Pitch[],
  search: KeySearch,
  context: DeriveContext,
  memory: DeriveMemory,
): Omit<KeyRow, 'key' | 'octave' | 'tuning'> | null {
  const graded = lowestLevel(tune, recipe, context, memory, search.table)
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
    shapes: skillById.get('shapeChange')!.asks(factsOf(derived, graded.recipe)).length,
    range: [formatPitch(pitches[0]!), formatPitch(pitches.at(-1)!)],
    grade: graded.grade,
    recipe: withPlayed(graded.recipe, { level: graded.level }),
    own: recipe.played.key === null && recipe.played.octave === 0 && recipe.played.tuning === null,
  }
}

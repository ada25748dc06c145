/** Which notes of a key a level has on an instrument: each tried by itself. */
import type { DeriveContext } from '#core/arrangement/context'
import { derive, type DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { fingeringOptions, tempoOf } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import { outOfReach } from '#core/fingering/states'
import { skillOf } from '#core/grading/catalogue'
import { gradeOf, type LevelTable } from '#core/grading/demands'
import type { Level } from '#core/levels/levels'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { frac } from '#core/music/fraction'
import { eventOf } from '#core/music/ids'
import { alterations, type Key } from '#core/music/key'
import { tonesOf } from '#core/line/tones'
import { midi, OCTAVES, STEPS, type Pitch } from '#core/music/pitch'
import { emptyTune, type Tune } from '#core/music/tune'

/**
 * Pitches as written for the instrument, from the lowest up.
 * @param also notes outside the key that are to be tried too
 */
export function allowedPitches(
  key: Key,
  recipe: Arrangement,
  level: Level,
  context: DeriveContext,
  memory: DeriveMemory,
  table: LevelTable = {},
  also: readonly Pitch[] = [],
): Pitch[] {
  const { instrument, tuning } = recipe.played
  const strings = tuning ?? homeTuning(instrument)
  const above = INSTRUMENTS[instrument].writtenAbove
  const alter = alterations(key)
  const all = OCTAVES.flatMap(octave => STEPS.map((step): Pitch => ({ step, alter: alter[step], octave })))
  const fits = [...all, ...also].filter(
    p => midi(p) - above >= strings.at(-1)! && midi(p) - above <= strings[0]! + 24,
  )
  // A long rest after each note: nothing is asked but the note itself.
  const tune: Tune = {
    ...emptyTune(),
    key,
    clef: { violin: 'treble', viola: 'alto', cello: 'bass', bass: 'bass' }[instrument] as Tune['clef'],
    instrument,
    measures: fits.map((pitch, i) => ({
      id: `m${i}`,
      events: [
        { id: `p${i}`, kind: 'note' as const, duration: frac(2), heads: [{ pitch }] },
        { id: `r${i}`, kind: 'rest' as const, duration: frac(2) },
      ],
    })),
  }
  const own = withPlayed(recipe, {
    level,
    key: null,
    octave: 0,
    changes: [],
    tempo: null,
    passages: [],
    pins: { fingers: {}, strokes: {}, joins: {} },
  })
  const d = derive(tune, own, context, memory)
  const over = new Set(
    gradeOf(d, own, table)
      .demands.filter(
        x => x.level > level && x.asked.kind === 'skill' && skillOf(x.asked.skill).eased === 'place',
      )
      .flatMap(x => x.notes.map(n => n.note)),
  )
  for (const f of d.findings) if (f.severity === 'error' && f.where.note) over.add(eventOf(f.where.note))
  return fits.filter((_, i) => !over.has(`p${i}`)).sort((a, b) => midi(a) - midi(b))
}

/** How many notes of a tune, as it is played, lie off the instrument or beyond a level. */
export function notesOut(
  played: Tune,
  recipe: Arrangement,
  { level, context }: { readonly level: Level; readonly context: DeriveContext },
): number {
  const own = withPlayed(recipe, { level })
  const { writtenAbove } = INSTRUMENTS[recipe.played.instrument]
  const tones = tonesOf(played, { tempo: tempoOf(played, own), writtenAbove })
  const { off, beyond } = outOfReach(tones, fingeringOptions(played, own, new Set(), context))
  return off + beyond
}

/** What a tune begins with when nobody arranged it yet: a first sheet that a teacher could hand out. */
import type { BowSchool } from '#core/bowing/schools'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { midi } from '#core/music/pitch'
import type { InstrumentId, NoteEvent, Tune } from '#core/music/tune'
import { withBow, withPlayed, withSchools } from './edits'
import { newArrangement, type Arrangement } from './recipe'

/**
 * For an instrument, in its usual size. Where the source has neither slurs nor bow marks, what a teacher
 * would mark is there at once, told apart from what is written until it is kept; hooks are no matter of a
 * first lesson. A source with marks of its own stays as it is. A tune that says nothing of its instrument and goes
 * below the lowest string (a tenor's song) begins so many octaves higher that it does not.
 */
export function firstRecipe(tune: Tune, instrument: InstrumentId, name: string): Arrangement {
  const plain = inReach(tune, newArrangement(instrument, sizeOf(instrument).name, name))
  if (isBowed(tune)) return plain
  const may = { slur: true, lift: true, hook: false, part: false }
  return withBow(withSchools(plain, { bow: schoolFor(tune) }), { may })
}

function inReach(tune: Tune, recipe: Arrangement): Arrangement {
  const { instrument } = recipe.played
  const lowest = Math.min(...notesOf(tune).flatMap(n => n.heads.map(h => midi(h.pitch))))
  const below = homeTuning(instrument).at(-1)! + INSTRUMENTS[instrument].writtenAbove - lowest
  const octave = [1, 2].find(up => below <= 12 * up)
  return tune.instrument || below <= 0 || octave === undefined ? recipe : withPlayed(recipe, { octave })
}

const notesOf = (tune: Tune) =>
  tune.measures.flatMap(m => m.events.filter((e): e is NoteEvent => e.kind === 'note'))

/** The source says something of the bow. */
export const isBowed = (tune: Tune): boolean =>
  tune.slurs.length > 0 ||
  notesOf(tune).some(n => n.marks?.some(m => m === 'upbow' || m === 'downbow' || m === 'lift'))

/**
 * A song whose words are drawn over several notes goes by its syllables, an air without words by the phrase,
 * everything else by its first beats.
 */
function schoolFor(tune: Tune): BowSchool {
  const notes = notesOf(tune)
  const sung = notes.filter(n => n.syllables?.some(s => s !== null)).length
  if (sung > notes.length / 2) return sung < notes.length * DRAWN ? 'syllable' : 'down'
  return sung === 0 && AIR.test(tune.kind) ? 'phrase' : 'down'
}

const AIR = /\b(air|aria|lament|cantabile)\b/i

/** So large a share of the notes with a syllable of its own, and none is drawn over several. */
const DRAWN = 0.95

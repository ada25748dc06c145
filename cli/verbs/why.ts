import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt } from '#core/fingering/explain'
import { whySentence } from '#core/words/why'
import type { HandState } from '#core/fingering/candidates'
import { lettersOf } from '#core/instruments/instruments'
import { headOf, type NoteId } from '#core/music/ids'
import { formatPitch } from '#core/music/pitch'
import { BadInput } from '../badInput'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'
import { text, type Verb } from '../verb'

/** So many ways that were beaten are told. */
const BEATEN = 8

/** For whoever wonders at a finger: everything the search knew of one note. */
export const why: Verb = {
  name: 'why',
  what: 'One note as the search saw it: the reason, what it costs by component, the states it could have been in, and the ways that were beaten, with what each would cost more.',
  takes: 'FILE…',
  options: {
    ...ARRANGEMENT_OPTIONS,
    note: { type: 'string', value: 'ID', what: 'its id, as “finger” tells it: n12' },
  },
  run: (values, paths, open) => {
    const file = open(paths[0])
    const recipe = recipeFrom(file, values, 'fingers')
    const { fingering: f } = derive(file.tune, recipe, ASSUMED_HANDS)
    const asked = text(values.note) as NoteId | undefined
    const note = f.notes.find(n => n.id === asked)
    if (!note) {
      const known = f.notes.slice(0, 3).map(n => n.id)
      throw new BadInput(`--note ${asked ?? ''}: no note of this tune; the first are ${known.join(', ')}`)
    }
    const letters = lettersOf(recipe.played.instrument, recipe.played.tuning)
    const stateWords = (s: HandState) => ({
      places: s.places.map(p => `${letters[p.string]} ${p.finger}`),
      offset: s.lead.offset,
      anchor: s.anchor,
      shape: s.shape,
      cost: s.cost,
    })
    const at = note.tone
    const { path } = f.tables
    const states = f.problem.states[at]!
    const pinned = recipe.played.pins.fingers[note.tiedFrom ?? note.id] !== undefined
    return {
      note: note.id,
      pitch: formatPitch(note.pitch),
      measure: note.measure,
      why: whySentence(f, at, pinned, headOf(note.id)),
      chosen: stateWords(states[path[at]!]!),
      costs: costRecord(costsAt(f, at)),
      before: at > 0 ? stateWords(f.problem.states[at - 1]![path[at - 1]!]!) : null,
      after: at + 1 < path.length ? stateWords(f.problem.states[at + 1]![path[at + 1]!]!) : null,
      states: states.map(stateWords),
      beaten: alternativesAt(f, at, BEATEN).map(a => ({
        ...stateWords(states[a.path[at]!]!),
        extra: a.extra,
        changes: a.changes,
        difference: a.difference,
      })),
    }
  },
}

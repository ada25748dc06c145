/** What the page asks the eye. */
import { isHome } from '#core/instruments/tunings'
import { alterations, signature, type Key } from '#core/music/key'
import type { Facts, NoteRef } from '../facts'
import { type Skill, skillsOf } from '../skill'

const first = (f: Facts): NoteRef[] => f.rhythm.slice(0, 1)
/** Which skill a signature asks for. */
export function skillOfSignature(k: Key) {
  const sharps = signature(k)
  if (sharps >= 0) return sharps <= 3 ? 'sharps' : 'moreSharps'
  return sharps >= -2 ? 'flats' : 'moreFlats'
}
const key =
  (skill: ReturnType<typeof skillOfSignature>): Skill['asks'] =>
  f =>
    skillOfSignature(f.tune.key) === skill ? first(f) : []
const measures = (f: Facts, test: (i: number) => boolean): NoteRef[] =>
  f.tune.measures.flatMap((m, i) => {
    const note = m.events.find(e => e.kind === 'note')
    return note && test(i) ? [{ note: note.id, measure: f.measureOf(note.id) }] : []
  })
const skill = skillsOf('reading')

export const READING = [
  skill(
    'sharps',
    'nothing',
    'one to three sharps',
    'A key signature of one, two or three sharps.',
    [],
    1,
    key('sharps'),
    true,
  ),
  skill(
    'flats',
    'nothing',
    'one or two flats',
    'A key signature of one or two flats.',
    [],
    2,
    key('flats'),
    true,
  ),
  skill(
    'moreSharps',
    'nothing',
    'four sharps and more',
    'A key signature of four sharps or more.',
    ['sharps'],
    5,
    key('moreSharps'),
    true,
  ),
  skill(
    'moreFlats',
    'nothing',
    'three flats and more',
    'A key signature of three flats or more.',
    ['flats'],
    4,
    key('moreFlats'),
    true,
  ),
  skill('accidental', 'pitch', 'accidentals', 'A note that is not in the key.', ['sharps'], 3, f =>
    f.rhythm.filter(r =>
      r.event.heads.some(h => alterations(r.placed.measure.key)[h.pitch.step] !== h.pitch.alter),
    ),
  ),
  skill('repeat', 'nothing', 'repeats', 'A part is played again.', [], 1, f =>
    measures(f, i => f.tune.measures[i]!.repeatEnd === true),
  ),
  skill(
    'endings',
    'nothing',
    'first and second endings',
    'The end is another one the second time.',
    ['repeat'],
    1,
    f => measures(f, i => f.tune.measures[i]!.endings !== undefined),
  ),
  skill(
    'keyChange',
    'nothing',
    'a change of key',
    'The signature changes within the tune.',
    ['sharps'],
    5,
    f => measures(f, i => i > 0 && f.tune.measures[i]!.key !== undefined),
  ),
  skill(
    'tenorClef',
    'nothing',
    'the tenor clef',
    'Notes in the tenor clef.',
    [],
    5,
    f => (f.tune.clef === 'tenor' ? first(f) : []),
    true,
  ),
  skill(
    'crossTuning',
    'nothing',
    'a cross-tuning',
    'Strings that sound otherwise than at home.',
    ['sharps'],
    4,
    f => (f.recipe.played.tuning && !isHome(f.instrument, f.recipe.played.tuning) ? first(f) : []),
    true,
  ),
]

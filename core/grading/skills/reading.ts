/** What the page asks the eye. */
import { isHome } from '#core/instruments/tunings'
import { alterations, signature, type Key } from '#core/music/key'
import type { Facts, NoteRef } from '../facts'
import { forAll, type Skill } from '../skill'

const first = (f: Facts): NoteRef[] => f.rhythm.slice(0, 1)
/** Sharps (positive) or flats (negative) of the signature. */
const key =
  (test: (n: number) => boolean): Skill['asks'] =>
  f =>
    test(signature(f.tune.key)) ? first(f) : []
/** Which skill a signature asks for. */
const SIGNATURES = {
  sharps: (n: number) => n >= 0 && n <= 3,
  flats: (n: number) => n < 0 && n >= -2,
  moreSharps: (n: number) => n > 3,
  moreFlats: (n: number) => n < -2,
}
export const skillOfSignature = (k: Key): string =>
  Object.entries(SIGNATURES).find(([, test]) => test(signature(k)))![0]
const measures = (f: Facts, test: (i: number) => boolean): NoteRef[] =>
  f.tune.measures.flatMap((m, i) => {
    const note = m.events.find(e => e.kind === 'note')
    return note && test(i) ? [{ note: note.id, measure: f.measureOf(note.id) }] : []
  })
const skill = (
  id: string,
  title: string,
  says: string,
  after: readonly string[],
  level: Parameters<typeof forAll>[0],
  asks: Skill['asks'],
  ofTune = false,
): Skill => ({ id, domain: 'reading', title, says, after, levels: forAll(level), asks, ofTune })

export const READING: readonly Skill[] = [
  skill(
    'sharps',
    'one to three sharps',
    'A key signature of one, two or three sharps.',
    [],
    1,
    key(SIGNATURES.sharps),
    true,
  ),
  skill(
    'flats',
    'one or two flats',
    'A key signature of one or two flats.',
    [],
    2,
    key(SIGNATURES.flats),
    true,
  ),
  skill(
    'moreSharps',
    'four sharps and more',
    'A key signature of four sharps or more.',
    ['sharps'],
    5,
    key(SIGNATURES.moreSharps),
    true,
  ),
  skill(
    'moreFlats',
    'three flats and more',
    'A key signature of three flats or more.',
    ['flats'],
    4,
    key(SIGNATURES.moreFlats),
    true,
  ),
  skill('accidental', 'accidentals', 'A note that is not in the key.', ['sharps'], 3, f =>
    f.rhythm.filter(r =>
      r.event.heads.some(h => alterations(r.placed.measure.key)[h.pitch.step] !== h.pitch.alter),
    ),
  ),
  skill('repeat', 'repeats', 'A part is played again.', [], 1, f =>
    measures(f, i => f.tune.measures[i]!.repeatEnd === true),
  ),
  skill('endings', 'first and second endings', 'The end is another one the second time.', ['repeat'], 1, f =>
    measures(f, i => f.tune.measures[i]!.endings !== undefined),
  ),
  skill('keyChange', 'a change of key', 'The signature changes within the tune.', ['sharps'], 5, f =>
    measures(f, i => i > 0 && f.tune.measures[i]!.key !== undefined),
  ),
  skill(
    'tenorClef',
    'the tenor clef',
    'Notes in the tenor clef.',
    [],
    5,
    f => (f.tune.clef === 'tenor' ? first(f) : []),
    true,
  ),
  skill(
    'crossTuning',
    'a cross-tuning',
    'Strings that sound otherwise than at home.',
    ['sharps'],
    4,
    f => (f.recipe.played.tuning && !isHome(f.instrument, f.recipe.played.tuning) ? first(f) : []),
    true,
  ),
]

/** Ornaments. */
import { forAll, type Skill } from '../skill'

const marked =
  (...names: string[]): Skill['asks'] =>
  f =>
    f.rhythm.filter(r => r.event.marks?.some(m => names.includes(m)))
const skill = (
  id: string,
  title: string,
  says: string,
  after: readonly string[],
  level: Parameters<typeof forAll>[0],
  asks: Skill['asks'],
): Skill => ({ id, domain: 'ornament', title, says, after, levels: forAll(level), asks })

export const ORNAMENT: readonly Skill[] = [
  skill('grace', 'a grace note', 'A quick note before the beat.', ['slur2'], 4, f =>
    f.rhythm.filter(r => (r.event.grace?.length ?? 0) === 1),
  ),
  skill('graces', 'several grace notes', 'Two and more quick notes before the beat.', ['grace'], 6, f =>
    f.rhythm.filter(r => (r.event.grace?.length ?? 0) > 1),
  ),
  skill('cut', 'a cut', 'A higher finger flicks the string.', ['grace'], 4, marked('cut')),
  skill(
    'mordent',
    'a mordent',
    'To the neighbour and back, at once.',
    ['grace'],
    5,
    marked('mordent', 'upperMordent'),
  ),
  skill('turn', 'a turn', 'Round the note, above and below.', ['mordent'], 6, marked('turn')),
  skill('roll', 'a roll', 'A long note with a cut and a tap.', ['cut'], 6, marked('roll')),
  skill('trill', 'a trill', 'To and fro with the neighbour.', ['mordent'], 6, marked('trill')),
  skill('slideIn', 'a slide', 'The finger slides into the note.', ['one'], 4, marked('slide')),
]

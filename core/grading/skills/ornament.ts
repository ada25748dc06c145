/** Ornaments. */
import { type Skill, skillsOf } from '../skill'

const marked =
  (...names: string[]): Skill['asks'] =>
  f =>
    f.rhythm.filter(r => r.event.marks?.some(m => names.includes(m)))
const skill = skillsOf('ornament')

export const ORNAMENT = [
  skill('grace', 'off', 'a grace note', 'A quick note before the beat.', ['slur2'], 4, f =>
    f.rhythm.filter(r => (r.event.grace?.length ?? 0) === 1),
  ),
  skill(
    'graces',
    'off',
    'several grace notes',
    'Two and more quick notes before the beat.',
    ['grace'],
    6,
    f => f.rhythm.filter(r => (r.event.grace?.length ?? 0) > 1),
  ),
  skill('cut', 'off', 'a cut', 'A higher finger flicks the string.', ['grace'], 4, marked('cut')),
  skill(
    'mordent',
    'off',
    'a mordent',
    'To the neighbour and back, at once.',
    ['grace'],
    5,
    marked('mordent', 'upperMordent'),
  ),
  skill('turn', 'off', 'a turn', 'Round the note, above and below.', ['mordent'], 6, marked('turn')),
  skill('roll', 'off', 'a roll', 'A long note with a cut and a tap.', ['cut'], 6, marked('roll')),
  skill('trill', 'off', 'a trill', 'To and fro with the neighbour.', ['mordent'], 6, marked('trill')),
  skill('slideIn', 'off', 'a slide', 'The finger slides into the note.', ['one'], 4, marked('slide')),
]

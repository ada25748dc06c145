/** Two strings at once. */
import type { HandFact } from '../facts'
import { forAll, levels, type Skill, skillsOf } from '../skill'

const pair =
  (test: (low: HandFact['place'], high: HandFact['place']) => boolean): Skill['asks'] =>
  f =>
    f.hand.filter(
      h => h.together.length > 1 && h.place === h.together[0] && test(h.together[0]!, h.together.at(-1)!),
    )
const open = (p: HandFact['place']) => p.finger === 0
const skill = skillsOf('two strings')

export const TWO_STRINGS = [
  skill(
    'bothOpen',
    'oneString',
    'two open strings',
    'Both strings ring open.',
    ['open'],
    forAll(2),
    pair((a, b) => open(a) && open(b)),
  ),
  skill(
    'droneAbove',
    'oneString',
    'an open drone',
    'One string stopped, its neighbour open.',
    ['bothOpen'],
    levels(3, 4, 5),
    pair((a, b) => open(a) !== open(b) && a.sounding !== b.sounding),
  ),
  skill(
    'unison',
    'pitch',
    'a unison',
    'The fourth finger beside the open string it sounds like.',
    ['four', 'droneAbove'],
    levels(4, 6, 7),
    pair((a, b) => a.sounding === b.sounding),
  ),
  skill(
    'stoppedPair',
    'oneString',
    'a stopped double stop',
    'Two fingers on neighbouring strings.',
    ['droneAbove'],
    levels(5, 6, 7),
    pair((a, b) => !open(a) && !open(b) && a.finger !== b.finger),
  ),
  skill(
    'fifthBlock',
    'oneString',
    'a fifth under one finger',
    'One finger over two strings, both sounding.',
    ['block'],
    levels(5, 5, 6),
    pair((a, b) => !open(a) && a.finger === b.finger),
  ),
  skill(
    'threeStrings',
    'oneString',
    'a chord of three',
    'The bow rolls over three strings.',
    ['stoppedPair'],
    forAll(7),
    f => f.hand.filter(h => h.together.length > 2 && h.place === h.together[0]),
  ),
]

/** Rhythm and metre. */
import { toNumber } from '#core/music/fraction'
import { beatAt, inThrees, isUneven, sameMetre } from '#core/music/metre'
import type { RhythmFact } from '../facts'
import { type Skill, skillsOf } from '../skill'

const notes =
  (test: (r: RhythmFact, before: RhythmFact | undefined) => boolean): Skill['asks'] =>
  f =>
    f.rhythm.filter((r, i) => test(r, f.rhythm[i - 1]))
const near = (x: number, y: number) => Math.abs(x - y) < 1e-6
/** Five or seven, or eighths in twos and threes. */
const uneven = ({ placed: { measure } }: RhythmFact) =>
  (measure.felt.groups?.includes(3) ?? false) || (isUneven(measure.metre) && measure.metre.beats % 2 === 1)
/** In twos the eighth divides the beat; where they go in threes it is the beat's third. */
const compound = (r: RhythmFact) => inThrees(r.placed.measure.metre)
/** The short note of a dotted pair comes with the dot, not with four to the beat. */
const isShortOfDotted = (r: RhythmFact, before: RhythmFact | undefined, after: RhythmFact | undefined) =>
  [before, after].some(n => n !== undefined && n.event.tuplet === undefined && near(n.length, 3 * r.length))
/** One note fills a long beat of an uneven metre: felt as one beat. */
const isLongBeat = (r: RhythmFact) => {
  const { felt } = r.placed.measure
  return isUneven(felt) && r.strength > 0 && near(toNumber(beatAt(felt, r.placed.inMeasure).length), r.length)
}
const dotted = (r: RhythmFact) =>
  !compound(r) &&
  !isLongBeat(r) &&
  r.event.tuplet === undefined &&
  [1.5, 0.75, 0.375, 1.75, 0.875].some(x => near(r.length, x))
const skill = skillsOf('rhythm')

export const RHYTHM = [
  skill(
    'quarters',
    'pitch',
    'halves and quarters',
    'A note to the beat, and longer ones.',
    [],
    1,
    notes(r => r.length >= 1 && r.strength > 0 && !dotted(r)),
  ),
  skill(
    'eighths',
    'rhythm',
    'eighths',
    'Two notes to the beat.',
    ['quarters'],
    2,
    notes(r => !compound(r) && r.event.tuplet === undefined && near(r.length, 0.5)),
  ),
  skill(
    'pickup',
    'upbeats',
    'a pickup',
    'The tune begins before the first beat.',
    ['quarters'],
    2,
    f => f.rhythm.filter(r => r.measure === 0).slice(0, 1),
    true,
  ),
  skill('rest', 'pitch', 'rests', 'A silence that is counted.', ['quarters'], 1, f =>
    f.rhythm.filter(
      (r, i) =>
        i > 0 &&
        r.placed.start.n / r.placed.start.d >
          f.rhythm[i - 1]!.placed.start.n / f.rhythm[i - 1]!.placed.start.d + f.rhythm[i - 1]!.length + 1e-6,
    ),
  ),
  skill(
    'dottedHalf',
    'pitch',
    'a note of three beats',
    'Held through three beats.',
    ['quarters'],
    1,
    notes(r => !compound(r) && near(r.length, 3)),
  ),
  skill(
    'dotted',
    'rhythm',
    'dotted rhythm',
    'A long and a short that share their beats.',
    ['eighths'],
    3,
    notes(dotted),
  ),
  skill(
    'triplet',
    'rhythm',
    'triplets',
    'Three notes in the time of two.',
    ['eighths'],
    4,
    notes(r => r.event.tuplet !== undefined),
  ),
  skill(
    'sixteenths',
    'rhythm',
    'sixteenths',
    'Four notes to the beat, and shorter ones.',
    ['eighths'],
    4,
    f =>
      f.rhythm.filter(
        (r, i) =>
          r.event.tuplet === undefined &&
          r.length < 0.26 &&
          !isShortOfDotted(r, f.rhythm[i - 1], f.rhythm[i + 1]),
      ),
  ),
  skill(
    'syncopation',
    'rhythm',
    'syncopation',
    'A note that begins off the beat and sounds over it.',
    ['eighths'],
    4,
    notes(r => r.pushed && (r.placed.measure.metre.unit <= 4 || isUneven(r.placed.measure.metre))),
  ),
  skill(
    'compound',
    'nothing',
    'three to the beat',
    'Three, six, nine or twelve eighths: the beat has three parts.',
    ['quarters'],
    1,
    notes(r => compound(r) && r.strength === 3),
    true,
  ),
  skill(
    'compoundDotted',
    'rhythm',
    'dotted in a compound metre',
    'A dotted eighth within the three.',
    ['compound'],
    4,
    notes(r => compound(r) && near(r.length, 6 / r.placed.measure.metre.unit)),
  ),
  skill(
    'cutTime',
    'pitch',
    'two half notes to the measure',
    'The half note is the beat.',
    ['quarters'],
    3,
    f =>
      toNumber(f.d.tempo.beat) === 2
        ? f.rhythm.filter(r => r.placed.measure.metre.unit === 2 && r.strength === 3)
        : [],
    true,
  ),
  skill(
    'uneven',
    'nothing',
    'an uneven metre',
    'Five or seven: beats of two and of three.',
    ['compound'],
    1,
    notes(r => r.strength === 3 && uneven(r)),
    true,
  ),
  skill(
    'metreChange',
    'nothing',
    'a change of metre',
    'The metre changes within the tune.',
    ['quarters'],
    5,
    f =>
      f.rhythm.filter(
        (r, i) => i > 0 && !sameMetre(r.placed.measure.metre, f.rhythm[i - 1]!.placed.measure.metre),
      ),
  ),
]

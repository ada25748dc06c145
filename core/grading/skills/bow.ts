/** What the bow does. */
import type { Stroke } from '#core/bowing/stroke'
import type { Facts, NoteRef } from '../facts'
import { forAll, levels, type Skill, skillsOf } from '../skill'

const at = (s: Stroke, note = s.notes[0]!): NoteRef => ({ note, measure: s.measure })
const strokes =
  (test: (s: Stroke, f: Facts, i: number) => boolean): Skill['asks'] =>
  f =>
    f.strokes.flatMap((s, i) => (test(s, f, i) ? [at(s)] : []))

/** Changes of string between notes: so many strings, with or without a new bow. */
const crossings =
  (test: (strings: number, slurred: boolean) => boolean): Skill['asks'] =>
  f =>
    f.crossings.filter(c => test(c.strings, c.slurred))
const mark =
  (...names: string[]): Skill['asks'] =>
  f =>
    f.rhythm.filter(r => r.event.marks?.some(m => names.includes(m)))
const part =
  (low: number, high: number): Skill['asks'] =>
  f =>
    f.strokes
      .filter(
        s =>
          f.d.bowing.problem.options.pins[s.notes[0]!]?.part !== undefined &&
          (s.from + s.to) / 2 > low &&
          (s.from + s.to) / 2 < high,
      )
      .map(s => at(s))
const unequal: Skill['asks'] = f =>
  f.strokes.flatMap((s, i) => {
    const before = f.strokes[i - 1]
    return before &&
      s.restBefore === 0 &&
      !s.hook &&
      !s.lift &&
      (before.seconds >= 2.5 * s.seconds || s.seconds >= 2.5 * before.seconds)
      ? [at(s)]
      : []
  })
const skill = skillsOf('bow')

export const BOW = [
  skill(
    'separate',
    'pitch',
    'separate bows',
    'One bow a note, in turn.',
    [],
    forAll(1),
    strokes(s => s.tones.length === 1),
  ),
  skill(
    'crossing',
    'pitch',
    'crossing to the next string',
    'The arm goes to the neighbouring string with a new bow.',
    ['separate'],
    forAll(1),
    crossings((n, slurred) => n === 1 && !slurred),
  ),
  skill(
    'skip',
    'neighbour',
    'skipping a string',
    'The bow goes over a string it does not touch.',
    ['crossing'],
    forAll(1),
    crossings((n, slurred) => n > 1 && !slurred),
  ),
  skill(
    'slur2',
    'slurs',
    'a slur of two notes',
    'Two notes in one bow.',
    ['separate'],
    forAll(2),
    strokes(s => s.tones.length === 2),
  ),
  skill(
    'slur3',
    'slurs',
    'a slur of three notes',
    'Three notes in one bow.',
    ['slur2'],
    forAll(3),
    strokes(s => s.tones.length === 3),
  ),
  skill(
    'slur4',
    'slurs',
    'a slur of four notes or more',
    'Four notes and more in one bow.',
    ['slur3'],
    forAll(4),
    strokes(s => s.tones.length > 3),
  ),
  skill(
    'slurCrossing',
    'slurs',
    'a slur over a crossing',
    'The bow crosses within the slur.',
    ['slur2', 'crossing'],
    levels(3, 2, 3),
    crossings((n, slurred) => n === 1 && slurred),
  ),
  skill(
    'slurSkip',
    'slurs',
    'a slur over a skip',
    'The bow skips a string within the slur.',
    ['slurCrossing', 'skip'],
    forAll(6),
    crossings((n, slurred) => n > 1 && slurred),
  ),
  skill(
    'hook',
    'slurs',
    'a hooked bow',
    'Two notes in one bow, stopped between.',
    ['slur2'],
    forAll(3),
    strokes(s => s.hook),
  ),
  skill(
    'retake',
    'off',
    'a retake',
    'The bow is lifted and set anew.',
    ['separate'],
    forAll(1),
    strokes(s => s.lift),
  ),
  skill(
    'unequal',
    'pitch',
    'unequal strokes',
    'A long and a short bow in turn: the short one comes back quickly.',
    ['separate'],
    forAll(1),
    unequal,
  ),
  skill(
    'longBow',
    'pitch',
    'a long bow',
    'Two and a half seconds and more in one bow.',
    ['separate'],
    forAll(1),
    strokes(s => s.seconds >= 2.5),
  ),
  skill(
    'fastBow',
    'slower',
    'fast separate bows',
    'More than five bows a second.',
    ['separate'],
    forAll(5),
    strokes((s, f, i) => s.seconds < 0.2 && (f.strokes[i - 1]?.seconds ?? 1) < 0.2),
  ),
  skill(
    'accent',
    'off',
    'accents',
    'A stroke that begins with a bite.',
    ['separate'],
    forAll(3),
    mark('accent'),
  ),
  skill(
    'staccato',
    'off',
    'stopped short bows',
    'Short notes, stopped on the string.',
    ['separate'],
    forAll(2),
    mark('staccato'),
  ),
  skill('pizzicato', 'pitch', 'plucking', 'The string is plucked.', ['open'], forAll(1), mark('pizzicato')),
  skill(
    'dynamics',
    'off',
    'loud and soft',
    'Dynamics are played as they are written.',
    ['separate'],
    forAll(2),
    f => f.rhythm.filter(r => r.event.dynamic !== undefined),
  ),
  skill(
    'lowerHalf',
    'pitch',
    'the lower half',
    'Played in the lower half of the bow.',
    ['separate'],
    forAll(3),
    part(0, 0.42),
  ),
  skill(
    'upperHalf',
    'pitch',
    'the upper half',
    'Played in the upper half of the bow.',
    ['separate'],
    forAll(3),
    part(0.58, 1),
  ),
]

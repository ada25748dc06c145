/** Fingers, hands, positions, shifts. */
import type { HandFact, Facts } from '../facts'
import { forAll, levels, type Skill, skillsOf } from '../skill'

type Test = (h: HandFact) => boolean
const of =
  (test: Test): Skill['asks'] =>
  f =>
    f.hand.filter(test)
const finger =
  (n: number | 'T', mark?: string): Test =>
  h =>
    h.place.finger === n && !h.place.harmonic && (mark === undefined || h.place.mark === mark)
const stopped: Test = h => h.place.finger !== 0 && !h.place.harmonic
const shaped =
  (shape: string): Test =>
  h =>
    stopped(h) && h.state.shape === shape
const placeName = (h: HandFact) => h.place.position
const inPosition =
  (...names: string[]): Test =>
  h =>
    stopped(h) && names.includes(placeName(h))

/** The hand of two neighbouring notes: the same finger goes to the next string at another place. */
const hops: Skill['asks'] = f =>
  f.hand.filter((h, i) => {
    const before = f.hand[i - 1]
    const heard = before !== undefined && f.d.fingering.problem.before[h.place.tone] === before.place.tone
    return (
      heard &&
      stopped(h) &&
      h.place.finger === before.place.finger &&
      h.place.string !== before.place.string &&
      h.place.offset !== before.place.offset &&
      h.state.anchor === before.state.anchor
    )
  })

const spans =
  (kind: 'holds' | 'blocks'): Skill['asks'] =>
  f =>
    f.d[kind].map(s => ({ note: s.from, measure: f.measureOf(s.from) }))

/**
 * A finger stands low and then at home, or the other way round, within a phrase: on one string or from one to
 * the next, the hand forms anew.
 */
const changesShape: Skill['asks'] = f =>
  f.d.form.phrases.flatMap(p => {
    const own = new Set(p.events)
    const last = new Map<string, HandFact>()
    return f.hand.filter(h => {
      if (!own.has(h.note) || !stopped(h)) return false
      const key = `${h.place.finger}`
      const before = last.get(key)
      last.set(key, h)
      return (
        before !== undefined && before.place.mark !== h.place.mark && before.state.anchor === h.state.anchor
      )
    })
  })

const shifts =
  (test: (s: Facts['shifts'][number], f: Facts) => boolean): Skill['asks'] =>
  f =>
    f.shifts.filter(s => test(s, f))
const overOpen = (s: Facts['shifts'][number], f: Facts) => {
  const i = f.hand.findIndex(h => h.note === s.to)
  return i > 0 && f.hand[i - 1]!.place.finger === 0
}

const skill = skillsOf('left hand')

export const LEFT_HAND = [
  skill('open', 'place', 'open strings', 'The bow finds each string.', [], forAll(1), of(finger(0))),
  skill(
    'one',
    'place',
    'the first finger',
    'The first finger at its home place.',
    ['open'],
    forAll(1),
    of(finger(1, 'home')),
  ),
  skill(
    'two',
    'place',
    'the second finger at home',
    'The second finger at its home place.',
    ['one'],
    levels(1, 2, 1),
    of(finger(2, 'home')),
  ),
  skill(
    'three',
    'place',
    'the third finger',
    'The third finger at its home place.',
    ['one'],
    levels(1, 1, 8),
    of(finger(3, 'home')),
  ),
  skill(
    'four',
    'place',
    'the fourth finger',
    'The fourth finger at its home place.',
    ['one'],
    levels(3, 1, 1),
    of(finger(4, 'home')),
  ),
  skill(
    'low2',
    'place',
    'low 2',
    'The second finger drawn back to the first.',
    ['two'],
    levels(2, null, null),
    of(finger(2, 'low')),
  ),
  skill(
    'high3',
    'place',
    'high 3',
    'The third finger stretched to the bridge.',
    ['three'],
    levels(3, null, null),
    of(finger(3, 'high')),
  ),
  skill(
    'low1',
    'place',
    'low 1',
    'The first finger drawn back to the nut.',
    ['one', 'low2'],
    levels(4, null, null),
    of(finger(1, 'low')),
  ),
  skill(
    'low4',
    'place',
    'low 4',
    'The fourth finger drawn back.',
    ['four'],
    levels(4, null, null),
    of(finger(4, 'low')),
  ),
  skill(
    'stretched',
    'place',
    'a finger past its frame',
    'A finger reaches beyond the frame of the hand.',
    ['four'],
    levels(5, null, null),
    of(
      h => h.place.mark === 'extended' || finger(1, 'high')(h) || finger(2, 'high')(h) || finger(3, 'low')(h),
    ),
  ),
  skill(
    'shapeChange',
    'shape',
    'a change of hand shape',
    'A finger changes its place within a phrase.',
    ['low2'],
    levels(2, 4, 5),
    changesShape,
  ),
  skill(
    'hold',
    'pitch',
    'fingers kept down',
    'A finger stays down until it is wanted again.',
    ['one'],
    forAll(1),
    spans('holds'),
  ),
  skill(
    'hop',
    'neighbour',
    'a hop',
    'One finger goes to the next string, to another place.',
    ['two'],
    levels(3, 3, 3),
    hops,
  ),
  skill(
    'block',
    'neighbour',
    'a block',
    'One finger laid over two strings in advance.',
    ['one'],
    forAll(1),
    spans('blocks'),
  ),
  skill(
    'extendForward',
    'place',
    'the open hand forward',
    'A tone between first and second finger, the first stays.',
    ['four'],
    levels(null, 3, null),
    of(shaped('extended')),
  ),
  skill(
    'extendBack',
    'place',
    'the open hand back',
    'The first finger reaches back, the others stay.',
    ['four'],
    levels(null, 3, null),
    of(shaped('back')),
  ),
  skill(
    'half',
    'place',
    'half position',
    'The whole hand a half step lower.',
    ['one'],
    levels(6, 4, 2),
    of(inPosition('half')),
  ),
  skill(
    'second',
    'place',
    'second position',
    'The hand in second position.',
    ['one'],
    levels(6, 5, 3),
    of(inPosition('second', 'lower second', 'upper second', 'second-and-a-half')),
  ),
  skill(
    'third',
    'place',
    'third position',
    'The hand in third position.',
    ['one'],
    levels(5, 5, 3),
    of(inPosition('third', 'lower third', 'upper third', 'third-and-a-half')),
  ),
  skill(
    'fourth',
    'place',
    'fourth position',
    'The hand in fourth position.',
    ['one'],
    levels(7, 4, 5),
    of(inPosition('fourth')),
  ),
  skill(
    'fifth',
    'place',
    'fifth position',
    'The hand in fifth position.',
    ['third'],
    levels(7, 6, 6),
    of(inPosition('fifth', 'lower fifth', 'upper fifth', 'fifth-and-a-half')),
  ),
  skill(
    'upper',
    'place',
    'the upper positions',
    'The hand beyond fifth position.',
    ['fifth'],
    levels(8, 7, 7),
    of(h => stopped(h) && h.state.shape !== 'thumb' && !LOWER.has(placeName(h))),
  ),
  skill(
    'thumb',
    'place',
    'thumb position',
    'The thumb lies on the string.',
    ['fourth'],
    levels(null, 8, 8),
    of(shaped('thumb')),
  ),
  skill(
    'shiftOpen',
    'neighbour',
    'a shift over an open string',
    'The hand moves while an open string sounds.',
    ['open'],
    levels(5, 4, 3),
    shifts(overOpen),
  ),
  skill(
    'shiftSame',
    'neighbour',
    'a shift on one finger',
    'The same finger slides to its new place.',
    ['one'],
    levels(5, 4, 3),
    shifts((s, f) => s.sameFinger && !overOpen(s, f)),
  ),
  skill(
    'shiftBetween',
    'neighbour',
    'a shift between fingers',
    'One finger goes where another was.',
    ['shiftSame'],
    levels(6, 5, 3),
    shifts((s, f) => !s.sameFinger && !overOpen(s, f)),
  ),
  skill(
    'harmonic',
    'place',
    'a natural harmonic',
    'A finger touches the string and does not press.',
    ['one'],
    forAll(6),
    of(h => h.place.harmonic === true),
  ),
]

/** Names of the positions that have a skill of their own. */
const LOWER = new Set([
  'half',
  'first',
  'second',
  'lower second',
  'upper second',
  'second-and-a-half',
  'third',
  'lower third',
  'upper third',
  'third-and-a-half',
  'fourth',
  'fifth',
  'lower fifth',
  'upper fifth',
  'fifth-and-a-half',
])

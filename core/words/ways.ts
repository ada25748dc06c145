/** The words of other ways of playing. */
import type { Way } from '#core/fingering/alternatives'
import type { Ossia } from '#core/fingering/ossia'
import { tempoName } from '#core/music/valueName'
import type { Tally } from '#core/fingering/tally'

export function wayWords(w: Way): string {
  switch (w.id) {
    case 'firstPosition':
      return 'all in first position'
    case 'noOpen':
      return 'no open strings'
    case 'noFourth':
      return 'no fourth finger'
    case 'openWherever':
      return 'open strings wherever they are'
    case 'string':
      return `all on the ${w.letter} string`
    case 'still':
      return w.position === 'thumb' ? 'without moving the thumb' : `all in ${w.position} position`
  }
}

const many = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`

/** What another way gains and loses beside the one in use, in the figures a teacher reads. */
export interface Trade {
  readonly gains: readonly string[]
  readonly losses: readonly string[]
}

/** Less of these is a gain. */
const FEWER: readonly (readonly [
  keyof Tally & ('shifts' | 'crossings' | 'fourth' | 'reached' | 'slides'),
  string,
  string,
])[] = [
  ['shifts', 'shift', 'shifts'],
  ['crossings', 'crossing', 'crossings'],
  ['fourth', 'fourth finger', 'fourth fingers'],
  ['reached', 'stretch', 'stretches'],
  ['slides', 'slide of a finger', 'slides of a finger'],
]

/** Millimetres that a hand notices. */
const NOTICED = 10

export function tradeWords(own: Tally, other: Tally): Trade {
  const gains: string[] = []
  const losses: string[] = []
  for (const [what, one, more] of FEWER) {
    const less = own[what] - other[what]
    if (less > 0) gains.push(`${many(less, one, more)} fewer`)
    if (less < 0) losses.push(`${many(-less, one, more)} more`)
  }
  const way = own.way - other.way
  if (way >= NOTICED) gains.push(`${way} mm less to travel`)
  if (way <= -NOTICED) losses.push(`${-way} mm more to travel`)
  const open = other.open - own.open
  // An open string rings and rests the hand, or cannot be warmed: which, is the teacher's school.
  if (open > 0) gains.push(many(open, 'open string') + ' more')
  if (open < 0) losses.push(many(-open, 'open string') + ' fewer')
  const [a, b] = [own.holdsTo?.perMinute ?? Infinity, other.holdsTo?.perMinute ?? Infinity]
  const held = (t: Tally) =>
    t.holdsTo ? `playable up to ${tempoName(t.holdsTo)}` : 'nothing limits the tempo'
  if (b > a) gains.push(held(other))
  if (b < a) losses.push(held(other))
  return { gains, losses }
}

/** "1 shift fewer, but 2 crossings more"; null where the figures say nothing. */
export function tradeText({ gains, losses }: Trade): string | null {
  const [plus, minus] = [gains.join(', '), losses.join(', ')]
  return plus && minus ? `${plus}; but ${minus}` : plus || minus || null
}

/** The other lines that can be printed beside the first. */
export const OSSIA_WORDS: Readonly<Record<Ossia, string>> = {
  noFourth: wayWords({ id: 'noFourth' }),
  noOpen: wayWords({ id: 'noOpen' }),
  first: wayWords({ id: 'firstPosition' }),
}

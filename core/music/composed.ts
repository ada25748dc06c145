/**
 * Tunes made by the dozen, for tests and benches: phrases of a form, strong beats on the chords of a cadence,
 * the rest by steps. The same seed gives the same tune.
 */
import { numbers } from '../random'
import { parseKey } from './key'
import { diatonic, STEPS } from './pitch'

interface Style {
  readonly kind: string
  readonly metre: string
  readonly tempo: string
  /** Rhythms of a measure, in eighths. */
  readonly bars: readonly (readonly number[])[]
  readonly last: readonly number[]
}
const STYLES: readonly Style[] = [
  {
    kind: 'reel',
    metre: '4/4',
    tempo: '1/4=120',
    bars: [
      [1, 1, 1, 1, 1, 1, 1, 1],
      [2, 1, 1, 1, 1, 1, 1],
      [1, 1, 1, 1, 2, 1, 1],
    ],
    last: [1, 1, 1, 1, 4],
  },
  {
    kind: 'jig',
    metre: '6/8',
    tempo: '3/8=100',
    bars: [
      [1, 1, 1, 1, 1, 1],
      [2, 1, 1, 1, 1],
      [2, 1, 2, 1],
      [3, 1, 1, 1],
    ],
    last: [2, 1, 3],
  },
  {
    kind: 'waltz',
    metre: '3/4',
    tempo: '1/4=120',
    bars: [
      [2, 2, 2],
      [3, 1, 2],
      [4, 2],
      [2, 1, 1, 2],
    ],
    last: [6],
  },
  {
    kind: 'song',
    metre: '4/4',
    tempo: '1/4=88',
    bars: [
      [2, 2, 2, 2],
      [4, 2, 2],
      [4, 4],
      [2, 1, 1, 2, 2],
      [3, 1, 2, 2],
    ],
    last: [8],
  },
  {
    kind: 'march',
    metre: '2/4',
    tempo: '1/4=100',
    bars: [
      [1, 1, 2],
      [2, 1, 1],
      [2, 2],
      [1, 1, 1, 1],
    ],
    last: [4],
  },
  {
    kind: 'air',
    metre: '3/4',
    tempo: '1/4=66',
    bars: [
      [3, 1, 2],
      [2, 1, 1, 2],
      [4, 1, 1],
      [2, 4],
    ],
    last: [6],
  },
]
const KEYS = ['D', 'G', 'A', 'C', 'F', 'Bb', 'Em', 'Am', 'Dm', 'Edor', 'Amix', 'E', 'Eb']
const CADENCE = [0, 3, 4, 0]
const FORM = 'aaba'

/** One tune as ABC; `number` names it and seeds it. */
export function composedAbc(number: number): string {
  const r = numbers(number * 7919 + 17)
  const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!
  const style = pick(STYLES)
  const name = pick(KEYS)
  const key = parseKey(name)!
  const home =
    diatonic({ step: key.step, alter: 0, octave: 4 }) - (r() < 0.4 ? 0 : STEPS.indexOf(key.step) > 3 ? 7 : 0)
  const phrase = (closes: boolean) => {
    let at = home + pick([0, 2, 4, 7])
    return CADENCE.map((root, bar) => {
      const rhythm = closes && bar === 3 ? style.last : pick(style.bars)
      return rhythm
        .map((length, i) => {
          const strong = i === 0
          const wish = strong
            ? nearestOf(at + pick([-2, -1, 1, 2]), home + root)
            : at + pick([-2, -1, -1, 1, 1, 2])
          at = Math.min(home + 10, Math.max(home - 3, wish))
          const end = closes && bar === 3 && i === rhythm.length - 1
          return abcNote(end ? home + (at > home + 4 ? 7 : 0) : at, length)
        })
        .join('')
    })
  }
  const parts = [phrase(true), phrase(true)]
  const [a, b] = [parts[0]!, parts[1]!]
  const open = [...a.slice(0, 3), phrase(false)[3]!]
  const bars = [...FORM].flatMap((p, i) => (p === 'b' ? b : i === 0 ? open : a))
  return `X:${number}\nT:Made tune ${number}\nR:${style.kind}\nM:${style.metre}\nL:1/8\nQ:${style.tempo}\nK:${name}\n${bars.join('|')}|]\n`
}

const nearestOf = (at: number, root: number) =>
  [0, 2, 4]
    .flatMap(d => [-7, 0, 7].map(o => root + d + o))
    .reduce((a, b) => (Math.abs(b - at) < Math.abs(a - at) ? b : a))

function abcNote(at: number, length: number): string {
  const [letter, octave] = [STEPS[((at % 7) + 7) % 7]!, Math.floor(at / 7)]
  const text = octave >= 5 ? letter.toLowerCase() + "'".repeat(octave - 5) : letter + ','.repeat(4 - octave)
  return `${text}${length === 1 ? '' : length}`
}

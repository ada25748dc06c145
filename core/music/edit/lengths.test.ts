import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { formatFraction, frac } from '../fraction'
import type { Tune } from '../tune'
import { eventsOf } from './edited'
import { scaleLength, setLength, toggleTie, toggleTuplet, writtenLength } from './lengths'
import { moveByOctaves } from './pitches'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!.tune
const ids = (t: Tune, ...at: number[]) => at.map(i => eventsOf(t)[i]!.id)
const lengths = (t: Tune) =>
  eventsOf(t)
    .map(e => formatFraction(e.duration))
    .join(' ')
const tied = (t: Tune) =>
  eventsOf(t)
    .map(e => (e.kind === 'note' ? e.heads.map(h => (h.tied ? '-' : '.')).join('') : 'z'))
    .join(' ')

describe('how long a note lasts', () => {
  it.each([
    // A sixty-fourth to four whole notes; beyond them nothing changes.
    [frac(1, 16), '1/16'],
    [frac(1, 17), '1'],
    [frac(16), '16'],
    [frac(33, 2), '1'],
    [frac(3, 2), '3/2'],
    [frac(1), '1'],
  ])('%o is set, or not', (length, is) => {
    const t = tuneOf('D E|')
    const { tune, chosen } = setLength(t, ids(t, 0), length)
    expect(lengths(tune)).toBe(`${is} 1`)
    expect(chosen).toBe(ids(t, 0)[0])
    if (is === '1') expect(tune).toBe(t)
  })
  it.each([
    ['1/8', 'half', '1/4'],
    ['1/64', 'half', '1/16'],
    ['4', 'double', '16'],
    ['1/4', 'dot', '3/2'],
    ['3/8', 'dot', '1'],
    ['3/4', 'dot', '2'],
    ['3/16', 'dot', '1/2'],
    ['1/64', 'dot', '3/32'],
    ['3/128', 'dot', '1/16'],
  ] as const)('a note of %s, %s', (whole, how, is) => {
    const t = readAbc(
      `X:1\nT:t\nM:none\nL:${whole.includes('/') ? whole : '1/1'}\nK:D\nD${whole.includes('/') ? '' : whole}|\n`,
    ).tunes[0]!.tune
    expect(lengths(scaleLength(t, ids(t, 0), how).tune)).toBe(is)
  })
  it('in a tuplet is the length that is written', () => {
    const t = tuneOf('(3D E F G A|')
    expect(lengths(t)).toBe('2/3 2/3 2/3 1 1')
    expect(formatFraction(writtenLength(eventsOf(t)[0]!))).toBe('1')
    expect(lengths(setLength(t, ids(t, 0, 3), frac(1, 2)).tune)).toBe('1/3 2/3 2/3 1/2 1')
    // Written so already: it is the same tune.
    expect(setLength(t, ids(t, 0, 3), frac(1)).tune).toBe(t)
    expect(lengths(scaleLength(t, ids(t, 0), 'dot').tune)).toBe('1 2/3 2/3 1 1')
    expect(lengths(scaleLength(t, ids(t, 1), 'half').tune)).toBe('2/3 1/3 2/3 1 1')
  })
})

describe('tuplets', () => {
  it.each([
    // As many as are chosen, in the time of two, three, four or eight.
    ['D/ E/', [0, 1], '3/4 3/4', 2, 3],
    ['D/ E/ F/', [0, 1, 2], '1/3 1/3 1/3', 3, 2],
    ['D/ E/ F/ G/', [0, 1, 2, 3], '1/4 1/4 1/4 1/4', 4, 2],
    ['D/E/F/G/A/', [0, 1, 2, 3, 4], '2/5 2/5 2/5 2/5 2/5', 5, 4],
    ['D/E/F/G/A/B/', [0, 1, 2, 3, 4, 5], '1/3 1/3 1/3 1/3 1/3 1/3', 6, 4],
    ['D/E/F/G/A/B/c/d/e/', [0, 1, 2, 3, 4, 5, 6, 7, 8], Array(9).fill('4/9').join(' '), 9, 8],
    // A quarter and an eighth are three eighths.
    ['D E/', [0, 1], '2/3 1/3', 3, 2],
  ])('%s: made and undone', (music, at, is, actual, normal) => {
    const t = tuneOf(`${music}|`)
    const { tune: made } = toggleTuplet(t, ids(t, ...at))
    expect(lengths(made)).toBe(is)
    expect(eventsOf(made).map(e => [e.tuplet!.actual, e.tuplet!.normal])).toEqual(
      at.map(() => [actual, normal]),
    )
    expect(new Set(eventsOf(made).map(e => e.tuplet!.group)).size).toBe(1)
    // One of them is enough to make all of them plain.
    const plain = toggleTuplet(made, ids(t, at[0]!)).tune
    expect(eventsOf(plain)).toEqual(eventsOf(t))
  })
  it('are not made of one note, of notes in two measures, of what fits no number, of more than twelve, of nothing', () => {
    const t = tuneOf('D E|F G3/4 A/4 D/4|D//E//F//G//A//B//c//d//e//f//g//a//b//|')
    const none = [[0], [1, 2], [2, 3], Array.from({ length: 13 }, (_, i) => 6 + i), []]
    for (const at of none) expect(toggleTuplet(t, ids(t, ...at)).tune).toBe(t)
    expect(toggleTuplet(t, [...ids(t, 0), 'n999']).tune).toBe(t)
    expect(
      eventsOf(toggleTuplet(t, ids(t, ...Array.from({ length: 12 }, (_, i) => 6 + i))).tune)[6]!.tuplet,
    ).toMatchObject({ actual: 12, normal: 8 })
  })
  it('two side by side are two', () => {
    const t = tuneOf('D/E/F/ G/A/B/|')
    const first = toggleTuplet(t, ids(t, 0, 1, 2)).tune
    const both = toggleTuplet(first, ids(t, 3, 4, 5)).tune
    expect(new Set(eventsOf(both).map(e => e.tuplet!.group)).size).toBe(2)
    expect(lengths(toggleTuplet(both, ids(t, 4)).tune)).toBe('1/3 1/3 1/3 1/2 1/2 1/2')
  })
})

describe('ties', () => {
  it.each([
    ['D D|', 0, '- .'],
    ['D-D|', 0, '. .'],
    ['D|D|', 0, '- .'],
    ['[DA] [DB]|', 0, '-. ..'],
    ['[DA] [DA]|', 0, '-- ..'],
    ['[DA]-[DA]|', 0, '.. ..'],
    ['z D|', 0, 'z .'],
    ['D z|', 0, '. z'],
    ['D E|', 0, '. .'],
    ['D d|', 0, '. .'],
    ['F =F|', 0, '. .'],
    ['^D _E|', 0, '. .'],
    ['D E|', 1, '. .'],
  ])('%s, toggled at %i', (music, at, is) => {
    const t = tuneOf(music)
    const { tune, chosen } = toggleTie(t, ids(t, at)[0]!)
    expect(tied(tune)).toBe(is)
    expect(chosen).toBe(ids(t, at)[0])
  })
})

describe('octaves', () => {
  it.each([
    [-4, 0],
    [-5, 4],
    [4, 8],
    [5, 4],
  ])('by %i of a D in octave 4', (by, is) => {
    const t = tuneOf('D E|')
    const [d] = eventsOf(moveByOctaves(t, ids(t, 0), by).tune)
    expect(d?.kind === 'note' && d.heads[0]!.pitch.octave).toBe(is)
  })
})

import { describe, expect, it } from 'vitest'
import { countAt } from './counting'
import { frac, toNumber } from './fraction'
import { feltGroups } from './groups'
import {
  beatAt,
  beatsOf,
  beatStrength,
  defaultTempo,
  formatTempo,
  inThrees,
  isCompound,
  isUneven,
  metreName,
  metreOf,
  metreSchema,
  onBeat,
  parseMetre,
  sameMetre,
  type Metre,
} from './metre'
import { readAbc } from '#core/formats/abc/readAbc'
import { placeEvents, placeMeasures } from './timeline'

const metre = (text: string) => parseMetre(text)!
const tune = (m: string, music: string) => readAbc(`X:1\nT:t\nM:${m}\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
/** Strength of every unit of a measure. */
const strengths = (m: Metre) =>
  Array.from({ length: m.beats }, (_, k) => beatStrength(m, frac(4 * k, m.unit))).join('')
const counted = (m: Metre) =>
  Array.from({ length: m.beats }, (_, k) => countAt(m, frac(4 * k, m.unit), 'numbers')).join(' ')

describe('metres as they are written', () => {
  it.each([
    ['7/8', '7/8'],
    ['2+2+3/8', '2+2+3/8'],
    ['(2+2+3)/8', '2+2+3/8'],
    [' 2 + 3 / 8 ', '2+3/8'],
    ['2+2+2+3/8', '2+2+2+3/8'],
    ['3+2/4', '3+2/4'],
    ['64/8', '64/8'],
    ['1/4', '1/4'],
    ['10+12/16', '10+12/16'],
    // What a metre has anyway is not said.
    ['3+3/8', '6/8'],
    ['3+3+3/8', '9/8'],
    ['1+1+1/4', '3/4'],
  ])('%s is read as %s', (text, name) => expect(metreName(metre(text))).toBe(name))
  it.each([
    '7/9',
    '0/8',
    '2+0+3/8',
    '2+/8',
    '+3/8',
    '65/8',
    '7',
    'x/8',
    '2+2+3',
    '99+99/8',
    '-2/8',
    '3/8x',
    '3/8/8',
    '0+0/4',
  ])('%s is none', text => expect(parseMetre(text)).toBeNull())
  it('groups add up to the beats', () => {
    expect(metreSchema.safeParse({ beats: 7, unit: 8, groups: [2, 2, 3] }).success).toBe(true)
    expect(metreSchema.safeParse({ beats: 7, unit: 8, groups: [2, 3] }).success).toBe(false)
    expect(metreSchema.safeParse({ beats: 7, unit: 8, groups: [7] }).success).toBe(false)
  })
  it('two are the same only with the same groups', () => {
    expect(sameMetre(metre('2+2+3/8'), metre('2+2+3/8'))).toBe(true)
    expect(sameMetre(metre('2+2+3/8'), metre('3+2+2/8'))).toBe(false)
    expect(sameMetre(metre('2+2+3/8'), metre('7/8'))).toBe(false)
    expect(sameMetre(metreOf(7, 8), metreOf(7, 4))).toBe(false)
  })
})

describe('beats', () => {
  it.each([
    ['4/4', '3121'],
    ['3/4', '311'],
    ['2/4', '31'],
    ['6/8', '300100'],
    ['12/8', '300100200100'],
    ['9/8', '300100100'],
    ['6/4', '311211'],
    ['2+2+3/8', '3010200'],
    ['3+2+2/8', '3001010'],
    ['2+3+2/8', '3020010'],
    ['2+3/8', '30200'],
    ['3+2/8', '30020'],
    ['3+2/4', '31121'],
    ['2+2+2+3/8', '301010200'],
    ['3+3+2/8', '30020010'],
    ['2+2+2+2/8', '30102010'],
  ])('of %s weigh %s', (text, all) => expect(strengths(metre(text))).toBe(all))
  it.each([
    ['4/4', '1 2 3 4'],
    ['6/8', '1 and a 2 and a'],
    ['2+2+3/8', '1 and 2 and 3 and a'],
    ['3+2+2/8', '1 and a 2 and 3 and'],
    ['3+2/4', '1 2 3 4 5'],
    ['7/8', '1 2 3 4 5 6 7'],
  ])('of %s are counted %s', (text, all) => expect(counted(metre(text))).toBe(all))
  it('have a beginning and a length of their own', () => {
    const m = metre('2+2+3/8')
    expect(beatsOf(m).map(b => [b.index, toNumber(b.start), toNumber(b.length)])).toEqual([
      [0, 0, 1],
      [1, 1, 1],
      [2, 2, 1.5],
    ])
    expect(beatAt(m, frac(11, 4)).index).toBe(2)
    expect(beatAt(m, frac(7, 2)).index).toBe(0)
    expect([onBeat(m, frac(2)), onBeat(m, frac(5, 2)), onBeat(m, frac(11, 2))]).toEqual([true, false, true])
  })
  it('are uneven where eighths fall into twos and threes, compound where all are threes', () => {
    expect(['5/8', '7/8', '8/8', '10/8', '2+2+2+3/8', '7/16'].map(t => isUneven(metre(t)))).toEqual(
      Array(6).fill(true),
    )
    expect(['6/8', '9/8', '3/8', '4/4', '5/4', '12/8', '2/2'].map(t => isUneven(metre(t)))).toEqual(
      Array(7).fill(false),
    )
    expect(['9/8', '2+2+2+3/8', '3/8', '6/16', '6/4'].map(t => isCompound(metre(t)))).toEqual([
      true,
      false,
      false,
      true,
      false,
    ])
  })
  it('go in threes where they are compound, and where the measure is one such three', () => {
    expect(['3/8', '3/16', '6/8', '9/8', '12/16'].map(t => inThrees(metre(t)))).toEqual(Array(5).fill(true))
    expect(['3/4', '3/2', '4/8', '5/8', '2/4', '2+2+2+3/8', '2+1/8'].map(t => inThrees(metre(t)))).toEqual(
      Array(7).fill(false),
    )
  })
  it('an uneven metre is taken at the pace of its quarters where no tempo is said', () =>
    expect(['7/8', '4/4', '6/8', '5/16'].map(t => formatTempo(defaultTempo(metre(t))))).toEqual([
      '1/4=88',
      '1/4=88',
      '3/8=84',
      '1/8=88',
    ]))
})

describe('groups heard from a tune', () => {
  const heard = (m: string, music: string) => placeMeasures(tune(m, music))[0]!.felt.groups?.join('+') ?? null
  it.each([
    // Where the long notes lie.
    ['7/8', 'E2 G2 BAG|A2 F2 D3|E2 G2 Bcd|', '2+2+3'],
    ['7/8', 'B3 AG FE|d3 c2 B2|A2B G2 E2|', '3+2+2'],
    ['7/8', 'A2 Bcd e2|f2 e3 d2|AB c2d e2|', '2+3+2'],
    ['5/8', 'D2E F2|GFE D2|A2G F2|', '3+2'],
    ['5/8', 'A2 B3|cd e2d|A2 d3|', '2+3'],
    ['8/8', 'A3 B3 c2|d2c B2A G2|', '3+3+2'],
    ['8/8', 'A2 B2 c2 d2|e4 d2 c2|', '2+2+2+2'],
    ['11/8', 'A2 B2 cde f2 e2|d2 c2 B3 A2 G2|', '2+2+3+2+2'],
    ['5/4', 'A4 B2 c4|d6 e4|A2B2c2 d4|', '3+2'],
    ['5/4', 'A4 d6|B4 e2d2c2|', '2+3'],
    // Eighths all through tell by their harmony; where nothing tells, as is usual.
    ['7/8', '"D"ABc"G"de"A"fg|"D"fed"A"cB"D"AF|', '3+2+2'],
    ['7/8', 'ABcdefg|gfedcBA|', '2+2+3'],
    ['5/8', 'ABcde|edcBA|', '3+2'],
    // What is written stands, whatever the notes say.
    ['3+2+2/8', 'E2 G2 BAG|A2 F2 D3|', '3+2+2'],
  ])('%s: %s falls into %s', (m, music, groups) => expect(heard(m, music)).toBe(groups))
  it.each(['4/4', '3/4', '6/8', '9/8', '2/2', '6/4'])('%s has none', m =>
    expect(heard(m, 'A2B2c2|')).toBeNull(),
  )
  it('a pickup and a cut measure tell nothing; each metre of a tune is heard by itself', () => {
    const t = tune('7/8', 'AB|E2 G2 BAG|A2 F2 D3|[M:5/8]A2 B3|cd e2d|[M:7/8]E2 G2 Bcd|')
    expect(placeMeasures(t).map(m => metreName(m.felt))).toEqual([
      '2+2+3/8',
      '2+2+3/8',
      '2+2+3/8',
      '2+3/8',
      '2+3/8',
      '2+2+3/8',
    ])
    // What is printed stays as it is written.
    expect(new Set(placeMeasures(t).map(m => metreName(m.metre)))).toEqual(new Set(['7/8', '5/8']))
  })
  it('accents and long notes outweigh what is usual; a note that sounds over a beat speaks against it', () => {
    expect(feltGroups(metre('7/8'), [tune('7/8', 'ABLcdeLfg|').measures[0]!.events])?.join('+')).toBe('2+3+2')
    expect(feltGroups(metre('5/8'), [tune('5/8', 'AB2c2|').measures[0]!.events])?.join('+')).toBe('3+2')
  })
  it('strength follows the groups', () =>
    expect(
      placeEvents(tune('7/8', 'E2 G2 BAG|'))
        .map(p => beatStrength(p.measure.felt, p.inMeasure))
        .join(''),
    ).toBe('31200'))
})

/**
 * Where each kind of spice offers itself: "measure:quarter" of the place, and what it would become. Whether
 * hand and level bear it is not asked here.
 */
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { formatPitch } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { OFFERS } from './offers'
import { sceneOf } from './scene'
import type { SpiceKind } from './spices'

interface Head {
  readonly metre?: string
  readonly key?: string
  readonly tempo?: string
  readonly instrument?: InstrumentId
}
const JIG: Head = { metre: '6/8', key: 'G', tempo: '3/8=100' }

/**
 * "1:2 A4+D4 B4~A4 F#4!cut:1/2 (1)": heads together, a grace note, a mark, the length in quarters when it is
 * not one; what is slurred to the note before.
 */
function offers(
  kind: SpiceKind,
  music: string,
  { metre = '4/4', key = 'D', tempo = '1/4=84', instrument = 'violin' }: Head = {},
): string[] {
  const { tune } = readAbc(`X:1\nT:t\nM:${metre}\nL:1/8\nQ:${tempo}\nK:${key}\n${music}\n`).tunes[0]!
  const recipe = newArrangement(instrument, sizeOf(instrument).name)
  return OFFERS[kind](sceneOf(derive(tune, recipe, ASSUMED_HANDS), recipe)).map(o => {
    const bodies = o.by.map(b => {
      if (b.kind === 'rest') return 'z'
      const length = b.duration.n === b.duration.d ? '' : `:${b.duration.n}/${b.duration.d}`.replace('/1', '')
      return (
        b.heads.map(h => formatPitch(h.pitch)).join('+') +
        (b.grace ? `~${b.grace.map(formatPitch).join('')}` : '') +
        (b.marks ? `!${b.marks.join('!')}` : '') +
        length
      )
    })
    return [
      `${o.at.placed.measure.number}:${o.at.at}`,
      ...bodies,
      ...(o.slurred.length > 0 ? [`(${o.slurred.join()})`] : []),
    ].join(' ')
  })
}

describe('what a tune bears', () => {
  it.each<[SpiceKind, why: string, music: string, Head, string[]]>([
    [
      'repeats',
      'the first two of three eighths are one; a quarter said again turns over its neighbour',
      'DDDE F2F2|G4A4|',
      {},
      ['1:0 D4', '1:3 E4:1/2 F#4:1/2 (1)'],
    ],
    ['repeats', 'towards what lies a fourth or more away', 'F2F2 B4|', {}, ['1:1 G4:1/2 A4:1/2 (1)']],
    ['repeats', 'nor a short one and a long one', 'FF3 G4|F2F4 G2|', {}, []],
    ['repeats', 'not the stronger of the two', 'D2F2 F2E2|', {}, []],
    [
      'repeats',
      'not over the bar, nor where the two are not of a length',
      'D2E2 F2G2|G2A2 B4|B2A2 G2F2|F3F E4|',
      {},
      [],
    ],
    ['repeats', 'not off the beat, nor where three make the beat', 'DEEF GAAB|', {}, []],
    ['repeats', 'the same in a jig', 'DDD EEE|', JIG, []],
    ['repeats', 'not the last of all', 'F2E2 D2D2|', {}, []],
    [
      'turns',
      'a long note leads on: over its neighbour, and under it to the step above',
      'D4 F4|E3F G4|A8|',
      {},
      ['1:0 D4 E4:1/2 D4:1/2 (2)', '1:2 F#4 G4:1/2 F#4:1/2 (2)', '2:2 G4 F#4:1/2 G4:1/2 (2)'],
    ],
    ['turns', 'a whole note keeps three quarters of it', 'D8|B8|', {}, ['1:0 D4:3 E4:1/2 F#4:1/2 (2)']],
    ['turns', 'down as well', 'd4 G4|', {}, ['1:0 D5 C#5:1/2 B4:1/2 (2)']],
    ['turns', 'not in less than a second', 'D4 F4|A8|', { tempo: '1/4=150' }, []],
    ['turns', 'not from the middle of a beat, nor in a jig', 'D3E F3G|', {}, []],
    ['turns', 'nor where three make the beat', 'D6|E6|', JIG, []],
    ['ending', 'the last note rises to its octave', 'F2E2 D4|', {}, ['1:2 D4 D5']],
    ['ending', 'in a jig after its beat', 'FED D3|D6|', { ...JIG, key: 'D' }, ['2:0 D4:3/2 D5:3/2']],
    ['ending', 'not when it is no rest, too short, or too high', 'F2E2 E4|', {}, []],
    ['ending', 'too short', 'F2E2 D2|', {}, []],
    ['ending', 'too high', "a2f2 d'4|", {}, []],
    ['ending', 'held over', 'A2F2 D4-|D8|', {}, []],
    [
      'broken',
      'the second time it is heard',
      'D8|A4F4|D8|A4D4|',
      {},
      ['3:0 D4:1/2 F#4:1/2 A4:1/2 F#4:1/2 D4:1/2 F#4:1/2 A4:1/2 F#4:1/2'],
    ],
    [
      'broken',
      'downwards from the fifth',
      '"D"A8|d4F4|"D"A8|"D"D8|',
      {},
      ['3:0 A4:1/2 F#4:1/2 D4:1/2 F#4:1/2 A4:1/2 F#4:1/2 D4:1/2 F#4:1/2'],
    ],
    ['broken', 'not the first time', 'D8|A4F4|E8|A4D4|', {}, []],
    [
      'rocking',
      'over the open string below, the second time',
      'F2A2d4|A2F2D4|F2A2d4|A2F2D4|',
      {},
      ['3:2 D5:1/2 D4:1/2 D5:1/2 D4:1/2'],
    ],
    ['unisons', '4 beside the open string', 'D2F2A3F|d2B2E4|', {}, ['1:2 A4+A4:3/2']],
    ['unisons', 'not on the lowest string, where none lies below', 'G,4 D4|', {}, ['1:2 D4+D4:2']],
    ['unisons', 'not on a quarter', 'A2F2 A2F2|', {}, []],
    [
      'stops',
      'a sixth under a long note of its chord',
      '"D"d4 "G"B4|"A"c2E2 "D"D4|',
      {},
      ['1:0 F#4+D5:2', '1:2 D4+B4:2'],
    ],
    [
      'rolls',
      'three eighths and more of a dance, stopped',
      'G3 B3|d3 D2E|',
      JIG,
      ['1:0 G4!roll:3/2', '1:1.5 B4!roll:3/2', '2:0 D5!roll:3/2'],
    ],
    ['rolls', 'not at a walk', 'G3 B3|', { ...JIG, tempo: '3/8=30' }, []],
    ['rolls', 'not on an open string, nor by the fourth finger', 'A3 D3|G6|', JIG, []],
    [
      'slides',
      'up into a stopped note the phrase leans on',
      'D2F2 B4|E2A2 B2E2|',
      {},
      ['1:2 B4!slide:2', '2:2 B4!slide'],
    ],
    ['slides', 'not down into it, but where the phrase begins', 'd2c2 B4|', {}, ['1:0 D5!slide']],
    ['slides', 'not from above, whatever follows', 'B2A2 F4|E4 D4|', {}, ['1:0 B4!slide']],
    ['slides', 'not from its own height', 'A2E2 E4|', {}, []],
    ['slides', 'not into an eighth', 'D2F2 BAB2|', { tempo: '1/4=60' }, []],
    ['slides', 'not with the fourth finger', 'e2f2 b4|', {}, []],
    ['slides', 'not in a hurry', 'D2F2 B2A2|', { tempo: '1/4=180' }, []],
    [
      'hammers',
      'from the open string into the first or second finger',
      'D2F2 B4|E4 F4|',
      {},
      ['1:2 B4~A4:2', '2:0 E4~D4:2', '2:2 F#4~D4:2'],
    ],
    ['hammers', 'not after that very string', 'D4 E4|', {}, []],
    ['hammers', 'not where the key has no such open string', 'B4 e4|', { key: 'Eb' }, []],
    [
      'runs',
      'a third is filled on a quarter',
      'd2B2 A2F2|E2F2 D4|',
      {},
      ['1:0 D5:1/2 C#5:1/2', '1:2 A4:1/2 G4:1/2', '2:1 F#4:1/2 E4:1/2'],
    ],
    [
      'runs',
      'of two eighths within the measure a triplet',
      'D2 FA d2 Bd|',
      {},
      [
        '1:0 D4:1/2 E4:1/2',
        '1:1 F#4:1/3 G4:1/3 A4:1/3 (1,2)',
        '1:2 D5:1/2 C#5:1/2',
        '1:3 B4:1/3 C#5:1/3 D5:1/3 (1,2)',
      ],
    ],
    [
      'runs',
      'upwards and downwards, of a jig only the quarter',
      'd2B GBd|A3 F3|',
      { ...JIG, key: 'D' },
      ['1:0 D5:1/2 C#5:1/2'],
    ],
    ['runs', 'no step and no fourth', 'D2E2 A2d2|', {}, []],
    [
      'drones',
      'the open neighbour that rests with the note and its chord',
      '"D"D4 F4|"A"E4 "D"d4|"G"B4 G4|',
      {},
      ['1:0 D4+A4:2', '1:2 F#4+A4:2', '2:0 E4+A4:2', '2:2 D4+D5:2', '3:0 D4+B4:2', '3:2 G3+G4:2'],
    ],
    [
      'cuts',
      'a note that comes again, one the phrase leans on',
      'F2F2 A2B2|d2d2 c4|',
      {},
      ['1:1 F#4!cut', '1:2 A4!cut', '2:0 D5!cut', '2:1 D5!cut'],
    ],
    ['cuts', 'the top of a jig’s wave', 'DFA def|gfe dcB|', { ...JIG, key: 'D' }, ['2:0 G5!cut:1/2']],
    ['cuts', 'none in no time', 'FFFF AAAA|', { tempo: '1/4=220' }, []],
  ])('%s: %s (%s)', (kind, _why, music, head, expected) =>
    expect(offers(kind, music, head)).toEqual(expected),
  )
})

import { describe, expect, it } from 'vitest'
import { applyChanges } from '#core/arrangement/changes'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { equal } from '#core/music/fraction'
import { placeMeasures } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import { numbers } from '#core/random'
import { easier } from './easier'

const tuneOf = (head: string, music: string) =>
  readAbc(`X:1\nT:t\n${head}\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
const ease = (tune: Tune, level: Level) =>
  easier(tune, newArrangement('violin', sizeOf('violin').name), { level, context: ASSUMED_HANDS })
/** "D1 F1/2 z1/2 |": steps with their lengths in quarters. */
const line = (t: Tune) =>
  t.measures
    .map(m =>
      m.events
        .map(
          e =>
            (e.kind === 'note' ? e.heads.at(-1)!.pitch.step : 'z') +
            (e.duration.d === 1 ? e.duration.n : `${e.duration.n}/${e.duration.d}`) +
            (e.kind === 'note' && e.heads.some(h => h.tied) ? '-' : ''),
        )
        .join(' '),
    )
    .join(' | ')
const version = (tune: Tune, level: Level) =>
  line(applyChanges(tune, ease(tune, level).recipe.played.changes).tune)

/**
 * Rhythms as they come: every metre, pickups into both parts, dots, double ones, triplets, ties, rests,
 * sixteenths and shorter.
 */
function rhythms(seed: number): Tune {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const [metre, eighths] = pick([
    ['4/4', 8],
    ['2/4', 4],
    ['3/4', 6],
    ['6/8', 6],
    ['9/8', 9],
    ['2/2', 8],
    ['12/8', 12],
    ['3/8', 3],
  ] as const)
  const pickup = pick([0, 0, 1, 2, 3]) % eighths
  let at = 3
  const note = () => {
    at = Math.max(0, Math.min(7, at + Math.floor(next() * 5) - 2))
    return 'DEFGABcd'[at]!
  }
  const fill = (eighths: number) => {
    let [left, text] = [eighths * 2, '']
    while (left > 0) {
      const kind = next()
      if (kind < 0.08 && left >= 4) {
        text += `(3${note()}${note()}${note()}`
        left -= 4
        continue
      }
      if (kind > 0.08 && kind < 0.11) {
        text += `${note()}/4${note()}/4`
        left -= 1
        continue
      }
      const length = pick([1, 2, 2, 2, 3, 4, 4, 6, 7, 8, 12].filter(x => x <= left))
      const tie = kind > 0.9 && length < left
      text += kind > 0.84 && !tie ? `z${length}/2` : `${note()}${length}/2${tie ? '-' : ''}`
      left -= length
      if (!tie) continue
      text += `${'DEFGABcd'[at]}1/2`
      left -= 1
    }
    return `${text}|`
  }
  const part = () => (pickup ? fill(pickup) : '') + fill(eighths) + fill(eighths) + fill(eighths - pickup)
  return tuneOf(`M:${metre}\nQ:${metre.endsWith('/8') ? '3/8' : '1/4'}=90`, `${part()}|${part()}`)
}

const RHYTHM = new Set([
  'eighths',
  'pickup',
  'dotted',
  'triplet',
  'sixteenths',
  'syncopation',
  'compoundDotted',
  'cutTime',
])

describe('rhythm made easier', () => {
  it.each(Array.from({ length: 40 }, (_, i) => [i + 1]))(
    'whatever it is, no level asks for rhythms above it, and no measure changes its length (%i)',
    seed => {
      const tune = rhythms(seed)
      for (const level of [1, 2, 3] as const) {
        const { blocked, recipe } = ease(tune, level)
        expect(blocked.filter(d => d.asked.kind === 'skill' && RHYTHM.has(d.asked.skill))).toEqual([])
        const before = new Map(placeMeasures(tune).map(m => [m.measure.id, m]))
        const after = placeMeasures(applyChanges(tune, recipe.played.changes).tune)
        const upbeats = recipe.played.changes.some(c => c.kind === 'pickup')
        // Without its upbeats a measure that waited for one is whole.
        for (const m of after)
          expect(
            equal(m.length, before.get(m.measure.id)!.length) || (upbeats && equal(m.length, m.full)),
          ).toBe(true)
      }
    },
  )
  it.each<[string, Level, string, string, string]>([
    [
      'dotted pairs stay pairs, in even notes',
      2,
      'M:2/4\nQ:1/4=60',
      'G>A B>c|d2B>G|A4|G4|',
      'G1/2 A1/2 B1/2 C1/2 | D1 B1/2 G1/2 | A2 | G2',
    ],
    [
      'dotted pairs stay as they are from the level that has dots: a dance keeps its lilt',
      3,
      'M:2/4',
      'G>A B>c|d2B>G|A4|G4|',
      'G3/4 A1/4 B3/4 C1/4 | D1 B3/4 G1/4 | A2 | G2',
    ],
    [
      'a long dotted note ends on the beat, and the next begins there',
      2,
      'M:2/4',
      'd3B/c/|d3c|A4|G4|',
      'D1 B1 | D1 C1 | A2 | G2',
    ],
    [
      'the note before a pickup ends on the beat',
      2,
      'M:2/4\nQ:1/4=80',
      'D|GABc|d2BG|G3||d|GABc|G3|',
      'D1/2 | G1 B1/2 C1/2 | D1 B1/2 G1/2 | G1 z1/2 | D1/2 | G1 B1/2 C1/2 | G1 z1/2',
    ],
    [
      'half a beat that leads into a part is left out where no eighths are read, and the note before it lasts',
      1,
      'M:2/4\nQ:1/4=80',
      'D|G2A2|B2A2|G3||A|B2A2|G3|',
      'G1 A1 | B1 A1 | G2 | B1 A1 | G2',
    ],
    [
      'sixteenths among three eighths give way to those three',
      2,
      'M:6/8\nQ:3/8=50',
      'D/E/FA d2A|GFE D3|',
      'D1/2 F1/2 A1/2 D1 A1/2 | G1/2 F1/2 E1/2 D3/2',
    ],
    [
      'and so they do for the first year, and in one three to the measure',
      1,
      'M:3/8\nQ:1/8=90',
      'D/E/FA|G2E|D3|',
      'D1/2 F1/2 A1/2 | G1 E1/2 | D3/2',
    ],
    [
      'a note tied over the beat begins on it, and brings no dot back',
      2,
      'M:4/4\nQ:1/4=80',
      'G3A-A2G2|B2A2G4|',
      'G2 A1 G1 | B1 A1 G2',
    ],
  ])('%s', (_, level, head, music, expected) => expect(version(tuneOf(head, music), level)).toBe(expected))
  it('three eighths to the measure stay three for the first year: they are the beat', () =>
    expect(version(tuneOf('M:3/8\nQ:1/8=100', 'DFA|dAF|G2E|D3|'), 1)).toBe(
      'D1/2 F1/2 A1/2 | D1/2 A1/2 F1/2 | G1 E1/2 | D3/2',
    ))
  it('three that are too quick are played slower, and never give way to a rest', () => {
    const quick = ease(tuneOf('M:3/8\nQ:3/8=130', 'DFA|dAF|GFE|D3|DFA|dAF|GEF|D3|'), 1)
    expect(quick.blocked).toEqual([])
    expect(quick.tempo).toBeLessThan(0.5)
    expect(line(quick.derived.tune)).not.toContain('z')
  })
  it('a jig for the second year goes slower, keeps a run on one string and thins what crosses strings to its own long and short', () => {
    const e = ease(tuneOf('M:6/8\nQ:3/8=104', 'DFA dAF|GFE FED|DFA dAF|EFE D3|'), 2)
    expect(e.tempo).toBeLessThan(0.8)
    const bars = line(e.derived.tune).split(' | ')
    expect(bars[0]).toBe('D1 A1/2 D1 F1/2')
    expect(bars[3]).toBe('E1/2 F1/2 E1/2 D3/2')
    // Measures alike are eased alike, and so is what has their rhythm.
    expect(bars[2]).toBe(bars[0])
    expect(bars[1]).toBe('G1 E1/2 F1 D1/2')
  })
  it('two half notes to the measure are counted in four, in the tempo of the first year, and every note stays', () => {
    const e = ease(tuneOf('M:2/2\nQ:1/2=60', 'D4F4|A4F4|G4E4|D8|'), 1)
    expect(e).toMatchObject({ changes: [], blocked: [] })
    expect(e.recipe.played.tempo).toEqual({ beat: { n: 1, d: 1 }, perMinute: 80 })
  })
})

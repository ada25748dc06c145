import fc from 'fast-check'
import { expect, it } from 'vitest'
import { bowTune } from './bowing'
import { bowLine, type LineOptions } from './line'
import type { StrokePin } from './pins'
import { MAY_ALL } from './schools'
import { costOfBowing, searchBow } from './search'
import { lineOptions } from './searches'
import { bowed } from './testing'

it('costs after a change what it costs found anew', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A4', 'z2', 'B3'), { minLength: 4, maxLength: 40 }),
      fc.array(fc.nat(), { minLength: 1, maxLength: 4 }),
      fc.boolean(),
      (line, where, all) => {
        const o = { metre: '4/4', ...(all && { may: MAY_ALL }) }
        let before = bowed('C ' + line.join(' ') + '|', o).search
        let row = before.line
        for (const w of where) {
          const k = w % row.tones.length
          row = { ...row, start: row.start.slice() }
          row.start[2 * k + (w % 2)]! += 1000
          before = searchBow(row, before)
          expect(before.total).toBeCloseTo(searchBow(row).total, 6)
          expect(costOfBowing(row, before.strokes)).toBeCloseTo(before.total, 6)
        }
      },
    ),
    {
      numRuns: 60,
      // A change close before one that was made earlier: the rows behind both stand on bases of their own.
      examples: [
        [
          [
            ...Array.from({ length: 7 }, () => 'D' as const),
            '(FG)',
            'D',
            '(FG)',
            'D',
            'D',
            'z2',
            'z2',
            'D',
            'D',
          ],
          [1302049409, 0, 194266162],
          true,
        ],
      ],
    },
  )
})

const PINS: readonly StrokePin[] = [
  { direction: 'down' },
  { direction: 'up' },
  { way: 'hook' },
  { way: 'lift' },
  { way: 'turn' },
  { at: 0.2 },
  { part: 'tip' },
]

it('tells of every stroke after a pin, on a string of its own, what it tells when it is found anew', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A3B', 'z2', 'B3A'), { minLength: 4, maxLength: 40 }),
      fc.array(fc.tuple(fc.nat(), fc.constantFrom(...PINS)), { minLength: 1, maxLength: 3 }),
      (line, pins) => {
        // A bar of nothing but rests has no stroke to pin.
        let before = bowed('C ' + line.join(' ') + '|', { may: MAY_ALL })
        const { tune, tones, options } = before.problem
        let o = options
        for (const [w, pin] of pins) {
          const { id } = tones[w % tones.length]!
          o = { ...o, pins: { ...o.pins, [id]: pin }, stringOf: e => (e === id ? 0 : options.stringOf(e)) }
          const after = bowTune(tune, o, before)
          const fresh = bowTune(tune, o)
          const place = (s: (typeof fresh.strokes)[number]) =>
            [s.notes, s.direction, s.way, s.from, s.to].join()
          const anew = new Map(fresh.strokes.map(s => [place(s), s]))
          // Of two bowings that cost the same either may be found; where they agree all they say agrees.
          for (const s of after.strokes) expect(anew.get(place(s)) ?? s).toEqual(s)
          before = after
        }
      },
    ),
    { numRuns: 100 },
  )
})

/**
 * What a teacher may change from one bowing to the next: pins, given or taken back; and things on which every
 * tone hangs.
 */
const CHANGES: readonly ((o: LineOptions, id: string) => LineOptions)[] = [
  ...PINS.map(pin => (o: LineOptions, id: string) => ({ ...o, pins: { ...o.pins, [id]: pin } })),
  o => ({ ...o, pins: {} }),
  (o, id) => ({ ...o, stringOf: e => (e === id ? 3 : o.stringOf(e)) }),
  o => ({ ...o, may: { ...MAY_ALL, slur: false } }),
  (o, id) => ({ ...o, joins: { ...o.joins, [id]: true } }),
  (o, id) => ({ ...o, phrases: new Set([...o.phrases, id]) }),
  o => ({ ...o, habits: { dotted: 'slurred', triplets: 'one' } }),
  (o, id) => ({ ...o, planOf: e => (e === id ? { school: 'separate', groove: null } : o.planOf(e)) }),
  o => ({ ...o, planOf: () => ({ school: 'pattern', groove: { pattern: [1, 3], unit: 0.5, offset: 0 } }) }),
  o => ({ ...o, planOf: () => ({ school: 'pattern', groove: { pattern: [2], unit: 0.5, offset: 0 } }) }),
  (o, id) => ({ ...o, ways: [undefined, id.length > 1 ? 'hook' : 'lift'] }),
  o => ({ ...o, bearing: o.bearing / 2 }),
]

it('costs at every tone after a change what it costs compiled anew', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A3B', 'z2', '(3ABc'), { minLength: 2, maxLength: 16 }),
      fc.array(fc.tuple(fc.nat(), fc.constantFrom(...CHANGES)), { minLength: 1, maxLength: 6 }),
      (music, changes) => {
        const { problem } = bowed('C ' + music.join(' ') + '|', { may: MAY_ALL })
        const { tones } = problem
        let o = lineOptions(problem)
        let line = bowLine(tones, o)
        for (const [w, change] of changes) {
          o = change(o, tones[w % tones.length]!.id)
          const { from: _, ...anew } = bowLine(tones, o)
          line = bowLine(tones, o, line)
          expect(line).toMatchObject(anew)
        }
      },
    ),
    { numRuns: 200 },
  )
})

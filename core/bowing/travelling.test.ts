import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bowCrossings, swings } from './crossings'
import { driftByMeasure, driftByPart, naturalDrift, offTheHair, setAnew } from './drift'
import type { Stroke } from './stroke'
import { bowed } from './testing'
import { wantedLength } from './travel'

const HAIR = 650
/** A stroke of which only what the bow's way hangs on is said. */
const stroke = (direction: Stroke['direction'], seconds: number, more: Partial<Stroke> = {}): Stroke => ({
  ...bowed('D2E2F2G2|').strokes[0]!,
  direction,
  seconds,
  lift: false,
  restBefore: 0,
  from: 0.3,
  accent: false,
  ...more,
})
const length = (s: Stroke) => wantedLength(s.seconds, s.loudness, s.accent)
const [down, up] = [stroke('down', 1), stroke('up', 0.5)]

describe('where the bow goes by itself', () => {
  it('takes the hair each stroke wants, to the tip on a down bow and back on an up bow', () => {
    const [a, b] = naturalDrift([down, up])
    expect(a!.to - a!.from).toBeCloseTo(length(down))
    expect(b!.from).toBe(a!.to)
    expect(b!.from - b!.to).toBeCloseTo(length(up))
  })
  it('begins where it was solved to begin, as long as all of it lies on the hair there', () => {
    expect(naturalDrift([stroke('down', 0.3, { from: 0.4 })])[0]!.from).toBe(0.4)
    // A long one down can't begin near the tip, nor a long one up near the frog.
    expect(naturalDrift([stroke('down', 1, { from: 0.95 })])[0]!.to).toBeCloseTo(1)
    expect(naturalDrift([stroke('up', 1, { from: 0.05 })])[0]!.to).toBeCloseTo(0)
  })
  it('begins anew after a lift and a rest, and nowhere else', () => {
    expect(
      [{ lift: true }, { restBefore: 0.2 }, { restBefore: 0.19 }, {}].map(m => setAnew(stroke('down', 1, m))),
    ).toEqual([true, true, false, false])
    const anew = stroke('down', 0.3, { lift: true, from: 0.1 })
    expect(naturalDrift([down, anew])[1]!.from).toBe(0.1)
    const [first, second] = naturalDrift([down, stroke('down', 0.3, { from: 0.1 })])
    expect(second!.from).toBe(first!.to)
  })
  it('of many strokes one way runs off the hair, of equal ones to and fro never', () => {
    expect(naturalDrift([down, down, down, down]).some(offTheHair)).toBe(true)
    expect(naturalDrift([down, stroke('up', 1), down, stroke('up', 1)]).some(offTheHair)).toBe(false)
  })
  it('feels nothing of a finger’s breadth beyond the hair', () => {
    expect([1.04, 1.06, -0.04, -0.06].map(to => offTheHair({ from: 0.5, to }))).toEqual([
      false,
      true,
      false,
      true,
    ])
  })
  const any = fc
    .array(
      fc.record({
        direction: fc.constantFrom<Stroke['direction']>('down', 'up'),
        seconds: fc.double({ min: 0.1, max: 3, noNaN: true }),
        lift: fc.boolean(),
        from: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      { minLength: 1, maxLength: 12 },
    )
    .map(list => list.map(o => stroke(o.direction, o.seconds, o)))
  it('goes on from where it is, by what each stroke wants', () => {
    fc.assert(
      fc.property(any, strokes => {
        const drift = naturalDrift(strokes)
        expect(drift).toHaveLength(strokes.length)
        drift.forEach((d, i) => {
          const by = length(strokes[i]!) * (strokes[i]!.direction === 'down' ? 1 : -1)
          expect(d.to - d.from).toBeCloseTo(by)
          if (i > 0 && !setAnew(strokes[i]!)) expect(d.from).toBe(drift[i - 1]!.to)
        })
      }),
    )
  })
})

describe('the drift in centimetres', () => {
  const at = (s: Stroke, measureIndex: number, pass = 1): Stroke => ({
    ...s,
    measure: measureIndex + 1,
    measureIndex,
    pass,
  })
  const cm = (s: Stroke) => (length(s) * HAIR) / 10
  const strokes = [at(down, 0), at(up, 0), at(down, 1), at(down, 0, 2), at(up, 1, 2)]
  const measures = driftByMeasure(strokes, HAIR, i => (i === 0 ? 'A' : undefined))
  it('is summed up by measure and time through, towards the tip positive', () => {
    expect(measures.map(m => [m.measure, m.part, m.pass])).toEqual([
      [1, 'A', 1],
      [2, null, 1],
      [1, 'A', 2],
      [2, null, 2],
    ])
    expect(measures[0]!.cm).toBeCloseTo(cm(down) - cm(up), 0)
    expect(measures[1]!.cm).toBeCloseTo(cm(down), 0)
    expect(measures[3]!.cm).toBeCloseTo(-cm(up), 0)
  })
  it('and by part', () => {
    const part = (part: string | null, pass: number, cm: number) => ({
      measure: 0,
      measureIndex: 0,
      part,
      pass,
      cm,
    })
    expect(
      driftByPart([part('A', 1, 1.2), part('A', 1, 0.1), part('B', 1, 3), part('B', 2, -3), part('A', 2, 1)]),
    ).toEqual([
      { part: 'A', pass: 1, cm: 1.3 },
      { part: 'B', pass: 1, cm: 3 },
      { part: 'B', pass: 2, cm: -3 },
      { part: 'A', pass: 2, cm: 1 },
    ])
  })
})

describe('the plan of the arm', () => {
  /** Strings by the notes' order: "0 1 1" is E, A, A. */
  const plan = (music: string, strings: string) => {
    const list = strings.split(' ').map(Number)
    const { strokes } = bowed(music, { tempo: '1/4=60' })
    const notes = strokes.flatMap(s => s.tones)
    return bowCrossings(strokes, e => list[notes.indexOf(e)]!)
  }
  it('says each change of string, from where and to where', () => {
    expect(plan('D2E2F2G2|', '0 1 1 3').map(c => [c.from, c.to, c.slurred, c.measure])).toEqual([
      [0, 1, false, 1],
      [1, 3, false, 1],
    ])
    expect(plan('D2E2F2G2|', '1 1 1 1')).toEqual([])
  })
  it('tells those under a slur, and the time the note before leaves', () => {
    const [slurred, turned] = plan('(D2E2)F2G2|', '0 1 2 2')
    expect(slurred).toMatchObject({ slurred: true, seconds: 1 })
    expect(turned).toMatchObject({ slurred: false, from: 1, to: 2 })
  })

  const SLOW = 0.3
  const swinging = (levels: string, seconds = 0.2, pass = 1) =>
    swings(
      levels.split('').map((l, i) =>
        stroke('down', seconds, {
          strings: l === '-' ? [0, 1] : [Number(l)],
          notes: [`n${i}`],
          measure: i,
          pass,
        }),
      ),
      SLOW,
    )
  it('names a long swing between two strings once, with where it begins and how long it is', () => {
    expect(swinging('01010101')).toEqual([{ note: 'n0', measure: 0, strokes: 8 }])
    expect(swinging('2201010101011')).toEqual([{ note: 'n2', measure: 2, strokes: 10 }])
  })
  it('says nothing of a short one, a slow one, one of three strings, or one said the first time through', () => {
    expect(swinging('0101010')).toEqual([])
    expect(swinging('01010101', SLOW)).toEqual([])
    expect(swinging('012012012012')).toEqual([])
    expect(swinging('01010101', 0.2, 2)).toEqual([])
  })
  it('is broken by two strings at once', () => {
    expect(swinging('0101-0101')).toEqual([])
    expect(swinging('-01010101').map(s => s.note)).toEqual(['n1'])
  })
})

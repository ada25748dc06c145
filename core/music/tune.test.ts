import { describe, expect, it } from 'vitest'
import { frac, LONGEST } from './fraction'
import { emptyTune, MOST, tuneSchema, type Tune } from './tune'

/** One note at a time, each of the length given. */
const notes = (...durations: { n: number; d: number }[]) => ({
  ...emptyTune('Heron on the Weir'),
  measures: [
    {
      id: 'm1',
      events: durations.map((duration, i) => ({
        id: `n${i}`,
        kind: 'note',
        duration,
        heads: [{ pitch: { step: 'A', alter: 0, octave: 4 } }],
      })),
    },
  ],
})
/** Where a document is at fault; null where it is none. */
const fault = (doc: unknown) => {
  const read = tuneSchema.safeParse(doc)
  return read.success ? null : read.error.issues[0]!.path.join('.')
}

describe('a tune', () => {
  it.each([
    [0, 1],
    [-1, 1],
    [9e15, 1],
    [LONGEST + 1, 1],
    [1, 23],
    [997, 991],
    [1, 8191],
    [1, 2 ** 40],
  ])('has no note of %i/%i quarters', (n, d) => {
    expect(fault(notes(frac(1), { n, d }))).toBe('measures.0.events.1.duration')
  })

  it.each([
    [1, 256],
    [4, 19],
    [8, 27],
    [1, 5],
    [24, 7],
  ])('may have one of %i/%i', (n, d) => {
    expect(fault(notes({ n, d }))).toBeNull()
  })

  it('is counted in beats of some length', () => {
    const tempo = (n: number, perMinute: number) => ({
      ...notes(frac(1)),
      tempo: { beat: frac(n), perMinute },
    })
    expect(fault(tempo(0, 90))).toBe('tempo.beat')
    expect(fault(tempo(-1, 90))).toBe('tempo.beat')
    expect(fault(tempo(1, 0))).toBe('tempo.perMinute')
    expect(fault(tempo(1, 90))).toBeNull()
  })

  it('gives each id once, to a measure or a note', () => {
    const tune = notes(frac(1), frac(1)) as Tune
    const [m] = tune.measures
    const [a, b] = m!.events
    const twice = { ...tune, measures: [{ ...m!, events: [a, { ...b!, id: 'n0' }] }] }
    expect(fault(twice)).toBe('measures.0.events.1.id')
    expect(fault({ ...tune, measures: [m, { ...m!, events: [] }] })).toBe('measures.1.id')
    expect(fault({ ...tune, measures: [{ ...m!, id: 'n0' }] })).toBe('measures.0.events.0.id')
  })

  it.each(['__proto__', 'constructor', 'toString', 'hasOwnProperty'])('does not call a note %s', name => {
    const tune = notes(frac(1))
    const [event] = tune.measures[0]!.events
    expect(fault({ ...tune, measures: [{ id: 'm1', events: [{ ...event, id: name }] }] })).toBe(
      'measures.0.events.0.id',
    )
  })

  it('holds so many notes and no more, however they are spread', () => {
    const of = (count: number) => ({
      ...emptyTune(),
      measures: Array.from({ length: Math.ceil(count / 1000) }, (_, m) => ({
        id: `m${m}`,
        events: Array.from({ length: Math.min(1000, count - 1000 * m) }, (__, e) => ({
          id: `n${m}.${e}`,
          kind: 'rest',
          duration: frac(1),
        })),
      })),
    })
    expect(fault(of(MOST.eventsInAll))).toBeNull()
    expect(fault(of(MOST.eventsInAll + 1))).toBe('measures.20')
  })

  it('is at most so long in all', () => {
    const half = frac(LONGEST / 2)
    expect(fault(notes(half, half))).toBeNull()
    expect(fault(notes(half, half, frac(1)))).toBe('measures.0')
  })
})

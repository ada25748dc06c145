/** For tests: tunes made by chance, and what is left of a tune when ids do not count. */
import fc from 'fast-check'
import { frac, type Fraction } from './fraction'
import { keyOfSignature, MODES } from './key'
import { METRE_UNITS, metreOf } from './metre'
import { diatonic, STEPS, type Pitch } from './pitch'
import { emptyTune, type Measure, type NoteEvent, type Tune, type TuneEvent } from './tune'

type Way = Partial<Pick<Measure, 'segno' | 'coda' | 'fine' | 'toCoda' | 'jump'>>

/** The music of a tune with ids replaced by the order of the events. */
export function bare(t: Tune) {
  const order = new Map(t.measures.flatMap(m => m.events).map((e, i) => [e.id, i]))
  const groups = new Map<string, number>()
  const event = ({ id: _id, tuplet, ...e }: TuneEvent) => ({
    ...e,
    ...(e.kind === 'note' && e.marks && { marks: [...e.marks].sort() }),
    ...(tuplet && {
      tuplet: {
        ...tuplet,
        group: groups.get(tuplet.group) ?? groups.set(tuplet.group, groups.size).size - 1,
      },
    }),
  })
  const slurs = t.slurs.map(s => [order.get(s.from), order.get(s.to)].join()).sort()
  return {
    ...t,
    lastId: 0,
    slurs,
    measures: t.measures.map(({ id: _id, ...m }) => ({ ...m, events: m.events.map(event) })),
  }
}

const pitch: fc.Arbitrary<Pitch> = fc.record({
  step: fc.constantFrom(...STEPS),
  alter: fc.integer({ min: -1, max: 1 }),
  octave: fc.integer({ min: 3, max: 6 }),
})
const length: fc.Arbitrary<Fraction> = fc.constantFrom(
  frac(1, 2),
  frac(1),
  frac(3, 2),
  frac(2),
  frac(1, 4),
  frac(3, 4),
  frac(4),
  frac(5, 8),
)
const words = fc.constantFrom('Am', 'D7', 'F#m', 'Bb/D')

function noteEvent(): fc.Arbitrary<Omit<NoteEvent, 'id'>> {
  return fc
    .record({
      duration: length,
      pitches: fc.uniqueArray(pitch, { minLength: 1, maxLength: 2, selector: diatonic }),
      grace: fc.option(fc.array(pitch, { minLength: 1, maxLength: 2 }), { nil: undefined }),
      marks: fc.option(
        fc.constantFrom(['staccato' as const], ['upbow' as const, 'accent' as const], ['comma' as const]),
        { nil: undefined },
      ),
      dynamic: fc.option(fc.constantFrom('p' as const, 'ff' as const), { nil: undefined }),
      finger: fc.option(fc.integer({ min: 0, max: 5 }), { nil: undefined }),
      chord: fc.option(words, { nil: undefined }),
    })
    .map(({ duration, pitches, grace, marks, dynamic, finger, chord }) => ({
      kind: 'note' as const,
      duration,
      heads: [...pitches].sort((a, b) => diatonic(a) - diatonic(b)).map(p => ({ pitch: p })),
      ...(grace && { grace }),
      ...(marks && { marks }),
      ...(dynamic && { dynamic }),
      ...(finger !== undefined && { finger }),
      ...(chord && { chord }),
    }))
}

// A whole rest means “the whole measure” to every reader of the format, however long the measure is: it has a
// test of its own.
const restEvent = fc.record({ kind: fc.constant('rest' as const), duration: length.filter(l => l.n !== 4) })

function measures(): fc.Arbitrary<Omit<Measure, 'id'>[]> {
  const events = fc.array(
    fc.oneof({ weight: 4, arbitrary: noteEvent() }, { weight: 1, arbitrary: restEvent }),
    { minLength: 1, maxLength: 6 },
  )
  const measure = fc.record({
    events,
    triplet: fc.boolean(),
    barline: fc.constantFrom(undefined, undefined, undefined, 'double' as const),
  })
  return fc.array(measure, { minLength: 1, maxLength: 7 }).map(list =>
    list.map(({ events, triplet, barline }) => ({
      events: (triplet ? [...events, ...tripletOf(events[0]!)] : events) as unknown as TuneEvent[],
      ...(barline && { barline }),
    })),
  )
}

/** Three eighths in the time of two, on the pitches of an event. */
function tripletOf(e: Omit<NoteEvent, 'id'> | { kind: 'rest'; duration: Fraction }) {
  const heads = e.kind === 'note' ? e.heads : [{ pitch: { step: 'A' as const, alter: 0, octave: 4 } }]
  return [0, 1, 2].map(() => ({
    kind: 'note' as const,
    duration: frac(1, 3),
    heads,
    tuplet: { group: 'g', actual: 3, normal: 2 },
  }))
}

export function tunes(): fc.Arbitrary<Tune> {
  return fc
    .record({
      measures: measures(),
      fifths: fc.integer({ min: -5, max: 5 }),
      mode: fc.constantFrom(...MODES.slice(0, 4)),
      beats: fc.integer({ min: 2, max: 9 }),
      unit: fc.constantFrom(...METRE_UNITS.slice(1, 4)),
      grouped: fc.boolean(),
      repeat: fc.boolean(),
      endings: fc.boolean(),
      slur: fc.boolean(),
      way: fc.option(
        fc.record({
          at: fc.nat(6),
          signs: fc.constantFrom<readonly Way[]>(
            [{ segno: true }, { jump: 'ds' }],
            [{ fine: true }, { jump: 'dc' }],
            [{ toCoda: true }, { jump: 'dc' }, { coda: true }],
            [{ segno: true, fine: true }],
          ),
        }),
        { nil: undefined },
      ),
      times: fc.constantFrom(undefined, 3, 5),
    })
    .map(r => assemble(r))
}

function assemble(r: {
  measures: Omit<Measure, 'id'>[]
  fifths: number
  mode: (typeof MODES)[number]
  beats: number
  unit: 2 | 4 | 8 | 16 | 32 | 1
  grouped: boolean
  repeat: boolean
  endings: boolean
  slur: boolean
  way: { at: number; signs: readonly Way[] } | undefined
  times: number | undefined
}): Tune {
  let id = 0
  const list: Measure[] = r.measures.map((m, i) => ({
    ...m,
    id: `m${++id}`,
    events: m.events.map(
      e =>
        ({ ...e, id: `n${++id}`, ...(e.tuplet && { tuplet: { ...e.tuplet, group: `t${i}` } }) }) as TuneEvent,
    ),
  }))
  const last = list.length - 1
  const marked = list.map((m, i): Measure => {
    const { barline: _b, ...plain } = m
    const ends = r.endings && last >= 2 && i >= last - 1
    if (ends)
      return {
        ...plain,
        endings: [i - last + 2],
        ...(i === last - 1 && { repeatEnd: true }),
        ...(i === last && { barline: 'final' as const }),
      }
    return {
      ...(r.endings ? plain : m),
      ...(r.repeat && i === 0 && { repeatStart: true }),
      ...(r.repeat &&
        !r.endings &&
        i === last && { repeatEnd: true, barline: undefined, ...(r.times && { repeatTimes: r.times }) }),
    }
  })
  const events = marked.flatMap(m => m.events).filter(e => e.kind === 'note')
  const slurs = r.slur && events.length >= 2 ? [{ from: events[0]!.id, to: events.at(-1)!.id }] : []
  return {
    ...emptyTune('Made by chance'),
    key: keyOfSignature(r.fifths, r.mode),
    // In twos and what is left.
    metre: metreOf(
      r.beats,
      r.unit,
      r.grouped && r.beats > 3
        ? [...Array<number>(Math.floor(r.beats / 2) - 1).fill(2), 2 + (r.beats % 2)]
        : [],
    ),
    measures: JSON.parse(
      JSON.stringify(marked.map((m, i) => ({ ...m, ...r.way?.signs[i - r.way.at] }))),
    ) as Measure[],
    slurs,
    lastId: id,
  }
}

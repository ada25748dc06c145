import fc from 'fast-check'
import { PART_NAMES } from '#core/bowing/pins'
import { BOW_SCHOOLS, MAY_ALL } from '#core/bowing/schools'
import { describe, expect, it } from 'vitest'
import { readDocument } from '#core/documents/versioned'
import { readAbc } from '#core/formats/abc/readAbc'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { scaleLength, setLength, toggleTie, toggleTuplet } from '#core/music/edit/lengths'
import {
  layWords,
  setChord,
  setDynamic,
  setGrace,
  setRemarks,
  toggleMark,
  toggleOptional,
  toggleSlur,
} from '#core/music/edit/marks'
import { copyEvents, paste, rebar, setKeyFrom, setMetreFrom, setMeasure } from '#core/music/edit/measures'
import type { Edited } from '#core/music/edit/edited'
import { insertAfter, openMeasure, removeEvents, toRests } from '#core/music/edit/notes'
import { moveByHalfSteps, moveByOctaves, respell, setLetter, toggleHead } from '#core/music/edit/pitches'
import { frac } from '#core/music/fraction'
import { parseKey } from '#core/music/key'
import { parsePitch, STEPS } from '#core/music/pitch'
import { INSTRUMENT_IDS, MARKS, tuneSchema, type Tune } from '#core/music/tune'
import { keyChoices, levelChoices, octaveChoices, sizeChoices, tuningChoices } from '#core/words/arrangement'
import { asFound, declareKin, joinAt, moveBoundary, splitAt } from './corrections'
import {
  bowEdited,
  decided,
  duplicated,
  forInstrument,
  mended,
  pinned,
  strokePinned,
  withBow,
  withKey,
  withPin,
  withPlayed,
  withSchools,
  withShown,
  withSize,
  withTaught,
  withTuning,
  withoutChanges,
} from './edits'
import { arrangementSchema, newArrangement, PLACE_NAMES, POSITION_NAMES, type Arrangement } from './recipe'

const D = parseKey('D')!
const start = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:D\nD2 (3EFG "A"A2 Bc|[FA]2 {c}d2 z2 e2|\nw:one two\n')
  .tunes[0]!.tune
const events = (t: Tune) => t.measures.flatMap(m => m.events.map(e => e.id))

type RecipeEdit = (r: Arrangement) => Arrangement
const id = fc.constantFrom('n2', 'n3', 'n5', 'n7.2')
/** Every edit of a recipe there is, with anything it may be given. */
const recipeEdit: fc.Arbitrary<RecipeEdit> = fc.oneof(
  fc.constantFrom(...INSTRUMENT_IDS).map(i => (r: Arrangement) => forInstrument(r, i)),
  fc
    .nat(7)
    .map(
      n => (r: Arrangement) =>
        withSize(
          r,
          INSTRUMENTS[r.played.instrument].sizes[n % INSTRUMENTS[r.played.instrument].sizes.length]!.name,
        ),
    ),
  fc.nat(9).map(n => (r: Arrangement) => withTuning(r, tuningChoices(r)[n % tuningChoices(r).length]!.value)),
  fc
    .nat(12)
    .map(n => (r: Arrangement) => withKey(r, keyChoices(r, D)[n % keyChoices(r, D).length]!.value, D)),
  fc.nat(8).map(n => (r: Arrangement) => withPlayed(r, { level: levelChoices(r)[n]!.value })),
  fc.nat(5).map(n => (r: Arrangement) => withPlayed(r, { octave: octaveChoices(r)[n]!.value })),
  fc
    .integer({ min: 10, max: 400 })
    .map(
      n => (r: Arrangement) =>
        withPlayed(r, { tempo: { beat: frac(3, 2), perMinute: n }, measured: 300 + n / 2, span: 60 + n / 4 }),
    ),
  fc
    .constantFrom('first', 'cost', 'fourth')
    .map(open => (r: Arrangement) => withSchools(r, { open: open as 'cost' })),
  fc
    .constantFrom(...PLACE_NAMES)
    .map(places => (r: Arrangement) => withShown(r, { places, tabLines: 'lowest' })),
  fc
    .constantFrom(...POSITION_NAMES)
    .map(positions => (r: Arrangement) => withShown(r, { positions, crossNotes: 'fingered' })),
  fc
    .record({
      id,
      anchor: fc.option(fc.integer({ min: 1, max: 14 }), { nil: undefined }),
      finger: fc.constantFrom(0, 1, 4, 'T'),
    })
    .map(
      p => (r: Arrangement) =>
        pinned(r, 'fingers', p.id, {
          string: 1,
          finger: p.finger as 1,
          ...(p.anchor !== undefined && { anchor: p.anchor }),
        }),
    ),
  id.map(n => (r: Arrangement) => pinned(r, 'fingers', n, undefined)),
  fc.tuple(id, fc.constantFrom('down' as const, 'up' as const)).map(
    ([n, direction]) =>
      (r: Arrangement) =>
        strokePinned(r, n, { direction }),
  ),
  fc.tuple(id, fc.constantFrom('slur', 'hook', 'lift', 'part')).map(
    ([note, way]) =>
      (r: Arrangement) =>
        bowEdited(r, [{ note, way }]),
  ),
  fc.tuple(id, fc.constantFrom(...PART_NAMES), fc.double({ min: 0, max: 1, noNaN: true })).map(
    ([n, part, at]) =>
      (r: Arrangement) =>
        strokePinned(withBow(r, { passages: [{ from: n, to: n, part }] }), n, { at }),
  ),
  fc
    .tuple(
      fc.constantFrom(...BOW_SCHOOLS),
      fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 6 }),
    )
    .map(
      ([bow, pattern]) =>
        (r: Arrangement) =>
          withBow(withSchools(r, { bow }), {
            may: MAY_ALL,
            groove: { pattern, unit: { n: 1, d: 2 }, offset: 0 },
          }),
    ),
  fc.tuple(id, fc.boolean()).map(
    ([n, on]) =>
      (r: Arrangement) =>
        pinned(r, 'joins', n, on),
  ),
  fc.tuple(id, id).map(
    ([a, b]) =>
      (r: Arrangement) =>
        withTaught(r, moveBoundary(splitAt(r.taught, a), a, b)),
  ),
  fc
    .record({ octave: fc.option(fc.integer({ min: -4, max: 4 })), parted: fc.array(id, { maxLength: 3 }) })
    .map(eased => (r: Arrangement) => withPlayed(r, { eased: { ...eased, tempo: r.played.tempo } })),
  fc.tuple(id, fc.option(id)).map(
    ([a, b]) =>
      (r: Arrangement) =>
        withTaught(r, declareKin(joinAt(r.taught, a), a, b)),
  ),
  fc.constant((r: Arrangement) => withTaught(r, asFound(r.taught))),
  fc.string({ maxLength: 80 }).map(
    name => (r: Arrangement) =>
      withTaught(r, {
        names: { n2: name },
        lines: { n2: name },
        remarks: { n2: name, m1: name },
        known: ['F#4'],
        left: ['count:A1'],
        order: 'least new',
      }),
  ),
  fc
    .constantFrom<Parameters<typeof mended>[1]>(
      { kind: 'octave', octave: 1, by: 1 },
      { kind: 'key', key: D },
      { kind: 'dropRule', index: 0 },
      { kind: 'unpin', note: 'n2', what: 'stroke' },
      { kind: 'join', note: 'n3', slurred: false },
      { kind: 'dropChange', change: 'c1' },
    )
    .map(m => (r: Arrangement) => mended(r, m)),
  fc.constant((r: Arrangement) =>
    withPlayed(r, { passages: [{ from: 'n2', to: 'n5', rule: { kind: 'sound', sound: 'round' } }] }),
  ),
  fc.boolean().map(
    yes => (r: Arrangement) =>
      decided(
        withPlayed(r, {
          changes: [
            {
              id: 'c1',
              kind: 'thin',
              accepted: true,
              edit: { do: 'replace', events: ['n2'], by: [{ kind: 'rest', duration: frac(1) }] },
            },
          ],
        }),
        'c1',
        yes,
      ),
  ),
  fc.string({ maxLength: 120 }).map(name => (r: Arrangement) => duplicated(r, name)),
)

type TuneEdit = (t: Tune, ids: readonly string[]) => Edited
const tuneEdit: fc.Arbitrary<TuneEdit> = fc.oneof(
  fc.constantFrom(...MARKS).map(m => (t: Tune, list: readonly string[]) => toggleMark(t, list, m)),
  fc.constantFrom<TuneEdit>(
    (t, list) => toggleOptional(t, list),
    (t, list) => toggleTuplet(t, list),
    (t, list) => toggleTie(t, list[0]!),
    (t, list) => toggleSlur(t, list[0]!, list.at(-1)!),
    (t, list) => setDynamic(t, list, 'mf'),
    (t, list) => setChord(t, list[0]!, 'Bm7'),
    (t, list) => setRemarks(t, list[0]!, 'ease the bow\noff the string'),
    (t, list) => setGrace(t, list[0]!, [parsePitch('C#5')!]),
    (t, list) => layWords(t, list[0]!, 1, 'light as a pa-per boat'),
    (t, list) => setLength(t, list, frac(3, 2)),
    (t, list) => scaleLength(t, list, 'half'),
    (t, list) => moveByHalfSteps(t, list, 1),
    (t, list) => moveByOctaves(t, list, -1),
    (t, list) => respell(t, list),
    (t, list) => toggleHead(t, list[0]!, parsePitch('A4')!),
    (t, list) => toRests(t, list),
    (t, list) => removeEvents(t, list),
    (t, list) => openMeasure(t, list[0]!),
    (t, list) => paste(t, list[0]!, copyEvents(t, list)),
    (t, list) =>
      insertAfter(t, list[0]!, {
        pitches: [parsePitch('B4')!],
        length: frac(1),
        tuplet: { actual: 3, normal: 2 },
      }),
    t => setKeyFrom(t, 0, parseKey('Bb')!),
    t => setMetreFrom(t, 0, { beats: 6, unit: 8 }),
    t => rebar(t, 0),
    t => setMeasure(t, 0, { repeatEnd: true, endings: [1, 2], barline: 'double', label: 'A' }),
    t => ({
      tune: {
        ...t,
        play: { struck: [t.measures[0]?.id ?? 'm1'], times: 3 },
        tags: ['ball'],
        rights: 'protected',
        settings: 'x',
      },
      chosen: null,
    }),
  ),
  fc.constantFrom(...STEPS).map(s => (t: Tune, list: readonly string[]) => setLetter(t, list[0]!, s)),
)

/** What the database or the browser gives back for what was stored. */
const stored = (doc: unknown) => JSON.parse(JSON.stringify(doc)) as unknown

describe('every edit survives save and load unchanged', () => {
  it('of a recipe', () => {
    fc.assert(
      fc.property(fc.array(recipeEdit, { minLength: 1, maxLength: 12 }), edits => {
        const edited = edits.reduce((r, e) => e(r), newArrangement('violin', 'full', 'As written'))
        expect(readDocument(arrangementSchema, stored(edited))).toEqual({ doc: stored(edited) })
      }),
      { numRuns: 300 },
    )
  })

  it('of a tune', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(tuneEdit, fc.nat(9), fc.nat(3)), { minLength: 1, maxLength: 10 }),
        edits => {
          const edited = edits.reduce((t, [edit, at, more]) => {
            const all = events(t)
            const list = all.slice(at % Math.max(1, all.length), (at % Math.max(1, all.length)) + more + 1)
            return list.length === 0 ? t : edit(t, list).tune
          }, start)
          expect(readDocument(tuneSchema, stored(edited))).toEqual({ doc: stored(edited) })
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('another choice', () => {
  const pins = { n2: { string: 1, finger: 4 as const } }
  const full = withPlayed(newArrangement('violin', 'full'), {
    measured: 327,
    span: 70,
    octave: 1,
    pins: { fingers: pins, strokes: { n2: { direction: 'up' } }, joins: { n3: true } },
    passages: [
      { from: 'n2', to: 'n5', rule: { kind: 'string', string: 1 } },
      { from: 'n2', to: 'n5', rule: { kind: 'position', anchor: 5 } },
      { from: 'n2', to: 'n5', rule: { kind: 'noOpen' } },
    ],
  })
  it('of instrument keeps bows, slurs and rules of any hand; not fingers, strings and measures', () => {
    const { played } = forInstrument(full, 'cello')
    expect(played.pins).toEqual({ fingers: {}, strokes: { n2: { direction: 'up' } }, joins: { n3: true } })
    expect(played.passages.map(p => p.rule.kind)).toEqual(['noOpen'])
    expect(played).toMatchObject({ size: 'full', measured: null, span: null, tuning: null, octave: 'auto' })
    expect(forInstrument(full, 'violin')).toBe(full)
  })
  it('of tuning keeps fingers, unless strings are counted anew', () => {
    const cross = withTuning(full, [76, 69, 64, 57])
    expect(cross.played.pins.fingers).toEqual(pins)
    const five = withTuning(full, [76, 69, 62, 55, 48])
    expect(five.played.pins.fingers).toEqual({})
    expect(five.played.passages.map(p => p.rule.kind)).toEqual(['position', 'noOpen'])
  })
  it('of size forgets what was measured on the old one; of the tune’s own key is none', () => {
    expect(withSize(full, '3/4').played).toMatchObject({ size: '3/4', measured: null })
    expect(withKey(full, parseKey('G')!, D).played.key).toEqual(parseKey('G'))
    expect(withKey(full, D, D).played.key).toBeNull()
    expect(sizeChoices(full).some(c => c.chosen)).toBe(false)
  })
  it('of a stroke says one thing more, and takes one word back', () => {
    const more = strokePinned(full, 'n2', { way: 'lift' })
    expect(more.played.pins.strokes).toEqual({ n2: { direction: 'up', way: 'lift' } })
    expect(strokePinned(more, 'n2', { direction: undefined }).played.pins.strokes).toEqual({
      n2: { way: 'lift' },
    })
    expect(strokePinned(full, 'n2', { direction: undefined }).played.pins.strokes).toEqual({})
  })
  it('of bow marks: a slur takes the place of a hook, and a hook of a slur', () => {
    const slurred = bowEdited(bowEdited(full, [{ note: 'n2', way: 'hook' }]), [{ note: 'n2', way: 'slur' }])
    expect(slurred.played.pins).toMatchObject({ strokes: {}, joins: { n2: true } })
    expect(bowEdited(slurred, [{ note: 'n2', way: 'hook' }]).played.pins).toMatchObject({
      strokes: { n2: { way: 'hook' } },
      joins: { n3: true },
    })
    expect(mended(full, { kind: 'bow', edits: [{ note: 'n3', way: 'part' }] }).played.pins.joins).toEqual({
      n3: false,
    })
  })
  it('of one pin leaves the others', () => {
    expect(withPin(full.played.pins, 'strokes', 'n3', { direction: 'down' }).strokes).toEqual({
      n2: { direction: 'up' },
      n3: { direction: 'down' },
    })
    expect(withPin(full.played.pins, 'strokes', 'n2', undefined).strokes).toEqual({})
  })
})

describe('changes taken away', () => {
  it('take what was pinned to their notes with them, and leave the others alone', () => {
    const change = (id: string) => ({
      id,
      kind: 'turns',
      accepted: true,
      edit: {
        do: 'replace' as const,
        events: ['n1'],
        by: [{ kind: 'rest' as const, duration: { n: 1, d: 1 } }],
      },
    })
    const r = withPlayed(newArrangement('violin', sizeOf('violin').name), {
      changes: [change('a'), change('b')],
      pins: { fingers: {}, strokes: {}, joins: { 'a~2': true, 'b~2': true, n4: false } },
    })
    const left = withoutChanges(r, c => c.id === 'a').played
    expect(left.changes.map(c => c.id)).toEqual(['b'])
    expect(left.pins.joins).toEqual({ 'b~2': true, n4: false })
    expect(withoutChanges(r, () => false)).toBe(r)
  })
})

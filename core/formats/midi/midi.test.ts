import * as toneMidi from '@tonejs/midi'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { add, formatFraction } from '#core/music/fraction'
import { keyName } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import { metreName } from '#core/music/metre'
import { tuneSchema, type Tune } from '#core/music/tune'
import { performTune } from '#core/playback/perform'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { MAX_MIDI_BYTES, readMidi, type MidiResult, type ReadMidi } from './readMidi'
import { writeMidi } from './writeMidi'

const { Midi } = ((toneMidi as { default?: unknown }).default ?? toneMidi) as typeof toneMidi
const ok = (r: MidiResult): ReadMidi => {
  if ('finding' in r) throw new Error(sentence(r.finding))
  return r
}
const refusal = (r: MidiResult) => ('finding' in r ? sentence(r.finding) : 'read')
const onsets = (t: Tune) => performTune(t).notes.map(n => `${n.midi}@${formatFraction(n.start)}`)
const demo = (file: string) => readAbc(demoSource(file)).tunes[0]!.tune

/** A file from notes given as [pitch, start, length] in quarters. */
function fileOf(
  notes: readonly (readonly [number, number, number])[],
  metre: [number, number] | null = [4, 4],
) {
  const file = new Midi()
  file.header.fromJSON({
    name: '',
    ppq: 480,
    meta: [],
    tempos: [],
    timeSignatures: metre ? [{ ticks: 0, timeSignature: metre }] : [],
    keySignatures: [],
  })
  const track = file.addTrack()
  for (const [midi, at, length] of notes)
    track.addNote({ midi, ticks: Math.round(at * 480), durationTicks: Math.round(length * 480) })
  return file.toArray()
}
const music = (t: Tune) =>
  writeAbc(t)
    .text.split(/\nK:.*\n/)[1]!
    .trim()

describe('reading what was written', () => {
  it.each(DEMO_TUNES.map(t => t.file))('gives the sound of %s back', file => {
    const t = demo(file)
    const plain: Tune = {
      ...t,
      measures: t.measures.map(m => ({
        ...m,
        events: m.events.map(e =>
          e.kind === 'note' ? { ...e, grace: undefined, marks: undefined } : e,
        ) as never,
      })),
    }
    const back = ok(readMidi(writeMidi(plain).bytes))
    // A unison of two strings is one key of a keyboard.
    const keys = (list: readonly string[]) => list.filter((x, i) => x !== list[i - 1])
    // A pickup has no place of its own in the file: all starts move by the same time.
    const shift = (list: readonly string[]) => list.map(x => x.split('@')[0])
    expect(shift(keys(onsets(back.tune)))).toEqual(shift(keys(onsets(plain))))
    expect(keyName({ ...back.tune.key, mode: 'major' })).toBeTruthy()
    expect(metreName(back.tune.metre)).toBe(metreName(t.metre))
    expect(tuneSchema.safeParse(back.tune).error).toBeUndefined()
  })
})

describe('from sound to notes', () => {
  it('bars, ties over the barline, and writes rests', () => {
    const r = ok(
      readMidi(
        fileOf([
          [62, 0, 1],
          [66, 1, 0.5],
          [69, 1.5, 0.5],
          [62, 3, 3],
        ]),
      ),
    )
    expect(music(r.tune)).toBe('D2 FA z2 D2- | D4 z4 |')
    expect(r.findings.map(sentence).join(' ')).toMatch(/names no key; D major fits/)
  })

  it('hears through uneven playing and says how far notes were moved', () => {
    const uneven = [0.03, 1.04, 1.47, 2.05, 2.98].map((t, i) => [62 + i * 2, t, 0.45] as const)
    const r = ok(readMidi(fileOf(uneven)))
    expect(performTune(r.tune).notes.map(n => formatFraction(n.start))).toEqual(['0', '1', '3/2', '2', '3'])
    expect(r.findings.map(sentence).join(' ')).toMatch(/nearest sixteenth; the furthest by [345]%/)
  })

  it('tells triplets from sixteenths, beat by beat', () => {
    const r = ok(
      readMidi(
        fileOf([
          [69, 0, 0.32],
          [71, 0.34, 0.33],
          [69, 0.66, 0.33],
          [67, 1, 0.25],
          [66, 1.26, 0.24],
          [64, 1.5, 0.5],
          [62, 2, 2],
        ]),
      ),
    )
    expect(music(r.tune)).toBe('(3:2:3ABA G/2F/2E D4 |')
  })

  it('puts notes that begin together into a double stop', () => {
    const r = ok(
      readMidi(
        fileOf([
          [62, 0, 2],
          [69, 0.01, 2],
          [74, 2, 2],
        ]),
      ),
    )
    expect(
      r.tune.measures[0]!.events.map(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)) : [])),
    ).toEqual([['D4', 'A4'], ['D5']])
  })

  it('keeps every onset of any tidy line, and fills its measures exactly', () => {
    const step = fc.record({
      midi: fc.integer({ min: 48, max: 88 }),
      length: fc.constantFrom(0.25, 0.5, 0.75, 1, 1.5, 2, 3),
      rest: fc.boolean(),
    })
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 30 }), list => {
        let at = 0
        const notes = list.map(s => {
          const note = [s.midi, at, s.length] as const
          at += s.length + (s.rest ? 1 : 0)
          return note
        })
        const { tune } = ok(readMidi(fileOf(notes)))
        expect(performTune(tune).notes.map(n => `${n.midi}@${n.start.n / n.start.d}`)).toEqual(
          notes.map(([m, t]) => `${m}@${t}`),
        )
        for (const m of tune.measures)
          expect(formatFraction(m.events.map(e => e.duration).reduce(add))).toBe('4')
      }),
    )
  })
})

interface Part {
  readonly name?: string
  readonly channel?: number
  readonly notes: readonly (readonly [midi: number, start: number, length: number])[]
}
/** A file of several parts, with metres and keys from quarters on. */
function fileWith(
  parts: readonly Part[],
  o: {
    metres?: [number, [number, number]][]
    keys?: [number, fifths: number][]
    tempos?: [number, number][]
  } = {},
) {
  const file = new Midi()
  const keys = o.keys ?? [[0, 0]]
  file.header.fromJSON({
    name: '',
    ppq: 480,
    meta: [],
    tempos: (o.tempos ?? []).map(([at, bpm]) => ({ ticks: at * 480, bpm })),
    timeSignatures: (o.metres ?? [[0, [4, 4]]]).map(([at, timeSignature]) => ({
      ticks: at * 480,
      timeSignature,
    })),
    keySignatures: keys.map(([at]) => ({ ticks: at * 480, key: 'C', scale: 'major' })),
  })
  for (const { name = '', channel = 0, notes } of parts) {
    const track = file.addTrack()
    track.name = name
    track.channel = channel
    for (const [midi, at, length] of notes)
      track.addNote({ midi, ticks: Math.round(at * 480), durationTicks: Math.round(length * 480) })
  }
  // The package writes every signature as none: the bytes are set right.
  const bytes = file.toArray()
  let k = 0
  bytes.forEach((b, i) => {
    if (b === 0xff && bytes[i + 1] === 0x59 && bytes[i + 2] === 2)
      [bytes[i + 3], bytes[i + 4]] = [keys[k++]![1] & 255, 0]
  })
  return bytes
}
const steps = (from: number, count: number, length = 1) =>
  Array.from({ length: count }, (_, i) => [from + (i % 5), i * length, length] as const)

describe('which part is the tune', () => {
  const chords = steps(48, 32).flatMap(([m, t, l]) => [0, 4, 7].map(i => [m + i, t, l] as const))
  const tune: Part = { notes: steps(67, 16, 2) }
  it.each<[string, Part[], number]>([
    ['one note at a time before many chords', [{ notes: chords }, tune], 1],
    ['a high line before a bass line', [{ notes: steps(36, 16, 2) }, tune], 1],
    [
      'a named melody before a line alike',
      [
        { name: 'Second voice chords', notes: steps(65, 16, 2) },
        { name: 'Melody', notes: steps(64, 16, 2) },
      ],
      1,
    ],
    [
      'never the drums, however many they are',
      [{ name: 'Melody', channel: 9, notes: steps(60, 200, 0.25) }, tune],
      1,
    ],
  ])('%s', (_name, parts, taken) => expect(ok(readMidi(fileWith(parts))).taken).toBe(taken))
  it('another is one click away, and drums are refused with the reason', () => {
    const file = fileWith([{ notes: chords }, tune, { channel: 9, notes: steps(40, 9) }])
    const r = ok(readMidi(file, 0))
    expect(r.taken).toBe(0)
    expect(r.tracks.map(t => t.notes)).toEqual([96, 16, 0])
    expect(refusal(readMidi(file, 2))).toMatch(/drums/)
    expect(refusal(readMidi(fileWith([{ channel: 9, notes: steps(40, 9) }])))).toMatch(/no notes/)
  })
})

describe('what changes on the way', () => {
  it('metre and key, where they change', () => {
    const notes = steps(62, 14)
    const { tune, findings } = ok(
      readMidi(
        fileWith([{ notes }], {
          metres: [
            [0, [4, 4]],
            [8, [3, 4]],
          ],
          keys: [
            [0, 2],
            [8, -1],
          ],
          tempos: [
            [0, 100],
            [8, 60],
          ],
        }),
      ),
    )
    expect(tune.measures.map(m => m.events.length)).toEqual([4, 4, 3, 3])
    expect(tune.measures[2]).toMatchObject({ metre: { beats: 3, unit: 4 }, key: { step: 'F' } })
    expect(tune).toMatchObject({
      metre: { beats: 4, unit: 4 },
      key: { step: 'D' },
      tempo: { perMinute: 100 },
    })
    expect(findings.map(f => f.code)).toEqual(['midi.tempoChange'])
  })
  it('a metre that changes within a measure ends it there', () => {
    const { tune } = ok(
      readMidi(
        fileWith([{ notes: steps(62, 8) }], {
          metres: [
            [0, [4, 4]],
            [2, [3, 4]],
          ],
        }),
      ),
    )
    expect(tune.measures.map(m => m.events.length)).toEqual([2, 3, 3])
  })
  it('thirty-seconds and triplet sixteenths are heard, and a lazy player is not taken for one', () => {
    const quick = [0, 0.125, 0.25, 0.375, 0.5].map((t, i) => [62 + i, t, 0.125] as const)
    expect(
      ok(readMidi(fileOf(quick)))
        .tune.measures[0]!.events.slice(0, 4)
        .map(e => formatFraction(e.duration)),
    ).toEqual(['1/8', '1/8', '1/8', '1/8'])
    const sixths = [0, 1, 2, 3, 4, 5].map(i => [62 + i, i / 6, 1 / 6] as const)
    expect(ok(readMidi(fileOf(sixths))).tune.measures[0]!.events[0]).toMatchObject({
      duration: { n: 1, d: 6 },
      tuplet: { actual: 3, normal: 2 },
    })
    const lazy = [0.04, 0.29, 0.47, 0.78, 1.05].map((t, i) => [62 + i, t, 0.2] as const)
    expect(
      ok(readMidi(fileOf(lazy)))
        .tune.measures[0]!.events.slice(0, 4)
        .map(e => formatFraction(e.duration)),
    ).toEqual(['1/4', '1/4', '1/4', '1/4'])
  })
  it('a note moved far is told where it stands', () => {
    const { tune, findings } = ok(
      readMidi(
        fileOf([
          [62, 0, 1],
          [64, 1.1, 0.9],
          [66, 2, 1],
        ]),
      ),
    )
    const [moved, ...more] = findings.filter(f => f.code === 'midi.moved')
    expect(more).toEqual([])
    expect(moved).toMatchObject({
      severity: 'note',
      where: { measure: 1, note: tune.measures[0]!.events[1]!.id },
      values: { by: '10%' },
    })
  })
  it('of many notes moved far forty are told', () => {
    const late = Array.from({ length: 60 }, (_, i) => [62 + (i % 7), i + 0.1, 0.5] as const)
    expect(ok(readMidi(fileOf(late))).findings.filter(f => f.code === 'midi.moved')).toHaveLength(40)
  })
  it('names are read in whatever they were written, and cleaned', () => {
    const bytes = fileWith([{ name: 'Caf\u00e9\u0000\u0000', notes: steps(62, 4) }])
    expect(ok(readMidi(bytes)).tune.title).toBe('Café')
    expect(ok(readMidi(fileWith([{ name: 'Caf\u00c3\u00a9', notes: steps(62, 4) }]))).tune.title).toBe('Café')
  })
})

describe('what is told of a file', () => {
  const codes = (r: ReadMidi) => r.findings.map(f => f.code)
  const told = (r: ReadMidi, code: string) => r.findings.find(f => f.code === code)?.values
  it('the other parts by name, eight at most; those without notes and drums are none', () => {
    const notes = steps(67, 16)
    const low = steps(40, 4)
    const r = ok(
      readMidi(
        fileWith([
          { name: 'Tune', notes },
          { name: 'Bass', notes: low },
          { notes: low },
          { name: 'empty', notes: [] },
          { channel: 9, notes: low },
        ]),
      ),
    )
    expect(told(r, 'file.others')).toEqual({ taken: 'Tune', others: 'Bass, track 3' })
    expect(r.tracks.map(t => t.name)).toEqual(['Tune', 'Bass', 'track 3', 'empty', 'drums'])
    const many = Array.from({ length: 12 }, (_, i) => ({ name: `P${i}`, notes: low }))
    expect(told(ok(readMidi(fileWith([{ name: 'Tune', notes }, ...many]))), 'file.others')).toEqual({
      taken: 'Tune',
      others: 'P0, P1, P2, P3, P4, P5, P6, P7',
    })
    expect(codes(ok(readMidi(fileWith([{ notes }]))))).toEqual([])
  })
  it('a metre nobody wrote, one that is none of ours, and notes cut short', () => {
    const plain = ok(readMidi(fileOf(steps(62, 8), null)))
    expect(codes(plain)).toContain('midi.assumedMetre')
    expect(plain.tune.metre).toEqual({ beats: 4, unit: 4 })
    const later = ok(readMidi(fileWith([{ notes: steps(62, 10) }], { metres: [[4, [3, 4]]] })))
    expect(codes(later)).toContain('midi.assumedMetre')
    expect(later.tune.measures.map(m => m.events.length)).toEqual([4, 3, 3])
    const odd = ok(
      readMidi(
        fileWith([{ notes: steps(62, 8) }], {
          metres: [
            [0, [4, 4]],
            [4, [100, 4]],
          ],
        }),
      ),
    )
    expect(told(odd, 'file.notKept')).toEqual({ what: 'a metre of 100/4' })
    expect(odd.tune.measures.map(m => m.events.length)).toEqual([4, 4])
    expect(
      told(
        ok(
          readMidi(
            fileOf([
              [62, 0, 2],
              [64, 1, 2],
              [66, 2, 1],
            ]),
          ),
        ),
        'midi.cut',
      ),
    ).toEqual({ count: 2 })
  })
  it('a tempo that changes, not one that is said again; one no metronome has is left out', () => {
    const at = (...tempos: [number, number][]) =>
      ok(readMidi(fileWith([{ notes: steps(62, 8) }], { tempos })))
    expect(codes(at([0, 100], [4, 100.5]))).toEqual([])
    expect(codes(at([0, 100], [4, 102]))).toEqual(['midi.tempoChange'])
    expect(at([0, 92.5]).tune.tempo).toEqual({ beat: { n: 1, d: 1 }, perMinute: 92.5 })
    expect(at([0, 1200]).tune.tempo).toBeUndefined()
  })
  it('is in the clef in which the middle of its notes lies best', () => {
    const clef = (...midi: number[]) => ok(readMidi(fileOf(midi.map((m, i) => [m, i, 1] as const)))).tune.clef
    expect([clef(60), clef(59), clef(54), clef(53)]).toEqual(['treble', 'alto', 'alto', 'bass'])
    expect(clef(72, 40, 76)).toBe('treble')
    expect(clef(40, 76, 43)).toBe('bass')
  })
  it('is named by its first words, a part without a name by its place', () => {
    const name = 'n'.repeat(90)
    expect(ok(readMidi(fileWith([{ name, notes: steps(62, 4) }]))).tracks[0]!.name).toBe('n'.repeat(80))
    expect(ok(readMidi(fileWith([{ name: '  Hop ', notes: steps(62, 4) }]))).tracks[0]!.name).toBe('Hop')
  })
})

describe('bad input', () => {
  it('with a note outside any music is refused', () => {
    expect(
      refusal(
        readMidi(
          fileOf([
            [60, 0, 1],
            [11, 1, 1],
          ]),
        ),
      ),
    ).toMatch(/outside any music/)
    expect(
      refusal(
        readMidi(
          fileOf([
            [12, 0, 1],
            [127, 1, 1],
          ]),
        ),
      ),
    ).toBe('read')
    expect(refusal(readMidi(fileOf([[60, 39_999, 2]])))).toMatch(/outside any music/)
  })
  it('that breaks off says what the parser found', () => {
    const good = fileOf(steps(62, 8))
    for (const rest of [good.slice(0, 14), new Uint8Array(20)]) {
      const cut = readMidi(Uint8Array.from([...good.slice(0, 14), ...rest]))
      expect('finding' in cut && [cut.finding.code, cut.finding.severity]).toEqual(['midi.broken', 'error'])
      expect(refusal(cut)).toMatch(/^This is not a MIDI file we can read: .{4,120}\.$/)
    }
  })
  it('is refused with a sentence', () => {
    const good = fileOf([[62, 0, 1]])
    expect(refusal(readMidi(new Uint8Array()))).toMatch(/header is missing/)
    expect(refusal(readMidi(new TextEncoder().encode('X:1\nK:D\nDEF GAB cde fga|')))).toMatch(
      /header is missing/,
    )
    expect(refusal(readMidi(good.with(12, 0xe8)))).toMatch(/film frames/)
    expect(refusal(readMidi(good.with(12, 0).with(13, 0)))).toMatch(/no time unit/)
    expect(refusal(readMidi(fileOf([])))).toMatch(/no notes/)
    const large = readMidi(new Uint8Array(MAX_MIDI_BYTES + 1))
    expect('finding' in large && [large.finding.code, large.finding.values]).toEqual([
      'file.tooLong',
      { limit: MAX_MIDI_BYTES },
    ])
    expect(refusal(readMidi(new Uint8Array(MAX_MIDI_BYTES)))).toMatch(/header is missing/)
    // A header and a part without events are the least a file has.
    expect(refusal(readMidi(good.slice(0, 21)))).toMatch(/header is missing/)
    expect(refusal(readMidi(good.slice(0, 22)))).not.toMatch(/header is missing/)
    const many = Array.from({ length: 20_001 }, (_, i) => [60, i / 8, 0.1] as const)
    expect(refusal(readMidi(fileOf(many)))).toMatch(/20001 notes; the limit is 20000/)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { parseChord } from '#core/music/chord'
import { formatFraction, toNumber } from '#core/music/fraction'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import { tunes } from '#core/music/testing'
import type { Tune } from '#core/music/tune'
import { performTune } from './perform'
import { gainsOf, type Mix } from './mixer'
import { noteAt, programOf, type ProgramOptions } from './program'

const tuneOf = (music: string, head = 'M:4/4\nL:1/4\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const heard = (t: Tune, o = {}) =>
  performTune(t, o).notes.map(
    n => `${formatPitch(pitchOfMidi(n.midi))}@${formatFraction(n.start)}:${formatFraction(n.length)}`,
  )
const NOTHING: ProgramOptions = { countIn: 'none', metronome: false, echo: false, drone: [], backing: false }
const one = (t: Tune) => [{ id: 'tune', performance: performTune(t) }]
const ids = (t: Tune) => t.measures.flatMap(m => m.events.map(e => e.id))

describe('what is played', () => {
  it('unfolds repeats and endings, and all of it twice when asked', () => {
    const t = tuneOf('|: D4 |1 E4 :|2 F4 |]')
    expect(heard(t)).toEqual(['D4@0:4', 'E4@4:4', 'D4@8:4', 'F#4@12:4'])
    expect(heard({ ...t, play: { struck: [], times: 2 } })).toHaveLength(8)
    const [, ends] = t.measures
    expect(heard({ ...t, play: { struck: [ends!.id], times: 1 } }).length).toBeLessThan(4)
  })

  it('joins tied notes, and gives a bass its own octave', () => {
    expect(heard(tuneOf('D2 E2- | E4 |]'), { writtenAbove: 12 })).toEqual(['D3@0:2', 'E3@2:6'])
  })

  it('swings pairs of eighths inside the beat and leaves quarters alone', () => {
    expect(heard(tuneOf('D/E/ F G/A/ B'), { swing: 60 })).toEqual([
      'D4@0:3/5',
      'E4@3/5:2/5',
      'F#4@1:1',
      'G4@2:3/5',
      'A4@13/5:2/5',
      'B4@3:1',
    ])
  })

  it('leaves the threes of a jig as they are, and triplets even between swung pairs', () => {
    const jig = tuneOf('DEF G2A | d3 A3 |]', 'M:6/8\nL:1/8\nK:D')
    expect(heard(jig, { swing: 66 })).toEqual(heard(jig))
    const uneven = tuneOf('DEFGABc | d7 |', 'M:7/8\nL:1/8\nK:D')
    expect(heard(uneven, { swing: 66 })).toEqual(heard(uneven))
    expect(heard(tuneOf('(3D/E/F/ G/A/ B2', 'M:4/4\nL:1/4\nK:D'), { swing: 60 })).toEqual([
      'D4@0:1/3',
      'E4@1/3:1/3',
      'F#4@2/3:1/3',
      'G4@1:3/5',
      'A4@8/5:2/5',
      'B4@2:2',
    ])
    // Three sixteenths in the time of the second eighth share what the swing leaves of it.
    expect(heard(tuneOf('D/(3E/4F/4G/4 A3'), { swing: 60 })).toEqual([
      'D4@0:3/5',
      'E4@3/5:2/15',
      'F#4@11/15:2/15',
      'G4@13/15:2/15',
      'A4@1:3',
    ])
  })

  it('has the chord under a phrase from its first note on, though it is written before', () => {
    const t = tuneOf('"D"D E F G | "G"A B c d |]')
    expect(
      performTune(t, { only: new Set(ids(t).slice(2, 5)) }).chords.map(c => [
        c.name,
        formatFraction(c.start),
      ]),
    ).toEqual([
      ['D', '0'],
      ['G', '2'],
    ])
    expect(performTune(t, { only: new Set(ids(t).slice(4)) }).chords.map(c => c.name)).toEqual(['G'])
    expect(performTune(t).chords.map(c => c.name)).toEqual(['D', 'G'])
  })

  it('gives grace notes and ornaments time from the note they adorn', () => {
    expect(heard(tuneOf('{E}D2 !trill!F |'))).toEqual([
      'E4@0:1/8',
      'D4@1/8:15/8',
      ...[0, 1, 2, 3, 4, 5, 6, 7].map(
        i =>
          `${i % 2 ? 'G4' : 'F#4'}@${formatFraction({ n: 16 + i, d: 8 })
            .replace('16/8', '2')
            .replace('18/8', '9/4')
            .replace('20/8', '5/2')
            .replace('22/8', '11/4')}:1/8`,
      ),
    ])
    const names = (music: string) => heard(tuneOf(music)).map(n => n.split('@')[0])
    expect(names('!mordent!A3 |')).toEqual(['A4', 'G4', 'A4'])
    expect(names('!uppermordent!A3 |')).toEqual(['A4', 'B4', 'A4'])
    expect(names('!turn!A3 |')).toEqual(['B4', 'A4', 'G4', 'A4'])
    expect(heard(tuneOf('!roll!A3 |')).map(n => n.split('@')[0])).toEqual(['A4', 'B4', 'A4', 'G4', 'A4'])
  })

  it('plays one phrase alone, from its own start', () => {
    const t = tuneOf('D E F G | A B c d |]')
    expect(heard(t, { only: new Set(ids(t).slice(3, 6)) })).toEqual(['G4@0:1', 'A4@1:1', 'B4@2:1'])
  })

  it('lasts as long as its measures, whatever the swing', () => {
    fc.assert(
      fc.property(tunes(), fc.integer({ min: 50, max: 75 }), (t, swing) => {
        const p = performTune(t, { swing })
        const sum = p.measures.reduce((s, m) => s + toNumber(m.length), 0)
        expect(toNumber(p.length)).toBeCloseTo(sum, 9)
        for (const n of p.notes)
          expect(toNumber(n.start) + toNumber(n.length)).toBeLessThanOrEqual(sum + 1e-9)
      }),
    )
  })
})

describe('the bow', () => {
  const t = tuneOf('D E F G | A4 |]')
  const [, e, , g] = ids(t)
  const plain = { hook: false, lift: false, speed: 1 }
  const played = (bows: [string, typeof plain][]) => performTune(t, { bows: new Map(bows) }).notes
  it('is heard where it hooks or lifts: the note before ends early', () => {
    expect(played([[e!, { ...plain, hook: true }]])[0]!.held).toBeLessThan(0.8)
    expect(played([[g!, { ...plain, lift: true }]])[2]!.held).toBeLessThan(0.8)
    expect(played([[e!, plain]])[0]!.held).toBeGreaterThan(0.9)
  })
  it('is louder when it is fast, softer when the hair is short, until the next stroke', () => {
    const [, fast, still] = played([[e!, { ...plain, speed: 2 }]])
    const [, usual] = played([[e!, plain]])
    const [, starved] = played([[e!, { ...plain, speed: 0.5 }]])
    expect(fast!.loudness).toBeGreaterThan(usual!.loudness)
    expect(starved!.loudness).toBeLessThan(usual!.loudness)
    expect(still!.loudness).toBe(fast!.loudness)
  })
})

describe('the program', () => {
  const counts = (t: Tune, how: 'beats' | 'subdivision') =>
    programOf(one(t), { ...NOTHING, countIn: how })
      .intro.events.map(e => (e.kind === 'click' ? e.count : '?'))
      .join(' ')

  it('counts one measure in, and up to a pickup', () => {
    expect(counts(tuneOf('D E F G |'), 'beats')).toBe('1 2 3 4')
    expect(counts(tuneOf('A | D E F G |'), 'beats')).toBe('1 2 3 4 1 2 3')
    expect(counts(tuneOf('D E F G |'), 'subdivision')).toBe('1 and 2 and 3 and 4 and')
    expect(counts(tuneOf('DEF GAB |', 'M:6/8\nL:1/8\nK:D'), 'beats')).toBe('1 2')
    expect(counts(tuneOf('DEF GAB |', 'M:6/8\nL:1/8\nK:D'), 'subdivision')).toBe('1 and a 2 and a')
    expect(counts(tuneOf('D2 E2 F3 |', 'M:7/8\nL:1/8\nK:D'), 'beats')).toBe('1 2 3')
    expect(counts(tuneOf('D3 E2 F2 |', 'M:7/8\nL:1/8\nK:D'), 'subdivision')).toBe('1 and a 2 and 3 and')
  })

  it('leaves the same time for the echo, with clicks in it', () => {
    const program = programOf(one(tuneOf('D E F G |')), { ...NOTHING, echo: true })
    expect([program.music, program.body.length]).toEqual([4, 8])
    expect(program.body.events.filter(e => e.start >= 4).map(e => e.kind)).toEqual(Array(4).fill('click'))
  })

  it('accents the first beat and half accents the middle of a bar', () => {
    const { body } = programOf(one(tuneOf('D E F G |')), { ...NOTHING, metronome: true })
    expect(body.events.flatMap(e => (e.kind === 'click' ? [e.strength] : []))).toEqual([3, 1, 2, 1])
    const uneven = programOf(one(tuneOf('D2 E2 F3 | G2 A2 B3 |', 'M:7/8\nL:1/8\nK:D')), {
      ...NOTHING,
      metronome: true,
    })
    const clicks = uneven.body.events.flatMap(e =>
      e.kind === 'click' ? [[e.start, e.strength, e.count]] : [],
    )
    expect(clicks).toEqual([
      [0, 3, '1'],
      [1, 1, '2'],
      [2, 2, '3'],
      [3.5, 3, '1'],
      [4.5, 1, '2'],
      [5.5, 2, '3'],
    ])
  })

  it('backs the chords with a bass on strong beats and the chord between', () => {
    const { body } = programOf(one(tuneOf('"D"D E "A7/E"F G |')), { ...NOTHING, backing: true })
    const at = (q: number) =>
      body.events.flatMap(e => (e.kind === 'backing' && e.start === q ? [e.midi % 12] : []))
    expect([at(0), at(1), at(2), at(3)]).toEqual([[2], [2, 6, 9], [4], [9, 1, 4, 7]])
  })

  it('holds the drone through music and gap', () => {
    const { body } = programOf(one(tuneOf('D E F G |')), { ...NOTHING, echo: true, drone: [50] })
    expect(body.events.filter(e => e.kind === 'drone')).toMatchObject([{ start: 0, length: 8, midi: 50 }])
  })

  it('knows the note of a moment', () => {
    const t = tuneOf('D2 z F |')
    const { body } = programOf(one(t), NOTHING)
    expect([
      noteAt(body, 'tune', 1.9)?.event,
      noteAt(body, 'tune', 2.5),
      noteAt(body, 'tune', 3)?.event,
    ]).toEqual([ids(t)[0], null, ids(t)[2]])
  })

  it('is nothing for a tune without notes', () => {
    expect(
      programOf(one({ ...tuneOf('D'), measures: [] }), { ...NOTHING, countIn: 'beats' }).body.length,
    ).toBe(0)
  })
})

describe('parts together', () => {
  const [high, low] = [tuneOf('D E F G | A4 |]'), tuneOf('"D"D,2 A,,2 |]')]
  const both = [
    { id: 'high', performance: performTune(high) },
    { id: 'low', performance: performTune(low) },
  ]
  it('each have a track, beside those of what sounds under them; the longest says how long it is', () => {
    const quiet = programOf(both, NOTHING)
    expect(quiet.tracks.map(t => t.id)).toEqual(['high', 'low'])
    expect([quiet.music, quiet.body.length]).toEqual([8, 8])
    const full = programOf(both, {
      ...NOTHING,
      metronome: true,
      drone: [38],
      backing: true,
      countIn: 'beats',
    })
    // The chords are those of the part that leads, and it has none.
    expect(full.tracks.map(t => t.kind)).toEqual(['part', 'part', 'clicks', 'drone'])
    expect(programOf([both[1]!, both[0]!], { ...NOTHING, backing: true }).tracks.at(-1)!.id).toBe('backing')
  })
  it('tell what each of them plays at a moment', () => {
    const { body } = programOf(both, NOTHING)
    expect(noteAt(body, 'high', 1.5)!.event).toBe(ids(high)[1])
    expect(noteAt(body, 'low', 1.5)!.event).toBe(ids(low)[0])
    expect(noteAt(body, 'low', 5)).toBeNull()
  })
})

describe('the mixer', () => {
  const list = ['tune', 'second', 'clicks'].map(id => ({ id, kind: 'part' as const }))
  const mixed = (mix: Mix) => gainsOf(list, mix).map(g => [g.gain, g.pan])
  it('plays every track in the middle, as loud as it comes, until something is said', () =>
    expect(mixed({})).toEqual([
      [1, 0],
      [1, 0],
      [1, 0],
    ]))
  it('turns down, moves to a side, and silences one', () =>
    expect(mixed({ tune: { volume: 0.5 }, second: { pan: -1 }, clicks: { mute: true } })).toEqual([
      [0.25, 0],
      [1, -1],
      [0, 0],
    ]))
  it('plays one alone; a silenced one stays silent', () => {
    expect(mixed({ second: { solo: true } }).map(g => g[0])).toEqual([0, 1, 0])
    expect(mixed({ second: { solo: true, mute: true } }).map(g => g[0])).toEqual([0, 0, 0])
  })
  it('does not fall silent for one that is not heard here', () =>
    expect(mixed({ gone: { solo: true } }).map(g => g[0])).toEqual([1, 1, 1]))
})

describe('chord names', () => {
  it.each([
    ['Am', [9, 0, 4]],
    ['D7', [2, 6, 9, 0]],
    ['Bbmaj7', [10, 2, 5, 9]],
    ['F#m7b5', [6, 9, 0, 4]],
    ['Gsus4', [7, 0, 2]],
    ['E+', [4, 8, 0]],
  ])('%s', (name, notes) => {
    const c = parseChord(name)!
    expect(c.intervals.map(i => (c.root + i) % 12)).toEqual(notes)
  })
  it('takes the bass after the slash and refuses words', () => {
    expect(parseChord('C/G')!.bass).toBe(7)
    expect([parseChord('N.C.'), parseChord('Fine'), parseChord('')]).toEqual([null, null, null])
  })
})

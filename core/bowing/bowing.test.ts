import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { slurredToPrevious } from '#core/line/joins'
import { emptyTune } from '#core/music/tune'
import { MAY_ALL } from './schools'
import { costOfBowing } from './search'
import { bowed, bowedTune, said, tuneFrom } from './testing'
import { wantedLength } from './travel'

const codes = (b: { findings: readonly { code: string }[] }) => b.findings.map(f => f.code)

describe('directions', () => {
  it.each([
    ['one bow a note, in turn', 'D2E2 F2G2|', 'DuDu'],
    ['a pickup goes up so that the first beat comes down', 'A2|d4 A4|', 'uDu'],
    ['two pickup notes start down', 'AB|d4 A4|', 'DuDu'],
    ['a slur is one bow', '(DE)F2 (GABc)|', 'D.uD...'],
    ['a tie is one bow', 'D4 A4-|A4 B4|', 'DuD'],
    ['a chord is one bow', '[DA]4 [Ad]4|', 'Du'],
    ['a rest does not turn the bow', 'D2E2F2 z2|G4 A4|', 'DuDuD'],
    ['a rest of seconds sets it anew', 'D2E2F2 z2|z8|G4 A4|', "DuD'Du"],
    ['a comma invites the same', 'D2E2 F2!breath!G2|A8|B8|', 'DuDuDu'],
  ])('%s', (_name, music, expected) => expect(said(bowed(music))).toBe(expected))

  it('go on as they come when the school says so, after a pickup up', () => {
    expect(said(bowed('A2|d4 A4|', { school: 'as-it-comes' }))).toBe('uDu')
    expect(said(bowed('D2E2F2 z2|z8|G4 A4|', { school: 'as-it-comes' }))).toBe('DuDuD')
  })

  it('that are written in the tune are kept', () => {
    expect(said(bowed('!upbow!D2E2 F2G2|'))).toBe('uDuD')
    expect(said(bowed('!downbow!A2|d4A4|'))).toBe('DuD')
    // Two down bows in a row mean that the bow is set anew, under every school.
    for (const school of ['down', 'as-it-comes', 'phrase', 'separate'] as const) {
      const b = bowed('D4!downbow!E4|!downbow!F4 G4|', { school, tempo: '1/4=60' })
      expect(said(b), school).toBe(school === 'phrase' ? "D'D'D." : "D'D'Du")
      expect(b.written.slice(0, 3).map(s => s.lift && s.why.is)).toEqual([
        false,
        'marked',
        school === 'phrase' ? 'phrase' : 'marked',
      ])
    }
    expect(codes(bowed('D2!downbow!E2 F2G2|'))).toContain('bow.liftNoTime')
  })

  it('by syllable only where something is sung: not before the words, nor where a part has none, nor over a rest', () => {
    const music =
      'A2D2E2F2|G2A2B2A2|DEFG A2B2|d2z2AB c2|A2B2c2d2|\nw:* * * * * * * * one _ two _ three four five * * *'
    expect(said(bowed(music, { school: 'syllable' }))).toBe('DuDuDuDuD.u.DuDuDuDuDu')
  })
  it('part what the school would slur: by syllable, in a pattern, by habit', () => {
    expect(said(bowed('DE!downbow!FG A4|\nw:one___ two', { school: 'syllable' }))).toBe("D.'D.u")
    const groove = { pattern: [4], unit: 0.5, offset: 0 }
    expect(said(bowed('DEF!upbow!G ABcd|', { school: 'pattern', groove }))).toBe('D..uD...')
    expect(said(bowed('D3!upbow!E F3G|', { habits: { dotted: 'slurred', triplets: 'written' } }))).toBe(
      'DuD.',
    )
  })

  it('written in a slur count for all of it', () => {
    expect(said(bowed('D2(E2!upbow!F2)G2|'))).toBe('Du.D')
    expect(said(bowed('D2!upbow!(E2F2)G2|'))).toBe('Du.D')
    expect(said(bowed('D2!downbow!(E2F2)G2|'))).toBe("D'D.u")
  })

  it('that are written may be left where a pin says otherwise', () => {
    const t = tuneFrom('D2!downbow!E2 F2G2|')
    const id = t.measures[0]!.events[1]!.id
    expect(said(bowedTune(t, { pins: { [id]: { direction: 'up' } } }))).toBe('DuDu')
  })

  it('alternate wherever nothing is pinned, rested or lifted', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', '(FG)', '(ABc)', 'd4'), { minLength: 1, maxLength: 20 }),
        notes => {
          const { strokes } = bowed(notes.join(' ') + '|', { metre: 'none' })
          strokes.slice(1).forEach((s, i) => expect(s.direction).not.toBe(strokes[i]!.direction))
        },
      ),
    )
  })
})

describe('ties', () => {
  it('a drone that is held keeps the bow: the melody over it is slurred', () =>
    expect(said(bowed('[DA-]4[FA]4|[FA-]4A4|D2-E2F4|'))).toBe('D.uDuD'))
})

describe('what may be added', () => {
  it('is nothing when nothing may: the written marks stand', () => {
    const b = bowed('D2F2 AG|F2A2d2 z2|D2F2A2z2|')
    expect(b.strokes.flatMap(s => s.added)).toEqual([])
  })
  it.each([
    ['a march measure of quarter and eighths puts the eighths on one up', '2/4', 'D2FA|B2A2|d4|', 'Du.DuD'],
    ['three quarters of a waltz are two bows', '3/4', 'D2F2A2|d4A2|d6|', 'Du.DuD'],
    ['a rest is used for a lift', '4/4', 'D2F2A2z2|G2B2d2B2|d8|', "DuD'DuDuD"],
    [
      'in seven the bow is mended within a beat, not over one',
      '7/8',
      'D2F2AGF|G2B2AGF|D2F2A3|',
      'DuDu.DuDu.DuD',
    ],
    ['and where the three comes first', '7/8', 'AGFD2F2|AGFG2B2|A3D2F2|', 'Du.DuDu.DuDuD'],
    ['a triplet counts as a pair', '4/4', 'DF AG (3FGA GF|D2F2A2F2|D8|', 'DuDuD.uDuDuDuD'],
  ])('%s', (_name, metre, music, expected) =>
    expect(said(bowed(music, { metre, may: MAY_ALL }))).toBe(expected),
  )
  it('is told apart from what is written and what is pinned', () => {
    const b = bowed('D2(FA)|B2AG|d4|', { metre: '2/4', may: MAY_ALL })
    expect(b.strokes.flatMap(s => s.added.map(a => a.way))).toEqual(['slur'])
  })
  it('keeps every written slur unless parting is allowed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', '(FG)', '(ABc)', 'd3', 'z2', '(B2A)'), {
          minLength: 2,
          maxLength: 18,
        }),
        fc.boolean(),
        (notes, part) => {
          const tune = tuneFrom(notes.join(' ') + '|', 'none')
          const b = bowedTune(tune, { may: { slur: true, hook: true, lift: true, part } })
          const inside = new Set(b.strokes.flatMap(s => s.notes.slice(1)))
          if (!part) for (const id of slurredToPrevious(tune)) expect(inside.has(id)).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('pins', () => {
  const t = tuneFrom('D2E2 F2G2|')
  const id = (i: number) => t.measures[0]!.events[i]!.id
  it('are kept, with a lift where the same direction comes twice, and the rest follows', () => {
    const { strokes } = bowedTune(t, { pins: { [id(1)]: { direction: 'down' } } })
    expect(strokes.map(s => [s.direction, s.lift])).toEqual([
      ['down', false],
      ['down', true],
      ['up', false],
      ['down', false],
    ])
  })
  it('hook, lift and turn as they say', () => {
    const hooked = bowedTune(t, { pins: { [id(1)]: { way: 'hook' } } })
    expect(said(hooked)).toBe('D=DuD')
    expect(hooked.strokes[1]!.added).toEqual([])
    expect(said(bowedTune(t, { pins: { [id(2)]: { way: 'lift' } } }))).toBe("Du'uD")
    expect(said(bowedTune(t, { may: MAY_ALL, pins: { [id(1)]: { way: 'turn' } } }))).toBe('DuDu')
  })
  it('say where on the bow a stroke begins, or in which part it lies', () => {
    const at = bowedTune(t, { pins: { [id(0)]: { at: 0.5 } } }).strokes[0]!
    expect(at.from).toBeCloseTo(0.5, 1)
    const tip = bowedTune(t, { pins: { [id(0)]: { part: 'upper' }, [id(1)]: { part: 'upper' } } })
    for (const s of tip.strokes.slice(0, 2)) expect((s.from + s.to) / 2).toBeGreaterThanOrEqual(0.5)
  })
  it('inside a slur come back as findings, and so do those that contradict each other', () => {
    const joined = new Set([id(1)])
    const { findings, strokes } = bowedTune(t, {
      joined,
      joins: { [id(1)]: true },
      pins: { [id(1)]: { direction: 'up' } },
    })
    expect(findings.map(f => f.code)).toContain('bow.pinUnmet')
    expect(strokes[0]!.notes).toEqual([id(0), id(1)])
    const hook = bowedTune(t, { joined, joins: { [id(1)]: true }, pins: { [id(1)]: { way: 'hook' } } })
    expect(hook.findings.some(f => f.code === 'bow.wayUnmet') || hook.strokes[1]!.hook).toBe(true)
  })
  it('of a slur over a rest come back as a finding', () => {
    const rested = tuneFrom('D2 z2 F2G2|')
    const second = rested.measures[0]!.events[2]!.id
    const b = bowedTune(rested, { joined: new Set([second]), joins: { [second]: true } })
    expect(codes(b)).toContain('bow.slurOverRest')
    expect(b.strokes).toHaveLength(3)
  })
})

describe('repeats', () => {
  it('of two times through, one of which must come up, it is rather the later one', () => {
    const b = bowed('AB|:d4 A4|d2A2 B2A2|d6:|')
    const first = (pass: number) =>
      b.strokes.filter(s => s.strength === 3 && s.pass === pass).map(s => s.direction)
    expect([first(1), first(2)]).toEqual([
      ['down', 'down', 'down'],
      ['up', 'up', 'up'],
    ])
  })
  it('flag a part that starts on the other bow the second time, and the mend mends it', () => {
    const music = '|:D2E2 F2G2|A2B2 c4:|'
    const told = bowed(music).findings.filter(f => f.code === 'bow.otherBow')
    expect(told.map(sentence)).toEqual(['This part starts up bow the second time (down the first).'])
    const [mend] = told[0]!.mends!
    if (mend?.kind !== 'stroke') throw new Error('a stroke mend was expected')
    const mended = bowed(music, { pins: { [mend.note]: { direction: mend.direction } } })
    expect(codes(mended)).not.toContain('bow.otherBow')
  })
  it('say nothing when it comes out even', () =>
    expect(codes(bowed('|:D2E2 F2G2|A2B2 c2d2:|'))).not.toContain('bow.otherBow'))
  it('say it once for each part, also with endings', () => {
    const b = bowed('|:D2E2 F2G2|1A2B2 c4:|2A4 d4|:d2c2 B2A2|G2F2 E4:|')
    expect(codes(b).filter(c => c === 'bow.otherBow')).toHaveLength(2)
  })
  it('that the teacher has struck out are not bowed', () => {
    const twice = tuneFrom('|:D2E2 F2G2|A2B2 c4:|')
    const struck = { ...twice, play: { ...twice.play, struck: [twice.measures.at(-1)!.id] } }
    expect(codes(bowedTune(twice))).toContain('bow.otherBow')
    expect(bowedTune(struck).strokes.every(s => s.pass === 1)).toBe(true)
    expect(codes(bowedTune(struck))).not.toContain('bow.otherBow')
  })
  it('are marked the second time as the first: one page holds both', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', 'F', '(GA)', 'B3', 'A4'), { minLength: 3, maxLength: 12 }),
        notes => {
          const b = bowed(`|:${notes.join(' ')}:|`, { metre: 'none', may: MAY_ALL })
          const starts = [1, 2].map(pass => b.strokes.filter(s => s.pass === pass).map(s => s.notes[0]))
          expect(starts[1]).toEqual(starts[0])
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('the way along the bow', () => {
  const notes = fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A8', '!ff!d4', '!p!B', 'z2', '!>!c'), {
    minLength: 1,
    maxLength: 30,
  })
  it('never leaves the hair, every stroke goes its own way, and nothing jumps without time', () => {
    fc.assert(
      fc.property(notes, fc.boolean(), (line, all) => {
        const { strokes } = bowed(line.join(' ') + '|', { metre: 'none', ...(all && { may: MAY_ALL }) })
        strokes.forEach((s, i) => {
          expect(Math.min(s.from, s.to)).toBeGreaterThanOrEqual(0)
          expect(Math.max(s.from, s.to)).toBeLessThanOrEqual(1)
          expect(Math.sign(s.to - s.from)).toBe(s.direction === 'down' ? 1 : -1)
          const before = strokes[i - 1]
          if (!before) return
          expect(s.direction === before.direction).toBe(s.hook || s.lift)
          if (!s.lift && s.restBefore < 0.2) expect(s.from).toBeCloseTo(before.to)
        })
      }),
    )
  })
  it('is the cheapest there is: no other bowing of the same line costs less', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A4', '!>!d', 'z2', 'B3'), {
          minLength: 1,
          maxLength: 7,
        }),
        fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat()), { minLength: 30, maxLength: 30 }),
        (line, dice) => {
          const b = bowed(line.join(' ') + '|', { metre: '4/4', may: MAY_ALL })
          const { search } = b
          expect(costOfBowing(search.line, search.strokes)).toBeCloseTo(search.total, 6)
          for (const [which, by, way] of dice) {
            // Another bowing of the line: one stroke's place, direction or beginning changed.
            const i = which % Math.max(1, search.strokes.length)
            const ways = ['turn', 'hook', 'lift'] as const
            const other = search.strokes.map((s, k) =>
              k !== i
                ? s
                : {
                    ...s,
                    from: Math.min(1, Math.max(0, s.from + ((by % 7) - 3) / 24)),
                    to: Math.min(1, Math.max(0, s.to + ((((by / 7) % 7) | 0) - 3) / 24)),
                    way: ways[way % 3]!,
                    direction:
                      way % 2 === 0
                        ? s.direction
                        : s.direction === 'down'
                          ? ('up' as const)
                          : ('down' as const),
                  },
            )
            expect(costOfBowing(search.line, other)).toBeGreaterThanOrEqual(search.total - 1e-6)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
  it('gives long and loud notes more hair than short and soft ones', () => {
    const [soft, loud, long] = bowed('!p!D2 !f!E2 F8|', { metre: 'none' }).strokes.map(s =>
      wantedLength(s.seconds, s.loudness, s.accent),
    )
    expect(soft).toBeLessThan(loud!)
    expect(loud).toBeLessThan(long!)
  })
})

describe('findings', () => {
  it('name every first beat that comes up, in every metre', () => {
    for (const [metre, music] of [
      ['2/4', 'D2FA|B2A2|d4|'],
      ['3/4', 'D2F2A2|d6|'],
      ['4/4', 'D4F2A2|d8|'],
      ['6/8', 'D2F AFD|d6|'],
      ['9/8', 'D2F AFD A2F|d9|'],
      ['5/8', 'D2F A2|d5|'],
    ] as const) {
      const b = bowed(music, { metre })
      const up = b.strokes.filter(s => s.strength === 3 && s.direction === 'up')
      expect(up.length).toBeGreaterThan(0)
      expect(codes(b).filter(c => c === 'bow.firstBeatUp')).toHaveLength(up.length)
    }
  })
  it('say nothing of first beats under another school', () =>
    expect(codes(bowed('D2FA|B2A2|d4|', { metre: '2/4', school: 'as-it-comes' }))).toEqual([]))
  it('find the end of the hair when long bows all go one way', () => {
    const music = Array.from({ length: 8 }, () => 'd8 e/').join(' ') + '|'
    const found = codes(bowed(music, { metre: 'none', tempo: '1/4=60' }))
    expect(found.some(c => c === 'bow.hairRunsOut' || c === 'bow.wrongEnd')).toBe(true)
    expect(found).toContain('bow.drifts')
  })
  it('say of a note longer than any bow how many it takes, of a slur too long where to part it', () => {
    const long = bowed('D16-|D16|', { metre: 'none', tempo: '1/4=40' })
    expect(long.findings.find(f => f.code === 'bow.tooLong')?.values).toEqual({ seconds: 24, bows: 7 })
    const slur = bowed('(D4E4 F4G4)|', { tempo: '1/4=60' }).findings.find(f => f.code === 'bow.crowded')
    expect(slur?.mends).toMatchObject([{ kind: 'bow', edits: [{ way: 'part' }] }])
  })
  it('see the skip of a string under a slur, and the swing between two strings', () => {
    const strings = (t: ReturnType<typeof tuneFrom>, of: (i: number) => number) => {
      const ids = t.measures.flatMap(m => m.events.map(e => e.id))
      return (id: string) => of(ids.indexOf(id))
    }
    const skip = tuneFrom('(GB)d2 e4|')
    expect(codes(bowedTune(skip, { stringOf: strings(skip, i => (i === 0 ? 3 : 1)) }))).toContain(
      'bow.slurSkips',
    )
    const swing = tuneFrom('DADA DADA|DADA DADA|')
    expect(codes(bowedTune(swing, { tempo: '1/4=160', stringOf: strings(swing, i => i % 2) }))).toContain(
      'bow.swings',
    )
  })
  it('say of a pinned lift when it has no time', () => {
    const t = tuneFrom('DEFG ABcd|')
    const b = bowedTune(t, { pins: { [t.measures[0]!.events[4]!.id]: { way: 'lift' } } })
    expect(codes(b)).toContain('bow.liftNoTime')
  })
  it('ask for a pattern where none was chosen, and see one longer than the tune', () => {
    expect(codes(bowed('DEFG ABcd|', { school: 'pattern' }))).toContain('bow.noPattern')
    const groove = { pattern: [16, 16], unit: 0.5, offset: 0 }
    expect(codes(bowed('DEFG ABcd|', { school: 'pattern', groove }))).toContain('bow.patternLong')
  })
})

it('a repeat whose first time is slurred on and on by a pattern is bowed the same the second time', () => {
  const groove = { pattern: [5, 3, 1, 3], unit: 0.5, offset: 0 }
  const b = bowed('|:E2 (3ABc E2 (3ABc E2 (3ABc D:|', { school: 'pattern', groove, metre: 'none' })
  expect(b.search.total).toBeLessThan(100)
  const starts = [1, 2].map(pass => b.strokes.filter(s => s.pass === pass).map(s => s.notes[0]))
  expect(starts[1]).toEqual(starts[0])
})

it('odd input is bowed without a crash: nested slurs, a note of minutes, a thousand quick ones, a pattern longer than all of it', () => {
  const nested = bowed('(D(EF)G) (A(Bcd)|e4)f4|', { may: MAY_ALL })
  expect(nested.strokes.map(s => s.tones.length)).toEqual([4, 5, 1])
  const minutes = bowed('D16-|D16-|D16|', { metre: 'none', tempo: '1/4=8' })
  expect(minutes.findings.find(f => f.code === 'bow.tooLong')?.values).toEqual({ seconds: 180, bows: 50 })
  expect(
    bowed('D/E/F/G/ '.repeat(250) + '|', { metre: 'none', may: MAY_ALL }).strokes.length,
  ).toBeGreaterThan(300)
  const groove = { pattern: [16, 16, 16, 16], unit: 0.5, offset: 3 }
  expect(bowed('D|', { school: 'pattern', groove, metre: 'none' }).strokes).toHaveLength(1)
})

it('an empty tune, and one of rests alone, has no strokes and nothing to say', () => {
  for (const tune of [emptyTune('t'), tuneFrom('z8|z8|')])
    expect(bowedTune(tune)).toMatchObject({ strokes: [], findings: [] })
})

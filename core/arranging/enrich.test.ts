import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges } from '#core/arrangement/changes'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { gradeOf } from '#core/grading/demands'
import { sizeOf } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { add, compare, toNumber, ZERO } from '#core/music/fraction'
import { formatPitch } from '#core/music/pitch'
import { placeEvents } from '#core/music/timeline'
import { emptyTune, type InstrumentId, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { enriched } from './enrich'
import { FANCIER, SPICES, WITHOUT_WORDS, type SpiceKind } from './spices'

const tuneFrom = (music: string, head = 'M:4/4\nL:1/8\nQ:1/4=90\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const plain = (i: InstrumentId) => newArrangement(i, sizeOf(i).name)
const spice = (tune: Tune, spices: readonly SpiceKind[], level: Level = 6, i: InstrumentId = 'violin') =>
  enriched(tune, plain(i), { spices, level, context: ASSUMED_HANDS })
/** What is played, in short: pitches of an event together, its marks, its length in quarters. */
const notes = (t: Tune) =>
  t.measures
    .map(m =>
      m.events
        .flatMap(e =>
          e.kind === 'note'
            ? [
                `${e.heads.map(h => formatPitch(h.pitch)).join('+')}${(e.marks ?? []).map(x => `!${x}`).join('')}:${e.duration.n}/${e.duration.d}`.replace(
                  '/1',
                  '',
                ),
              ]
            : ['z'],
        )
        .join(' '),
    )
    .join(' | ')
const version = (tune: Tune, spices: readonly SpiceKind[], level?: Level, i?: InstrumentId) =>
  applyChanges(tune, spice(tune, spices, level, i).recipe.played.changes).tune
const AIR = 'M:4/4\nL:1/8\nQ:1/4=84\nK:D'

describe('a teacher’s spice', () => {
  it.each<[why: string, head: string, music: string, SpiceKind, Level, expected: RegExp]>([
    ['an open D rings an octave under a long d', AIR, 'A2B2d4|A2G2F4|', 'drones', 4, /D4\+D5:2/],
    ['no drone against the second of the key', AIR, 'A2F2E4|F2A2d4|', 'drones', 4, /^(?!.*D4\+E4).*$/],
    ['a short note carries none', AIR, 'DEFG ABcd|dcBA GFED|', 'drones', 6, /^(?!.*\+).*$/],
    ['4 joins the open string it sounds like', AIR, 'D2F2A4|d2B2A4|', 'unisons', 4, /A4\+A4:2/],
    ['not before the fourth finger is there', AIR, 'D2F2A4|d2B2A4|', 'unisons', 2, /^(?!.*\+).*$/],
    ['a note that comes again is parted by a cut', AIR, 'F2F2 A2B2|d2A2F4|', 'cuts', 4, /F#4:1 F#4!cut:1/],
    [
      'a long note of a jig is rolled',
      'M:6/8\nL:1/8\nQ:3/8=100\nK:G',
      'G3 BAB|d2B A3|B3 AGF|G6|',
      'rolls',
      6,
      /G4!roll:3\/2/,
    ],
    [
      'a quarter on a beat of a jig carries the open string under it',
      'M:6/8\nL:1/8\nQ:3/8=100\nK:G',
      '"G"B2d G2B|"D"A2F d2A|"G"B2d G2B|"D"A2F "G"G3|',
      'drones',
      4,
      /D4\+B4:1 D5/,
    ],
    [
      'the end of a jig in E minor rests on the G below',
      'M:6/8\nL:1/8\nQ:3/8=100\nK:Em',
      '"Em"EGB efg|"D"fed BAF|"Em"EGB efe|"D"dBF "Em"E3|',
      'drones',
      4,
      /G3\+E4:3\/2/,
    ],
    [
      'the top of a jig’s wave is cut',
      'M:6/8\nL:1/8\nQ:3/8=100\nK:D',
      'DFA def|gfe dcB|ABA FED|EFE D3|',
      'cuts',
      4,
      /G5!cut:1\/2 F#5:1\/2 E5:1\/2 D5:1/,
    ],
    [
      'and the long note of a pair before it',
      'M:6/8\nL:1/8\nQ:3/8=100\nK:D',
      'DFA def|gfe d2B|ABA FED|EFE D3|',
      'cuts',
      4,
      /G5:1\/2 F#5:1\/2 E5:1\/2 D5!cut:1 B4/,
    ],
    ['a third is filled on a quarter', AIR, 'd2B2A2F2|E2F2D4|', 'runs', 5, /D5:1\/2 C#5:1\/2 B4/],
    [
      'a third of two eighths becomes a triplet',
      'M:4/4\nL:1/8\nQ:1/4=100\nK:D',
      'D2 FA d2 Ad|FDFA d4|',
      'runs',
      6,
      /:1\/3/,
    ],
    ['the last note rises to its octave', AIR, 'F2E2D2E2|F2E2D4|', 'ending', 5, /D4:1 .*D5:1$/],
    [
      'a long note is broken over its chord',
      AIR,
      'D8|A4F4|D8|A4D4|',
      'broken',
      5,
      /D4:1\/2 F#4:1\/2 A4:1\/2/,
    ],
    [
      'a long note rocks against the open string under it',
      AIR,
      'F2A2d4|A2F2D4|F2A2d4|A2F2D4|',
      'rocking',
      4,
      /D5:1\/2 D4:1\/2 D5:1\/2 D4:1\/2/,
    ],
    [
      'and does not where the chord has no such string',
      AIR,
      'E2A2c4|A2E2A4|E2A2c4|A2E2A4|',
      'rocking',
      4,
      /^(?!.*C#5:1\/2).*$/,
    ],
    ['repeated eighths become one longer note', AIR, 'DDDE F2G2|A8|', 'repeats', 3, /D4:1 D4:1\/2 E4:1\/2/],
    [
      'a quarter said again turns over its neighbour',
      AIR,
      'D2E2F2F2|E2E2D4|',
      'repeats',
      3,
      /F#4:1 G4:1\/2 F#4:1\/2/,
    ],
    [
      'a long note turns over its neighbour before it steps down',
      AIR,
      'D2E2F4|E2E2D4|',
      'turns',
      3,
      /F#4:1 G4:1\/2 F#4:1\/2/,
    ],
    ['a long note runs up to a fifth above', AIR, 'E4B4|A8|', 'turns', 3, /E4:1 F#4:1\/2 G4:1\/2/],
    [
      'a long note a step below the next dips under it',
      AIR,
      'G4A4|B2A2G4|',
      'turns',
      3,
      /G4:1 F#4:1\/2 G4:1\/2/,
    ],
  ])('%s', (_why, head, music, kind, level, expected) => {
    expect(notes(version(tuneFrom(music, head), [kind], level))).toMatch(expected)
  })

  it('keeps the chords where they stand, on a note that becomes another figure too', () => {
    for (const file of ['four-corners-of-ostrey.abc', 'brindlewick-bridge.abc']) {
      const { tune } = readAbc(demoSource(file)).tunes[0]!
      const chords = (t: Tune) =>
        placeEvents(t).flatMap(p =>
          p.event.chord ? [`${p.event.chord} ${p.measure.number}:${toNumber(p.inMeasure)}`] : [],
        )
      expect(chords(version(tune, FANCIER, 7)), file).toEqual(chords(tune))
    }
  })
  it('takes the grace notes up with their phrase', () => {
    const tune = tuneFrom('{E}D2F2A2F2|G2F2E2D2|{E}D2F2A2F2|G2F2E4|{E}D2F2A2F2|G2F2E2D2|{E}D2F2A2F2|G2E2D4|')
    const graces = version(tune, ['octaves'], 7).measures.flatMap(m =>
      m.events.flatMap(e =>
        e.kind === 'note' && e.grace ? [[e.grace[0]!, e.heads[0]!.pitch].map(formatPitch).join()] : [],
      ),
    )
    expect(graces).toContain('E5,D5')
    expect(graces.filter(g => g !== 'E5,D5' && g !== 'E4,D4')).toEqual([])
  })
  it('a cello hand has no 4 beside that string, and does not go up the neck for it', () => {
    const low = tuneFrom('D,2F,2A,4|D,2B,,2D,4|', `${AIR} clef=bass`)
    expect(notes(version(low, ['unisons'], 6, 'cello'))).not.toContain('+')
  })
  it('hammers a finger on from the open string of its own string, not where that was just heard', () => {
    const graces = (music: string, level: Level) =>
      version(tuneFrom(music, AIR), ['hammers'], level).measures.flatMap(m =>
        m.events.flatMap(e =>
          e.kind === 'note' && e.grace
            ? [`${e.grace.map(formatPitch).join(' ')}>${formatPitch(e.heads[0]!.pitch)}`]
            : [],
        ),
      )
    expect(graces('d2c2 B4|A2G2 F4|', 5)).toEqual(['A4>B4', 'D4>F#4'])
    expect(graces('d2c2 B4|A2G2 F4|', 3)).toEqual([])
    expect(graces('A4B4|A8|', 5)).toEqual([])
  })
  it('leaves the last note of a song without words to rest', () => {
    expect(notes(version(tuneFrom('D4F4|A4F4|G4E4|D8|', AIR), WITHOUT_WORDS, 4))).toMatch(/D4:4$/)
  })
  it('lays what it adds to a song in one bow', () => {
    const tune = tuneFrom('E4B4|A8|', AIR)
    const { recipe } = spice(tune, ['turns'], 3)
    const d = derive(tune, recipe, ASSUMED_HANDS)
    expect(d.bowing.strokes.some(s => s.notes.length === 2)).toBe(true)
  })
  it('takes the kin of a measure another way, so that it is not every time', () => {
    const tune = tuneFrom('D2FA d2A2|D2FA d2A2|D2FA d2A2|D2FA d4|', AIR)
    const runs = spice(tune, ['runs'], 6).changes
    expect(runs.length).toBeGreaterThan(0)
    expect(runs.every(c => c.measure !== 1)).toBe(true)
  })
  it('comes in by the time through: plain first, then one layer after another', () => {
    const tune = tuneFrom('A2B2d4|d2B2A2F2|F2F2A2B2|d2A2D4|', AIR)
    const { recipe } = spice(tune, FANCIER, 6)
    const at = (through: 1 | 2 | 3) => derive(tune, withPlayed(recipe, { through }), ASSUMED_HANDS).tune
    expect(notes(at(1))).toBe(notes(tune))
    expect(notes(at(2))).not.toBe(notes(at(1)))
    expect(notes(at(3))).not.toBe(notes(at(2)))
  })
  it('of nothing is nothing', () => {
    for (const tune of [emptyTune('t'), tuneFrom('z8|z8|'), tuneFrom('D2|')])
      expect(spice(tune, [...SPICES], 8).changes.length).toBeLessThanOrEqual(1)
  })
})

describe('whatever is added', () => {
  const names = [
    'brindlewick-bridge',
    'evening-on-quillen-water',
    'crooked-stile',
    'kiln-yard-polska',
    'low-barn-stomp',
  ]
  const tunes = names.map(n => readAbc(demoSource(`${n}.abc`)).tunes[0]!.tune)
  const any = fc.record({
    tune: fc.constantFrom(...tunes),
    level: fc.constantFrom<Level>(3, 4, 5, 6, 8),
    instrument: fc.constantFrom<InstrumentId>('violin', 'viola', 'cello', 'bass'),
    spices: fc.subarray([...SPICES], { minLength: 1 }),
  })
  it('asks for no more than the level, unless the tune itself does, and keeps every measure’s length', () => {
    fc.assert(
      fc.property(any, ({ tune, level, instrument, spices }) => {
        const made = spice(tune, spices, level, instrument)
        const own = withPlayed(plain(instrument), { level })
        const [before, after] = [own, made.recipe].map(r => {
          const d = derive(tune, r, ASSUMED_HANDS)
          const errors = d.findings.filter(f => f.severity === 'error').length
          return { d, level: gradeOf(d, r).level, errors }
        })
        expect(after!.level).toBeLessThanOrEqual(Math.max(level, before!.level))
        expect(after!.errors).toBeLessThanOrEqual(before!.errors)
        const lengths = (t: Tune) => t.measures.map(m => m.events.reduce((n, e) => add(n, e.duration), ZERO))
        const [a, b] = [lengths(tune), lengths(after!.d.tune)]
        a.forEach((x, i) => expect(compare(x, b[i]!)).toBe(0))
        expect(new Set(made.changes.map(c => c.id)).size).toBe(made.changes.length)
      }),
      { numRuns: 12 },
    )
  })
  it('can be refused one by one, and the rest stays', () => {
    const all = spice(tunes[0]!, [...SPICES], 6)
    const refused = new Set([all.changes[0]!.id])
    const rest = enriched(tunes[0]!, plain('violin'), {
      spices: [...SPICES],
      level: 6,
      context: ASSUMED_HANDS,
      refused,
    })
    expect(rest.changes.map(c => c.id)).not.toContain(all.changes[0]!.id)
  })
})

describe('of many places', () => {
  it('neighbouring measures of a phrase are spiced differently where both bear several kinds', () => {
    const tune = tuneFrom('"D"d4 F2F2|"D"d4 A2A2|"D"F2F2 d4|"A7"E2E2 "D"D4|', AIR)
    const { changes } = spice(tune, ['drones', 'cuts', 'slides'], 6)
    const kinds = (measure: number) => new Set(changes.filter(c => c.measure === measure).map(c => c.kind))
    expect(kinds(1).size).toBeGreaterThan(0)
    for (const m of [1, 2, 3]) expect([...kinds(m)].length + [...kinds(m + 1)].length).toBeLessThanOrEqual(4)
  })
  it('a phrase bears no more of a kind than a teacher would write', () => {
    const tune = tuneFrom('d2B2A2F2|E2G2F2A2|d2B2A2F2|E2G2F2D2|', AIR)
    const { changes } = spice(tune, ['runs'], 6)
    expect(changes.length).toBeGreaterThan(0)
    const measures = changes.map(c => c.measure)
    expect(new Set(measures).size).toBe(measures.length)
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { parseTempo } from '#core/music/metre'
import { bowTune, wantedLength, type BowingOptions } from './bowing'

const tune = (music: string, metre = '4/4') =>
  readAbc(`X:1\nT:t\nM:${metre}\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
const bowed = (music: string, o: Partial<BowingOptions> & { metre?: string } = {}) =>
  bowTune(tune(music, o.metre), { tempo: parseTempo('1/4=100')!, school: 'down', hair: 650, ...o })
/** "D" down, "u" up, one letter a written stroke; ' before a lift. */
const said = (music: string, o?: Parameters<typeof bowed>[1]) =>
  bowed(music, o)
    .written.map(s => (s.lift ? "'" : '') + (s.direction === 'down' ? 'D' : 'u'))
    .join('')

describe('directions', () => {
  it.each([
    ['one bow a note, in turn', 'D2E2 F2G2|', 'DuDu'],
    ['a pickup goes up so that the first beat comes down', 'A2|d4 A4|', 'uDu'],
    ['two pickup notes start down', 'AB|d4 A4|', 'DuDu'],
    ['a slur is one bow', '(DE)F2 (GABc)|', 'DuD'],
    ['a tie is one bow', 'D4 A4-|A4 B4|', 'Duuu'.slice(0, 1) + 'uD'],
    ['a chord is one bow', '[DA]4 [Ad]4|', 'Du'],
    [
      'after a rest with time for it the next beat comes down',
      'D2E2F2 z2|G4 A4|',
      'DuDDu'.replace('DD', "D'D"),
    ],
    ['a comma invites the same', 'D4 !breath!E2F2|G8|', "Du'uD"],
  ])('%s', (_name, music, expected) => expect(said(music)).toBe(expected))

  it('go on as they come when the school says so', () => {
    expect(said('A2|d4 A4|', { school: 'as-it-comes' })).toBe('DuD')
    expect(said('D2E2F2 z2|G4 A4|', { school: 'as-it-comes' })).toBe('DuDuD')
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

describe('pins', () => {
  const t = tune('D2E2 F2G2|')
  const id = (i: number) => t.measures[0]!.events[i]!.id
  const options: BowingOptions = { tempo: parseTempo('1/4=100')!, school: 'down', hair: 650 }
  it('are kept, with a lift where the same direction comes twice, and the rest follows', () => {
    const { strokes } = bowTune(t, { ...options, pins: { [id(1)]: 'down' } })
    expect(strokes.map(s => [s.direction, s.lift])).toEqual([['down', false], ['down', true], ['up', false], ['down', false]]) // prettier-ignore
  })
  it('inside a slur come back as findings', () => {
    const joined = new Set([id(1)])
    const { findings, strokes } = bowTune(t, { ...options, joined, pins: { [id(1)]: 'up' } })
    expect(findings.map(f => f.code)).toEqual(['bow.pinUnmet'])
    expect(strokes[0]!.notes).toEqual([id(0), id(1)])
  })
})

describe('repeats', () => {
  it('flag a part that starts on the other bow the second time, and the mend mends it', () => {
    const music = '|:D2E2 F2G2|A2B2 c4:|'
    const { findings } = bowed(music)
    expect(findings.map(sentence)).toEqual(['This part starts up bow the second time (down the first).'])
    const [mend] = findings[0]!.mends!
    if (mend?.kind !== 'stroke') throw new Error('a stroke mend was expected')
    expect(bowed(music, { pins: { [mend.note]: mend.direction } }).findings).toEqual([])
  })
  it('say nothing when it comes out even', () =>
    expect(bowed('|:D2E2 F2G2|A2B2 c2d2:|').findings).toEqual([]))
  it('say it once for each part, also with endings', () => {
    const { findings } = bowed('|:D2E2 F2G2|1A2B2 c4:|2A4 d4|:d2c2 B2A2|G2F2 E4:|')
    expect(findings.filter(f => f.code === 'bow.otherBow')).toHaveLength(2)
  })
})

describe('the way along the bow', () => {
  it('never leaves the hair, and every stroke goes its own way', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D', 'E2', '(FG)', 'A8', '!ff!d4', '!p!B', 'z2'), {
          minLength: 1,
          maxLength: 30,
        }),
        notes => {
          for (const s of bowed(notes.join(' ') + '|', { metre: 'none' }).strokes) {
            expect(Math.min(s.from, s.to)).toBeGreaterThanOrEqual(0)
            expect(Math.max(s.from, s.to)).toBeLessThanOrEqual(1)
            expect(Math.sign(s.to - s.from)).toBe(s.direction === 'down' ? 1 : -1)
          }
        },
      ),
    )
  })
  it('begins where the bow before ended unless there is time to move', () => {
    const { strokes } = bowed('D2E2 F2G2|A2B2 c2d2|')
    strokes.slice(1).forEach((s, i) => expect(s.from).toBeCloseTo(strokes[i]!.to))
  })
  it('gives long and loud notes more hair than short and soft ones', () => {
    const [soft, loud, long] = bowed('!p!D2 !f!E2 F8|', { metre: 'none' }).strokes
    expect(wantedLength(soft!)).toBeLessThan(wantedLength(loud!))
    expect(wantedLength(loud!)).toBeLessThan(wantedLength(long!))
  })
  it('finds the end of the hair when long bows all go one way', () => {
    const music = Array.from({ length: 8 }, () => 'd8 e/').join(' ') + '|'
    const { findings } = bowed(music, { metre: 'none', tempo: parseTempo('1/4=60')! })
    expect(findings.some(f => f.code === 'bow.hairRunsOut')).toBe(true)
  })
})

it('a repeat the teacher has struck out is not bowed', () => {
  const twice = tune('|:D2E2 F2G2|A2B2 c4:|')
  const struck = { ...twice, play: { ...twice.play, struck: [twice.measures.at(-1)!.id] } }
  const of = (t: typeof twice) => bowTune(t, { tempo: parseTempo('1/4=100')!, school: 'down', hair: 650 })
  expect(of(twice).findings.map(f => f.code)).toContain('bow.otherBow')
  expect(of(struck).strokes.every(s => s.pass === 1)).toBe(true)
  expect(of(struck).findings.map(f => f.code)).not.toContain('bow.otherBow')
})

import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { ASSUMED_HANDS } from './context'
import { derive } from './derive'
import { firstRecipe } from './first'
import { MAY_NOTHING } from '#core/bowing/schools'

const tuneOf = (head: string, music: string) => readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const REEL = 'M:4/4\nL:1/8\nQ:1/4=100\nR:reel\nK:D'

describe('a first sheet', () => {
  it('has the marks a teacher would set: first beats down, the pickup up, and no hooks in a first lesson', () => {
    const reel = tuneOf(REEL, 'A2|d2 fd A2 FA|d2 cB A2 F2|G2 BG F2 AF|E2 FE D2|')
    const d = derive(reel, firstRecipe(reel, 'violin', ''), ASSUMED_HANDS)
    const strokes = d.bowing.written
    expect(strokes[0]!.direction).toBe('up')
    expect(strokes.filter(s => s.strength === 3).every(s => s.direction === 'down')).toBe(true)
    const added = strokes.flatMap(s => s.added)
    expect(added.length).toBeGreaterThan(0)
    expect(added.filter(e => e.way === 'hook')).toEqual([])
  })
  it.each([
    ['slurs', '(d2 fd) A2 FA|d2 cB A4|'],
    ['a bow mark', 'ud2 fd A2 FA|d2 cB A4|'],
  ])('leaves a source with %s of its own as it is', (_what, music) => {
    const tune = tuneOf(REEL, music)
    expect(firstRecipe(tune, 'violin', '').played.bow.may).toEqual(MAY_NOTHING)
  })
  it('begins an octave higher where a tune of no instrument goes below the lowest string, and says so', () => {
    const octave = (key: string, music: string, instrument: 'violin' | 'cello' = 'violin') =>
      firstRecipe(tuneOf(`M:4/4\nL:1/8\nK:${key}`, music), instrument, '').played.octave
    expect(octave('Gm clef=treble-8', 'D2 G2 A2 B2|c2 d2 e2 f2|')).toBe(1)
    expect(octave('Gm', 'D2 G2 A2 B2|c2 d2 e2 f2|')).toBe('auto')
    expect(octave('C', 'G,,,2 C2 E2 G2|')).toBe(2)
    // On a cello it lies where it is written.
    expect(octave('Gm clef=treble-8', 'D2 G2 A2 B2|', 'cello')).toBe('auto')
    const forViolin = { ...tuneOf('M:4/4\nL:1/8\nK:C', 'F,2 C2 E2 G2|'), instrument: 'violin' as const }
    expect(firstRecipe(forViolin, 'violin', '').played.octave).toBe('auto')
  })
  it('of an air goes by the phrase; of a song with drawn syllables by its words; of other songs by first beats', () => {
    const school = (t: ReturnType<typeof tuneOf>) => firstRecipe(t, 'cello', '').played.schools.bow
    const music = 'D2 E2 F2 G2|A4 F4|E2 F2 G2 E2|D8|'
    expect(school(tuneOf('M:4/4\nL:1/8\nQ:1/4=66\nR:air\nK:D', music))).toBe('phrase')
    expect(
      school(tuneOf('M:4/4\nL:1/8\nR:song\nK:D', `${music}\nw:see _ how _ far _ the _ bell _ will`)),
    ).toBe('syllable')
    expect(
      school(
        tuneOf('M:4/4\nL:1/8\nR:song\nK:D', `${music}\nw:see how far the bell will ring to day my dear`),
      ),
    ).toBe('down')
    expect(school(tuneOf('M:4/4\nL:1/8\nR:jig\nK:D', music))).toBe('down')
  })
})

import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { keyName } from '#core/music/key'
import type { InstrumentId } from '#core/music/tune'
import { easierInBestKey, keyTogether, versionIn, VersionsInKeys } from './bestKey'

const tuneIn = (key: string, music: string) =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nQ:1/4=72\nK:${key}\n${music}\n`).tunes[0]!.tune
const ask = (key: string, music: string, instrument: InstrumentId, level: Level) => {
  const tune = tuneIn(key, music)
  return {
    tune,
    made: easierInBestKey(tune, newArrangement(instrument, sizeOf(instrument).name), {
      level,
      context: ASSUMED_HANDS,
    }),
  }
}
const G = 'G2Bc|d2cB|cBAc|B2A2|G2Bc|d2ed|cBAF|G4|'

describe('the key in which an easier version keeps most', () => {
  it('is the tune’s own where it asks for no more', () => {
    const { made } = ask('D', 'D2FG|A2GF|GFED|E2A2|D2FG|A2BA|GFEA,|D4|', 'violin', 1)
    expect(keyName(made.key)).toBe('D major')
    expect(made.eased.changes).toEqual([])
    expect(made.unchanged).toBe(1)
  })
  it('has the same fingers a string over where the own one has a finger too many: C natural of G is low 2, so the first year plays in D', () => {
    const { made } = ask('G', G, 'violin', 1)
    expect(keyName(made.key)).toBe('D major')
    expect(made.kept).toMatchObject({ strongBeats: 1, phraseEnds: 1, contour: 1 })
  })
  it('stays the own one from the level on which has that finger', () => {
    expect(keyName(ask('G', G, 'violin', 2).made.key)).toBe('G major')
  })
  it('rings: out of E flat the cello goes to a key of its open strings', () => {
    const { made } = ask('Eb', 'E2GA|B2AG|AGFE|F2B2|E2GA|B2cB|AGFD|E4|', 'cello', 1)
    expect(['C major', 'D major', 'G major']).toContain(keyName(made.key))
  })
  it('never keeps less than a version in the own key', () => {
    for (const [key, level] of [
      ['Bb', 1],
      ['A', 2],
      ['F', 1],
      ['E', 2],
    ] as const)
      for (const instrument of ['violin', 'bass'] as const) {
        const { tune, made } = ask(key, 'C2EF|G2FE|FEDC|D2G2|C2EF|G2AG|FEDB,|C4|', instrument, level)
        const own = versionIn(tune, newArrangement(instrument, sizeOf(instrument).name), tune.key, {
          level,
          context: ASSUMED_HANDS,
        })
        expect(made.eased.blocked.length).toBeLessThanOrEqual(own.eased.blocked.length)
        if (made.eased.blocked.length === own.eased.blocked.length)
          expect(made.kept.strongBeats).toBeGreaterThanOrEqual(own.kept.strongBeats - 0.1)
      }
  })
})

describe('the key several share', () => {
  const together = (key: string, music: string, seats: readonly (readonly [InstrumentId, Level])[]) => {
    const tune = tuneIn(key, music)
    const of = (instrument: InstrumentId) =>
      new VersionsInKeys(tune, newArrangement(instrument, sizeOf(instrument).name), {
        context: ASSUMED_HANDS,
      })
    return keyName(
      keyTogether(
        tune,
        seats.map(([instrument, level]) => ({ versions: of(instrument), level })),
      ),
    )
  }
  const scale = 'D2FG|A2GF|GFED|E2A2|D2FG|A2BA|GFEA,|D4|'

  it('is the own one where all have its strings: D for violin, viola, cello and bass', () => {
    expect(
      together('D', scale, [
        ['violin', 1],
        ['viola', 1],
        ['cello', 1],
        ['bass', 1],
      ]),
    ).toBe('D major')
  })
  it('is one of the strings all of them have when the tune is in B flat: D or G for a first class', () => {
    const flat = 'B,2DE|F2ED|EDCB,|C2F2|B,2DE|F2GF|EDCF|B,4|'
    for (const seats of [
      [
        ['violin', 1],
        ['viola', 1],
        ['cello', 1],
      ],
      [
        ['violin', 2],
        ['viola', 1],
        ['bass', 1],
      ],
    ] as const)
      expect(['D major', 'G major']).toContain(together('Bb', flat, seats))
  })
  it('of one alone is the key that one has it easiest in', () => {
    expect(together('G', G, [['violin', 1]])).toBe('D major')
  })
})

import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { derive } from './derive'
import { mendWords } from '#core/words/findings'
import { mended, withPlayed } from './edits'
import { newArrangement, type Arrangement } from './recipe'

const tuneOf = (music: string, key = 'C') =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:${key}\n${music}\n`).tunes[0]!.tune
const reach = (tune: ReturnType<typeof tuneOf>, recipe: Arrangement) =>
  derive(tune, recipe, ASSUMED_HANDS).findings.filter(f => /too|Reach/.test(f.code))

describe('notes out of reach', () => {
  const low = tuneOf('E,GAB|cBAG|')
  const recipe = newArrangement('violin', 'full')
  it('come with the nearest thing that can be played', () => {
    const [f] = reach(low, recipe)
    expect(f!.code).toBe('finger.tooLow')
    expect(f!.mends!.map(mendWords)).toEqual([
      'All of it an octave higher',
      'All of it in F major',
      'This note an octave higher',
    ])
  })
  it('are within reach once the octave or the key is mended', () => {
    const mends = reach(low, recipe)[0]!.mends!
    for (const m of mends) {
      if (m.kind === 'moveNote') continue
      expect(reach(low, mended(recipe, m))).toEqual([])
    }
  })
  it('also when it is the level that forbids', () => {
    const high = tuneOf("abc'd'|c'bag|")
    const f = reach(high, withPlayed(recipe, { level: 2 }))
    expect(f[0]!.mends!.map(m => m.kind)).toContain('octave')
  })
  it('have no mend that would not help', () => {
    const wide = tuneOf("E,,GAB|c'''BAG|")
    for (const f of reach(wide, recipe)) expect(f.mends!.every(m => m.kind === 'moveNote')).toBe(true)
  })
})

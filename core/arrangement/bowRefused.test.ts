import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { demoSource } from '#demo/fillShelf'
import { ASSUMED_HANDS } from './context'
import { derive } from './derive'
import { bowEdited, bowRefused } from './edits'
import { firstRecipe } from './first'

const MUSIC = [
  'X:1\nT:Uneven\nM:4/4\nL:1/8\nQ:1/4=80\nK:D\nD2F2 A3F|G2B2 A4|B3A F2D2|E2FG E4|D2F2 A3F|G2B2 A4|B2AG F2E2|D8|\n',
  'X:1\nT:Threes\nM:3/4\nL:1/4\nQ:1/4=90\nK:G\nG2B|d2B|c2A|F3|G2B|d2g|f2A|G3|\n',
]
const added = (music: string, how = (r: ReturnType<typeof firstRecipe>) => r) => {
  const { tune } = readAbc(music).tunes[0]!
  const recipe = how(firstRecipe(tune, 'violin', 'First'))
  return derive(tune, recipe, ASSUMED_HANDS).bowing.strokes.flatMap(s => s.added ?? [])
}
const key = (e: { note: string; way: string }) => `${e.way} ${e.note}`

describe('a bow mark that was refused', () => {
  it.each([...MUSIC, demoSource('goose-gate-jog.abc')])('does not come back, whichever it is (%#)', music => {
    const all = added(music)
    for (const one of all) {
      const left = added(music, r => bowRefused(r, [one])).map(key)
      expect(left).not.toContain(key(one))
    }
  })
  it('leaves those far from it as they are', () => {
    const all = added(MUSIC[0]!)
    expect(all.length).toBeGreaterThan(1)
    const left = added(MUSIC[0]!, r => bowRefused(r, [all[0]!])).map(key)
    expect(left).toEqual(expect.arrayContaining([key(all.at(-1)!)]))
  })
  it('is a mark again when it is kept after all', () => {
    const all = added(MUSIC[0]!)
    const back = added(MUSIC[0]!, r => bowEdited(bowRefused(r, all), all))
    expect(back).toEqual([])
  })
})

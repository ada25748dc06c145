import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { formatPitch } from '#core/music/pitch'
import { stringLabels } from '#core/tablature/names'
import { derive } from './derive'
import { asFingered } from './fingeredNotation'
import { withPlayed, withShown } from './edits'
import { newArrangement } from './recipe'

const tuning = [76, 69, 64, 57]
const tune = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:A\nA,B,CD|EFGA|Bcde|\n').tunes[0]!.tune
const recipe = withPlayed(newArrangement('violin', 'full'), { tuning })
const pitches = (t: typeof tune) =>
  t.measures.map(m =>
    m.events.flatMap(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)) : [])).join(' '),
  )

describe('notation as the fingers fall', () => {
  it('writes what the home strings would sound under the same fingers', () => {
    const d = derive(tune, recipe, ASSUMED_HANDS)
    const shown = asFingered(d.tune, d.fingering.notes, 'violin', tuning)
    expect(pitches(shown)).toEqual(['G3 A3 B3 C4', 'D4 E4 F#4 G4', 'B4 C#5 D5 E5'])
  })
  it('leaves the tune alone at home', () => {
    const d = derive(tune, withPlayed(recipe, { tuning: null }), ASSUMED_HANDS)
    expect(pitches(asFingered(d.tune, d.fingering.notes, 'violin', [76, 69, 62, 55]))).toEqual(
      pitches(d.tune),
    )
  })
})

describe('names of the strings', () => {
  it('stay those of home, or follow the sound', () => {
    expect(stringLabels(recipe)).toEqual(['E', 'A', 'D', 'G'])
    const named = (t: number[] | null) =>
      stringLabels(withShown(withPlayed(recipe, { tuning: t }), { crossNames: 'sounding' }))
    expect(named(tuning)).toEqual(['E', 'A', 'E', 'A'])
    expect(named([73, 69, 64, 57])).toEqual(['C#', 'A', 'E', 'A'])
    expect(named(null)).toEqual(['E', 'A', 'D', 'G'])
  })
})

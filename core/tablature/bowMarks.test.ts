import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { strokePinned, withBow, withShown } from '#core/arrangement/edits'
import { newArrangement, type Shown } from '#core/arrangement/recipe'
import { MAY_ALL } from '#core/bowing/schools'
import { readAbc } from '#core/formats/abc/readAbc'
import { joinedAsBowed } from './bowMarks'
import { tabModel } from './tabModel'

const tune = readAbc('X:1\nT:t\nM:2/4\nL:1/8\nQ:1/4=100\nK:D\nd2fd|A2ed|z2A2|d4|d2fd|A2ed|c2A2|d4|]\n')
  .tunes[0]!.tune
const violin = newArrangement('violin', 'full')
const ids = tune.measures.flatMap(m => m.events.map(e => e.id))
const shownMarks = (bowMarks: Shown['bowMarks'], recipe = violin) => {
  const r = withShown(recipe, { bowMarks })
  const events = tabModel(derive(tune, r, ASSUMED_HANDS), r).measures.flatMap(m => m.events)
  return events.flatMap(e => (e.bow ? [e.id] : []))
}

describe('bow marks on the page', () => {
  it('are all of them, or those that do not follow from the one before, or the first of each phrase', () => {
    const all = shownMarks('all')
    expect(all).toHaveLength(derive(tune, violin, ASSUMED_HANDS).bowing.written.length)
    // The first, and the one after the rest.
    expect(shownMarks('needed')).toEqual([ids[0], ids[7]])
    const phrases = shownMarks('phrases')
    expect(phrases[0]).toBe(ids[0])
    expect(phrases.length).toBe(derive(tune, violin, ASSUMED_HANDS).form.phrases.length)
  })
  it('stand where the teacher pinned them, even when they follow', () => {
    const pinned = strokePinned(violin, ids[1]!, { direction: 'up' })
    expect(shownMarks('needed', pinned)).toContain(ids[1])
  })
  it('tell added ones apart, and what is slurred counts them', () => {
    const r = withBow(violin, { may: MAY_ALL })
    const d = derive(tune, r, ASSUMED_HANDS)
    const added = tabModel(d, r)
      .measures.flatMap(m => m.events)
      .filter(e => e.added === 'slur')
    expect(added.length).toBeGreaterThan(0)
    for (const e of added) {
      expect(e.joined).toBe(true)
      expect(d.joined.has(e.id)).toBe(false)
      expect(joinedAsBowed(d).has(e.id)).toBe(true)
    }
  })
})

import { describe, expect, it } from 'vitest'
import { pinned, withPlayed, withTaught } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { changedWords, type TuneState } from './changed'

const { tune } = readAbc('X:1\nT:Try\nM:4/4\nL:1/4\nK:D\nDEFG|ABcd|\n').tunes[0]!
const cello = newArrangement('cello', 'full', 'For cello')
const state = (...list: readonly Arrangement[]): TuneState => ({
  source: 'X:1',
  tune,
  arrangements: list.map((arrangement, i) => ({ id: `a${i}`, arrangement })),
})

describe('what undo says', () => {
  it('names what was set, and of which arrangement where there are several', () => {
    const violin = newArrangement('violin', 'full', 'As written')
    expect(changedWords(state(violin), state(withPlayed(violin, { level: 2 })))).toBe('the level')
    const slower = withPlayed(cello, { level: 2, tempo: { beat: { n: 1, d: 1 }, perMinute: 60 } })
    expect(changedWords(state(violin, cello), state(violin, slower))).toBe(
      'the level and the tempo of “For cello”',
    )
  })
  it('says of a pin what it pinned', () => {
    const noted = pinned(cello, 'fingers', 'n1', { finger: 4 })
    expect(changedWords(state(cello), state(noted))).toBe('a finger')
    expect(changedWords(state(noted), state(pinned(noted, 'strokes', 'n1', { direction: 'up' })))).toBe(
      'a bow stroke',
    )
  })
  it('names an arrangement that came or went, and the name of one', () => {
    expect(changedWords(state(cello), state(cello, cello))).toBe('the arrangement “For cello”')
    expect(changedWords(state(cello, cello), state(cello))).toBe('the arrangement “For cello”')
    expect(changedWords(state(cello), state({ ...cello, name: 'Bass line' }))).toBe('the arrangement’s name')
  })
  it('says notes, title and text of the tune, once each', () => {
    const now = state(cello)
    expect(changedWords(now, { ...now, tune: { ...tune, title: 'Other' } })).toBe('the title')
    const shorter = { ...tune, measures: tune.measures.slice(1) }
    expect(changedWords(now, { ...now, source: 'X:2', tune: shorter })).toBe('the notes')
    expect(changedWords(now, { ...now, source: 'X:2' })).toBe('the text')
    expect(changedWords(now, now)).toBe('')
  })
  it('calls a version a version, whatever else it set', () => {
    const version = withPlayed(cello, {
      changes: [{ kind: 'merge', id: 'c1', notes: ['n1', 'n2'] } as never],
      octave: 1,
    })
    expect(changedWords(state(cello), state(version))).toBe('the version')
    expect(changedWords(state(cello), state(withTaught(cello, { names: { n1: 'Call' } })))).toBe(
      'the names of phrases',
    )
  })
})

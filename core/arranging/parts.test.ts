import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { isLeaving } from '#core/arrangement/change'
import { partLeft } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { gradeOf } from '#core/grading/demands'
import { changeViews } from '#core/words/arranging'
import { demoSource } from '#demo/fillShelf'
import { easier } from './easier'
import { partChoices, partsPlayed, partThatAsks, withLeaving } from './parts'

const violin = newArrangement('violin', '4/4')
const tuneOf = (music: string, head = '') =>
  readAbc(`X:1\nT:t\nM:2/4\nL:1/8\nQ:1/4=80\n${head}K:G\n${music}\n`).tunes[0]!.tune
// The second part is in another metre: no easing of notes makes that one a first-year tune.
const turning = tuneOf('|:GABG|d2B2|cBAB|G4:|\n|:[M:6/8]G2AB2d|d2BG2A|B2AA2B|G3G3:|')

describe('parts of a tune', () => {
  it('are there to choose from where there is more than one', () => {
    expect(partChoices(turning, violin).map(p => [p.label, p.from, p.to, p.left])).toEqual([
      ['A', 1, 4, false],
      ['B', 5, 8, false],
    ])
    expect(partChoices(tuneOf('GABG|d2B2|cBAB|G4|'), violin)).toEqual([])
  })
  it('the one in which all stands that is asked too much is found, so that it can be left out', () => {
    const made = easier(turning, violin, { level: 2, context: ASSUMED_HANDS })
    expect(made.blocked.length).toBeGreaterThan(0)
    const parts = partChoices(turning, made.recipe)
    const part = partThatAsks(parts, made.blocked)!
    expect(part.label).toBe('B')
    const { tune, base, leaving } = partsPlayed(turning, partLeft(violin, part.measures, true))
    const shorter = easier(tune, base, { level: 2, context: ASSUMED_HANDS })
    expect(shorter.blocked).toEqual([])
    // For the whole tune again: the same notes, and nothing asks for more.
    const recipe = withLeaving(shorter.recipe, leaving)
    const d = derive(turning, recipe, ASSUMED_HANDS)
    expect(d.tune.measures.map(m => m.events)).toEqual(shorter.derived.tune.measures.map(m => m.events))
    expect(Math.max(...gradeOf(d, recipe, {}).demands.map(x => x.level))).toBeLessThanOrEqual(2)
    expect(partChoices(turning, recipe).map(p => p.left)).toEqual([false, true])
    expect(partThatAsks(partChoices(turning, recipe), made.blocked)).toBeNull()
  })
  it('is none where more than one part asks, or nothing does', () => {
    const parts = partChoices(turning, violin)
    const first = (part: number) => parts[part]!.events[0]!
    const at = (...notes: string[]) => [{ notes: notes.map(note => ({ note })) }] as never
    expect(partThatAsks(parts, at(first(0), first(1)))).toBeNull()
    expect(partThatAsks(parts, [])).toBeNull()
    expect(partThatAsks(parts, at(first(1)))?.label).toBe('B')
    // A note that a change made stands for those of the tune.
    expect(partThatAsks(parts, at('even-x~1'))).toBeNull()
    expect(partThatAsks(parts, at('even-x~1'), { 'even-x~1': [first(1)] })?.label).toBe('B')
  })
  it('are cut where the teacher says that phrases begin, and told by what they hold', () => {
    const [a, b] = partChoices(turning, violin)
    expect(a!.measures).toEqual(turning.measures.slice(0, 4).map(m => m.id))
    expect(b!.events).toEqual(turning.measures.slice(4).flatMap(m => m.events.map(e => e.id)))
    // A part is left out when all of it is.
    const half = partLeft(violin, b!.measures.slice(0, 2), true)
    expect(partChoices(turning, half).map(p => p.left)).toEqual([false, false])
  })
  it('left out go apart from the other changes, and come together with them again', () => {
    const [, b] = partChoices(turning, violin)
    const left = partLeft(violin, b!.measures, true)
    expect(partsPlayed(turning, violin)).toEqual({ tune: turning, base: violin, leaving: [] })
    expect(partsPlayed(turning, violin).tune).toBe(turning)
    expect(withLeaving(violin, [])).toBe(violin)
    const eased = easier(turning, violin, { level: 1, context: ASSUMED_HANDS }).recipe
    const both = withLeaving(eased, left.played.changes.filter(isLeaving))
    const { tune, base, leaving } = partsPlayed(turning, both)
    expect(tune.measures.map(m => m.id)).toEqual(turning.measures.slice(0, 4).map(m => m.id))
    expect(base.played.changes).toEqual(eased.played.changes)
    expect(eased.played.changes.length).toBeGreaterThan(0)
    expect(leaving).toEqual(left.played.changes)
    // Another change does not make a part left out.
    expect(partChoices(turning, eased).map(p => p.left)).toEqual([false, false])
  })
  it('left out is said like every change, by its letter where it has one', () => {
    const say = (source: string) => {
      const tune = readAbc(source).tunes[0]!.tune
      const [, b] = partChoices(tune, violin)
      const left = partLeft(violin, b!.measures, true)
      return changeViews(derive(tune, left, ASSUMED_HANDS).arranged, left.played.changes).map(
        v => `${v.measure}: ${v.sentence}`,
      )
    }
    expect(say('X:1\nT:t\nM:2/4\nL:1/8\nK:G\n|:GABG|d2B2|cBAB|G4:|\n|:dedB|c2A2|dBcA|G4:|\n')).toEqual([
      '5: measures 5 to 8 left out',
    ])
    expect(
      say('X:1\nT:t\nM:2/4\nL:1/8\nK:G\nP:A\n|:GABG|d2B2|cBAB|G4:|\nP:B\n|:dedB|c2A2|dBcA|G4:|\n'),
    ).toEqual(['5: part B (measures 5 to 8) left out'])
    expect(say(demoSource('brindlewick-bridge.abc'))[0]).toMatch(/left out$/)
  })
})

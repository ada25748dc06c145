import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { gradeOf } from '#core/grading/demands'
import { NO_TASTE, TRAITS, type TasteDecision } from '#core/instruments/taste'
import { evidenceWords } from '#core/words/taste'
import { decisionOf, ownPins } from './decision'
import { HAND } from './kinds'
import { decidedOn, evidenceOf, learnedTaste, relearned } from './learn'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nQ:1/4=100\nK:D\n${music}\n`).tunes[0]!.tune
const more = (of: Partial<Record<(typeof TRAITS)[number], number>>) => TRAITS.map(t => of[t] ?? 0)
/** A teacher who stops quick notes on the fourth finger, and is asked often enough. */
const decisions = (count: number): TasteDecision[] =>
  Array.from({ length: count }, (_, i) => ({
    id: `t${i}`,
    set: { more: more({ openQuick: -1, crossing: -2 }), dearer: 0.12 },
    kept: [{ more: more({ openQuick: -1 }), dearer: -0.9 }],
  }))

describe('a taste', () => {
  it('is what a teacher did again and again: it makes the chosen fingers the cheaper ones', () => {
    const learned = learnedTaste(HAND, { decisions: decisions(10), off: [] })
    const gain = TRAITS.reduce((sum, t, i) => sum + (learned[t] ?? 0) * decisions(1)[0]!.set!.more[i]!, 0)
    expect(0.12 + gain).toBeLessThan(0)
    expect(Object.values(learned).every(x => Math.abs(x) <= 0.8)).toBe(true)
  })
  it('is none after two decisions, none where they contradict each other, and none of a trait that is switched off', () => {
    expect(learnedTaste(HAND, { decisions: decisions(2), off: [] })).toEqual({})
    const torn = decisions(12).map((d, i) =>
      i % 2 === 0 ? d : { ...d, set: { more: d.set!.more.map(n => -n), dearer: 0.12 } },
    )
    expect(learnedTaste(HAND, { decisions: torn, off: [] })).toEqual({})
    expect(learnedTaste(HAND, { decisions: decisions(10), off: ['openQuick', 'crossing'] })).toEqual({})
  })
  it('is told with its evidence, also where it is switched off', () => {
    const t = relearned(HAND, { decisions: decisions(10), off: [] })
    expect(evidenceOf(HAND, t).map(evidenceWords)).toContainEqual(expect.stringMatching(/: 10 of 10 times$/))
    const off = relearned(HAND, { ...t, off: ['openQuick', 'crossing'] })
    expect(evidenceOf(HAND, off).length).toBeGreaterThan(0)
    expect(evidenceOf(HAND, off).every(e => e.off)).toBe(true)
    expect(evidenceOf(HAND, NO_TASTE)).toEqual([])
  })
  it('knows the last word on a line, and a word taken back', () => {
    const [d] = decisions(1)
    const once = decidedOn(HAND, NO_TASTE, 't0', d!)
    expect(decidedOn(HAND, once, 't0', { ...d!, kept: [] }).decisions).toEqual([{ ...d!, kept: [] }])
    expect(decidedOn(HAND, once, 't0', null)).toEqual(NO_TASTE)
  })
})

describe('a decision', () => {
  const tune = tuneOf('A2 FA dAFA|B2 AF A2 FE|D2 FA d2 A2|F2 E2 D4|')
  const d = derive(tune, newArrangement('violin', '4/4'), ASSUMED_HANDS)
  const { options } = d.fingering.problem
  it('is the line with the fingers that were set, against the line without', () => {
    const open = d.fingering.notes.find(n => n.finger === 0 && n.measure === 2)!
    const made = decisionOf(tune, options, 'x', { [open.id]: { string: 2, finger: 4 } })!
    expect(made.set!.dearer).toBeGreaterThan(0)
    expect(made.set!.more[TRAITS.indexOf('openQuick')]).toBeLessThan(0)
    expect(made.kept.length).toBeGreaterThan(0)
    expect(made.kept.every(k => k.dearer <= 1e-9)).toBe(true)
  })
  it('of fingers that are ours anyway says only what was left as it was; of none that can be played, nothing', () => {
    const note = d.fingering.notes[0]!
    expect(
      decisionOf(tune, options, 'x', { [note.id]: { string: note.string, finger: note.finger } })!.set,
    ).toBeNull()
    expect(decisionOf(tune, options, 'x', { [note.id]: { string: 0, finger: 4 } })).toBeNull()
  })
  it('is not what the source gives', () => {
    const given = {
      ...tune,
      measures: tune.measures.map((m, i) =>
        i > 0
          ? m
          : {
              ...m,
              events: m.events.map((e, k) => (k === 0 && e.kind === 'note' ? { ...e, finger: 4 } : e)),
            },
      ),
    }
    const id = tune.measures[0]!.events[0]!.id
    expect(ownPins(given, { [id]: { finger: 4 } })).toEqual({})
    expect(Object.keys(ownPins(given, { [id]: { finger: 0 } }))).toEqual([id])
  })
  it('never touches the level or what can be played, however strong the taste', () => {
    const recipe = withPlayed(newArrangement('violin', '4/4'), { level: 2 })
    for (const taste of [
      { away: -0.06, shift: -0.3, reach: -0.3 },
      { away: 0.8, openQuick: 0.5, crossing: 0.5 },
    ]) {
      const own = derive(tune, recipe, { ...ASSUMED_HANDS, taste })
      expect(gradeOf(own, recipe).level).toBeLessThanOrEqual(2)
      expect(own.findings.filter(f => f.severity === 'error')).toEqual([])
    }
  })
})

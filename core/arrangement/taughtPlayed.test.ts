import { describe, expect, it } from 'vitest'
import { easier } from '#core/arranging/easier'
import { readAbc } from '#core/formats/abc/readAbc'
import type { Level } from '#core/levels/levels'
import type { EventId } from '#core/music/ids'
import { tabModel } from '#core/tablature/tabModel'
import { DEMO_TUNES } from '#demo/shelf'
import { demoSource } from '#demo/fillShelf'
import { ASSUMED_HANDS } from './context'
import { derive, type Derived } from './derive'
import { planOf } from '#core/form/plan'
import { outline } from '#core/teach/outline'
import { remarked, splitAt } from './corrections'
import { partLeft, withPlayed, withTaught } from './edits'
import { newArrangement, NOTHING_TAUGHT, type Arrangement } from './recipe'
import { standsOf, taughtAsPlayed, taughtAsWritten } from './taughtPlayed'

const violin = newArrangement('violin', '4/4')
const reel = readAbc(
  'X:1\nT:t\nM:4/4\nL:1/8\nQ:1/4=132\nK:D\n(DEFG) ABde|fedB A2FA|BAGF EFGE|F2D2 D4|(dcBA) Bcde|fedB A2FA|BAGF EDCE|D2D2 D4|]\n',
).tunes[0]!.tune
const eased = (r: Arrangement, level: Level = 1) => easier(reel, r, { level, context: ASSUMED_HANDS })
const shownNames = (d: Derived, r: Arrangement) =>
  tabModel(d, r).measures.flatMap(m => m.events.flatMap(e => e.phrase ?? []))

describe('what is taught of notes that a version replaced', () => {
  const starts = derive(reel, violin, ASSUMED_HANDS).form.phrases.map(p => p.events[0]!)
  const named = withTaught(violin, { names: Object.fromEntries(starts.map((id, i) => [id, `Name ${i}`])) })

  it('goes over to those in their place: names', () => {
    const { recipe, derived } = eased(named)
    expect(
      recipe.played.changes.some(
        c => c.edit.do === 'replace' && c.edit.events.includes(starts[0] as EventId),
      ),
    ).toBe(true)
    expect(shownNames(derived, recipe)).toEqual(starts.map((_, i) => `Name ${i}`))
  })
  it('remarks on phrases, and on measures whatever stands in them', () => {
    const [first, second] = [starts[0]!, reel.measures[1]!.id]
    const said = withTaught(violin, {
      remarks: { ...remarked(NOTHING_TAUGHT, first, ' like a question ').remarks, [second]: 'not too fast' },
    })
    const { recipe, derived } = eased(said)
    const shown = tabModel(derived, recipe).measures.map(m => m.events.flatMap(e => e.remarks))
    expect(shown.slice(0, 3)).toEqual([['like a question'], ['not too fast'], []])
    expect(
      outline({
        title: 't',
        plan: planOf(derived.form, { order: 'written', tempo: derived.tempo, hard: new Map() as never }),
        taught: said.taught,
        phrases: new Map([['A1', { id: first, name: '' }]]),
      }).map(l => l.text),
    ).toContain('like a question')
    expect(remarked(said.taught, first, ' ').remarks).toEqual({ [second]: 'not too fast' })
  })
  it('and where the teacher has phrases begin', () => {
    const middle = reel.measures[2]!.events[4]!.id
    const own = withTaught(violin, splitAt(NOTHING_TAUGHT, middle))
    const begins = (d: Derived) => d.form.phrases.some(p => p.start.n / p.start.d === 10)
    expect(begins(derive(reel, violin, ASSUMED_HANDS))).toBe(false)
    expect(begins(derive(reel, own, ASSUMED_HANDS))).toBe(true)
    const { derived } = eased(own)
    expect(derived.arranged.origin.size).toBeGreaterThan(0)
    expect(begins(derived)).toBe(true)
  })
  it('and the stretches that rules speak of, without a word of notes that are gone', () => {
    const [from, to] = [starts[1]!, reel.measures.at(-1)!.events[0]!.id]
    const own = withPlayed(violin, { passages: [{ from, to, rule: { kind: 'noFourth' } }] })
    const recipe = withPlayed(eased(violin).recipe, { passages: own.played.passages })
    const d = derive(reel, recipe, ASSUMED_HANDS)
    expect(d.arranged.tune.measures.some(m => m.events.some(e => e.id === from))).toBe(false)
    expect(d.findings.filter(f => f.code === 'finger.ruleGone')).toEqual([])
    expect(d.fingering.problem.rules).toHaveLength(1)
    // Where the part is left out that a rule speaks of, the rule waits.
    const without = partLeft(
      own,
      reel.measures.slice(4).map(m => m.id),
      true,
    )
    const shorter = derive(reel, without, ASSUMED_HANDS)
    expect([
      shorter.fingering.problem.rules,
      shorter.findings.filter(f => f.code === 'finger.ruleGone'),
    ]).toEqual([[], []])
  })
  it('is kept for the written notes, whatever it was said of', () => {
    const { derived } = eased(violin)
    const stands = standsOf(derived.arranged)
    const [made, own] = Object.entries(stands)[0]!
    const said = {
      names: { [made]: 'The stair' },
      lines: { [made]: 'la' },
      kin: { [made]: made, x: null },
      boundaries: { [made]: true },
    }
    expect(taughtAsWritten(said, stands)).toEqual({
      names: { [own]: 'The stair' },
      lines: { [own]: 'la' },
      kin: { [own]: own, x: null },
      boundaries: { [own]: true },
    })
    expect(taughtAsPlayed(taughtAsWritten(said, stands), stands)).toEqual(said)
    // Only what is said is answered.
    expect(taughtAsWritten({ names: {} }, stands)).toEqual({ names: {} })
  })
  it('is the very same where nothing is changed', () => {
    const d = derive(reel, named, ASSUMED_HANDS)
    expect(standsOf(d.arranged)).toEqual({})
    expect(taughtAsPlayed(named.taught, {})).toBe(named.taught)
  })
  it.each(DEMO_TUNES.slice(0, 6).map(t => t.file))('stands for notes at the same time: %s', file => {
    const { tune } = readAbc(demoSource(file)).tunes[0]!
    const { derived } = easier(tune, violin, { level: 1, context: ASSUMED_HANDS })
    const at = (t: typeof tune) =>
      new Map(
        t.measures.flatMap(m => {
          let sum = 0
          return m.events.map(e => {
            const here = `${m.id} ${sum.toFixed(6)}`
            sum += e.duration.n / e.duration.d
            return [e.id as string, here] as const
          })
        }),
      )
    const [there, here] = [at(tune), at(derived.tune)]
    const pairs = Object.entries(standsOf(derived.arranged))
    for (const [made, own] of pairs) expect(here.get(made)).toBe(there.get(own))
    expect(new Set(pairs.map(([, own]) => own)).size).toBe(pairs.length)
  })
})

/** The bow learns its teacher: from marks taken, refused and set, never from what a version brought. */
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS, type DeriveContext } from '#core/arrangement/context'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { bowEdited, pinned, withBow, withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { proposeBowing } from '#core/bowing/proposals'
import { MAY_ALL } from '#core/bowing/schools'
import { readAbc } from '#core/formats/abc/readAbc'
import { BOW_TRAITS, type TasteDecision } from '#core/instruments/taste'
import type { Tune } from '#core/music/tune'
import { evidenceWords } from '#core/words/taste'
import { bowDecisionOf } from './bowDecision'
import { BOW } from './kinds'
import { evidenceOf, learnedTaste, relearned } from './learn'

const tuneOf = (music: string, head = 'M:3/4\nL:1/4\nQ:1/4=100\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const bare = newArrangement('violin', '4/4')
const marksOf = (tune: Tune, context: DeriveContext = ASSUMED_HANDS) => {
  const d = derive(tune, bare, context)
  return proposeBowing(d.bowing, MAY_ALL).edits
}
const decision = (tune: Tune, recipe: Arrangement, id = 't') =>
  bowDecisionOf(tune, recipe, ASSUMED_HANDS, id, new DeriveMemory())
/** In three the bow turns with every measure: something is slurred or hooked in each. */
const WALTZES = [
  'D F A|B A F|G E C|D2 A|D F A|B A F|G E C|D3|',
  'A B c|d2 A|B c d|c2 A|G A B|c2 G|F G A|D3|',
  'F A d|c A F|E G B|A2 F|F A d|c A F|E A c|d3|',
  'd c B|A2 F|G F E|D2 A|d c B|A2 F|G E C|D3|',
  'B A G|F2 A|G F E|D2 F|B A G|F2 A|G E C|D3|',
  'F G A|B2 G|F E D|E2 A|F G A|B2 G|F E C|D3|',
].map(m => tuneOf(m))
const of = (d: TasteDecision | null, trait: (typeof BOW_TRAITS)[number]) =>
  d?.set?.more[BOW_TRAITS.indexOf(trait)] ?? 0

describe('what a teacher says of the bow', () => {
  const [tune] = WALTZES as [Tune]
  it('is nothing as long as no mark was taken, refused or set', () => {
    expect(decision(tune, bare)).toBeNull()
    const down = withPlayed(bare, {
      pins: { ...bare.played.pins, strokes: { [tune.measures[1]!.events[0]!.id]: { direction: 'down' } } },
    })
    expect(decision(tune, down)).toBeNull()
  })
  it('a slur refused is one slur less, and dearer by our own weights', () => {
    const slur = marksOf(tune).find(e => e.way === 'slur')!
    const made = decision(tune, pinned(bare, 'joins', slur.note, false))!
    expect(of(made, 'slur')).toBeLessThan(0)
    expect(made.set!.dearer).toBeGreaterThan(0)
  })
  it('all that was proposed, taken, differs in nothing: it tells what is to stay', () => {
    const made = decision(tune, bowEdited(bare, marksOf(tune)))
    expect(made?.set ?? null).toBeNull()
    expect(made!.kept.length).toBeGreaterThan(0)
    expect(made!.kept.every(k => k.dearer < 0)).toBe(true)
  })
  it('slurs a version brought are not the teacher’s', () => {
    const slur = marksOf(tune).find(e => e.way === 'slur')!
    const brought = pinned(bare, 'joins', slur.note, true)
    const eased = { tempo: null, octave: null, parted: [], slurred: [slur.note] }
    expect(decision(tune, withPlayed(brought, { eased }))).toBeNull()
  })
})

describe('a taste of bows', () => {
  /** Every slur that is proposed is refused; what comes instead is left to Nokta. */
  const refusing = (tune: Tune): Arrangement => {
    let recipe = withBow(bare, { may: MAY_ALL })
    for (let round = 0; round < 6; round++) {
      const added = derive(tune, recipe, ASSUMED_HANDS).bowing.written.flatMap(s => s.added)
      const slurs = added.filter(a => a.way === 'slur')
      if (slurs.length === 0) break
      recipe = slurs.reduce((r, s) => pinned(r, 'joins', s.note, false), recipe)
    }
    return recipe
  }
  const decisions = WALTZES.slice(0, 4).map((t, i) => decision(t, refusing(t), `t${i}`)!)
  it('of one who refuses slurs proposes fewer of them in tunes it has not seen, and says why', () => {
    const taste = relearned(BOW, { decisions, off: [] })
    expect(taste.learned.slur).toBeGreaterThan(0)
    const slurs = (t: Tune, context: DeriveContext) =>
      derive(t, withBow(bare, { may: MAY_ALL }), context).bowing.written.flatMap(s =>
        s.added.filter(a => a.way === 'slur'),
      ).length
    const unseen = WALTZES.slice(4)
    const count = (c: DeriveContext) => unseen.reduce((n, t) => n + slurs(t, c), 0)
    expect(count({ ...ASSUMED_HANDS, bowTaste: taste.learned })).toBeLessThan(count(ASSUMED_HANDS))
    expect(evidenceOf(BOW, taste).map(evidenceWords)).toContainEqual(
      expect.stringMatching(/leave notes apart.*: 4 of 4 times/),
    )
  })
  it('is none where the trait is switched off, and none of two decisions', () => {
    expect(learnedTaste(BOW, { decisions, off: ['slur'] }).slur).toBeUndefined()
    expect(learnedTaste(BOW, { decisions: decisions.slice(0, 2), off: [] })).toEqual({})
  })
  it('changes nothing that is written or pinned', () => {
    const written = tuneOf('(D F) A|B (A F)|G E C|D3|')
    const taste = { slur: 2, part: -0.6, hook: -0.6, lift: -0.3 }
    const d = derive(written, bare, { ...ASSUMED_HANDS, bowTaste: taste })
    expect(d.bowing.written.flatMap(s => s.added)).toEqual([])
    expect(d.bowing.written.filter(s => s.notes.length === 2)).toHaveLength(2)
  })
})

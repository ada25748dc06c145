import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bowSkills } from '#core/levels/bowSkills'
import { proposeBowing, tryEdits, withMends } from './proposals'
import { MAY_ALL, MAY_NOTHING } from './schools'
import { readAt } from './slowly'
import { driftByMeasure, driftByPart, naturalDrift } from './drift'
import { bowed } from './testing'

const MARCH = 'A2|d2f2|e2dc|B2ed|c2A2|d2f2|e2c2|d4|'
const ups = (b: { strokes: readonly { strength: number; direction: string }[] }) =>
  b.strokes.filter(s => s.strength === 3 && s.direction === 'up').length

describe('what Nokta would mark', () => {
  const now = bowed(MARCH, { metre: '2/4' })
  const proposal = proposeBowing(now, MAY_ALL)
  it('is told as edits that, taken, are what it proposed', () => {
    expect(proposal).toMatchObject({ upNow: ups(now), upThen: 0 })
    expect(proposal.edits.map(e => e.way)).toEqual(['slur', 'slur'])
    expect(ups(tryEdits(now, proposal.edits))).toBe(0)
  })
  it('belongs together where one mark alone would turn the next measure', () => {
    for (const mend of proposal.mends) {
      const then = tryEdits(now, mend.edits)
      expect(ups(then)).toBeLessThan(ups(now))
      expect(mend.effect!.measures.length).toBeGreaterThan(0)
    }
  })
  it('gives every first beat that comes up a mend', () => {
    for (const f of withMends(now, proposal)) if (f.code === 'bow.firstBeatUp') expect(f.mends?.length).toBeGreaterThan(0) // prettier-ignore
  })
  it('stays within the skills of a level', () => {
    expect(proposeBowing(now, bowSkills(1)).edits.every(e => e.way === 'part')).toBe(true)
    expect(proposeBowing(now, bowSkills(2)).edits.every(e => e.way !== 'hook')).toBe(true)
    expect(bowSkills(null)).toEqual(MAY_ALL)
  })
  it('is nothing where nothing may be', () => {
    expect(proposeBowing(now, MAY_NOTHING).edits).toEqual([])
  })
  it('never makes more first beats come up, whatever the tune', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('D2FA|', 'B2A2|', 'd4|', 'ABcd|', '(AB)cd|', 'd3c|', 'd2z2|'), { minLength: 2, maxLength: 10 }), // prettier-ignore
        bars => {
          const b = bowed(bars.join(''), { metre: '2/4' })
          const p = proposeBowing(b, MAY_ALL)
          expect(p.upThen).toBeLessThanOrEqual(p.upNow)
          for (const m of p.mends) expect(ups(tryEdits(b, m.edits))).toBeLessThanOrEqual(ups(b))
        },
      ),
      { numRuns: 30 },
    )
  })
})

describe('the drift', () => {
  const jog = 'd2f e2c|'.repeat(8)
  it('of unequal pairs goes to the tip, and hooking them mends it', () => {
    const now = bowed(jog, { metre: '6/8', tempo: '3/8=88' })
    const f = withMends(now, proposeBowing(now, MAY_ALL)).find(x => x.code === 'bow.drifts')!
    expect(f.values).toMatchObject({ end: 'tip', from: 1 })
    const mend = f.mends![0]!
    expect(mend.kind === 'bow' && mend.edits.every(e => e.way === 'hook')).toBe(true)
    expect(mend.kind === 'bow' && tryEdits(now, mend.edits).findings.map(x => x.code)).not.toContain(
      'bow.drifts',
    )
  })
  it('of even strokes is none', () => {
    const b = bowed('D2E2F2G2|'.repeat(12))
    expect(b.findings.map(f => f.code)).not.toContain('bow.drifts')
    for (const d of driftByMeasure(b.strokes, 650, () => 'A')) expect(d.cm).toBeCloseTo(0)
  })
  it('is summed up by part and time through, in centimetres of this bow', () => {
    const b = bowed('|:D6 E2|F6 G2:|')
    const drift = driftByMeasure(b.strokes, 650, () => 'A')
    expect(drift.map(d => [d.measure, d.pass])).toEqual([[1, 1], [2, 1], [1, 2], [2, 2]]) // prettier-ignore
    const [first] = driftByPart(drift)
    expect(first!.cm).toBeCloseTo(drift[0]!.cm + drift[1]!.cm, 1)
    expect(driftByMeasure(b.strokes, 325, () => 'A')[0]!.cm).toBeCloseTo(drift[0]!.cm / 2, 0)
  })
  it('begins where most of what follows fits', () => {
    const b = bowed('D8|E8|F8|G8|', { tempo: '1/4=120' })
    for (const d of naturalDrift(b.strokes)) expect(Math.min(d.from, d.to, 1 - d.from, 1 - d.to)).toBeGreaterThan(-0.05) // prettier-ignore
  })
})

describe('read slowly', () => {
  it('strokes take twice the hair, as far as there is, and slurs no bow bears are named', () => {
    const b = bowed('(DEFG ABcd)|D2E2F2G2|', { tempo: '1/4=80' })
    const slow = readAt(b, 0.5)
    expect(slow.cmThen).toBeGreaterThan(slow.cmNow)
    expect(slow.part.map(p => p.measure)).toEqual([1])
    expect(readAt(bowed('(DE)(FG) A4|', { tempo: '1/4=120' }), 0.5).part).toEqual([])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bowSkills } from '#core/levels/bowSkills'
import { proposeBowing, tryEdits, withMends } from './proposals'
import { MAY_ALL, MAY_NOTHING } from './schools'
import { readAt } from './slowly'
import { driftByMeasure, driftByPart, naturalDrift } from './drift'
import { bowTune } from './bowing'
import type { Bowing } from './stroke'
import { bowed, said } from './testing'

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
    for (const f of withMends(now, proposal))
      if (f.code === 'bow.firstBeatUp') expect(f.mends?.length).toBeGreaterThan(0)
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
        fc.array(fc.constantFrom('D2FA|', 'B2A2|', 'd4|', 'ABcd|', '(AB)cd|', 'd3c|', 'd2z2|'), {
          minLength: 2,
          maxLength: 10,
        }),
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
    expect(drift.map(d => [d.measure, d.pass])).toEqual([
      [1, 1],
      [2, 1],
      [1, 2],
      [2, 2],
    ])
    const [first] = driftByPart(drift)
    expect(first!.cm).toBeCloseTo(drift[0]!.cm + drift[1]!.cm, 1)
    expect(driftByMeasure(b.strokes, 325, () => 'A')[0]!.cm).toBeCloseTo(drift[0]!.cm / 2, 0)
  })
  it('begins where most of what follows fits', () => {
    const b = bowed('D8|E8|F8|G8|', { tempo: '1/4=120' })
    for (const d of naturalDrift(b.strokes))
      expect(Math.min(d.from, d.to, 1 - d.from, 1 - d.to)).toBeGreaterThan(-0.05)
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

describe('marks taken', () => {
  const music = 'D2(FA)|B2A2|d2f2|e4|'
  const now = bowed(music, { metre: '2/4' })
  const ids = now.problem.tones.map(t => t.id)
  const marks = (edits: Parameters<typeof tryEdits>[1], of = now) => {
    const { written, problem } = tryEdits(of, edits)
    return [
      said({ written } as Bowing),
      [...problem.options.joined].map(id => ids.indexOf(id)),
      problem.options.joins,
      problem.options.pins,
    ]
  }
  it('slur, part, hook and lift where they say, as the teacher’s own', () => {
    expect(said(now)).toBe('Du.DuDuD')
    expect(marks([])).toEqual(['Du.DuDuD', [2], {}, {}])
    expect(marks([{ note: ids[4]!, way: 'slur' }])).toEqual(['Du.D.uDu', [2, 4], { [ids[4]!]: true }, {}])
    expect(marks([{ note: ids[2]!, way: 'part' }])).toEqual(['DuDuDuDu', [], { [ids[2]!]: false }, {}])
    expect(marks([{ note: ids[4]!, way: 'hook' }])).toEqual([
      'Du.D=DuDu',
      [2],
      {},
      { [ids[4]!]: { way: 'hook' } },
    ])
    expect(marks([{ note: ids[4]!, way: 'lift' }])).toEqual([
      "Du.D'DuDu",
      [2],
      {},
      { [ids[4]!]: { way: 'lift' } },
    ])
  })
  it('leave what was taken before, and what else is said of a stroke', () => {
    const once = tryEdits(now, [
      { note: ids[4]!, way: 'hook' },
      { note: ids[2]!, way: 'part' },
    ])
    const twice = tryEdits(once, [{ note: ids[6]!, way: 'slur' }])
    expect(twice.problem.options.pins).toEqual({ [ids[4]!]: { way: 'hook' } })
    expect(twice.problem.options.joins).toEqual({ [ids[2]!]: false, [ids[6]!]: true })
    const { problem } = now
    const begun = bowTune(problem.tune, { ...problem.options, pins: { [ids[4]!]: { at: 0.5 } } })
    expect(tryEdits(begun, [{ note: ids[4]!, way: 'lift' }]).problem.options.pins).toEqual({
      [ids[4]!]: { at: 0.5, way: 'lift' },
    })
  })
  it('slur nothing over a rest', () => {
    const rested = bowed('D2z2|B2A2|', { metre: '2/4' })
    const then = tryEdits(rested, [{ note: rested.problem.tones[1]!.id, way: 'slur' }])
    expect(said(then)).toBe('DuD')
    expect(then.findings.map(f => f.code)).toContain('bow.slurOverRest')
  })
  it('answer the findings they are offered for, and tell how many and which measures', () => {
    const march = bowed(MARCH, { metre: '2/4' })
    const told = withMends(march, proposeBowing(march, MAY_ALL))
    const name = (f: { code: string; where: { note?: string | undefined } }) => `${f.code} ${f.where.note}`
    let offered = 0
    for (const f of told)
      for (const m of f.mends ?? []) {
        if (m.kind !== 'bow' || !m.effect) continue
        offered++
        const then = tryEdits(march, m.edits).findings
        expect(then.map(name)).not.toContain(name(f))
        const gone = march.findings.filter(
          x => x.code === 'bow.firstBeatUp' && !then.some(y => name(y) === name(x)),
        )
        expect(m.effect.measures).toEqual(gone.map(x => x.where.measure))
        expect(m.effect.answers).toBe(march.findings.filter(x => !then.some(y => name(y) === name(x))).length)
      }
    expect(offered).toBeGreaterThan(0)
  })
})

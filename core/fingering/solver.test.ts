import { HAND_MODEL } from '#core/instruments/handModel'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { wholeAlternatives } from './alternatives'
import { COMPONENTS, costRecord } from './costs'
import { blocksOf, holdsOf, shiftsOf } from './derived'
import { alternativesAt, costsAt } from './explain'
import { whySentence } from '#core/words/why'
import { newFingeringCache } from './cache'
import { fingeringProblem, solveFingering } from './fingering'
import { solveLattice } from '#core/solver/lattice'
import { fingered, fingeringOf, spoken, tuneOf } from './testing'
import { pathThrough } from '#core/solver/alternatives'
import type { Lattice } from '#core/solver/tables'

/** Every path, one by one. */
function exhaustive({ unary, edges }: Lattice): number {
  let best = Infinity
  const go = (i: number, state: number, cost: number) => {
    const total = cost + unary[i]![state]!
    if (i === unary.length - 1) best = Math.min(best, total)
    else
      for (let b = 0; b < unary[i + 1]!.length; b++)
        go(i + 1, b, total + edges[i]![state * unary[i + 1]!.length + b]!)
  }
  for (let s = 0; s < unary[0]!.length; s++) go(0, s, 0)
  return best
}

const LETTERS = 'G,A,B,CDEFGABcdefgab'.match(/[A-Ga-g],?/g)!
const line = fc.array(fc.constantFrom(...LETTERS), { minLength: 2, maxLength: 4 }).map(l => l.join(''))

describe('the solver', () => {
  it('finds what exhaustive search finds, on all four instruments', () => {
    fc.assert(
      fc.property(line, fc.constantFrom('violin', 'viola', 'cello', 'bass' as const), (notes, instrument) => {
        const f = fingeringOf(`K:C\n${notes}|`, { instrument: instrument as 'violin' })
        if (f.problem.tones.length > 0) expect(f.total).toBeCloseTo(exhaustive(f.problem.lattice), 9)
      }),
      { numRuns: 60 },
    )
  })

  it('adds up: the costs named at the notes are the cost of the whole', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...LETTERS), { minLength: 1, maxLength: 24 }), notes => {
        const f = fingeringOf(`K:D\n${notes.join('')}|`, { instrument: 'violin' })
        const sum = f.problem.tones.reduce((t, _, i) => t + costsAt(f, i).reduce((a, b) => a + b, 0), 0)
        expect(sum).toBeCloseTo(f.total, 9)
      }),
    )
  })

  it('reads the best path through any state off its tables', () => {
    const random = fc.double({ min: 0, max: 5, noNaN: true })
    const lattice = fc.tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 4 })).chain(([n, k]) =>
      fc.record({
        unary: fc.array(
          fc.array(random, { minLength: k, maxLength: k }).map(x => Float64Array.from(x)),
          { minLength: n, maxLength: n },
        ),
        edges: fc.array(
          fc.array(random, { minLength: k * k, maxLength: k * k }).map(x => Float64Array.from(x)),
          { minLength: n - 1, maxLength: n - 1 },
        ),
      }),
    )
    fc.assert(
      fc.property(lattice, l => {
        const tables = solveLattice(l)
        expect(tables.total).toBeCloseTo(exhaustive(l), 9)
        l.unary.forEach((row, i) =>
          row.forEach((_, s) => {
            const path = pathThrough(l, tables, i, s)
            const cost = path.reduce(
              (t, b, k) =>
                t + l.unary[k]![b]! + (k > 0 ? l.edges[k - 1]![path[k - 1]! * row.length + b]! : 0),
              0,
            )
            expect(cost).toBeCloseTo(tables.forward[i]![s]! + tables.backward[i]![s]!, 9)
          }),
        )
      }),
    )
  })
})

describe('pins', () => {
  it('are kept, and what lies around is solved anew', () => {
    const abc = 'K:D\nDEFG ABAG|'
    const { problem } = fingeringOf(abc, { instrument: 'violin' })
    const b = problem.tones[5]!
    const f = solveFingering(problem, { [b.id]: { string: 2, finger: 4 } })
    expect(f.notes[5]).toMatchObject({ string: 2, finger: 4, position: 'second' })
    expect(f.findings).toEqual([])
    expect(spoken(f, 'violin')).not.toBe(fingered(abc, { instrument: 'violin' }))
  })
  it('that cannot be met come back as findings, with a way out', () => {
    const { problem } = fingeringOf('K:D\nDEFG|', { instrument: 'violin' })
    const id = problem.tones[0]!.id
    const f = solveFingering(problem, { [id]: { string: 0, finger: 1 } })
    expect(f.findings.map(sentence)).toEqual([
      "The pin on this note (E 1) can't be met: D4 lies below the open string.",
    ])
    expect(f.findings[0]!.mends).toEqual([{ kind: 'unpin', note: id, what: 'finger' }])
    expect(spoken(f, 'violin')).toBe('D 0 1 2 3')
  })
  it('never make the line cheaper', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...LETTERS), { minLength: 2, maxLength: 12 }),
        fc.integer({ min: 0, max: 11 }),
        fc.constantFrom(0, 1, 2, 3, 4 as const),
        (notes, at, finger) => {
          const f = fingeringOf(`K:G\n${notes.join('')}|`, { instrument: 'violin' })
          const pinned = solveFingering(f.problem, {
            [f.problem.tones[at % notes.length]!.id]: { finger: finger as 1 },
          })
          expect(pinned.total).toBeGreaterThanOrEqual(f.total - 1e-9)
        },
      ),
      { numRuns: 60 },
    )
  })
})

it('going on from an earlier solution gives what solving afresh gives', () => {
  const pins = fc.dictionary(
    fc.constantFrom('n2', 'n5', 'n9', 'n14'),
    fc.record({ finger: fc.constantFrom(0, 1, 2, 3, 4 as const) }),
  )
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...LETTERS), { minLength: 14, maxLength: 30 }),
      pins,
      pins,
      (notes, one, two) => {
        const { problem } = fingeringOf(`K:D\n${notes.join('')}|`, { instrument: 'violin' })
        const warm = solveFingering(problem, two as never, solveFingering(problem, one as never))
        const cold = solveFingering(problem, two as never)
        expect(warm.total).toBeCloseTo(cold.total, 8)
        warm.tables.forward.forEach((row, i) =>
          row.forEach((c, s) => expect(c).toBeCloseTo(cold.tables.forward[i]![s]!, 8)),
        )
        warm.tables.backward.forEach((row, i) =>
          row.forEach((c, s) => expect(c).toBeCloseTo(cold.tables.backward[i]![s]!, 8)),
        )
      },
    ),
    { numRuns: 60 },
  )
})

it('going on from a tune that was edited gives what a fresh start gives', () => {
  const notes = fc.array(fc.constantFrom(...LETTERS), { minLength: 1, maxLength: 24 })
  const abc = (list: readonly string[]) => `K:D\n${list.join('')}|`
  fc.assert(
    fc.property(notes, notes, notes, notes, (head, was, is, tail) => {
      const options = fingeringOf(abc(['D']), { instrument: 'violin' }).problem.options
      const cache = newFingeringCache()
      const problem = (list: readonly string[], kept = cache) =>
        fingeringProblem(tuneOf(abc(list)), options, kept)
      const first = solveFingering(problem([...head, ...was, ...tail]))
      const warm = solveFingering(problem([...head, ...is, ...tail]), {}, first)
      const cold = solveFingering(problem([...head, ...is, ...tail], newFingeringCache()))
      expect(warm.total).toBeCloseTo(cold.total, 8)
      warm.tables.forward.forEach((row, i) =>
        row.forEach((c, s) => expect(c).toBeCloseTo(cold.tables.forward[i]![s]!, 8)),
      )
      warm.tables.backward.forEach((row, i) =>
        row.forEach((c, s) => expect(c).toBeCloseTo(cold.tables.backward[i]![s]!, 8)),
      )
    }),
    { numRuns: 60 },
  )
})

describe('what a hand does', () => {
  it('a shift over an open string costs no more than the same shift bare, and no less than none', () => {
    const shiftCost = (abc: string, pins: object) => {
      const f = fingeringOf(abc, { instrument: 'violin', pins: pins as never })
      return f.problem.tones.reduce((t, _, i) => t + costsAt(f, i)[COMPONENTS.indexOf('shift')]!, 0)
    }
    // n2 first note; the last is taken in third position on A.
    const bare = shiftCost('K:D\nB f|', { n2: { string: 1, finger: 1 }, n3: { string: 1, finger: 3 } })
    const open = shiftCost('K:D\nB e f|', {
      n2: { string: 1, finger: 1 },
      n3: { string: 0, finger: 0 },
      n4: { string: 1, finger: 3 },
    })
    expect(bare).toBeGreaterThan(0)
    expect(open).toBeGreaterThan(0)
    expect(open).toBeLessThan(bare)
  })
  it('repeated notes keep their finger', () =>
    expect(fingered('K:D\nGAAA G2|', { instrument: 'violin' })).toBe('D 3 4 4 4 3'))
  it('a tied note is one tone with one finger', () => {
    const f = fingeringOf('K:D\nA4-|A4 B2|', { instrument: 'violin' })
    expect(f.problem.tones).toHaveLength(2)
    expect(f.notes.map(n => n.tiedFrom !== undefined)).toEqual([false, true, false])
  })
  it('a melody that moves over a held drone has fingers of its own, and what goes on alone keeps its string', () => {
    const f = fingeringOf('K:D\n[DA-]4[FA]4|[FA-]4A4|', { instrument: 'violin' })
    expect(f.notes.map(n => `${n.id} ${n.string}${n.finger}`)).toEqual([
      'n2 20',
      'n2.2 10',
      'n3 22',
      'n3.2 10',
      'n5 22',
      'n5.2 10',
      'n6 10',
    ])
    expect(f.notes.filter(n => n.tiedFrom !== undefined).map(n => [n.id, n.tiedFrom])).toEqual([
      ['n6', 'n5.2'],
    ])
  })
  it('what is held keeps its string and finger while the other voice moves', () => {
    // The A under d and f sharp: on the D string for both, in a hand that has f sharp on the A string.
    const f = fingeringOf('K:D\n[A-d]4[Af]4|[A-e]4[Ad]4|', { instrument: 'violin', tempo: '1/4=80' })
    const held = f.notes.filter(n => n.pitch.step === 'A').map(n => `${n.string}${n.finger}`)
    expect(['22', '23']).toContain(held[0])
    expect(held).toEqual(Array(4).fill(held[0]))
    expect(new Set(f.notes.map(n => n.anchor)).size).toBe(1)
  })
  it('an open cello hand holds two strings: the first finger reaches back under the fourth', () => {
    const f = fingeringOf('K:Gm clef=bass\n[G,B,]4[G,A,]4|', { instrument: 'cello' })
    expect(f.notes.slice(0, 2).map(n => `${n.string}${n.mark === 'extended' ? 'x' : ''}${n.finger}`)).toEqual(
      ['14', '0x1'],
    )
    expect(f.notes.some(n => n.harmonic)).toBe(false)
  })
  it('knows the flat keys of the cello by the first finger reaching back', () => {
    expect(fingered('K:Bb clef=bass\nB,,C,D,E, F,G,A,B,|', { instrument: 'cello' })).toBe(
      'G 2 4 D 0 x1 2 4 A 0 x1',
    )
  })
  it('opens the cello hand for a sharp key', () => {
    expect(fingered('K:A clef=bass\nA,,B,,C,D, E,F,G,A,|', { instrument: 'cello' })).toBe(
      'G 1 x2 x4 D 0 1 x2 x4 A 0',
    )
  })
  it('stays in half position on the bass for F major', () => {
    expect(fingered('K:F clef=bass\nF,,G,,A,,B,, C,D,E,F,|', { instrument: 'bass' })).toBe(
      'E 1 4 A 0 1 4 D 0 2 4',
    )
  })
  it('gives a bass player with one finger a semitone a third finger', () => {
    expect(fingered('K:C clef=bass\nE,,F,,^F,,G,,|', { instrument: 'bass', bassHand: '1-2-3-4' })).toBe(
      'E 0 1 2 3',
    )
  })
  it('says every shift with its distance and the tempo it holds to', () => {
    const f = fingeringOf('K:D clef=bass\nD,E,F,G, F,E,D,2|', {
      instrument: 'bass',
      open: 'fourth',
      tempo: '1/4=120',
    })
    const [up] = shiftsOf(f, HAND_MODEL)
    expect(up).toMatchObject({ anchorFrom: 2, anchorTo: 3, sameFinger: false })
    expect(up!.mm).toBeCloseTo(52.8, 0)
    expect(up!.ceiling.perMinute).toBeGreaterThan(120)
  })
  it('holds a finger that is wanted again, and lays one finger over two strings', () => {
    const held = holdsOf(fingeringOf('K:D\nEGEG|', { instrument: 'violin' }))
    expect(held).toContainEqual(expect.objectContaining({ finger: 1, strings: [2] }))
    const blocks = blocksOf(fingeringOf('K:D\nEB EB|', { instrument: 'violin' }))
    expect(blocks[0]).toMatchObject({ finger: 1, strings: [1, 2] })
  })
})

describe('harmonics', () => {
  it('at the octave are stretched to from the fourth position of the cello, touched not pressed', () => {
    const f = fingeringOf('K:C clef=bass\nEFGA GFE2|', { instrument: 'cello' })
    expect(spoken(f, 'cello')).toBe('A 1 2 4 x3 4 2 1')
    expect(f.notes[3]).toMatchObject({ harmonic: true, offset: 12, finger: 3 })
    expect(shiftsOf(f, HAND_MODEL)).toEqual([])
  })
  it('sound above the place that is touched: two octaves at the fourth', () => {
    const f = fingeringOf("K:D clef=bass\nD'|", { instrument: 'bass', pins: { n2: { string: 1 } } })
    const touched = f.problem.states[0]!.find(s => s.lead.harmonic && s.lead.string === 1)
    expect(touched?.lead).toMatchObject({ offset: 5 })
  })
  it('are pinned like any other place', () => {
    const f = fingeringOf("K:A\na'|", { instrument: 'violin', pins: { n2: { string: 1, finger: 4 } } })
    expect(f.findings).toEqual([])
  })
})

describe('double stops', () => {
  it('are held in one hand on neighbouring strings', () => {
    const f = fingeringOf('K:D\n[DA][Ad][GB]|', { instrument: 'violin' })
    expect(f.notes.map(n => [n.string, n.finger])).toEqual([
      [2, 0],
      [1, 0],
      [2, 4],
      [1, 3],
      [2, 3],
      [1, 1],
    ])
  })
  it('lay one finger across a fifth', () => {
    const f = fingeringOf('K:D\n[EB]|', { instrument: 'violin' })
    expect(f.notes.map(n => n.finger)).toEqual([1, 1])
  })
  it('that no hand can hold keep their top note and say so', () => {
    const f = fingeringOf('K:D\n[G,A,]D|', { instrument: 'violin' })
    expect(f.findings.map(sentence)).toEqual([
      "G3 A3 can't be held together on this violin; only the top note is fingered.",
    ])
    expect(spoken(f, 'violin')).toBe('G 1 D 0')
  })
  it('of forty notes are refused without delay', () => {
    const f = fingeringOf(`K:C\n[${'CDEFGAB'.repeat(6).slice(0, 40)}]D|`, { instrument: 'violin' })
    expect(f.findings[0]!.code).toBe('finger.noDoubleStop')
  })
})

describe('the edges of the instrument', () => {
  it('a note below the lowest string or beyond the fingerboard is a finding, not a wrong finger', () => {
    const f = fingeringOf("K:C\nE,DC f''''|", { instrument: 'violin' })
    expect(f.findings.map(x => x.code)).toEqual(['finger.tooLow', 'finger.tooHigh'])
    expect(f.notes).toHaveLength(2)
    expect(sentence(f.findings[0]!)).toBe('E3 lies below the lowest string of this violin (G3).')
  })
  it('a level without the place keeps the note and says why', () => {
    const f = fingeringOf("K:D\nd'2|", { instrument: 'violin', level: 2 })
    expect(f.findings.map(x => x.code)).toEqual(['finger.levelReach'])
    expect(f.notes).toHaveLength(1)
  })
  it('a tune with no notes has no fingers and no fault', () => {
    expect(fingeringOf('K:D\nz4|', { instrument: 'violin' })).toMatchObject({
      notes: [],
      findings: [],
      total: 0,
    })
  })
})

describe('a fifth string', () => {
  it('takes the notes below the violin’s G, and those above the cello’s A', () => {
    expect(fingered('K:C\nC,D,E,F, G,A,B,C|', { instrument: 'violin', tuning: 'C3 G3 D4 A4 E5' })).toBe(
      'C 0 1 2 3 G 0 1 2 3',
    )
    expect(fingered('K:A clef=bass\nA,B,CD EFGA|', { instrument: 'cello', tuning: 'C2 G2 D3 A3 E4' })).toBe(
      'A 0 1 3 4 E 0 1 3 4',
    )
    expect(
      fingered('K:C clef=bass\nB,,,C,,D,,E,,|', { instrument: 'bass', tuning: 'B0 E1 A1 D2 G2' }),
    ).toMatch(/^B 0 1 /)
  })
})

describe('cross-tuning', () => {
  it('counts from the string as it sounds and keeps the home letters', () => {
    const abc = 'K:A\nABcd efga|'
    expect(fingered(abc, { instrument: 'violin', tuning: 'A3 E4 A4 E5' })).toBe('A 0 1 2 3 E 0 1 2 3')
    expect(fingered('K:A\nA,B,CD EFGA|', { instrument: 'violin', tuning: 'A3 E4 A4 E5' })).toBe(
      'G 0 1 2 3 D 0 1 2 3',
    )
  })
})

describe('reasons', () => {
  const f = fingeringOf('K:D\nGAGF EDFA d2|', { instrument: 'violin', tempo: '1/4=96' })
  it('name what the other choice would cost', () => {
    expect(whySentence(f, 1)).toMatch(
      /^4 on D: the open A would cross strings twice, in an eighth note at 1\/4=96/,
    )
    expect(whySentence(f, 1, true)).toBe('4 on D: pinned by you.')
  })
  it('list other places, dearer and dearer', () => {
    const list = alternativesAt(f, 1, 6)
    expect(list[0]).toMatchObject({ string: 1, finger: 0 })
    expect(list.map(a => a.extra)).toEqual([...list.map(a => a.extra)].sort((a, b) => a - b))
    expect(list.every(a => a.extra >= -1e-9)).toBe(true)
  })
  it('show whole other fingerings by what they do', () => {
    const names = wholeAlternatives(f).map(a => a.way.id)
    expect(names).toContain('noFourth')
    for (const a of wholeAlternatives(f)) {
      expect(a.extra).toBeGreaterThan(0)
      expect(a.changed.length).toBeGreaterThan(0)
    }
  })
  it('print costs without zeros', () => {
    expect(Object.values(costRecord(costsAt(f, 1))).every(c => c !== 0)).toBe(true)
  })
})

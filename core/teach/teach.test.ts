import { wayWords } from '#core/words/ways'
import { describe, expect, it } from 'vitest'
import { wholeAlternatives } from '#core/fingering/alternatives'
import { shiftsOf } from '#core/fingering/derived'
import { solveFingering } from '#core/fingering/fingering'
import { HAND_MODEL } from '#core/instruments/handModel'
import { fingeringOf, placesOf, spoken, tuneOf } from '#core/fingering/testing'
import { ceilingsOf, ceilingText, firstToGive } from './ceilings'
import { cuesOf } from './cues'
import { landmarkMark, landmarkText } from './landmark'
import { ornamentsOf } from './ornaments'
import { ringing } from './ringing'
import { ossiaOf } from '#core/fingering/ossia'
import { handShapes, shapeChanges } from './shapes'

const all = (f: ReturnType<typeof fingeringOf>) => new Set(f.problem.tones.map(t => t.id))

describe('landmarks', () => {
  it('say which finger used to be there and how far the hand goes: 73 mm on a full-size violin', () => {
    const f = fingeringOf("K:C\ndfge bc'd'e'|", {
      instrument: 'violin',
      pins: { n6: { string: 0, finger: 1 } },
    })
    const up = shiftsOf(f, HAND_MODEL).find(s => s.anchorTo > s.anchorFrom)!
    expect(landmarkText(up)).toBe('1 goes where 4 was, 73 mm down')
    expect(landmarkMark(up)).toBe('1 where 4 was')
    expect(landmarkMark({ finger: 2, was: 2 })).toBe('2 slides')
    expect([landmarkMark({ finger: 1, was: null }), landmarkMark({ finger: 0, was: 3 })]).toEqual([
      null,
      null,
    ])
  })
  it('say when nothing stood there', () =>
    expect(landmarkText({ finger: 1, was: null, mm: 154.2, anchorFrom: 2, anchorTo: 7 })).toBe(
      '1 goes beyond where the hand was, 154 mm down',
    ))
  it('go the other way coming back', () => {
    const f = fingeringOf('K:G clef=bass\nGFED CB,A,2|', { instrument: 'cello' })
    const back = shiftsOf(f, HAND_MODEL)[0]!
    expect(landmarkText(back)).toMatch(/^4 goes .* mm up$/)
  })
})

describe('the shape of the hand', () => {
  it('is told by the fingers that touch: 2 and 3 in D major, 1 and low 2 with C natural', () => {
    const f = fingeringOf('K:G\nEFG2 Bcd2|', { instrument: 'violin' })
    const [first] = handShapes(f, all(f))
    expect(first!.anchor).toBe(2)
    expect(first!.strings.map(s => [s.string, s.touching])).toEqual([
      [1, [[1, 2]]],
      [2, [[2, 3]]],
    ])
  })
  it('changes where a finger moves within the hand: F sharp, F, F sharp', () => {
    const f = fingeringOf('K:D\nFE=FE ^FE|', { instrument: 'violin' })
    expect(shapeChanges(f).map(c => [c.finger, c.by])).toEqual([
      [2, -1],
      [2, 1],
    ])
  })
  it('is formed anew in another place: no change is told for a shift', () => {
    const f = fingeringOf('K:D clef=bass\nCDE2|', {
      instrument: 'cello',
      pins: { n2: { finger: 3 }, n4: { finger: 1 } },
    })
    expect(shapeChanges(f)).toEqual([])
  })
})

describe('ceilings', () => {
  const f = fingeringOf('K:D clef=bass\nD,E,F,G, F,E,D,2|', {
    instrument: 'bass',
    open: 'fourth',
    tempo: '1/4=120',
  })
  it('name what gives out first, by the model', () => {
    const c = firstToGive(ceilingsOf(f), all(f))!
    expect(c.kind).toBe('shift')
    expect(ceilingText(c)).toBe(
      `playable up to quarter note = ${c.tempo.perMinute}; above that the shift in measure 1 is too fast`,
    )
  })
  it('rise in step with a quicker hand and fall with a slower one', () => {
    const at = (mmPerSecond: number) =>
      firstToGive(ceilingsOf(f, { ...HAND_MODEL, mmPerSecond }), all(f))!.tempo.perMinute
    expect(at(1600)).toBeGreaterThan(at(800))
    expect(at(400)).toBeLessThan(at(800))
  })
  it('do not depend on the tempo asked for', () => {
    const abc = 'K:D clef=bass\nDCB,A, G,4|'
    const of = (tempo: string) => {
      const g = fingeringOf(abc, { instrument: 'bass', tempo })
      const pins = Object.fromEntries(
        g.notes.map((n, i) => [n.id, { string: 0, finger: [4, 1, 4, 1, 0][i] as 1 }]),
      )
      const p = solveFingering(g.problem, pins)
      return firstToGive(ceilingsOf(p), all(p))!.tempo.perMinute
    }
    expect(Math.abs(of('1/4=60') - of('1/4=120'))).toBeLessThanOrEqual(1)
  })
  it('count the open strings before a shift: there is more time', () => {
    const bare = shiftsOf(
      fingeringOf('K:C\ng a|', { instrument: 'violin', pins: { n3: { finger: 1 } } }),
      HAND_MODEL,
    )[0]!
    const over = shiftsOf(
      fingeringOf('K:C\ng e e a|', { instrument: 'violin', pins: { n5: { finger: 1 } } }),
      HAND_MODEL,
    )[0]!
    expect(over.ceiling.perMinute).toBeGreaterThan(bare.ceiling.perMinute)
  })
  it('are absent where nothing moves', () => {
    const still = fingeringOf('K:D\nEFG2|', { instrument: 'violin' })
    expect(firstToGive(ceilingsOf(still), all(still))).toBeNull()
  })
})

describe('cues', () => {
  it('prepare the finger while another string sounds open; on that string it can’t be down yet', () => {
    const cues = (abc: string) =>
      cuesOf(fingeringOf(abc, { instrument: 'violin' })).map(c => [c.kind, c.finger, c.string])
    expect(cues('K:D\nBAFG|')).toEqual([['prepare', 2, 2]])
    expect(cues('K:D\nDEDF|')).toEqual([])
  })
  it('tell a hop from a block', () => {
    const hop = fingeringOf('K:C\nFcFc|', { instrument: 'violin', pins: { n3: { finger: 2 } } })
    expect(cuesOf(hop).filter(c => c.kind === 'hop')).toHaveLength(0)
    const other = fingeringOf('K:D\nF=c|', { instrument: 'violin', unit: '1/4' })
    expect(cuesOf(other).map(c => c.kind)).toEqual(['hop'])
  })
  it('call a finger that slides in a still hand a slide, not a shift', () => {
    const f = fingeringOf('K:C\nF^F G2|', { instrument: 'violin' })
    expect(cuesOf(f).map(c => c.kind)).toEqual(['slide'])
    expect(shiftsOf(f, HAND_MODEL)).toEqual([])
  })
})

describe('ornaments', () => {
  it('take the fingers of the hand that stands there, from the key', () => {
    const abc = 'K:G\n{c}B2 TA2 | MF2 PF2 |'
    const tune = tuneOf(abc)
    const f = fingeringOf(abc, { instrument: 'violin' })
    const told = ornamentsOf(f, tune)
    expect(told.map(o => [o.kind, o.fingers.map(x => `${x.pitch}:${x.finger}`).join(' ')])).toEqual([
      ['grace', 'C5:2'],
      ['trill', 'B4:1'],
      ['mordent', 'E4:1'],
      ['upperMordent', 'G4:3'],
    ])
  })
  it('limit the tempo: the roll needs more time than the cut', () => {
    const abc = 'K:D\n!turn!B2 {d}B2|'
    const [turn, grace] = ornamentsOf(fingeringOf(abc, { instrument: 'violin' }), tuneOf(abc))
    const perMinute = (t: string) => Number(t.split('=')[1])
    expect(perMinute(turn!.ceiling)).toBeLessThan(perMinute(grace!.ceiling))
  })
})

describe('ringing notes', () => {
  const tuning = [76, 69, 62, 55]
  it('are in unison or octaves with an open string', () => {
    expect(ringing({ string: 1, offset: 5 }, tuning, 328, null).with).toEqual([2])
    expect(ringing({ string: 2, offset: 7 }, tuning, 328, null).with).toEqual([1])
    expect(ringing({ string: 1, offset: 4 }, tuning, 328, null).with).toEqual([])
    expect(ringing({ string: 1, offset: 0 }, tuning, 328, null).with).toEqual([])
  })
  it('a major third over a drone wants to sit 13.7 cents low, about 2 mm towards the nut', () => {
    const third = ringing({ string: 1, offset: 4 }, tuning, 328, 69).pure!
    expect(third).toMatchObject({ interval: 'major third', cents: -13.7 })
    expect(third.mm).toBeCloseTo(-2.1, 1)
  })
  it('fifths and octaves sit where they are', () =>
    expect(ringing({ string: 1, offset: 7 }, tuning, 328, 69).pure).toBeNull())
})

describe('whole other fingerings', () => {
  const f = fingeringOf('K:D\nFGAG FEDE|FGAB c2d2|', { instrument: 'violin' })
  it('are named by what they do, and do it', () => {
    for (const a of wholeAlternatives(f, 9)) {
      const places = a.path.map((s, i) => f.problem.states[i]![s]!.lead)
      if (a.way.id === 'noFourth') expect(places.every(p => p.finger !== 4)).toBe(true)
      if (a.way.id === 'noOpen') expect(places.some(p => p.finger === 0)).toBe(a.waived > 0)
      expect(a.changed.length).toBeGreaterThan(0)
      expect(a.extra).toBeGreaterThanOrEqual(0)
      const sum = Object.values(a.difference).reduce((x, y) => x + y, 0)
      expect(sum).toBeCloseTo(a.extra, 1)
    }
  })
  it('for a stretch leave the rest as it was far away', () => {
    const only = wholeAlternatives(f, 9, { from: 0, to: 3 }).find(a => a.way.id === 'noFourth')!
    expect(only.changed).toEqual([2])
  })
  it('offer a short line on one string, and without moving the hand', () => {
    const g = fingeringOf("K:C\nabc'b a2|", { instrument: 'violin' })
    const names = wholeAlternatives(g, 9).map(a => wayWords(a.way))
    expect(names).toContain('all on the A string')
  })
  it('offer each position that holds all of it by its name: flat keys on the viola without an open string or a drawn-back fourth finger', () => {
    const g = fingeringOf('K:Eb clef=alto\n(B,CDE)(FGAG)(ABcB)(AGFE)|', {
      instrument: 'viola',
      tempo: '1/4=72',
      places: 'home',
    })
    const all = wholeAlternatives(g, 9)
    const second = all.find(a => wayWords(a.way) === 'all in second position')!
    expect(second.path.map((s, i) => g.problem.states[i]![s]!.lead.finger).join('')).toBe('1234123234143214')
    expect(new Set(all.map(a => wayWords(a.way))).size).toBe(all.length)
  })
})

describe('rules for a stretch', () => {
  const abc = 'K:D\nFGAG FEDE|'
  const rule = (r: object) =>
    fingeringOf(abc, { instrument: 'violin', rules: [{ from: 'n2', to: 'n9', rule: r as never }] })
  it('stay on the string', () => {
    expect(spoken(rule({ kind: 'string', string: 2 }), 'violin')).toBe('D 2 3 4 3 2 1 0 1')
    const far = fingeringOf('K:D\nFGAB|', {
      instrument: 'violin',
      rules: [{ from: 'n2', to: 'n5', rule: { kind: 'string', string: 2 } }],
    })
    expect(far.notes.every(n => n.string === 2)).toBe(true)
    expect(far.findings).toEqual([])
  })
  it('no fourth finger', () => expect(placesOf(spoken(rule({ kind: 'noFourth' }), 'violin'))).toContain('A0'))
  it('one position, where it lies best or where the teacher says', () => {
    const third = rule({ kind: 'position', anchor: 5 })
    expect(third.notes.filter(n => n.finger !== 0).every(n => n.anchor === 5)).toBe(true)
    const anywhere = rule({ kind: 'position', anchor: null })
    expect(new Set(anywhere.notes.map(n => n.anchor)).size).toBe(1)
  })
  it('that can’t be kept at a note are waived there and told, with a way out', () => {
    const g = fingeringOf('K:D\nFGd|', {
      instrument: 'violin',
      rules: [{ from: 'n2', to: 'n4', rule: { kind: 'string', string: 3 } }],
    })
    expect(g.findings.map(x => x.code)).toEqual([])
    const low = fingeringOf('K:D\nG,DF|', {
      instrument: 'violin',
      rules: [{ from: 'n2', to: 'n4', rule: { kind: 'string', string: 2 } }],
    })
    expect(low.findings.map(x => x.code)).toEqual(['finger.ruleUnmet'])
    expect(low.findings[0]!.mends).toEqual([{ kind: 'dropRule', index: 0 }])
    expect(low.notes[0]).toMatchObject({ string: 3, finger: 0 })
  })
  it('whose notes are no longer in the tune are told, with a way out', () => {
    const gone = fingeringOf(abc, {
      instrument: 'violin',
      rules: [{ from: 'n2', to: 'n99', rule: { kind: 'noOpen' } }],
    })
    expect(gone.findings.map(f => [f.code, f.mends])).toEqual([
      ['finger.ruleGone', [{ kind: 'dropRule', index: 0 }]],
    ])
  })
  it('that contradict a pin come back as a finding; the pin stands', () => {
    const g = fingeringOf(abc, {
      instrument: 'violin',
      rules: [{ from: 'n2', to: 'n9', rule: { kind: 'noFourth' } }],
      pins: { n4: { string: 2, finger: 4 } },
    })
    expect(g.findings.map(x => x.code)).toEqual(['finger.pinsContradict'])
    expect(g.notes[2]).toMatchObject({ string: 2, finger: 4 })
  })
  it('a sound moves the line: covered lies higher up a lower string than clear', () => {
    const height = (sound: string) => {
      const g = fingeringOf('K:D\nB2 d2 c2 B2|', {
        instrument: 'violin',
        rules: [{ from: 'n2', to: 'n5', rule: { kind: 'sound', sound: sound as 'clear' } }],
      })
      return g.notes.reduce((s, n) => s + n.offset, 0)
    }
    expect(height('covered')).toBeGreaterThan(height('clear'))
  })
})

describe('a learner’s span', () => {
  it('rules out what the hand can’t reach: no 4 for a small hand on a full violin', () => {
    const f = fingeringOf('K:D\nGAGF|', { instrument: 'violin', span: 68 })
    expect(spoken(f, 'violin')).toBe('D 3 A 0 D 3 2')
    expect(spoken(fingeringOf('K:D\nGAGF|', { instrument: 'violin', span: 80 }), 'violin')).toBe('D 3 4 3 2')
  })
  it('asks a cello hand to shift instead of opening', () => {
    const abc = 'K:A clef=bass\nE,F,G,F, E,4|'
    expect(spoken(fingeringOf(abc, { instrument: 'cello' }), 'cello')).toContain('x')
    expect(spoken(fingeringOf(abc, { instrument: 'cello', span: 110 }), 'cello')).not.toContain('x')
  })
  it('tells when nearly all of it is asked, with the caution', () => {
    const f = fingeringOf('K:D\nGAGF|', { instrument: 'violin', span: 75 })
    expect(f.findings.map(x => x.code)).toEqual(['finger.spanNear'])
  })
})

describe('the other line', () => {
  it('has the notes that change, and only those', () => {
    const f = fingeringOf('K:D\nFGAG FGFE|', { instrument: 'violin' })
    const other = ossiaOf(f, 'noFourth')
    expect([...other].map(([id, p]) => [id, p[0]!.string, p[0]!.finger])).toEqual([[f.notes[2]!.id, 1, 0]])
    expect(ossiaOf(f, 'first').size).toBe(0)
  })
})

import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { octaveShift, transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { agreement, f1, sum } from '#core/form/goldens/agreement'
import { chordSkeleton } from './chords'
import { withHand } from './derivedKin'
import { figureName, kinSentence, phraseFigures, stepSentence } from '#core/words/form'
import { figuresOf } from './figures'
import { analyseForm, type Form } from './form'
import { TUNED } from './goldens/analysed'
import { HELD } from './goldens/held'
import { readAnalysed } from './goldens/read'
import { materialOf } from './material'
import { learningOrder, newNotes, planOf } from './plan'

const tune = (music: string, head = 'M:4/4\nK:D') =>
  readAbc(`X:1\nT:t\nL:1/8\n${head}\n${music}\n`).tunes[0]!.tune
const kinOf = (f: Form, label: string) => f.phrases.find(p => p.label === label)!.kin
const TEMPO = { beat: { n: 1, d: 1 }, perMinute: 96 }

describe('the analysed tunes', () => {
  const found = [...TUNED, ...HELD].map(g => {
    const expected = readAnalysed(g)
    return { g, expected, form: analyseForm(expected.tune), held: HELD.includes(g) }
  })
  it('are cut where the teacher cuts, above 0.95, and the kin are found, above 0.9', () => {
    const scores = found.map(({ expected, form }) => agreement(expected, form))
    expect(found.length).toBeGreaterThanOrEqual(30)
    expect(f1(sum(scores.map(s => s.boundaries)))).toBeGreaterThan(0.95)
    expect(f1(sum(scores.map(s => s.kinship)))).toBeGreaterThan(0.9)
  })
  it.each(found.map(x => [x.g.name, x] as const))(
    'every note is in one phrase: %s',
    (_, { expected, form }) => {
      const all = expected.tune.measures.flatMap(m => m.events.map(e => e.id))
      expect(form.phrases.flatMap(p => p.events)).toEqual(all)
      expect(form.parts.flatMap(p => p.phrases)).toEqual(form.phrases)
    },
  )
  it.each(found.map(x => [x.g.name, x] as const))(
    'another key changes nothing in the form: %s',
    (_, { expected, form }) => {
      const moved = analyseForm(transposeTune(expected.tune, { letters: 1, semitones: 2 }))
      const told = (f: Form) =>
        f.phrases.map(p => [p.label, p.events[0], p.family, p.kin.map(k => [k.phrase, k.relation])])
      expect(told(moved)).toEqual(told(form))
    },
  )
})

describe('what a teacher hears without signs', () => {
  const labels = (f: Form) => f.parts.map(p => p.phrases.map(x => x.bars).join('+'))
  it('a blues of twelve measures is four and four and four', () => {
    const blues = tune(
      '"A7"A2 cd e2 z2|"D7"f2 ed A2 z2|"A7"A2 cd e2 ge|e4 z4|"D7"d2 fg a2 z2|f2 ed f2 z2|"A7"A2 cd e2 z2|c4 z4|"E7"e2 gf e2 z2|"D7"d2 fe d2 z2|"A7"A2 ce dc A2|A4 z4|',
      'M:4/4\nK:A',
    )
    expect(labels(analyseForm(blues)).join('+')).toBe('4+4+4')
  })
  it('the short note of a dotted pair is no pickup', () => {
    const f = analyseForm(
      tune('A2>d2 f2 e2|d2 c2 B3 A|A2 B2 c2 d2|B4 A3>G|F2 A2 d2 f2|e2 d2 B3 A|B2 c2 d2 e2|d8|'),
    )
    const first = (k: number) => f.phrases[k]!.notes[0]!
    expect(f.phrases.map(p => p.bars)).toEqual([4, 4])
    expect(first(1).inMeasure.n).toBe(0)
  })
  it('sister phrases share their pickup', () => {
    const f = analyseForm(
      tune(
        'A2|d2 f2 e2 d2|c2 B2 A2 B2|c2 d2 e2 c2|d4 z2 A2|d2 f2 e2 d2|c2 B2 A2 B2|c2 e2 c2 A2|d6|',
        'M:4/4\nK:D',
      ),
    )
    const [a, b] = f.phrases.map(p => p.notes[0]!)
    expect(a!.measure.number).toBe(0)
    expect(b!.measure.number).toBe(4)
    const even = analyseForm(
      tune('d2 f2 e2 d2|c2 B2 A2 B2|c2 d2 e2 c2|d4 A2 c2|d2 f2 e2 d2|c2 B2 A2 B2|c2 e2 c2 A2|d8|'),
    )
    expect(even.phrases.map(p => p.notes[0]!.inMeasure.n)).toEqual(even.phrases.map(() => 0))
  })
  it('a half with a pickup of its own is a part', () => {
    const f = analyseForm(
      tune(
        'd2 fd A2 d2|e2 ge c2 e2|d2 fd B2 G2|A2 c2 d4|e2 ge c2 A2|d2 fd A2 F2|G2 B2 A2 c2|d6 A2|a2 f2 d2 f2|g2 e2 c2 e2|f2 d2 B2 d2|e2 c2 A4|g2 e2 c2 e2|f2 d2 A2 d2|G2 B2 A2 c2|d8|',
      ),
    )
    expect(f.parts.map(p => p.phrases.length)).toEqual([2, 2])
    expect(f.parts[1]!.phrases[0]!.notes[0]!.measure.number).toBe(8)
  })
  it('two halves that begin alike are of one family, however they go on', () => {
    const f = analyseForm(
      tune('d2 fd A2 d2|e2 ge c2 A2|B2 d2 G2 B2|A4 c4|d2 fd A2 d2|e2 ge c2 A2|f2 a2 g2 e2|d8|'),
    )
    expect(f.phrases.map(p => [p.family, p.variant])).toEqual([
      [0, 0],
      [0, 1],
    ])
  })
})

describe('pickups and endings', () => {
  it.each([
    // The first part comes to rest on A, C sharp and D lead into the second: no pickup at the beginning is
    // wanted for that.
    ['2/4', 'e2a2 a2ga|b2ab g2e2|f2d2 e2c2|1 B2E2 E4:|2 A4 A2cd||f2f2 fgfe|d2B2 B4|e2e2 efed|d8|]', 2],
    ['6/8', 'd2f fed|f2a agf|e2f gfe|d3 d2e||f2f fgf|e2e efe|d2d ded|d6|]', 1],
    // A dotted ending is one, and so are even notes and a held one.
    ['4/4', 'a3b a2f2|e3f e2c2|d3e f2d2|e4 A3A||f3f f2a2|e3e e2a2|d3d d2f2|d8|]', 0],
    ['2/4', 'e2a2 a2ga|b2ab g2e2|f2d2 e2c2|A2AA A2AA||f2f2 fgfe|d2B2 B4|e2e2 efed|d8|]', 0],
    ['2/4', 'e2a2 a2ga|b2ab g2e2|f2d2 e2c2|A2E2 A4||f2f2 fgfe|d2B2 B4|e2e2 efed|d8|]', 0],
  ])('%s: %s leads over with %i notes', (metre, music, count) => {
    const t = readAbc(`X:1\nT:t\nM:${metre}\nL:1/${metre === '6/8' ? 8 : 16}\nK:D\n${music}\n`).tunes[0]!.tune
    const { parts } = analyseForm(t)
    const second = t.measures.find((_, i) => t.measures[i - 1]?.barline === 'double')!
    expect(parts).toHaveLength(2)
    expect(parts[1]!.phrases[0]!.events.indexOf(second.events[0]!.id)).toBe(count)
  })
  it('a pickup at the end of the second ending leads into the next part', () => {
    const f = analyseForm(
      tune(
        'D|G2B d2B|c2A BGD|G2B dBG|A3 F2D|G2B d2B|c2A BGE|DEF GAF|1 G3 G2:|2 G3 G2d||g2d B2d|e2c A2c|d2B G2B|A3 F2d|g2d B2d|e2c A2c|DEF GAF|G3 G2|]',
        'M:6/8\nK:G',
      ),
    )
    expect(f.parts.map(p => p.label)).toEqual(['A', 'B'])
    expect(f.parts[1]!.measures[0]).toBe(10)
    expect(f.parts[1]!.phrases[0]!.from).toEqual({ measure: 9, start: { n: 5, d: 2 } })
  })
  it('and so do the later phrases of that part', () => {
    const f = analyseForm(
      tune(
        'D|G2A B2c|d2B G2B|A2F F2A|G3 D2D|G2A B2c|d2B G2d|cBA GAF|1 G3 G2:|2 G3 G2d||d2g g2f|d2c B2d|c2A F2A|B3 d2d|d2g g2f|d2c B2d|cBA GAF|G3 G2|]',
        'M:6/8\nK:Gm',
      ),
    )
    expect(f.phrases.at(-1)!.from).toEqual({ measure: 13, start: { n: 5, d: 2 } })
  })
  it('a pickup that another phrase has is one here too', () => {
    const f = analyseForm(tune('A2|d2f2 e2d2|c2A2 B2c2|d2f2 a2f2|e6 A2|d2f2 e2d2|c2A2 B2c2|d2c2 B2c2|d6|]'))
    expect(f.phrases.map(p => [p.from.measure, p.from.start.n])).toEqual([
      [0, 3],
      [4, 3],
    ])
  })
  it('both endings are told beside each other', () => {
    const f = analyseForm(
      tune('|:D2FA d2AF|G2BG F2AF|D2FA d2AF|E2C2 A,4|D2FA d2AF|G2BG F2AF|GBAG FEDC|1 D2D2 A,4:|2 D8|]'),
    )
    expect(f.phrases[1]!.endings.map(e => [e.numbers, e.events.length])).toEqual([
      [[1], 3],
      [[2], 1],
    ])
  })
})

describe('kin', () => {
  it('a step higher, an octave higher, and by ear the same shape', () => {
    const f = analyseForm(
      tune('D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|E2G2 B2G2|A2F2 G4|B2G2 E2G2|F8|d2f2 a2f2|g2e2 f4|a2f2 d2f2|e8|]'),
    )
    expect(kinOf(f, 'A2')[0]).toMatchObject({ relation: 'transposed', moved: { steps: 1, exact: false } })
    expect(kinSentence(kinOf(f, 'A2')[0]!)).toBe('A1 moved up by a second of the scale.')
    expect(kinSentence(kinOf(f, 'A3')[0]!)).toBe('A1 an octave higher.')
  })
  it('the same notes with other dynamics', () => {
    const f = analyseForm(tune('!f!D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|!p!D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|]'))
    expect(kinSentence(kinOf(f, 'A2')[0]!)).toBe('The same as A1, with other dynamics.')
  })
  it('declared by the teacher, or denied', () => {
    const t = tune(
      'D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|c2B2 A2G2|F2E2 D4|B2A2 G2F2|E8|D2F2 A2F2|G2E2 F4|A2F2 D2F2|D8|]',
    )
    const plain = analyseForm(t)
    const starts = plain.phrases.map(p => p.events[0]!)
    expect(plain.phrases.map(p => p.family)).toEqual([0, 1, 0])
    const declared = analyseForm(t, { kin: { [starts[1]!]: starts[0]!, [starts[2]!]: null } })
    expect(declared.phrases.map(p => p.family)).toEqual([0, 0, 1])
    expect(kinOf(declared, 'A2')[0]!.relation).toBe('declared')
    expect(kinOf(declared, 'A3')).toEqual([])
  })
  it('the same fingers one string lower', () => {
    const f = analyseForm(tune('A2B2 c2d2|e8|c2B2 A2B2|A8|D2E2 F2G2|A8|F2E2 D2E2|D8|]'))
    const at = (finger: number, string: number) => ({ finger: finger as 1, string, offset: finger * 2 })
    const ids = f.phrases.map(p => p.stretch.tones.map(t => t.id))
    const fingers = new Map(ids.flatMap((list, s) => list.map((id, i) => [id, at(i % 4, 1 + s)] as const)))
    const [kin] = kinOf(withHand(f, { fingers, bows: new Map() }), 'A2')
    expect(kinSentence(kin!)).toBe('The fingers of A1, 1 string lower.')
  })
  it('the same phrase begun on the other bow', () => {
    const f = analyseForm(tune('D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|]'))
    const bows = new Map([
      [f.phrases[0]!.events[0]!, 'down'],
      [f.phrases[1]!.events[0]!, 'up'],
    ] as const)
    expect(kinOf(withHand(f, { fingers: new Map(), bows }), 'A2')[0]).toMatchObject({ otherBow: true })
  })
})

describe('figures', () => {
  const told = (music: string) => figuresOf(materialOf(tune(music)).line).map(figureName)
  it('names scales and broken chords', () => {
    expect(told('d2cB AGF2|')).toEqual(['scale down from D to F♯'])
    expect(told('D2FA d2A2|')).toEqual(['rising broken chord on D'])
  })
  it('hears a figure that climbs and a cell across the beat', () => {
    expect(told('DEFD EFGE|FGAF G4|')[0]).toBe('a figure of 4 notes moved up by a second, 3 times')
    expect(told('dAFdAFdA|FdAFdAFd|')[0]).toMatch(/^a cell of 3 notes/)
  })
  it('hears a half that is the other half moved', () => {
    const [p] = analyseForm(
      tune('D2F2 A2F2|G2E2 D4|E2G2 B2G2|A2F2 E4|d2c2 B2A2|G2F2 E4|A2G2 F2E2|D8|]'),
    ).phrases
    expect(phraseFigures(p!)[0]).toBe('Its second half: the first moved up by a second of the scale.')
  })
  it('says nothing of a plain line', () => expect(told('D2G2 E2A2|')).toEqual([]))
})

describe('chords', () => {
  const names = (t: Tune) => chordSkeleton(t).map(c => c.name)
  it('proposes what a teacher would strum', () =>
    expect(names(tune('D2FA d4|G2B2 d4|A2c2 e4|d8|]'))).toEqual(['D', 'G', 'A', 'D']))
  it('keeps the chords that are there', () =>
    expect(chordSkeleton(tune('"Bm"D2FA d4|G2B2 d4|]'))[0]).toMatchObject({ name: 'Bm', given: true }))
  it('keeps every one of them, however close they stand', () => {
    const given = (music: string, head?: string) =>
      chordSkeleton(tune(music, head))
        .filter(c => c.given)
        .map(c => c.name)
        .join(' ')
    expect(given('"D"D2"A"E2 "Bm"F2"G"G2|"A"A8|')).toBe('D A Bm G A')
    expect(given('"D"D2"A7"E2|"D"F2"G"G2|', 'M:2/4\nK:D')).toBe('D A7 D G')
    expect(given('D2"G"G2"A"A2|"D"d6|', 'M:3/4\nK:D')).toBe('G A D')
    expect(given('"A7"A2|"D"d6|', 'M:3/4\nK:D')).toBe('A7 D')
    // What is no chord cuts nothing.
    expect(names(tune('D2"slowly"FA d4|G2B2 d4|A2c2 e4|d8|]'))).toEqual(['D', 'G', 'A', 'D'])
  })
  it('has the chord a tone below home in mixolydian, which is what makes it one', () => {
    expect(names(tune('D2FA d2AF|E2=CE G2EC|D2FA d2AF|A2GE D4|', 'M:4/4\nK:Dmix'))).toEqual(['D', 'C', 'D'])
    expect(names(tune('A2ce a2ec|B2GB d2BG|A2ce a2ec|e2dB A4|', 'M:4/4\nK:Amix'))).toEqual(['A', 'G', 'A'])
  })
  it('knows minor keys', () =>
    expect(names(tune('A2c2 e4|G2B2 d4|A2c2 e4|A8|]', 'M:4/4\nK:Am'))).toEqual(['Am', 'G', 'Am']))
})

describe('the plan', () => {
  const f = analyseForm(tune('|:D2FA d2AF|G2BG F2AF|D2FA d2AF|E2C2 A,4|D2FA d2AF|G2BG F2AF|GBAG FEDC|D8:|'))
  it('counts only what is new, in whatever order it is learned', () => {
    const [a, b] = f.phrases
    expect(newNotes(b!, [a!])).toHaveLength(9)
    // Learned second, the first phrase is new where it differs, but for the measure that came before: in its
    // last.
    expect(newNotes(a!, [b!])).toEqual(a!.stretch.tones.slice(-3).map(t => t.id))
    const plan = planOf(f, { order: 'written', tempo: TEMPO })
    expect(plan.phrases.at(-1)!.knownAfter).toBe(1)
    expect(plan.phrases[0]!.knownAfter).toBeGreaterThan(0.6)
  })
  it('an octave higher is new to the hand', () => {
    const up = analyseForm(tune('D2F2 A2F2|G2E2 F4|A2F2 D2F2|E8|d2f2 a2f2|g2e2 f4|a2f2 d2f2|e8|]'))
    expect(newNotes(up.phrases[1]!, [up.phrases[0]!])).toHaveLength(12)
  })
  it('stitches: one, two, then both with the repeat', () => {
    const plan = planOf(f, { order: 'written', tempo: TEMPO })
    expect(plan.steps.map(s => [s.kind, s.phrases.join('+')])).toEqual([
      ['phrase', 'A1'],
      ['phrase', 'A2'],
      ['part', 'A1+A2'],
    ])
    expect(stepSentence(plan.steps[2]!)).toBe('A1 + A2: the whole part, with the repeat.')
    expect(plan.steps.every(s => s.minutes > 0)).toBe(true)
  })
  it('claps a new rhythm first', () => {
    const dotted = analyseForm(tune('D3E F2A2|B3A F4|G3F E2D2|E8|D3E F2A2|B3A F4|E3F E2D2|D8|]'))
    expect(
      planOf(dotted, { order: 'written', tempo: TEMPO })
        .steps.slice(0, 3)
        .map(s => s.kind),
    ).toEqual(['count', 'clap', 'one string'])
  })
  it('orders by what is new, or by what is hard', () => {
    const many = analyseForm(
      tune(
        'D2FA d2AF|G2BG F2AF|D2FA d2AF|E2C2 A,4|d2e2 f2g2|a2f2 d4|e2f2 g2e2|c2A2 A4|D2FA d2AF|G2BG F2AF|D2FA d2AF|D8|]',
      ),
    )
    expect(learningOrder(many, 'written')).toEqual(['A1', 'A2', 'A3'])
    // The last has most of its measures from itself and from the first.
    expect(learningOrder(many, 'least new')).toEqual(['A3', 'A1', 'A2'])
    expect(learningOrder(many, 'hardest', p => (p.label === 'A3' ? 2 : 1))[0]).toBe('A3')
  })
})

describe('odd input', () => {
  const plain = tune('D8|')
  const many = (n: number, of = plain.measures[0]!): Tune => ({
    ...plain,
    measures: Array.from({ length: n }, (_, i) => ({
      ...of,
      id: `m${i}`,
      events: of.events.map((e, k) => ({ ...e, id: `e${i}.${k}` })),
    })),
  })
  it('no notes, one note, only rests', () => {
    expect(analyseForm({ ...plain, measures: [] })).toEqual({ parts: [], phrases: [] })
    expect(analyseForm(plain).phrases).toHaveLength(1)
    const rests = analyseForm(tune('z8|z8|z8|z8|z8|z8|z8|z8|]'))
    expect(rests.phrases.length).toBeGreaterThan(0)
    expect(rests.phrases.every(p => p.kin.length === 0)).toBe(true)
    expect(chordSkeleton(tune('z8|z8|'))).toEqual([])
    expect(planOf(rests, { order: 'least new', tempo: TEMPO }).phrases.at(-1)?.knownAfter).toBe(1)
  })
  it('every bar the same: one phrase to learn', () => {
    const f = analyseForm(many(64))
    expect(learningOrder(f)).toHaveLength(1)
  })
  it('ten thousand bars', () => {
    const f = analyseForm(many(10_000, tune('DEFG AGFE|').measures[0]!))
    expect(f.phrases.flatMap(p => p.events)).toHaveLength(80_000)
  })
  it('an octave up is the same form', () => {
    const t = tune('D2FA d2AF|G2BG F2AF|D2FA d2AF|E2C2 A,4|D8|')
    expect(analyseForm(transposeTune(t, octaveShift(1))).phrases.map(p => p.label)).toEqual(
      analyseForm(t).phrases.map(p => p.label),
    )
  })
})

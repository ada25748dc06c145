/**
 * What a good teacher does where the hand leaves first position, with the reason; each is one face of a rule.
 */
import { describe, expect, it } from 'vitest'
import { HAND_MODEL } from '#core/instruments/handModel'
import { sentence } from '#core/words/findings'
import { shiftsOf } from './derived'
import { whySentence } from '#core/words/why'
import { tallyOf } from './tally'
import { fingeringProblem, solveFingering } from './fingering'
import { fingered, fingeringOf, tuneOf, type FingeredOptions } from './testing'

const cello: FingeredOptions = { instrument: 'cello' }
const violin: FingeredOptions = { instrument: 'violin' }

describe('a hand that exists', () => {
  it.each([
    'K:Ab clef=bass\nA,,B,,C,D, E,F,G,A,|G,F,E,D, C,B,,A,,2|',
    'K:Eb clef=bass\nE,F,G,A, B,CDE|DCB,A, G,F,E,2|',
    'K:Db clef=bass\nD,E,F,G, A,B,CD|',
  ])('on the cello second, third and fourth finger stand half steps apart: %s', abc => {
    const { notes } = fingeringOf(abc, cello)
    const pairs = notes.slice(1).map((n, i) => [notes[i]!, n] as const)
    const torn = pairs.filter(
      ([a, b]) =>
        a.anchor === b.anchor &&
        a.string === b.string &&
        Number(a.finger) > 1 &&
        Number(b.finger) > 1 &&
        b.offset - a.offset !== Number(b.finger) - Number(a.finger),
    )
    expect(torn.map(([a, b]) => `${a.finger}-${b.finger} by ${b.offset - a.offset}`)).toEqual([])
  })
  it('an octave on two strings is framed by first and fourth finger', () => {
    const fingers = fingeringOf("K:G\n[Bb]2[cc']2[dd']2", violin).notes.map(n => n.finger)
    expect(fingers).toEqual([1, 4, 1, 4, 1, 4])
  })
})

describe('how far the hand goes', () => {
  it('a single high note of the cello is taken by the nearer hand: fourth finger in fourth position', () =>
    expect(fingered('K:C clef=bass\nA,B,CD G2DC|B,A,B,C D4|', cello).split(' ')[5]).toBe('4'))
  it('a harmonic nobody asked for is no reason to travel, and on wish it is one', () => {
    const abc = "K:E\nEFGA BcdE|e2e'2e2B2|"
    const harmonics = (o: FingeredOptions) => fingeringOf(abc, o).notes.filter(n => n.harmonic).length
    expect(harmonics(violin)).toBe(0)
    expect(harmonics({ ...violin, harmonics: true })).toBe(1)
  })
  it('on a lower string one is no way to what the next string has at home, however near the hand is', () => {
    const lullaby = 'M:6/8\nQ:3/8=46\nK:Fm clef=bass\nC,3 C,2C,|F,3 D,2A,,|E,3 C,2A,,|G,,2A,, B,,2G,,|F,,6|'
    expect(fingeringOf(lullaby, cello).notes.some(n => n.harmonic)).toBe(false)
  })
  it('one written into the music is touched', () => {
    const touched = fingeringOf("K:E\nE2!harmonic!e'2B4|", violin).notes.filter(n => n.harmonic)
    expect(touched.map(n => n.pitch)).toEqual([{ step: 'E', alter: 0, octave: 6 }])
  })
})

describe('an open string under the thumb', () => {
  it('rings while the thumb lies on: no note far up a lower string for it', () => {
    const air = 'M:3/4\nL:1/4\nK:D clef=bass\nA,|D2F|E D B,|A,2D|F2E|D2F|A2G|F E D|E2A,|D2F|A2B|A F D|E2C|'
    const { notes } = fingeringOf(air, { ...cello, unit: '1/4', tempo: '1/4=72' })
    const low = notes.filter(n => n.pitch.step === 'A' && n.pitch.octave === 3)
    expect(low.map(n => [n.string, n.finger])).toEqual([
      [0, 0],
      [0, 0],
      [0, 0],
    ])
  })
})

describe('a shift there is no time for', () => {
  // Up a chord in sixteenths: from first position the hand would have to be in third within 0.18 s.
  const chord = "M:2/4\nL:1/16\nK:D\nd2fa d'2af|e2gb e'2bg|f2a^c' f'2c'a|f4 z4|"
  const places = (tempo: string, model = HAND_MODEL) => {
    const { problem } = fingeringOf(chord, { ...violin, unit: '1/16', tempo })
    return solveFingering(fingeringProblem(tuneOf(chord, '1/16'), { ...problem.options, model }))
  }
  it('is not made where the hand can be there from the first note', () =>
    expect(
      places('1/4=84')
        .notes.slice(0, 6)
        .map(n => `${n.anchor}:${n.finger}`),
    ).toEqual(['5:1', '5:3', '5:1', '5:4', '5:1', '5:3']))
  it('is not made to spare crossings that are quick at home', () => {
    const reel =
      'M:2/2\nL:1/8\nK:Edor clef=bass\nE,,2B,,E,, D,E,,B,,E,,|D,,F,,A,,F,, D,A,,F,,A,,|E,,2B,,E,, D,E,,B,,E,,|D,2^C,D, E,B,,G,,B,,|'
    const { notes } = fingeringOf(reel, { ...cello, tempo: '1/2=88' })
    expect(notes.filter(n => n.position !== 'first').length).toBe(0)
  })
  it('is one sooner for a hand that was found to be slower', () => {
    const late = (model: typeof HAND_MODEL) =>
      shiftsOf(places('1/4=60', model), model).filter(s => s.ceiling.perMinute < 60).length
    const slow = { ...HAND_MODEL, mmPerSecond: 400 }
    const unasked = shiftsOf(places('1/4=60'), slow).filter(s => s.ceiling.perMinute < 60).length
    expect(late(HAND_MODEL)).toBe(0)
    expect(late(slow)).toBeLessThan(unasked)
  })
})

describe('long notes', () => {
  const abc = 'K:D\nD4FGA2|A8|d4D4|'
  const long = (o: Partial<FingeredOptions>) => fingered(abc, { ...violin, tempo: '1/4=56', ...o })
  it('stay on the open string as they lie', () => expect(long({})).toBe('D 0 2 3 A 0 0 3 D 0'))
  it('are stopped where that is the school', () => expect(long({ long: 'stopped' })).not.toContain('0'))
})

describe('the double bass', () => {
  it('slides no finger by a half step in tempo', () => {
    const f = fingeringOf('K:G clef=bass\nG,,A,,B,,C, ^C,D,C,B,,|A,,4G,,4|', {
      instrument: 'bass',
      tempo: '1/4=112',
    })
    const pairs = f.notes.slice(1).map((n, i) => [f.notes[i]!, n] as const)
    expect(
      pairs.filter(
        ([a, b]) =>
          a.finger === b.finger &&
          a.finger !== 0 &&
          a.string === b.string &&
          Math.abs(a.offset - b.offset) === 1,
      ),
    ).toEqual([])
  })
  it('lies straight across two strings where the hand need not move', () => {
    const f = fingeringOf('K:A clef=bass\nA,2G,A, D2C2|A,2C2 G,2A,2|D2CD C2A,2|A,8|', {
      instrument: 'bass',
      tempo: '1/4=80',
    })
    expect(new Set(f.notes.map(n => n.anchor)).size).toBe(1)
  })
})

describe('one hand for a passage that lies in it', () => {
  it('arpeggios over three strings: one place across, no hops', () => {
    const f = fingeringOf("K:C\nceg c'gec2|", { ...violin, tempo: '1/4=100' })
    expect(tallyOf(f.problem, f.tables.path, HAND_MODEL).shifts).toBeLessThan(2)
  })
  it.each<[string, string, FingeredOptions, RegExp]>([
    [
      'a pedal under a chord, on the violin',
      'K:A\neAcA eAcA fAdA fAdA|A16|',
      { ...violin, tempo: '1/4=96', unit: '1/16' },
      /^A 4 0 2 0 4 0 2 0 E 1 A 0 3 0/,
    ],
    [
      'a fiddle’s shuffle over two strings',
      'K:A\nAece Aece dfBf dfBf|ceAe ceAe A8|',
      { ...violin, tempo: '1/4=108', unit: '1/16' },
      /E 1 A 1 E 1 A 3 E 1/,
    ],
    [
      'broken chords on the viola',
      'K:C clef=alto\nC,G,EG, CG,EG, C,G,EG, CG,EG,|C,16|',
      { instrument: 'viola', tempo: '1/4=80', unit: '1/16' },
      /^C 0 G 0 D 1 G 0 3 0 D 1/,
    ],
    [
      'and on the cello, the open D ringing on',
      'K:G clef=bass\nG,,D,B,A, B,D,B,D, G,,D,B,A, B,D,B,D,|G,,16|',
      { ...cello, tempo: '1/4=66', unit: '1/16' },
      /^G 0 D 0 A 1 0 1 D 0 A 1 D 0/,
    ],
    [
      'round an open string of the cello',
      'K:D clef=bass\nD,A,F,A, D,A,F,A,|D,8|',
      { ...cello, tempo: '1/4=80' },
      /^D 0 A 0 D 3 A 0/,
    ],
  ])('broken chords lie across the strings at home, where they ring: %s', (_name, abc, o, as) =>
    expect(fingered(abc, o)).toMatch(as),
  )
  it('the thumb laid over two strings plays the scale on both', () => {
    const said = fingered('K:D clef=tenor\nDEFG A2A2|BcdB A2F2|GFED E2A2|dcBA G2E2|D8|', {
      ...cello,
      tempo: '1/4=76',
    })
    expect(said.split(' ').slice(0, 11).join(' ')).toBe('D T 1 2 3 A T T 1 2 3')
  })
})

describe('by half steps', () => {
  it('a chromatic run is one hand after another, each finger a half step', () => {
    const f = fingeringOf('K:C\nA^ABc ^cd^de|', { ...violin, tempo: '1/4=100' })
    const fingers = f.notes.map(n => n.finger)
    // No finger slides from note to note.
    const t = tallyOf(f.problem, f.tables.path, HAND_MODEL)
    expect([t.slides <= 1, fingers[0]]).toEqual([true, 0])
  })
  it('one finger goes straight over a string between: it is not stretched to spare it', () =>
    expect(fingered('K:C\nGABG a2|', { ...violin, tempo: '1/4=76', unit: '1/16' })).toBe('D 3 A 0 1 D 3 E 3'))
  it('a neighbour and back leans the same finger over: no fourth finger on the lower string', () =>
    expect(fingered('K:G\nB^ABc d^cdB|', { ...violin, tempo: '1/4=112', unit: '1/16' })).not.toMatch(/D/))
})

describe('what a learner has', () => {
  it('beyond the level the least that is asked for is taken, and named', () => {
    const f = fingeringOf('K:C clef=bass\nA,B,CD G2DC|', { ...cello, level: 3 })
    const top = f.notes[4]!
    expect([top.anchor, top.finger]).toEqual([7, 4])
    expect(f.findings.map(x => sentence(x)).join(' ')).toContain('fourth position comes at level 4')
  })
  it('a hand too small for the instrument stays at home, and the size that fits is named', () => {
    const f = fingeringOf('K:D\nDEFG ABcd|efge f2e2|', { ...violin, span: 52 })
    expect(new Set(f.notes.map(n => n.anchor))).toEqual(new Set([2]))
    const told = f.findings.find(x => x.code === 'finger.tooBig')
    expect(told && sentence(told)).toMatch(/too big for this hand \(52 mm from 1 to 4\).*would fit/)
  })
})

describe('what is said', () => {
  it('of a chord every note gets its own sentence', () => {
    const f = fingeringOf('K:G\n[Bd]4|', violin)
    const said = f.problem.tones[0]!.heads.map((_, head) => whySentence(f, 0, false, head))
    expect(new Set(said).size).toBe(2)
    expect(said[0]).toMatch(/^\S+ on .: in one hand with/)
  })
  it('only a shift that is longer than ours is told as further; a nearer one by what it lands on', () => {
    const f = fingeringOf('K:G clef=bass\nG,A,B,C D2E2|D2B,2 G,4|', { instrument: 'bass' })
    const said = f.problem.tones.map((_, i) => whySentence(f, i)).join(' ')
    const further = [...said.matchAll(/would shift further \((\d+) mm/g)].map(m => Number(m[1]))
    const longest = Math.max(...shiftsOf(f, HAND_MODEL).map(s => s.mm))
    expect(further.length).toBeGreaterThan(0)
    expect(Math.min(...further)).toBeGreaterThan(longest)
    expect(said).toMatch(/would land on 4 \(\d+ mm/)
  })
})
